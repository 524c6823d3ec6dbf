package app

import (
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

// maxZones is how many zones a display has in the format.
const maxZones = 64

// Merged returns a display with the figures of one, and those that it lacks from the other, each with its origin and its note. A figure
// that both have stays as it is. What keeps hands, bolts and cables away is taken from both: a merge never drops a zone. A pattern of the
// other that the one has not is not added, but what the other knows of the same pattern and of its holes is.
func Merged(keep, gone *catalog.Display) (*catalog.Display, error) {
	out := *keep
	out.Origins, out.Notes = maps.Clone(keep.Origins), maps.Clone(keep.Notes)
	m := merging{out: &out, keep: keep, gone: gone}
	m.taken = m.fill(reflect.ValueOf(&out).Elem(), reflect.ValueOf(gone).Elem(), reflect.TypeFor[exchange.Display](), "", "")
	m.zones()
	m.patterns()
	if err := m.origins(); err != nil {
		return nil, err
	}
	name := gone.Name()
	if len([]rune(name)) > exchange.MostName {
		name = gone.Model // what the other is usually found by
	}
	for _, name := range append([]string{name}, gone.Aliases...) {
		if name != "" && !slices.Contains(out.Aliases, name) && len(out.Aliases) < 16 {
			out.Aliases = append(out.Aliases[:len(out.Aliases):len(out.Aliases)], name)
		}
	}
	return &out, nil
}

// merging is a merge of two displays: what was taken, by its path in the other, and the path that it has now.
type merging struct {
	out, keep, gone *catalog.Display
	taken           map[string]string
}

// named are the members that say which display it is, or where figures are from: each is decided by itself.
var named = []string{"ID", "Maker", "Model", "Aliases", "Origin", "Origins", "Notes"}

// fill sets what one lacks to what the other has, member by member of a type of the format, and returns the paths of what was taken. The
// members of the core's type have the same names (TestMergeTakesEveryFigure).
func (m *merging) fill(to, of reflect.Value, format reflect.Type, toPath, ofPath string) map[string]string {
	taken := map[string]string{}
	for i := range format.NumField() {
		f := format.Field(i)
		have := to.FieldByName(f.Name)
		if slices.Contains(named, f.Name) || !have.IsValid() || !missing(have) || missing(of.FieldByName(f.Name)) {
			continue
		}
		have.Set(of.FieldByName(f.Name))
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		taken[ofPath+name] = toPath + name
	}
	return taken
}

// missing reports whether nothing is said; of an unknown figure the origin may be.
func missing(v reflect.Value) bool {
	if f, ok := v.Interface().(catalog.Figure); ok {
		return !f.Known
	}
	return v.IsZero()
}

// zones takes the zones that the one has not.
func (m *merging) zones() {
	if _, all := m.taken["zones"]; all {
		return
	}
	m.out.Zones = slices.Clone(m.out.Zones)
	for i, z := range m.gone.Zones {
		if !slices.ContainsFunc(m.out.Zones, func(have catalog.Zone) bool { return reflect.DeepEqual(have, z) }) && len(m.out.Zones) < maxZones {
			m.taken[fmt.Sprintf("zones[%d]", i)] = fmt.Sprintf("zones[%d]", len(m.out.Zones))
			m.out.Zones = append(m.out.Zones, z)
		}
	}
}

// patterns takes what the other knows of a pattern that both have, and of its holes.
func (m *merging) patterns() {
	if _, all := m.taken["patterns"]; all {
		return
	}
	m.out.Patterns = slices.Clone(m.out.Patterns)
	for i := range m.out.Patterns {
		to := &m.out.Patterns[i]
		j := slices.IndexFunc(m.gone.Patterns, func(p catalog.Pattern) bool { return p.Width == to.Width && p.Height == to.Height })
		if j < 0 {
			continue
		}
		of := &m.gone.Patterns[j]
		maps.Copy(m.taken, m.fill(reflect.ValueOf(to).Elem(), reflect.ValueOf(of).Elem(), reflect.TypeFor[exchange.Pattern](),
			fmt.Sprintf("patterns[%d].", i), fmt.Sprintf("patterns[%d].", j)))
		if len(m.keep.Patterns[i].Holes) == 0 {
			to.ByRows = of.ByRows
			continue
		}
		to.ByRows = to.ByRows && of.ByRows // else the holes of a row may differ now
		to.Holes = slices.Clone(to.Holes)
		for k := range to.Holes {
			h := slices.IndexFunc(of.Holes, func(h catalog.Hole) bool { return h.X == to.Holes[k].X && h.Y == to.Holes[k].Y })
			if h >= 0 { // of which each figure has its own origin
				m.fill(reflect.ValueOf(&to.Holes[k]).Elem(), reflect.ValueOf(&of.Holes[h]).Elem(), reflect.TypeFor[exchange.HoleFigures](), "", "")
			}
		}
	}
}

// now is the path of what was taken, by its path in the other; false: it was not.
func (m *merging) now(path string) (string, bool) {
	for of, to := range m.taken {
		if rest, ok := strings.CutPrefix(path, of); ok && (rest == "" || rest[0] == '.' || rest[0] == '[') {
			return to + rest, true
		}
	}
	return "", false
}

// origins gives what was taken the origin and the note that it had.
func (m *merging) origins() error {
	figures, err := exchange.Figures(m.gone)
	if err != nil {
		return err
	}
	for _, path := range figures {
		now, taken := m.now(path)
		if from := m.gone.OriginOf(path); taken && from != m.keep.Origin {
			if m.out.Origins == nil {
				m.out.Origins = map[string]catalog.Origin{}
			}
			m.out.Origins[now] = from
		}
	}
	for path, note := range m.gone.Notes {
		now, taken := m.now(path)
		if _, has := m.out.Notes[now]; taken && !has {
			if m.out.Notes == nil {
				m.out.Notes = map[string]catalog.Note{}
			}
			m.out.Notes[now] = note
		}
	}
	return nil
}
