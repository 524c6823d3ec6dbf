package imports

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
	out, other := *keep, *gone
	out.Origins, out.Notes = maps.Clone(keep.Origins), maps.Clone(keep.Notes)
	m := merging{out: &out, keep: keep, gone: &other, taken: map[string]string{}}
	m.fill(reflect.ValueOf(&out).Elem(), reflect.ValueOf(gone).Elem(), "", "")
	m.zones()
	m.patterns()
	if err := m.origins(); err != nil {
		return nil, err
	}
	out.Complete()
	name := gone.Name()
	if len([]rune(name)) > catalog.MaxName {
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

// fill sets what one lacks to what the other has, member by member of the format (TestMergeTakesEveryFigure).
func (m *merging) fill(to, of reflect.Value, toPath, ofPath string) {
	for _, f := range reflect.VisibleFields(to.Type()) {
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		have, other := to.FieldByIndex(f.Index), of.FieldByIndex(f.Index)
		if name == "" || name == "-" || slices.Contains(named, f.Name) || !have.IsZero() || other.IsZero() {
			continue
		}
		have.Set(other)
		m.taken[ofPath+name] = toPath + name
	}
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
	m.out.Patterns, m.gone.Patterns = slices.Clone(m.out.Patterns), slices.Clone(m.gone.Patterns)
	for i := range m.out.Patterns {
		to := &m.out.Patterns[i]
		j := slices.IndexFunc(m.gone.Patterns, func(p catalog.Pattern) bool { return p.Width == to.Width && p.Height == to.Height })
		if j < 0 {
			continue
		}
		of, toPath, ofPath := &m.gone.Patterns[j], fmt.Sprintf("patterns[%d].", i), fmt.Sprintf("patterns[%d].", j)
		switch {
		case !to.ByRows() || !of.ByRows(): // the holes of a row may differ now
			m.out.OneByOne(i)
			m.gone.OneByOne(j)
			m.holes(to, of, toPath, ofPath)
		case to.Rows != nil && of.Rows != nil:
			rows := *to.Rows
			to.Rows = &rows
			m.fill(reflect.ValueOf(to.Rows).Elem(), reflect.ValueOf(of.Rows).Elem(), toPath+"rows.", ofPath+"rows.")
			m.row(&rows.Top, of.Rows.Top, toPath+"rows.top.", ofPath+"rows.top.")
			m.row(&rows.Bottom, of.Rows.Bottom, toPath+"rows.bottom.", ofPath+"rows.bottom.")
		}
		m.fill(reflect.ValueOf(to).Elem(), reflect.ValueOf(of).Elem(), toPath, ofPath)
	}
}

// row takes the figures that a row lacks.
func (m *merging) row(to **catalog.HoleFigures, of *catalog.HoleFigures, toPath, ofPath string) {
	if *to == of || of == nil {
		return
	}
	own := **to
	*to = &own
	m.fill(reflect.ValueOf(&own).Elem(), reflect.ValueOf(of).Elem(), toPath, ofPath)
}

// holes takes the figures that the holes at the same places lack.
func (m *merging) holes(to, of *catalog.Pattern, toPath, ofPath string) {
	to.Given = slices.Clone(to.Given)
	for i := range to.Given {
		j := slices.IndexFunc(of.Given, func(h catalog.GivenHole) bool { return h.X == to.Given[i].X && h.Y == to.Given[i].Y })
		if j >= 0 {
			m.fill(reflect.ValueOf(&to.Given[i]).Elem(), reflect.ValueOf(&of.Given[j]).Elem(),
				fmt.Sprintf("%sholes[%d].", toPath, i), fmt.Sprintf("%sholes[%d].", ofPath, j))
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
