package steps

import (
	"slices"
	"testing"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/catalog/catalogtest"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// TestMoreThanOneAndAHalf: three people may lift up to twice their share; more than one and a half of it is said.
func TestMoreThanOneAndAHalf(t *testing.T) {
	d, b := catalogtest.Pair()
	b.HungMass = quantity.Some(quantity.Mass(0))
	lift := func(m quantity.Mass) Lifting {
		d.Mass = quantity.Some(m)
		p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
		return lifting(&p, 0, nil)
	}
	limit := lift(20 * quantity.Kilogram).Limit
	for ; 3*shareOf(3, limit)%2 != 0; limit = lift(20 * quantity.Kilogram).Limit { // so that there is a mass that is one and a half times it
		d.Depth.Value += quantity.Millimetre
	}
	most := 3 * shareOf(3, limit) / 2
	if x := lift(most); x.People != 3 || x.Over {
		t.Errorf("%+v", x)
	}
	if x := lift(most + 1); x.People != 3 || !x.Over {
		t.Errorf("%+v", x)
	}
}

// TestWhyItIsLeftOver: another thread, another length, or more than is taken.
func TestWhyItIsLeftOver(t *testing.T) {
	d, b := catalogtest.Pair()
	p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
	s := *p.Stack
	s.Groups = []stack.HoleStack{{Thread: fastener.M6, Bolt: mm(20), Spacers: []stack.Spacer{{Length: mm(10)}}, Shoulder: mm(3)}}
	p.Stack = &s
	layout := *p.Layout
	layout.Thread = fastener.M6
	p.Layout = &layout
	g := generator{p: &p, wall: catalog.WoodStud, kind: catalog.WoodStud.Properties()}
	spacer := func(long quantity.Length, threads ...fastener.Thread) catalog.Item {
		return catalog.Item{Kind: catalog.Spacer, Threads: threads, Length: long, Outer: mm(18)}
	}
	for _, c := range []struct {
		item catalog.Item
		want string
	}{
		{catalog.Item{Kind: catalog.Bolt, Thread: fastener.M6, Length: mm(20)}, "more than this display takes"},
		{catalog.Item{Kind: catalog.Bolt, Thread: fastener.M6, Length: mm(25)}, "another length is used: these would be too short or too long"},
		{catalog.Item{Kind: catalog.Bolt, Thread: fastener.M8, Length: mm(20)}, "the display takes M6; these are for M8"},
		{spacer(mm(10), fastener.M6), "more than this display takes"},
		{spacer(mm(12), fastener.M6), "no spacer of this length is needed"},
		{spacer(mm(10), fastener.M8), "the display takes M6; these are for M8"},
		{spacer(mm(10), fastener.M4), "the display takes M6; these are for M4"},
		{catalog.Item{Kind: catalog.Washer, Thread: fastener.M6}, "more than this display takes"},
		{catalog.Item{Kind: catalog.Washer, Thread: fastener.M8}, "the display takes M6; these are for M8"},
		{catalog.Item{Kind: catalog.Washer}, "more than this display takes"},
		{catalog.Item{Kind: catalog.ShoulderWasher, Thread: fastener.M6, Thickness: mm(3)}, "more than this display takes"},
		{catalog.Item{Kind: catalog.ShoulderWasher, Thread: fastener.M6, Thickness: mm(4)}, "no shoulder washer of this thickness is needed"},
		{catalog.Item{Kind: catalog.SleeveAnchor, For: []catalog.WallType{catalog.Concrete}}, "for another wall than wood stud"},
		{catalog.Item{Kind: catalog.Lag}, "another fastener is used on this wall"},
	} {
		if got := g.whyLeftOver(&c.item).In(quantity.Metric); got != c.want {
			t.Errorf("%s: %s, want %s", c.item.Label(), got, c.want)
		}
	}
	g.choice = anchorage.Choice{Said: true, Wall: catalog.WoodStud, Item: catalog.Item{Kind: catalog.Lag, Count: 4,
		Diameter: mm(8), Length: mm(70)}}
	if got := g.whyLeftOver(&g.choice.Item).In(quantity.Metric); got != "more than the holes take" {
		t.Error(got)
	}
}

// TestOwnStepsBeforeTheLift: what a bracket's own steps do before, is done before; what it does while or after it hangs is not waited for.
func TestOwnStepsBeforeTheLift(t *testing.T) {
	d, b, job := catalogtest.Site()
	stages := map[catalog.Stage]bool{catalog.UnpackStage: true, catalog.DisplayStage: true, catalog.WallStage: true, catalog.HangStage: false,
		catalog.FinishStage: false}
	for stage := range stages {
		b.Assembly = append(b.Assembly, catalog.AssemblyStep{ID: "own-" + string(stage), Stage: stage, Title: "Own", Text: "Do it."})
	}
	p := fit.Judge(d, b, job.Turn, fit.ExtraOf(job), catalog.DefaultPolicy())
	s := Generate(&p, Site{Wall: job.Wall.Type, Load: fit.ExtraOf(job), Job: job, Places: place.Place(&p, job)})
	for i := range s.Steps {
		if s.Steps[i].ID != "lift" {
			continue
		}
		for stage, before := range stages {
			if got := slices.ContainsFunc(s.Steps[i].Needs, func(n Need) bool { return n.Step == "own-"+string(stage) }); got != before {
				t.Errorf("%s: %v", stage, got)
			}
		}
		return
	}
	t.Error("nothing is lifted")
}

func mm(n int64) quantity.Length { return quantity.MM(n) }
