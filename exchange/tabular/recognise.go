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
	means("mass_kg", `\b(weight|mass)\b`),
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

var (
	inBrackets  = regexp.MustCompile(`[(\[]([^)\]]*)[)\]]`)
	punctuation = regexp.MustCompile(`[^\pL\pN"″”]+`)
)

// units by what people write for them, and the unit that the quantity parser
// reads.
var units = map[string]string{
	"mm": "mm", "millimetres": "mm", "millimeters": "mm", "cm": "cm", "m": "m", "in": "in", "inch": "in", "inches": "in", `"`: "in",
	"″": "in", "”": "in", "ins": "in",
	"ft": "ft", "kg": "kg", "kgs": "kg", "kilograms": "kg", "g": "g", "lb": "lb", "lbs": "lb", "pounds": "lb", "oz": "oz", "deg": "°",
	"degrees": "°", "°": "°",
}

// UnknownUnit is the unit of a column whose head has one that is not known, or two: what its bare numbers are, nobody knows until somebody
// says so.
const UnknownUnit = "?"

// foreignUnits are units that people write and the quantity parser does not read.
var foreignUnits = setOf("st stone stones t ton tons tonne tonnes cwt hundredweight pfund livre livres kn n newton newtons gr grain " +
	"grains dm dam km yd yard yards px pixel pixels pt points µm um micron microns mil mils thou fuß fuss pied pieds pie pies piede " +
	"piedi voet voeten libra libras libbra libbre pond rad")

// qualifiers stand in brackets beside a figure and are no units (practice).
var qualifiers = setOf("net gross max maximum min minimum approx approximate approximately nominal typical typ average avg overall total " +
	"outer inner external internal outside inside product panel screen display set body bezel stand base only incl excl including " +
	"excluding with without wo w o each per unit units pc pcs optional top bottom upper lower left right row rows hole holes thread insert " +
	"recess cup wall bracket mount vesa ca circa est estimated measured sheet bench phone caller spec datasheet landscape portrait " +
	"horizontal vertical wxh hxw wxhxd diagonal diag visible active closed extended rated load capacity packed shipping new old all class ø " +
	"rear front back bare head tv monitor frame cabinet housing chassis module thickest thinnest deepest widest note notes * † ‡ # " +
	"a b c d e f h i j k l p q r s u v x y z")

func setOf(words string) map[string]bool {
	out := map[string]bool{}
	for w := range strings.FieldsSeq(words) {
		out[w] = true
	}
	return out
}

// glyphs stand for a unit at a head's end, "Depth″"; the longer ones first.
var glyphs = []struct{ is, unit string }{{"''", "in"}, {"′′", "in"}, {"’’", "in"}, {"″", "in"}, {`"`, "in"}, {"”", "in"}, {"'", "ft"},
	{"′", "ft"}, {"’", "ft"}}

const quotes = `'"“”‘’″′`

var wholeNumber = regexp.MustCompile(`^[0-9]+$`)

// words takes a head apart: what it says, and the unit in it.
func words(head string) (text, unit string) {
	head = inEnglish(strings.ToLower(strings.TrimSpace(head)))
	for _, g := range glyphs {
		if short, glued := strings.CutSuffix(head, g.is); glued && !strings.ContainsAny(short, quotes) { // Depth "max" is a word in quotes
			head, unit = strings.TrimSpace(short), g.unit
			break
		}
	}
	if m := inBrackets.FindStringSubmatch(head); m != nil && unit == "" {
		var alone bool
		if unit, alone = bracketed(m[1]); alone {
			head = strings.Replace(head, m[0], " ", 1)
		}
	}
	list := strings.Fields(punctuation.ReplaceAllString(strings.NewReplacer("⌀", "ø", "w/o", "w o", "°", " deg ").Replace(head), " "))
	if n := len(list); unit == "" && n > 1 {
		last, named := list[n-1], n > 2 && list[n-2] == "in" // "width in dm"
		switch u, ok := units[last]; {
		case ok && wholeNumber.MatchString(list[n-2]): // tenths of a kilogram, hundreds of grams
			unit = UnknownUnit
		case ok:
			unit, list = u, list[:n-1]
			if named {
				list = list[:n-2]
			}
		case foreignUnits[last], named && !qualifiers[last]:
			unit = UnknownUnit
		}
	}
	return strings.Join(list, " "), unit
}

// bracketed is the unit that brackets in a head have, and whether they have nothing else: one that is known, with what is no unit beside
// it; [UnknownUnit] for another one, for two, and for one word of which nobody knows what it is.
func bracketed(text string) (unit string, alone bool) {
	list := strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(" ./,;:-–", r) })
	if len(list) > 1 && list[0] == "in" {
		list = list[1:]
	}
	rest, counted := 0, slices.ContainsFunc(list, wholeNumber.MatchString)
	for _, w := range list {
		u, known := units[w]
		switch {
		case known && !counted && (unit == "" || unit == u):
			unit = u
		case known, foreignUnits[w]:
			return UnknownUnit, false
		default:
			rest++
		}
	}
	if unit == "" && len(list) == 1 && !qualifiers[list[0]] && !strings.ContainsAny(list[0], "0123456789") {
		return UnknownUnit, false
	}
	return unit, unit != "" && rest == 0
}

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
	var best Layout
	most := 1 // one column alone is a chance
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
	return best
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
			c.Unit, _ = bracketed(strings.ToLower(h.own)) // the group says what it is, and what is below it the unit
		}
		if used[c.Field] {
			c.Field = ""
		}
		used[c.Field] = c.Field != ""
		l.Columns = append(l.Columns, c)
	}
	for i := range l.Columns {
		if c := &l.Columns[i]; c.Field == "diagonal_mm" && c.Unit == "" && !c.Named && t.small(i, row+rows) {
			c.Unit = "in"
		}
	}
	return l
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
	for _, c := range l.Columns {
		switch {
		case c.Field == "":
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
