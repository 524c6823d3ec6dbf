package exchange

import (
	"fmt"

	"nexufix/core/catalog"
	"nexufix/core/probe"
	"nexufix/core/quantity"
)

// ProbeInput is what `probe` reads: a caller's trial bolts, and, optionally,
// the bracket whose kit the caller has in hand.
type ProbeInput struct {
	Format   string             `json:"format,omitempty" enum:"nexufix/1"`
	Trials   []catalog.Trial    `json:"trials,omitempty" maxItems:"64"`
	Bracket  string             `json:"bracket,omitempty" maxLength:"80"`
	Brackets []*catalog.Bracket `json:"brackets,omitempty"`
	Displays []*catalog.Display `json:"displays,omitempty"` // allowed in the same file, and ignored
	Policy   *PolicySettings    `json:"policy,omitempty"`   // likewise
	Jobs     []catalog.Job      `json:"jobs,omitempty"`     // likewise
}

// Probe is trial bolts with the kit in the caller's hands.
type Probe struct {
	Trials []catalog.Trial
	Kit    []catalog.Item
}

// ReadProbe reads one or more files as one input. The error is a [Problems].
func ReadProbe(files []string, raws [][]byte) (Probe, error) {
	var problems Problems
	var out Probe
	brackets := map[string]*catalog.Bracket{}
	wanted := ""
	for i, raw := range raws {
		at := ""
		if len(files) > 1 {
			at = files[i] + ": "
		}
		var in ProbeInput
		err := readInto(raw, &in)
		found, _ := err.(Problems)
		for j, b := range in.Brackets {
			if err == nil {
				found = append(found, Complete(index("brackets", j), b)...)
			}
			if brackets[b.ID] != nil {
				found.add(index("brackets", j)+".id", "each id once", "%s stands twice", quote(b.ID))
			}
			brackets[b.ID] = b
		}
		for _, p := range found {
			p.Path = at + p.Path
			problems = append(problems, p)
		}
		out.Trials = append(out.Trials, in.Trials...)
		if in.Bracket != "" {
			if wanted != "" && wanted != in.Bracket {
				problems.add(at+"bracket", "one bracket", "%s and %s", quote(wanted), quote(in.Bracket))
			}
			wanted = in.Bracket
		}
	}
	if wanted != "" && problems == nil {
		if b := brackets[wanted]; b != nil {
			out.Kit = b.Kit
		} else {
			problems.add("bracket", "the id of one of the brackets", "%s is not among them", quote(wanted))
		}
	}
	return out, problems.or()
}

// Span is a length's two ends; an open one is null.
type Span [2]OptMM

// ProbeResult is what `probe` writes.
type ProbeResult struct {
	Threads     []string        `json:"threads" required:"true"`
	Depth       Span            `json:"depth_mm" required:"true"`
	Recess      Span            `json:"recess_mm" required:"true"`
	ThreadDepth Span            `json:"thread_depth_mm" required:"true"`
	Conflicts   []ProbeConflict `json:"conflicts" required:"true"`
	Hints       []string        `json:"hints,omitempty"`
	Next        *NextTrial      `json:"next"`
}

// ProbeConflict names trials, by index, that cannot all be right.
type ProbeConflict struct {
	Trials []int  `json:"trials" required:"true"`
	Text   string `json:"text" required:"true"`
}

// NextTrial is the trial to do next.
type NextTrial struct {
	Thread  string `json:"thread" required:"true"`
	Length  MM     `json:"length_mm" required:"true"`
	Outcome string `json:"outcome,omitempty" enum:"rests"` // when it is to be pushed in without turning
	Why     string `json:"why" required:"true"`
}

// ProbeResultOf writes what trials give, its sentences in the given units.
func ProbeResultOf(r probe.Result, to quantity.Reader) ProbeResult {
	out := ProbeResult{
		Threads: []string{}, Depth: intervalOf(r.Depth), Recess: intervalOf(r.Recess), ThreadDepth: intervalOf(r.ThreadDepth),
		Conflicts: []ProbeConflict{},
	}
	for _, t := range r.Threads {
		out.Threads = append(out.Threads, fmt.Sprint(t))
	}
	for _, c := range r.Conflicts {
		out.Conflicts = append(out.Conflicts, ProbeConflict{c.Trials, to.Say(c.Text)})
	}
	for _, h := range r.Hints {
		out.Hints = append(out.Hints, to.Say(h))
	}
	if n := r.Next; n != nil {
		out.Next = &NextTrial{n.Thread.String(), MM(n.Length), n.Outcome.String(), to.Say(n.Why)}
	}
	return out
}

func intervalOf(s catalog.Span) Span {
	return Span{quantity.Some(s.Low), s.High}
}
