package place

import (
	"slices"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// help looks for a change with which the fasteners pass, and
// judges it before it is proposed: another fastener of the kit, or the display
// moved so that its plate is under it.
func (p *Placement) help() {
	bad := p.against()
	if bad == (tally{}) || len(p.Points) == 0 {
		return
	}
	remedy, move := quantity.Phrase{}, quantity.Optional[quantity.Length]{}
	if b := p.otherFastener(bad); b != nil {
		remedy = quantity.Say("%v of the kit would do.", capital(b.Label()))
	} else if x, ok := p.underTheLoad(bad); ok {
		by := x - p.DisplayX
		remedy = quantity.Say("Moved %v to the %v, with what holds it behind it, it would do.", shown(by.Abs()), quantity.Side(by))
		move = quantity.Some(by)
	}
	if remedy.Empty() {
		return
	}
	for i := range p.Checks {
		c := &p.Checks[i]
		if about(c.Rule).Held && (c.Status == fit.Fail || c.Status == fit.Caution) {
			c.Remedy = quantity.Say("%v %v", remedy, c.Remedy)
		}
	}
	if move.Known && !p.MoveX.Known {
		p.MoveX = move
	}
}

// tally counts the checks against the fasteners.
type tally struct{ fails, unknowns, cautions int }

func (p *Placement) against() tally {
	var t tally
	for _, c := range p.Checks {
		if !about(c.Rule).Held {
			continue
		}
		switch c.Status {
		case fit.Fail:
			t.fails++
		case fit.Unknown:
			t.unknowns++
		case fit.Caution:
			t.cautions++
		}
	}
	return t
}

// improves reports whether a placement has none of another's
// fails and no unknowns; or none of its cautions.
func (p *Placement) improves(bad tally) bool {
	t := p.against()
	if len(p.Points) == 0 || t.fails > 0 || t.unknowns > 0 {
		return false
	}
	return bad.fails > 0 || t.cautions == 0 && bad.cautions > 0
}

// otherFastener returns another item of the kit that would pass, or
// nil.
func (p *Placement) otherFastener(bad tally) *catalog.Item {
	kind := p.Job.Wall.Type
	b := p.Pairing.Bracket
	for n := range b.Kit {
		i := &b.Kit[n]
		item, ok := i.Resolved()
		if !ok || !item.MadeFor(kind) || item.Label() == p.Choice.Carrier().Label() {
			continue
		}
		other := *b
		other.Walls = map[catalog.WallType]catalog.WallFixing{}
		for w, f := range b.Walls {
			other.Walls[w] = f
		}
		said := other.Walls[kind]
		said.Fasteners, said.Depth = []string{item.Kind.String()}, quantity.Optional[quantity.Length]{}
		other.Walls[kind] = said
		other.Kit = slices.DeleteFunc(slices.Clone(b.Kit), func(o catalog.Item) bool {
			r, _ := o.Resolved()
			return r.Kind == item.Kind && o.Label() != i.Label()
		})
		pair := *p.Pairing
		pair.Bracket = &other
		s := p.setting
		s.Pairing = &pair
		if again := s.place(); again.improves(bad) {
			return &item
		}
	}
	return nil
}

// underTheLoad returns the place of the display at which its plate's fasteners would be under its
// centre of gravity.
func (p *Placement) underTheLoad(bad tally) (quantity.Length, bool) {
	if !p.Strength.Known || p.Strength.Eccentricity == 0 || p.Job.Run != nil && p.Job.Run.Count > 1 {
		return 0, false
	}
	over := p.DisplayX - p.Strength.Eccentricity // where the load would be over the present fasteners
	for _, at := range []quantity.Optional[quantity.Length]{nearestStraight(p), quantity.Some(over.Round(tapeStep))} {
		if !at.Known || at.Value == p.DisplayX {
			continue
		}
		job := *p.Job
		job.Place.X = at
		s := p.setting
		s.Job, s.DisplayX = &job, at.Value
		if again := s.place(); again.improves(bad) {
			return at.Value, true
		}
	}
	return 0, false
}

// nearestStraight returns the nearest place of the display at which its plate finds
// its studs directly under it.
func nearestStraight(p *Placement) quantity.Optional[quantity.Length] {
	const far = 400 * quantity.Millimetre
	x, ok := p.Allowed(p.DisplayX-far, p.DisplayX+far, true).Nearest(p.DisplayX)
	x = x.Round(tapeStep)
	return quantity.Optional[quantity.Length]{Value: x, Known: ok && x != p.DisplayX}
}

func capital(s string) string {
	if s != "" && s[0] >= 'a' && s[0] <= 'z' {
		return string(s[0]-'a'+'A') + s[1:]
	}
	return s
}
