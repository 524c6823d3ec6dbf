package tabular

import (
	"encoding/json"

	"nexufix/exchange"
)

// PreviewDocument is [Preview] of a document of the format, a row for everything in
// it.
func PreviewDocument(doc, have *exchange.Contents) Previewed {
	s := newExisting(have)
	out := Previewed{Contents: &exchange.Contents{}}
	out.Right = out.Contents
	row := func(name, id string, before []byte, after any) bool {
		raw, _ := json.Marshal(after) // the format's own types
		r := Row{N: len(out.Rows), ID: id, Name: name, Outcome: New}
		if before != nil {
			r.Changes = exchange.Compare(before, raw)
			if r.Outcome = Changed; len(r.Changes) == 0 {
				r.Outcome = Same
			}
		}
		out.Rows = append(out.Rows, r)
		return r.Outcome != Same
	}
	for _, d := range doc.Displays {
		if row(d.Name(), d.ID, s.document(Displays, d.ID), d) {
			out.Contents.Displays = append(out.Contents.Displays, d)
		}
	}
	for _, b := range doc.Brackets {
		if row(b.Name, b.ID, s.document(Brackets, b.ID), b) {
			out.Contents.Brackets = append(out.Contents.Brackets, b)
		}
	}
	for _, j := range doc.Jobs {
		var before []byte
		if old := have.Job(j.ID); old != nil {
			before, _ = json.Marshal(old)
		}
		if row("Job "+j.ID, j.ID, before, j) {
			out.Contents.Jobs = append(out.Contents.Jobs, j)
		}
	}
	if doc.Policy != nil {
		before, _ := json.Marshal(have.PolicyOrDefault())
		if row("Policy", "", before, doc.Policy) {
			out.Contents.Policy = doc.Policy
		}
	}
	return out
}
