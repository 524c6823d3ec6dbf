package review

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"testing"

	"nexufix/core/catalog"
	"nexufix/demo/demotest"
	"nexufix/exchange"
)

// TestVerdictsAreKept: a list of very many jobs is judged a part at a request, nothing twice, and anew where what it stands on is another.
func TestVerdictsAreKept(t *testing.T) {
	all := demotest.Contents(t)
	first := all.Jobs[0]
	many := &exchange.Contents{Displays: all.Displays, Brackets: all.Brackets}
	for n := range mostJudged + 3 {
		j := *first
		j.ID = fmt.Sprintf("job-%d", n)
		many.Jobs = append(many.Jobs, &j)
	}
	many.Jobs = append(many.Jobs, &catalog.Job{ID: "of-nothing", Display: "none", Bracket: "none"})
	many.Indexed()
	v := NewVerdicts()
	for n, want := range []int{mostJudged + 1, mostJudged + 4, mostJudged + 4} {
		got, err := v.judge(t.Context(), many)
		if err != nil || len(got) != want {
			t.Errorf("asked %d times: %d verdicts, %v", n+1, len(got), err)
		}
	}
	of := func() string {
		got, err := v.judge(t.Context(), many)
		if err != nil {
			t.Fatal(err)
		}
		j := many.Jobs[0]
		return got[judgedOf{j, many.Display(j.Display), many.Bracket(j.Bracket)}]
	}
	was := of()
	if nothing, _ := v.judge(t.Context(), many); nothing[judgedOf{job: many.Jobs[mostJudged+3]}] != "missing_data" {
		t.Error("a job of a display that is not there")
	}
	heavy := *many.Display(first.Display)
	heavy.Mass.Value *= 40
	for i, d := range many.Displays {
		if d.ID == heavy.ID {
			many.Displays[i] = &heavy
		}
	}
	many.Indexed()
	if is := of(); is != "does_not_fit" || was == is {
		t.Errorf("forty times as heavy: %s, before %s", is, was)
	}
	// Who leaves has not judged for nothing: what was done by then stands.
	left := NewVerdicts()
	gone, leave := context.WithCancel(t.Context())
	leave()
	if _, err := left.judge(gone, many); !errors.Is(err, context.Canceled) {
		t.Errorf("who has left: %v", err)
	}
	if got, err := left.judge(t.Context(), many); err != nil || len(got) != mostJudged+1 {
		t.Errorf("the next: %d, %v", len(got), err)
	}
	strict := many.PolicyOrDefault()
	strict.LoadCaution = 1
	many.Policy = &strict
	if got, _ := v.judge(t.Context(), many); len(got) != mostJudged+1 {
		t.Errorf("another policy: %d verdicts stand", len(got))
	}
}

// TestManyAskForJobs: however many ask at once, all get every verdict; who leaves while somebody is at it stops waiting.
func TestManyAskForJobs(t *testing.T) {
	all, v := demotest.Contents(t), NewVerdicts()
	var wait sync.WaitGroup
	for range 8 {
		wait.Go(func() {
			if got, err := v.judge(t.Context(), all); err != nil || len(got) != len(all.Jobs) {
				t.Errorf("%d verdicts, %v", len(got), err)
			}
		})
	}
	wait.Wait()
	v.turn <- struct{}{} // somebody is at it
	gone, leave := context.WithCancel(t.Context())
	leave()
	if _, err := v.judge(gone, all); !errors.Is(err, context.Canceled) {
		t.Errorf("who has left: %v", err)
	}
}
