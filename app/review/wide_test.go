package review

import (
	"errors"
	"nexufix/app/bench"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"strings"
	"testing"
	"time"
)

// TestWideRun: forty displays with a metre between them take no template of a thousand pages: the steps mark with the tape, the pack
// and the card are issued and have every hole, and who asks for a template is told why there is none.
func TestWideRun(t *testing.T) {
	o := openOffice(t)
	const id = "engine-hall-timetable"
	o.write(o.mira, "", nil, id, func(j *catalog.Job) {
		j.Run, j.Wall.Width = &catalog.Run{Count: 40, Gap: quantity.Metre}, quantity.Some(90*quantity.Metre)
	})
	a := o.must(o.approver, o.submit(o.mira, Subject{Job: id}), approval.Approve)
	for _, what := range []string{"pack", "card"} {
		i, err := o.issue(o.mira, a, what)
		if err != nil {
			t.Fatalf("%s: %v", what, err)
		}
		_, text := pictures(t, i.File)
		if what == "card" && !strings.Contains(text, "160") { // four holes of each plate
			t.Errorf("the last hole is not on the card")
		}
		if strings.Contains(text, "The template and the measure card mark the same points") {
			t.Errorf("the %s speaks of a template", what)
		}
	}
	var none *bench.NoTemplate
	if _, err := o.issue(o.mira, a, "template"); !errors.As(err, &none) || !strings.Contains(err.Error(), "wider than 10 m") {
		t.Errorf("a template: %v", err)
	}
	all, err := o.st.Catalogue(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	w, err := bench.Open(t.Context(), all, bench.Request{DisplayID: all.Job(id).Display, BracketID: all.Job(id).Bracket, Site: all.Job(id)})
	if err != nil {
		t.Fatal(err)
	}
	pack, err := w.Install(bench.InstallOptions{Paper: "a4", Now: time.Now()})
	if err != nil {
		t.Fatal(err)
	}
	for _, format := range []string{"pdf", "zip", "html", "md", "json"} {
		if _, err := pack.File(format); err != nil {
			t.Errorf("%s: %v", format, err)
		}
	}
}
