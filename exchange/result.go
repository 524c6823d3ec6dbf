package exchange

import (
	"bufio"
	"cmp"
	"fmt"
	"io"
	"iter"
	"math"
	"slices"
	"sync"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/fit"
	"nexufix/core/hang"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// Pairing is the judgement of one display on one bracket.
type Pairing struct {
	Display string  `json:"display" required:"true"`
	Bracket string  `json:"bracket" required:"true"`
	Turn    int     `json:"turn_deg" required:"true" enum:"0,90,270"`
	Verdict string  `json:"verdict" required:"true" enum:"fits,fits_with_conditions,missing_data,does_not_fit"`
	Pattern *Size   `json:"pattern"`
	Checks  []Check `json:"checks" required:"true"`
	Stack   *Stack  `json:"stack"`
	Hang    *Hang   `json:"hang"`

	// What the verdict stands on though nobody has said it.
	Assumed []Assumed `json:"assumed" required:"true"`
	// Whether the wall was judged too; if not, what has to be measured there.
	WallJudged bool     `json:"wall_judged" required:"true"`
	ToMeasure  []string `json:"to_measure,omitempty"`
}

// Assumed is a figure that nobody has said, and how far it may be off before the answer changes.
type Assumed struct {
	Path  string `json:"path" required:"true"`
	Value Num    `json:"value" required:"true"`
	Holds Num    `json:"holds_to" required:"true"`
	Unit  string `json:"unit" required:"true" enum:"mm,kg"`
	Text  string `json:"text" required:"true"`
}

// Size is the size of the pattern used, as hung.
type Size struct {
	Width  MM `json:"width_mm" required:"true"`
	Height MM `json:"height_mm" required:"true"`
}

// Check is the outcome of one rule. Value, limit and margin are absent where
// the rule compares no figure.
type Check struct {
	Rule   string   `json:"rule" required:"true"`
	Status string   `json:"status" required:"true" enum:"pass,note,caution,unknown,fail"`
	Value  OptNum   `json:"value,omitzero"`
	Limit  OptNum   `json:"limit,omitzero"`
	Margin OptNum   `json:"margin,omitzero"`
	Unit   string   `json:"unit,omitempty" enum:"mm,kg,deg,nm,%,holes"`
	Figure string   `json:"figure,omitempty"` // value and limit in words, in the reader's units
	Text   string   `json:"text" required:"true"`
	Remedy string   `json:"remedy" required:"true"`
	Marks  []string `json:"marks,omitempty"`

	// The origins of the display's figures that the rule uses, by name.
	Origins map[string]string `json:"origins,omitempty" enum:"bench,sheet,caller"`
}

// Stack is what goes on the bolts.
type Stack struct {
	Status      string         `json:"status" required:"true" enum:"ok,caution"`
	ArmPlane    MM             `json:"arm_plane_mm" required:"true"`
	Lean        Num            `json:"lean_deg" required:"true"`
	Supplied    []SuppliedItem `json:"supplied" required:"true"`
	Groups      []StackGroup   `json:"groups" required:"true"`
	Alternative *Stack         `json:"alternative"`
}

// SuppliedItem is a number of equal pieces to send.
type SuppliedItem struct {
	Kind      string   `json:"kind" required:"true" enum:"bolt,washer,spacer,shoulder_washer"`
	Thread    string   `json:"thread,omitempty"`
	Threads   []string `json:"threads,omitempty"`
	Length    OptMM    `json:"length_mm,omitzero"`
	Thickness OptMM    `json:"thickness_mm,omitzero"`
	Outer     OptMM    `json:"outer_mm,omitzero"`
	Count     int      `json:"count" required:"true"`
	Head      string   `json:"head,omitempty" enum:"pan,socket,button,hex,countersunk"` // of a bolt; absent: pan
}

// Bolt is the bolt of a group.
type Bolt struct {
	Thread string `json:"thread" required:"true"`
	Length MM     `json:"length_mm" required:"true"`
	Head   string `json:"head,omitempty" enum:"pan,socket,button,hex,countersunk"` // absent: pan
}

// Washers are the equal washers under a bolt's head.
type Washers struct {
	Count     int `json:"count" required:"true"`
	Thickness MM  `json:"thickness_mm" required:"true"`
	Outer     MM  `json:"outer_mm" required:"true"`
}

// StackGroup is the stack at each hole of a group.
type StackGroup struct {
	Holes           []string `json:"holes" required:"true"`
	Bearing         string   `json:"bearing" required:"true" enum:"rim,insert"`
	Bolt            Bolt     `json:"bolt" required:"true"`
	Washers         Washers  `json:"washers" required:"true"`
	Shoulder        MM       `json:"shoulder_washer_mm" required:"true"`
	Spacers         []MM     `json:"spacers_mm" required:"true"`
	ArmPlane        MM       `json:"arm_plane_mm" required:"true"`
	Entry           MM       `json:"entry_mm" required:"true"`
	Engagement      MM       `json:"engagement_mm" required:"true"`
	EngagementWorst MM       `json:"engagement_worst_mm" required:"true"`
	Clearance       MM       `json:"tip_clearance_mm" required:"true"`
	ClearanceWorst  MM       `json:"tip_clearance_worst_mm" required:"true"`
	Turns           Num      `json:"turns" required:"true"`
	Status          string   `json:"status" required:"true" enum:"ok,caution"`
}

// Hang is where the display hangs on its plate.
type Hang struct {
	TopHoleBelowHook        MM    `json:"top_hole_below_hook_mm" required:"true"`
	PatternCenterAboveDatum OptMM `json:"pattern_center_above_datum_mm,omitzero"`
	DisplayTopAboveDatum    OptMM `json:"display_top_above_datum_mm,omitzero"`
}

// PairingOf converts a judgement to the format, with its sentences as they are read. The checks
// are ordered by consequence if worstFirst is set, else as the rules.
func PairingOf(p *fit.Pairing, to quantity.Reader, worstFirst bool) Pairing {
	words := p.Words()
	if worstFirst {
		slices.SortStableFunc(words, func(a, b fit.Check) int {
			return cmp.Or(int(b.Status)-int(a.Status), a.Severity()-b.Severity())
		})
	}
	out := pairingOf(p, to)
	for i := range words {
		x := checkOf(&words[i], to)
		for _, s := range p.Sources(words[i].Rule) {
			if x.Origins == nil {
				x.Origins = map[string]string{}
			}
			x.Origins[s.Figure] = s.Origin.String()
		}
		out.Checks = append(out.Checks, x)
	}
	return out
}

// PairingFigures converts a judgement without its sentences, which take most of the time.
func PairingFigures(p *fit.Pairing) Pairing {
	out := pairingOf(p, quantity.Reader{Units: quantity.Metric})
	for i := range p.Findings {
		out.Checks = append(out.Checks, findingOf(&p.Findings[i]))
	}
	return out
}

func pairingOf(p *fit.Pairing, to quantity.Reader) Pairing {
	out := Pairing{
		Display: p.Display.ID, Bracket: p.Bracket.ID, Turn: int(p.Turn), Verdict: string(p.Verdict),
		Stack: stackOf(p.Stack, p.Alternative), Hang: hangOf(p.Hang), Assumed: []Assumed{},
	}
	for _, a := range p.Assumed() {
		m := fit.Measure{Unit: a.Unit}
		out.Assumed = append(out.Assumed, Assumed{a.Path, measured(&m, a.Value), measured(&m, a.Holds), string(a.Unit), to.Say(a.Text)})
	}
	for _, text := range place.ToMeasure(&catalog.Wall{}) {
		out.ToMeasure = append(out.ToMeasure, to.Say(text))
	}
	if p.Pattern != nil {
		w, h := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
		out.Pattern = &Size{w, h}
	}
	return out
}

func checkOf(c *fit.Check, to quantity.Reader) Check {
	out := findingOf(&c.Finding)
	out.Text, out.Remedy, out.Marks = to.Say(c.Text), to.Say(c.Remedy), c.Marks
	if c.Measure.Given() {
		out.Figure = to.Language.Figure(to.Say(c.Measure.Words()))
	}
	return out
}

// findingOf is a finding without its sentences.
func findingOf(c *fit.Finding) Check {
	out := Check{Rule: c.Rule.String(), Status: c.Status.String()}
	if m := &c.Measure; m.Given() {
		num := func(n int64) OptNum { return quantity.Some(measured(m, n)) }
		out.Value, out.Limit, out.Margin, out.Unit = num(m.Value), num(m.Limit), num(m.Margin), string(m.Unit)
	}
	return out
}

// measured is a figure of a measure in its unit.
func measured(m *fit.Measure, n int64) Num {
	scale := quantity.Length(1)
	if m.Unit == fit.KG {
		scale = quantity.Length(quantity.Kilogram) / quantity.Length(quantity.One)
	}
	return Num(quantity.Length(n).Round(scale) / scale)
}

// decimals rounds a float for the format.
func decimals(f float64, places int) Num {
	p := math.Pow10(places)
	return Num(math.Round(math.Round(f*p) / p * 1e6))
}

func stackOf(s, alternative *stack.Stack) *Stack {
	if s == nil {
		return nil
	}
	out := &Stack{
		Status: s.Status.String(), ArmPlane: s.Plane, Lean: decimals(s.Lean, 3),
		Supplied: []SuppliedItem{}, Alternative: stackOf(alternative, nil),
	}
	for _, g := range s.Groups {
		spacers := []MM{}
		for _, x := range g.Spacers {
			spacers = append(spacers, x.Length)
		}
		out.Groups = append(out.Groups, StackGroup{
			Holes: g.Holes, Bearing: g.Bearing.String(),
			Bolt:     Bolt{g.Thread.String(), g.Bolt, headOf(g.Head)},
			Washers:  Washers{g.Washers.Count, g.Washers.Thickness, g.Washers.Outer},
			Shoulder: g.Shoulder, Spacers: spacers, ArmPlane: g.Plane, Entry: g.Entry,
			Engagement: g.Engagement, EngagementWorst: g.EngagementWorst,
			Clearance: g.Clearance, ClearanceWorst: g.ClearanceWorst,
			Turns: decimals(g.Turns(), 6), Status: g.Status.String(),
		})
	}
	for _, x := range s.Supplied {
		out.Supplied = append(out.Supplied, suppliedOf(x, s.Groups[0].Thread))
	}
	return out
}

// headOf writes a bolt's head, if it is not the usual one.
func headOf(h catalog.BoltHead) string {
	if h == catalog.PanHead {
		return ""
	}
	return h.String()
}

func suppliedOf(x stack.Supply, t fastener.Thread) SuppliedItem {
	out := SuppliedItem{Kind: x.Kind.String(), Thread: t.String(), Count: x.Count}
	switch x.Kind {
	case "bolt":
		out.Length, out.Head = quantity.Some(x.Length), headOf(x.Head)
	case "spacer":
		out.Thread, out.Threads = "", []string{t.String()}
		out.Length, out.Outer = quantity.Some(x.Length), quantity.Some(x.Outer)
	case "washer":
		out.Thickness, out.Outer = quantity.Some(x.Length), quantity.Some(x.Outer)
	default:
		out.Thickness = quantity.Some(x.Length)
	}
	return out
}

func hangOf(h *hang.Hang) *Hang {
	if h == nil {
		return nil
	}
	return &Hang{h.TopHoles, h.CenterAboveDatum, h.DisplayTopAboveDatum}
}

// Match judges every display with every bracket of the contents, or only those with
// the given ids ("" for all), and writes each pairing once it is judged: memory does not grow
// with the output.
func Match(w io.Writer, c *Contents, display, bracket string, turn catalog.Turn) error {
	displays := slices.DeleteFunc(slices.Clone(c.Displays), func(d *catalog.Display) bool { return display != "" && d.ID != display })
	brackets := slices.DeleteFunc(slices.Clone(c.Brackets), func(b *catalog.Bracket) bool { return bracket != "" && b.ID != bracket })
	var rows sync.Pool // of *writer: those whose output has been written
	out := bufio.NewWriterSize(w, 1<<16)
	fmt.Fprintf(out, "{\n  \"format\": %q,\n  \"pairings\": [", Format)
	some := false
	err := fit.Rows(displays, brackets, turn, c.PolicyOrDefault(), func(pairings iter.Seq[*fit.Pairing]) (*writer, error) {
		row, ok := rows.Get().(*writer)
		if !ok {
			row = new(writer)
		}
		row.begin(2)
		for p := range pairings {
			row.pairing(p)
		}
		return row, nil
	}, func(row *writer) error {
		defer rows.Put(row)
		if len(row.out) == 0 {
			return nil
		}
		if some {
			out.WriteByte(',')
		}
		some = true
		_, err := out.Write(row.out)
		return err
	})
	if err != nil {
		return err
	}
	if some {
		out.WriteString("\n  ")
	}
	out.WriteString("]\n}\n")
	return out.Flush()
}
