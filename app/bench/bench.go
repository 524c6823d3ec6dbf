package bench

import (
	"hash/fnv"
	"math"
	"slices"
	"strconv"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/draw/pairing"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/sheet"
	"nexufix/core/stack"
	"nexufix/exchange"
)

// Bench is everything the bench shows of one pairing.
type Bench struct {
	Title     string                  `json:"title" required:"true"`
	Said      Said                    `json:"said" required:"true"`
	Pairing   exchange.Pairing        `json:"pairing" required:"true"`
	Send      string                  `json:"send" required:"true"`          // what has to be supplied, in words
	Section   string                  `json:"section" required:"true"`       // SVG; "" without a stack
	Back      string                  `json:"back" required:"true"`          // SVG; "" without a pattern
	Side      string                  `json:"side" required:"true"`          // SVG from the side, closed; "" if a figure is missing
	Above     string                  `json:"above" required:"true"`         // SVG from above, at full reach; "" without a swivel
	Motion    string                  `json:"motion" required:"true"`        // which edge touches the wall first, and how far one sinks
	Walls     []string                `json:"walls" required:"true"`         // that the bracket has fixings for
	Used      int                     `json:"pattern_index" required:"true"` // index in the display's patterns; -1 for none
	Template  bool                    `json:"template" required:"true"`      // there is a drilling template
	InUse     exchange.PolicySettings `json:"policy_in_use" required:"true"` // without the request's changes
	Schools   map[string]string       `json:"schools" required:"true"`       // the bolts under each school of bolt length
	Help      *Help                   `json:"help"`                          // a change that would make it better; null if none was found
	Heights   *Heights                `json:"heights"`                       // above the floor; null if not requested or not known
	Others    []Ranked                `json:"others" required:"true"`        // all brackets for this display, best first
	Display   *catalog.Display        `json:"display" required:"true"`
	Bracket   catalog.Bracket         `json:"bracket" required:"true"`
	InCatalog bool                    `json:"in_catalogue" required:"true"` // the display is in the catalogue
	NotTried  string                  `json:"not_tried,omitempty"`          // what was not tried because it takes too much work
	// What each changed figure is without the change, by its path; null where there is none.
	Was map[string]exchange.Anything `json:"was" required:"true"`
	// The saved revisions that this was judged by, 0 for what is in no catalogue; and what was saved since those of the request.
	DisplayRevision int         `json:"display_revision" required:"true"`
	BracketRevision int         `json:"bracket_revision" required:"true"`
	Meanwhile       []Meanwhile `json:"meanwhile" required:"true"`
	// of the drawings, by field; the field is "" if the client has that drawing
	Marks map[string]string `json:"marks" required:"true"`
}

// least writes an angle that must not be exceeded, rounded down to 0.1.
func least(degrees float64) string {
	return strconv.FormatFloat(math.Floor(degrees*10+1e-9)/10, 'f', -1, 64) + "°"
}

// touches describes the angle at which an edge touches the wall, if it does.
func touches(degrees float64) string {
	if degrees >= 90 {
		return "stays clear of the wall"
	}
	return "touches the wall at " + strconv.Itoa(int(max(0, degrees))) + "°"
}

// motion describes what the wall allows, and how far a tilt lowers the bottom edge.
func motion(p *fit.Pairing, tilt float64) quantity.Phrase {
	m := p.Motion()
	var said []quantity.Phrase
	say := func(format string, args ...any) { said = append(said, quantity.Say(format, args...)) }
	if m.TiltDown.Known {
		say("Closed, the rear bottom edge %v, the rear top edge %v.", touches(m.TiltDown.Value), touches(m.TiltUp.Value))
	}
	if m.Swivel.Known {
		say("At full reach and swung, the rear edge %v.", touches(m.Swivel.Value))
	}
	if sinks, ok := pairing.Sinks(p, tilt); ok && tilt > 0 {
		say("At %v the front bottom edge sinks %v: what hangs below needs that gap.", least(tilt),
			quantity.Shown{Length: sinks, Bound: quantity.Up, Coarse: true})
	}
	all := quantity.Phrase{}
	for i, s := range said {
		if i == 0 {
			all = s
		} else {
			all = quantity.Say("%v %v", all, s)
		}
	}
	return all
}

// notTried is the note on a request that takes too much work.
const notTried = "This takes more work than one request may: not everything that would help, and not every other bracket, was tried. " +
	"Fewer parts in the kit, or fewer slots, make it whole."

// Help is the first change found, in a fixed order, that makes a pairing
// better. One of the fields has what is needed to make it.
type Help struct {
	Kind    string         `json:"kind" required:"true" enum:"school,arms,turn,spacers,bolts,parts,measure,bracket"`
	Text    string         `json:"text" required:"true"`
	Verdict string         `json:"verdict" required:"true" enum:"fits,fits_with_conditions,missing_data,does_not_fit"`
	Setting string         `json:"setting,omitempty"` // school: the policy's field
	School  string         `json:"school,omitempty"`
	Arms    exchange.OptMM `json:"top_holes_mm,omitzero"`
	Spacers exchange.OptMM `json:"arm_clearance_mm,omitzero"` // spacers: how far the arms stay behind the back
	Turn    *int           `json:"turn_deg,omitempty" enum:"0,90,270"`
	Send    string         `json:"send,omitempty"`
	Bracket string         `json:"bracket,omitempty"`
}

func (a *Workspace) help(p *fit.Pairing) *Help {
	c := fit.Improve(p, a.all.Brackets)
	if c.Kind == "" {
		return nil
	}
	h := &Help{Kind: c.Kind, Text: a.reader().Say(c.Text), Verdict: string(c.Verdict), Setting: c.Setting, School: c.School}
	switch c.Kind {
	case "arms":
		h.Arms = quantity.Some(c.Arms)
	case "spacers":
		h.Spacers = quantity.Some(c.Spacers)
	case "turn":
		turn := int(c.Turn)
		h.Turn = &turn
	case "bolts", "parts":
		h.Send = a.Language.Words(fit.SupplyList(c.Send, p.Pattern.Thread))
	case "bracket":
		h.Bracket = c.Bracket.ID
	}
	return h
}

// Heights are the display's heights above the floor.
type Heights struct {
	Datum  exchange.MM `json:"datum_height_mm" required:"true"`
	Top    exchange.MM `json:"top_height_mm" required:"true"`
	Bottom exchange.MM `json:"bottom_height_mm" required:"true"`
	Text   string      `json:"text" required:"true"`
}

// heights places the hung display at the requested height.
func (a *Workspace) heights(p *fit.Pairing) *Heights {
	_, height, known := a.display.Outline(p.Turn)
	if !known || p.Hang == nil || !a.Center.Known {
		return nil
	}
	at, ok := p.Hang.CenteredAt(a.Center.Value, height)
	if !ok {
		return nil
	}
	return &Heights{at.Datum, at.Top, at.Bottom,
		a.reader().Say(quantity.Say("Level line %v above the floor, top edge at %v, bottom edge at %v.", quantity.Wall(at.Datum),
			quantity.Wall(at.Top), quantity.Wall(at.Bottom)))}
}

// Ranked is one line of a ranked strip.
type Ranked struct {
	ID      string   `json:"id" required:"true"`
	Name    string   `json:"name" required:"true"`
	Verdict string   `json:"verdict" required:"true" enum:"fits,fits_with_conditions,missing_data,does_not_fit"`
	Bolts   string   `json:"bolts" required:"true"`
	Rules   []string `json:"rules" required:"true"` // that decide the verdict
	Why     string   `json:"why" required:"true"`
}

// Bench judges a pairing and draws it.
func (a *Workspace) Bench() Bench {
	p := a.Judge()
	out := Bench{
		Title:   a.reader().Say(quantity.Say("%v on %v", quantity.Name(a.display.Name()), quantity.Name(a.bracket.Name))),
		Pairing: exchange.PairingOf(&p, a.reader(), true),
		Section: a.picture(pairing.Section(&p)), Back: a.picture(pairing.Back(&p)),
		Walls: walls(a.bracket), Template: sheet.HasTemplate(&p),
		Said: a.said(&p, a.Placed(&p)),
		Used: -1, Others: []Ranked{}, Was: a.was, Meanwhile: []Meanwhile{},
		Display: a.display, Bracket: *a.bracket, InCatalog: !a.typed,
	}
	out.Side, out.Above = a.picture(pairing.Side(&p, a.Tilt.Value.Degrees(), nil)), a.picture(pairing.Above(&p, a.Swivel.Value.Degrees()))
	out.Motion = a.reader().Say(motion(&p, a.Tilt.Value.Degrees()))
	for i := range p.Display.Patterns {
		if p.Pattern == &p.Display.Patterns[i] {
			out.Used = i
		}
	}
	if p.Stack != nil {
		out.Send = a.Language.Words(fit.SupplyList(p.Stack.Supplied, p.Pattern.Thread))
	}
	out.Schools, out.InUse = a.schools(), exchange.PolicyOf(a.all.PolicyOrDefault())
	out.Heights, out.Help = a.heights(&p), a.help(&p)
	for _, p := range a.rank(a.all.Brackets) {
		out.Others = append(out.Others, a.ranked(&p, p.Bracket.ID, p.Bracket.Name))
	}
	if a.work.Exhausted() {
		out.NotTried = a.Language.Words(notTried)
	}
	if out.Was == nil {
		out.Was = map[string]exchange.Anything{}
	}
	out.Marks = unsent(a.Have, map[string]*string{"section": &out.Section, "back": &out.Back, "side": &out.Side, "above": &out.Above})
	return out
}

// unsent marks drawings by a hash of their contents, and empties those that the client has.
func unsent(have []string, drawings map[string]*string) map[string]string {
	marks := map[string]string{}
	for name, svg := range drawings {
		if *svg == "" {
			continue
		}
		h := fnv.New64a()
		_, _ = h.Write([]byte(*svg))
		marks[name] = strconv.FormatUint(h.Sum64(), 36)
		if slices.Contains(have, marks[name]) {
			*svg = ""
		}
	}
	return marks
}

// rank judges the display on every bracket, including the request's changed one in place of
// the saved one, and sorts the best first.
func (a *Workspace) rank(brackets []*catalog.Bracket) []fit.Pairing {
	var all []fit.Pairing
	for _, b := range brackets {
		if len(all) > 0 && a.work.Exhausted() {
			break
		}
		if a.bracket != nil && b.ID == a.bracket.ID {
			b = a.bracket
		}
		all = append(all, fit.Judge(a.display, b, catalog.Turn(a.Turn), a.extra(), a.policy))
	}
	slices.SortStableFunc(all, func(x, y fit.Pairing) int {
		switch {
		case x.Better(&y):
			return -1
		case y.Better(&x):
			return 1
		}
		return 0
	})
	return all
}

// bolts lists the bolts of a stack, equal ones of neighbouring groups once; ""
// without a stack.
func bolts(s *stack.Stack) string {
	if s == nil {
		return ""
	}
	var all []string
	for _, g := range s.Groups {
		all = append(all, g.Thread.String()+"×"+exchange.Plain(g.Bolt))
	}
	return strings.Join(slices.Compact(all), ", ")
}

// schools returns the bolts under every school of bolt length.
func (a *Workspace) schools() map[string]string {
	out := map[string]string{}
	for _, s := range catalog.BoltSchools {
		if a.work.Exhausted() {
			break
		}
		policy := a.policy
		policy.BoltSchool = s
		p := fit.Judge(a.display, a.bracket, catalog.Turn(a.Turn), a.extra(), policy)
		out[s] = bolts(p.Stack)
	}
	return out
}

func (a *Workspace) ranked(p *fit.Pairing, id, name string) Ranked {
	r := Ranked{ID: id, Name: name, Verdict: string(p.Verdict), Bolts: bolts(p.Stack), Rules: []string{}}
	worst := fit.Note
	for _, c := range p.Findings {
		switch {
		case c.Status > worst:
			worst, r.Rules = c.Status, []string{c.Rule.String()}
		case c.Status == worst && worst > fit.Note:
			r.Rules = append(r.Rules, c.Rule.String())
		}
	}
	if len(r.Rules) > 0 {
		r.Why = a.reader().Say(p.Check(fit.RuleID(r.Rules[0])).Text)
	}
	return r
}

func walls(b *catalog.Bracket) []string {
	out := []string{}
	for _, w := range catalog.WallTypes {
		if _, ok := b.Walls[w]; ok {
			out = append(out, w.String())
		}
	}
	return out
}
