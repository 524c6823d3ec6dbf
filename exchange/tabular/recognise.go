package tabular

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// Column is what a column of a file means.
type Column struct {
	Head  string // as it is written, groups above it included
	Field string // where its figures go; "" when it is left out
	Unit  string // of numbers without one; "" for the format's own, [UnknownUnit] where the head has one that is not known
	Named bool   // by the format's own name: cells may have units of their own
}

// Layout is where a table's headers are, and what its columns mean.
type Layout struct {
	Kind     string // what a row is; "" when it cannot be told
	Head     int    // first row of the headers, from 0
	HeadRows int    // 1, or 2 where groups stand above
	Columns  []Column
}

// pattern is the column for a whole hole pattern: "400x300", "200 x 200 M6".
const pattern = "pattern"

// meaning is what people call a field. The first that matches counts.
type meaning struct {
	field string
	head  *regexp.Regexp
	not   *regexp.Regexp
}

func means(field, head string, not ...string) meaning {
	m := meaning{field: field, head: regexp.MustCompile(head)}
	if not != nil {
		m.not = regexp.MustCompile(not[0])
	}
	return m
}

// What people call the columns of a list of displays, in lower case without
// unit and punctuation (practice).
var displayWords = []meaning{
	means("id", `^(id|sku|article|code|ref|item|(article|item|part|order|product) (no|nr|number|code|id))$`),
	means("maker", `^(maker|make|brand|manufacturer|mfr|mfg|vendor|supplier)$`),
	means("aliases", `\b(alias|aliases|also known as|other names?|aka)\b`),
	means("mass_with_stand_kg", `\b(weight|mass)\b.*\bstand\b|\bstand\b.*\b(weight|mass)\b`, `\b(without|w o|no|excl|ex|less)\b`),
	means("mass_kg", `\b(weight|mass|wt)\b|^(kg|lbs?)$`, `\b(max|rated|rating|load|shipping|gross|box|packed|bracket|mount)\b`),
	means("diagonal_mm", `\b(diag|diagonal)\b|^(screen )?(size|inch|inches)$|^screen$|^(size|inch) class$`),
	means("pattern1.center_below_top_mm",
		`\b(centre|center|pattern|holes?)\b.*\bbelow\b.*\btop\b|\btop\b.*\bto\b.*\b(centre|center|pattern)\b`),
	means("pattern1.recess_diameter_mm",
		`\b(recess|cup|counterbore|well)\b.*(\b(dia|diam|diameter|width)\b|ø)|(\b(dia|diam|diameter)\b|ø).*\b(recess|cup|well)\b`),
	means("pattern1.recess_mm", `\b(recess|recessed|cup|counterbore|well)\b`),
	means("pattern1.thread_depth_mm", `\b(thread|hole|insert|screw|bolt)s?\b.*\bdepth\b|\bdepth\b.*\b(thread|hole|insert)s?\b`),
	means("pattern1.setback_mm", `\b(setback|set back|step)\b`),
	means(pattern, `\bvesa\b|\bpattern\b|\b(hole|mounting|mount) (spacing|holes?|distance)\b`),
	means("pattern1.thread", `\b(thread|bolt|screw|screws|bolts)\b|^(ø|dia|diameter)$`, `\b(length|depth|max|no|qty|count)\b`),
	means("width_mm", `\bwidth\b|\bbreadth\b|^w$|\bw$`, `\b(box|carton|packed|packing|shipping|viewing)\b`),
	means("height_mm", `\bheight\b|^h$|\bh$`, `\b(stand|mounting|box|carton|packed|packing|shipping|viewing)\b`),
	means("depth_mm", `\bdepth\b|\bthick(ness)?\b|^d$|\bd$`,
		`\b(mount|mounting|wall|bracket|box|carton|packed|packing|shipping|stand)\b`),
	means("origin", `^(origin|source|from|figures from)$`),
	means("model", `^(model|name|type|display|screen name|product|description)( (name|no|nr|number))?$`),
}

var bracketWords = []meaning{
	means("id", `^(id|sku|article|code|ref|(article|item|part|order) (no|nr|number))$`),
	means("revision", `^(rev|revision)$`),
	means("rated_load_kg", `\b(rated|max|maximum)\b.*\b(load|weight|mass)\b|^(load|rating|capacity)$`),
	means("mass_kg", `\b(weight|mass)\b`, `\b(shipping|gross|box|packed|display|stand)\b`),
	means("diagonal_min_mm", `\bmin\b.*\b(diag|diagonal|size|screen)\b|\b(diag|diagonal|size|screen)\b.*\b(min|from)\b`),
	means("diagonal_max_mm", `\bmax\b.*\b(diag|diagonal|size|screen)\b|\b(diag|diagonal|size|screen)\b.*\b(max|to)\b`),
	means("profile_mm", `\b(profile|wall distance|closed)\b`),
	means("reach_mm", `\b(reach|extension|extended)\b`),
	means("plate_thickness_mm", `\bplate\b.*\bthick(ness)?\b`),
	means("threads", `\bthreads?\b`),
	means("kind", `^(kind|type)$`),
	means("name", `^(name|bracket|model|product)$`),
}

var kitWords = []meaning{
	means("bracket", `^(bracket|mount|bracket (id|no)|for)$`),
	means("count", `^(count|qty|quantity|pcs|pieces|number|no|amount)$`),
	means("thread", `^(thread|size|ø)$`),
	means("length_mm", `\blength\b|^l$`),
	means("outer_mm", `\b(outer|od|outside)\b`),
	means("thickness_mm", `\bthick(ness)?\b`),
	means("bag", `^bag( (label|no))?$`),
	means("kind", `^(kind|part|type|item)$`),
	means("name", `^(name|description)$`),
}

var vocabularies = map[string][]meaning{Displays: displayWords, Brackets: bracketWords, Kits: kitWords}

// What a head says that a figure is without: it is that of the display itself.
var (
	withoutParts = regexp.MustCompile(`\b(without|w o|excl|excluding|ex)( the)?( wall| tv)? (brackets?|mounts?|box|carton|packing|packaging)\b`)
	withoutStand = regexp.MustCompile(`\b(without|w o|excl|excluding|ex)( the)?( tv)? (stand|base)\b`)
)

// recognise says what a head means to a kind of table.
func recognise(kind, head string, remembered map[string]string) Column {
	c := Column{Head: head}
	if field, ok := remembered[head]; ok {
		_, c.Unit = words(head)
		c.Field = field
		return c
	}
	name := strings.ToLower(strings.ReplaceAll(head, " ", ""))
	if _, ok := places(kind, name); ok && (strings.ContainsAny(name, "_.") || !anyWord(kind, head)) {
		c.Field, c.Named = name, true
		return c
	}
	text, unit := words(head)
	text = strings.TrimSpace(withoutParts.ReplaceAllString(text, " "))
	bare := strings.TrimSpace(withoutStand.ReplaceAllString(text, " "))
	for _, m := range vocabularies[kind] {
		says := bare
		if strings.HasPrefix(m.field, "mass_with") { // which of two masses it is, is said by what it is without
			says = text
		}
		if says != "" && m.head.MatchString(says) && (m.not == nil || !m.not.MatchString(says)) {
			c.Field, c.Unit = m.field, unit
			return c
		}
	}
	if _, ok := places(kind, name); ok {
		c.Field, c.Named = name, true
	}
	return c
}

func anyWord(kind, head string) bool {
	text, _ := words(head)
	for _, m := range vocabularies[kind] {
		if m.head.MatchString(text) {
			return true
		}
	}
	return false
}

// maxHead is how far down headers are looked for.
const maxHead = 15

// Recognise finds a table's headers and what its columns mean. Remembered are
// the fields that people chose for headers before, by kind.
func Recognise(t *Table, remembered map[string]map[string]string) Layout {
	if t.Hidden {
		return Layout{}
	}
	best, most := recognised(t, remembered)
	if _, other := recognised(t.turned(), remembered); other > most+6 { // two columns more that are known
		t.Sideways = true
		return Layout{}
	}
	return best
}

// recognised is the best layout of a table, and how well it explains its heads.
func recognised(t *Table, remembered map[string]map[string]string) (best Layout, most int) {
	most = 1 // one column alone is a chance
	for _, kind := range []string{Displays, Brackets, Kits} {
		for row := range min(maxHead, len(t.Rows)) {
			for _, rows := range []int{1, 2} {
				if row+rows > len(t.Rows) || rows == 2 && figures(t.Rows[row+1]) {
					continue
				}
				l := t.layout(kind, row, rows, remembered[kind])
				if n := l.score(t.Name); n > most {
					best, most = l, n
				}
			}
		}
	}
	return best, most
}

// sided are columns of one side of a hole pattern: "VESA H", beside "VESA V" or "VESA W".
var sided = regexp.MustCompile(`^(?:vesa|pattern|hole pattern|hole spacing|mounting holes?)(?: mm)? (h|v|w|horizontal|vertical|width|height)$`)

// sides tells the sides of patterns that stand in two columns: an H beside a V is across, beside a W it is up; alone nobody knows.
func (l *Layout) sides() {
	at := map[string]int{}
	for i := range l.Columns {
		if text, _ := words(l.Columns[i].Head); l.Kind == Displays && l.Columns[i].Field == pattern {
			if m := sided.FindStringSubmatch(text); m != nil {
				at[m[1][:1]] = i + 1
				if len(m[1]) > 1 {
					at[m[1]] = i + 1
				}
				l.Columns[i].Field = ""
			}
		}
	}
	put := func(field string, columns ...int) {
		for _, i := range columns {
			if i > 0 {
				l.Columns[i-1].Field = field
				return
			}
		}
	}
	switch {
	case at["v"] > 0 && at["h"] > 0 && at["height"] == 0:
		put("pattern1.width_mm", at["h"])
		put("pattern1.height_mm", at["v"])
	case at["w"] > 0 && at["h"] > 0 && at["horizontal"] == 0:
		put("pattern1.width_mm", at["w"])
		put("pattern1.height_mm", at["h"])
	}
}

// figures reports whether a row has numbers, and so is no head.
func figures(row []string) bool {
	return slices.ContainsFunc(row, func(cell string) bool { return strings.ContainsAny(cell, "0123456789") })
}

// Laid is the layout of a table whose kind and headers are given.
func Laid(t *Table, kind string, head, rows int, remembered map[string]string) Layout {
	return t.layout(kind, head, rows, remembered)
}

func (t *Table) layout(kind string, row, rows int, remembered map[string]string) Layout {
	l := Layout{Kind: kind, Head: row, HeadRows: rows}
	used := map[string]bool{}
	for _, h := range t.headers(row, rows) {
		c := Column{Head: h.String()}
		if c.Head != "" {
			c = recognise(kind, c.Head, remembered)
		}
		if c.Field == "" && h.group != "" && h.own != "" {
			// The group says nothing of its own, but maybe the unit.
			c = recognise(kind, h.own, remembered)
			if c.Head = h.String(); c.Unit == "" {
				_, c.Unit = words(h.group)
			}
		}
		if c.Unit == "" && h.group != "" && c.Field != "" && recognise(kind, h.group, nil).Field == c.Field {
			if at, ok := places(kind, c.Field); ok && at.suffix != "" { // the group says what it is, and what is below it the unit
				c.Unit, _ = bracketed(strings.ToLower(h.own))
			}
		}
		if used[c.Field] && !t.again(kind, c.Field) {
			c.Field = ""
		}
		used[c.Field] = c.Field != ""
		l.Columns = append(l.Columns, c)
	}
	l.sides()
	for i := range l.Columns {
		if c := &l.Columns[i]; c.Field == "diagonal_mm" && c.Unit == "" && !c.Named && t.small(i, row+rows) {
			c.Unit = "in"
		}
	}
	return l
}

// again reports whether two columns may say one thing: a figure, in two units say, which are held against each other; or patterns.
func (t *Table) again(kind, field string) bool {
	at, ok := places(kind, field)
	return field == pattern || ok && at.suffix != ""
}

// small reports whether a column's numbers can only be inches of a screen.
func (t *Table) small(column, from int) bool {
	some := false
	for _, r := range t.Rows[min(from, len(t.Rows)):] {
		if column >= len(r) {
			continue
		}
		if n, err := strconv.ParseFloat(strings.ReplaceAll(r[column], ",", "."), 64); err == nil {
			if n >= 150 {
				return false
			}
			some = true
		}
	}
	return some
}

// head is a column's head, and that of the group it stands in.
type head struct{ group, own string }

func (h head) String() string { return strings.TrimSpace(h.group + " " + h.own) }

// headers are the column headers; of two rows the upper one holds the groups, a
// merged one for each column that it spans.
func (t *Table) headers(row, rows int) []head {
	lower := t.Rows[row+rows-1]
	if rows == 1 {
		out := make([]head, len(lower))
		for i, own := range lower {
			out[i].own = own
		}
		return out
	}
	upper := make([]string, max(len(t.Rows[row]), len(lower)))
	copy(upper, t.Rows[row])
	for _, m := range t.Merged {
		for c := m.From; m.Row == row && c <= m.To && c < len(upper); c++ {
			upper[c] = upper[m.From]
		}
	}
	out := make([]head, len(upper))
	for i := range out {
		out[i].group = upper[i]
		if i < len(lower) {
			out[i].own = lower[i]
		}
	}
	return out
}

// score is how well a layout explains its headers: columns that are known, one
// that names the row, and a sheet that says what it is.
func (l *Layout) score(sheet string) int {
	n := 0
	counted := map[string]bool{}
	for _, c := range l.Columns {
		twice := counted[c.Field]
		counted[c.Field] = true
		switch {
		case c.Field == "", twice:
		case c.Named:
			n += 4
		default:
			n += 3
		}
		if c.Unit != "" {
			n++ // a group above may hold it
		}
		if c.Field == "id" || c.Field == "model" || c.Field == "bracket" {
			n += 2
		}
	}
	if n > 0 && strings.EqualFold(sheet, l.Kind) {
		n += 3
	}
	return n - (l.HeadRows - 1) // one row of headers is likelier than two
}
