package stack

import (
	"context"
	"reflect"
	"sync"
	"testing"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// dear is a problem that takes a long search: eight holes with figures of their
// own, and a hundred kinds of part.
func dear() Problem {
	mm := func(tenths int64) quantity.Length { return quantity.Length(tenths) * quantity.Millimetre / 10 }
	p := Problem{Thread: fastener.M6, PlateThickness: mm(25), Slot: mm(70), Policy: catalog.DefaultPolicy()}
	for i := range int64(8) {
		h := catalog.Hole{ID: string(rune('A' + i)), X: mm(1000 * (i%2*2 - 1)), Y: mm(1000 - 250*i)}
		p.Groups = append(p.Groups, Group{Holes: []catalog.Hole{h}, Setback: mm(7 * i), Recess: mm(10 + 9*i),
			RecessDiameter: quantity.Some(mm(250)), ThreadDepth: mm(140 + 3*i)})
	}
	for i := range int64(33) {
		p.Kit = append(p.Kit,
			catalog.Item{Kind: catalog.Bolt, Thread: fastener.M6, Length: mm(60 + 20*i), Count: 8},
			catalog.Item{Kind: catalog.Washer, Thread: fastener.M6, Thickness: mm(5 + i), Outer: mm(180), Count: 24},
			catalog.Item{Kind: catalog.Spacer, Threads: []fastener.Thread{fastener.M6}, Length: mm(10 + 8*i), Outer: mm(120 + i), Count: 24})
	}
	return p
}

// TestWorkIsBounded: a search takes no more than the request may, and says that
// it gave up; what was cut short is not remembered.
func TestWorkIsBounded(t *testing.T) {
	p := dear()
	whole := NewWork(t.Context(), 1<<40)
	p.Work = whole
	Solve(p)
	if whole.Spent() < 100_000 {
		t.Fatalf("the problem takes only %d steps", whole.Spent())
	}
	few := NewWork(t.Context(), 10_000).Remembering(NewAnswers(1 << 20))
	p.Work = few
	if a := Solve(p); !a.Incomplete || a.Best != nil || !few.Exhausted() {
		t.Errorf("%+v, cut %v", a, few.Exhausted())
	}
	if over := few.Spent() - 10_000; over > 5_000 {
		t.Errorf("%d steps too many", over)
	}
	if len(few.solved.solved) != 0 {
		t.Error("an answer that was cut short is remembered")
	}
}

// TestNobodyWaits: a client that has left ends the search within a few thousand
// steps, far less than a millisecond.
func TestNobodyWaits(t *testing.T) {
	p := dear()
	ctx, leave := context.WithCancel(t.Context())
	leave()
	p.Work = NewWork(ctx, 1<<40)
	if a := Solve(p); !a.Incomplete {
		t.Errorf("%+v", a)
	}
	if p.Work.Spent() > 20_000 {
		t.Errorf("%d steps were taken for nobody", p.Work.Spent())
	}
}

// TestSolvedOnce: the same problem again takes no steps, another does.
func TestSolvedOnce(t *testing.T) {
	p := dear()
	p.Groups = p.Groups[:2]
	p.Work = NewWork(t.Context(), 1<<40).Remembering(NewAnswers(1 << 20))
	a := Solve(p)
	spent := p.Work.Spent()
	if b := Solve(p); b != a || p.Work.Spent() != spent {
		t.Errorf("%d steps, then %d", spent, p.Work.Spent())
	}
	for name, change := range map[string]func(*Problem){
		"a washer":  func(q *Problem) { q.Kit = q.Kit[3:] },
		"the slot":  func(q *Problem) { q.Slot += quantity.Millimetre },
		"the plate": func(q *Problem) { q.PlateThickness++ },
		"a school":  func(q *Problem) { q.Policy.BoltSchool = "deep" },
		"head room": func(q *Problem) { q.HeadRoom = quantity.Some(20 * quantity.Millimetre) },
		"a hole":    func(q *Problem) { q.Groups = q.Groups[:1] },
	} {
		q := p
		change(&q)
		before := p.Work.Spent()
		Solve(q)
		if p.Work.Spent() == before {
			t.Errorf("another %s is taken for the same", name)
		}
	}
}

// TestKeyHoldsThePolicy: a policy that differs in any setting asks for another answer.
func TestKeyHoldsThePolicy(t *testing.T) {
	p := dear()
	p.Policy = catalog.DefaultPolicy()
	same := string(p.key())
	for i := range reflect.TypeFor[catalog.Policy]().NumField() {
		q := p
		switch f := reflect.ValueOf(&q.Policy).Elem().Field(i); f.Kind() {
		case reflect.Slice:
			f.Set(f.Slice(0, f.Len()-1))
		case reflect.String:
			f.SetString("another")
		default:
			f.SetInt(f.Int() + 1)
		}
		if string(q.key()) == same {
			t.Errorf("another %s has the same key", reflect.TypeFor[catalog.Policy]().Field(i).Name)
		}
	}
}

// TestAnswersHaveAnEnd: what is remembered for all requests takes no more room than it
// may, and requests at the same time get the same.
func TestAnswersHaveAnEnd(t *testing.T) {
	answers := NewAnswers(40_000)
	p := dear()
	p.Groups = p.Groups[:1]
	want := Solve(p)
	var all sync.WaitGroup
	for n := range 4 {
		all.Go(func() {
			for i := range 60 {
				q := p
				q.PlateThickness += quantity.Length(i % (10 + n))
				q.Work = NewWork(t.Context(), 1<<40).Remembering(answers)
				if got := Solve(q); i%(10+n) == 0 && (got.Best == nil) != (want.Best == nil) {
					t.Errorf("%+v, want %+v", got, want)
				}
			}
		})
	}
	all.Wait()
	if answers.size > answers.most || len(answers.solved) == 0 {
		t.Errorf("%d bytes of %d, %d answers", answers.size, answers.most, len(answers.solved))
	}
}
