package bench

import (
	"cmp"
	"context"
	"errors"
	"regexp"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/exchange"
	"nexufix/store"
)

// changed is the request with its changes made: on the documents that it gives in full, else on the catalogue's as they are now.
// Was has what each changed figure is there.
func (q Request) changed(all *exchange.Contents) (Request, map[string]exchange.Anything, error) {
	if len(q.Changes) == 0 {
		return q, nil, nil
	}
	edits := q.Changes
	q.Changes = nil
	var problems exchange.Problems
	if q.Display == nil && editsIn(edits, "display") {
		if q.Display = all.Display(q.DisplayID); q.Display == nil {
			problems = append(problems, Missing("display", q.DisplayID))
		}
	}
	if q.Bracket == nil && editsIn(edits, "bracket") {
		if q.Bracket = all.Bracket(q.BracketID); q.Bracket == nil {
			problems = append(problems, Missing("bracket", q.BracketID))
		}
	}
	if problems != nil {
		return q, nil, problems
	}
	out, was, err := exchange.Edited(q, edits, Units(q.Units))
	if half := halfTyped(q, all, err); half != nil {
		out, was, err = exchange.Edited(q, append(slices.Clip(edits), half...), Units(q.Units))
	}
	return out, was, err
}

// ofJob is the request with what its job says: the saved one that it names, or the one that it has as its site.
func (q Request) ofJob(all *exchange.Contents) (Request, error) {
	if q.JobID != "" {
		job := all.Job(q.JobID)
		switch {
		case q.Site != nil:
			return q, exchange.Problems{{Path: "job_id", Found: "is there beside a site", Allowed: "one of them"}}
		case job == nil:
			return q, exchange.Problems{Missing("job", q.JobID)}
		}
		own := *job
		q.JobID, q.Site, q.Turn = "", &own, cmp.Or(q.Turn, int(own.Turn))
	}
	if q.Site == nil {
		return q, nil
	}
	if q.Display == nil && q.DisplayID == "" {
		q.DisplayID = q.Site.Display
	}
	if q.Bracket == nil && q.BracketID == "" && all.Bracket(q.Site.Bracket) != nil {
		q.BracketID = q.Site.Bracket
	}
	return q, nil
}

// Within checks that edits are of a document, and not of what a request says about it.
func Within(edits []exchange.Edit, document string) error {
	var problems exchange.Problems
	for _, e := range edits {
		if !strings.HasPrefix(e.Path, document+".") {
			problems = append(problems, exchange.Problem{Path: e.Path, Found: "is no place in the " + document, Allowed: document + ".…"})
		}
	}
	if problems == nil {
		return nil
	}
	return problems
}

// editsIn reports whether an edit is of a document of the request.
func editsIn(edits []exchange.Edit, document string) bool {
	return slices.ContainsFunc(edits, func(e exchange.Edit) bool { return strings.HasPrefix(e.Path, document+".") })
}

var side = regexp.MustCompile(`^(display\.patterns\[\d+\])\.(width|height)_mm$`)

// halfTyped takes away the patterns of a display being typed in of which one side is still missing: they are not there yet.
func halfTyped(q Request, all *exchange.Contents, err error) (out []exchange.Edit) {
	var problems exchange.Problems
	if q.Display == nil || all.Display(q.Display.ID) != nil || !errors.As(err, &problems) {
		return nil
	}
	for _, p := range slices.Backward(problems) { // the last first: the others keep their places
		if found := side.FindStringSubmatch(p.Path); found != nil && p.Found == "is missing" {
			out = append(out, exchange.Edit{Path: found[1]})
		}
	}
	return out
}

// Meanwhile is what somebody saved of a display or bracket since a page first read it.
type Meanwhile struct {
	What    string            `json:"what" required:"true" enum:"display,bracket"`
	Who     string            `json:"who" required:"true"`
	At      string            `json:"at" required:"true"`
	Why     string            `json:"why" required:"true"`
	Changes []exchange.Change `json:"changes" required:"true"`
}

// Since is what was saved of an item between two of its revisions; nil for nothing, and where the earlier one is of another catalogue.
func Since(ctx context.Context, s *store.Store, kind, id string, since, latest int) (*Meanwhile, error) {
	if since == latest {
		return nil, nil
	}
	before, err := s.Numbered(ctx, kind, id, since)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	now, err := s.Numbered(ctx, kind, id, latest)
	if err != nil {
		return nil, err
	}
	return &Meanwhile{now.Kind, now.Who, now.At, now.Why, exchange.Compare([]byte(before.Doc.String), []byte(now.Doc.String))}, nil
}

// heightOf is the height of the centre that a job asks for.
func heightOf(j *catalog.Job) exchange.OptMM {
	if j.Place.Rule != "center" {
		return exchange.OptMM{}
	}
	return j.Place.Center
}
