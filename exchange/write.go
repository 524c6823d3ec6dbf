package exchange

import (
	"bytes"
	"encoding/json"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/hang"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/stack"
)

// writer appends judgements as `nexufix match` writes them: byte for byte what encoding/json makes of a
// [Pairing] with an indent of two spaces and without escapes for HTML. For 200,000 pairings it writes 1.5 GB,
// for which the library took more than three times as long. [TestWriterAgreesWithLibrary] compares
// the two, member by member.
type writer struct {
	out     []byte
	depth   int  // of the value that is being written
	some    bool // it has a member or an item already
	words   []fit.Check
	sources []fit.Source
}

// begin empties the writer for a list at a depth.
func (w *writer) begin(depth int) {
	w.out, w.depth, w.some = w.out[:0], depth, false
}

// lines has what precedes the name of a member, by depth: an item leaves the quotation mark out, the first
// of either the comma.
var lines = func() (of [maxDeep]string) {
	for depth := range of {
		of[depth] = ",\n" + strings.Repeat("  ", depth) + `"`
	}
	return of
}()

// maxDeep is more than a judgement's depth: an alternative stack's bolt is at nine.
const maxDeep = 16

// line begins the line of an item.
func (w *writer) line() {
	line := lines[w.depth]
	if !w.some {
		line = line[1:]
	}
	w.out, w.some = append(w.out, line[:len(line)-1]...), true
}

// name begins a member; the name needs no escape.
func (w *writer) name(name string) {
	line := lines[w.depth]
	if !w.some {
		line = line[1:]
	}
	w.out, w.some = append(append(append(w.out, line...), name...), `": `...), true
}

// open and end write the brackets of an object or a list.
func (w *writer) open(bracket byte) {
	w.out = append(w.out, bracket)
	w.depth++
	w.some = false
}

func (w *writer) end(bracket byte) {
	w.depth--
	if w.some {
		w.some = false
		w.line()
	}
	w.out = append(w.out, bracket)
	w.some = true
}

func (w *writer) null(name string) {
	w.name(name)
	w.out = append(w.out, "null"...)
}

func (w *writer) count(name string, n int) {
	w.name(name)
	w.out = strconv.AppendInt(w.out, int64(n), 10)
}

// figure writes millionths: millimetres of nanometres.
func (w *writer) figure(name string, n int64) {
	w.name(name)
	w.out = quantity.AppendDecimal(w.out, n, 6)
}

func (w *writer) length(name string, l quantity.Length) { w.figure(name, int64(l)) }

func (w *writer) optional(name string, l quantity.Optional[quantity.Length]) {
	if l.Known {
		w.length(name, l.Value)
	}
}

func (w *writer) text(name, text string) {
	w.name(name)
	w.out = appendText(w.out, text)
}

func (w *writer) texts(name string, texts []string) {
	w.name(name)
	w.open('[')
	for _, text := range texts {
		w.line()
		w.out = appendText(w.out, text)
	}
	w.end(']')
}

// sentence writes a phrase straight into the output.
func (w *writer) sentence(name string, p *quantity.Phrase) {
	w.name(name)
	from := len(w.out)
	w.out = p.AppendIn(append(w.out, '"'), quantity.Metric)
	w.out = quoted(w.out, from)
}

// quoted completes a text whose opening quotation mark is written, with escapes if it needs any.
func quoted(out []byte, from int) []byte {
	if unescaped(out[from+1:]) {
		return append(out, '"')
	}
	var text bytes.Buffer
	e := json.NewEncoder(&text)
	e.SetEscapeHTML(false)
	_ = e.Encode(string(out[from+1:])) // a text always encodes
	return append(out[:from], bytes.TrimSuffix(text.Bytes(), []byte("\n"))...)
}

// appendText quotes a text.
func appendText(out []byte, text string) []byte {
	return quoted(append(append(out, '"'), text...), len(out))
}

func (w *writer) pairing(p *fit.Pairing) {
	w.line()
	w.open('{')
	w.text("display", p.Display.ID)
	w.text("bracket", p.Bracket.ID)
	w.count("turn_deg", int(p.Turn))
	w.text("verdict", string(p.Verdict))
	if p.Pattern == nil {
		w.null("pattern")
	} else {
		width, height := p.Turn.Size(p.Pattern.Width, p.Pattern.Height)
		w.name("pattern")
		w.open('{')
		w.length("width_mm", width)
		w.length("height_mm", height)
		w.end('}')
	}
	w.name("checks")
	w.open('[')
	w.words = p.AppendWords(w.words[:0])
	for i := range w.words {
		w.check(p, &w.words[i])
	}
	w.end(']')
	w.stack("stack", p.Stack, p.Alternative)
	w.hang(p.Hang)
	w.name("assumed")
	w.open('[')
	for _, a := range p.Assumed() {
		m := fit.Measure{Unit: a.Unit}
		w.line()
		w.open('{')
		w.text("path", a.Path)
		w.figure("value", int64(measured(&m, a.Value)))
		w.figure("holds_to", int64(measured(&m, a.Holds)))
		w.text("unit", string(a.Unit))
		w.sentence("text", &a.Text)
		w.end('}')
	}
	w.end(']')
	w.out = append(w.out, wallNotJudged...)
	w.end('}')
}

// wallNotJudged are the members that say so, the same for every pairing.
var wallNotJudged = func() []byte {
	w := writer{depth: 3, some: true}
	w.name("wall_judged")
	w.out = append(w.out, "false"...)
	var all []string
	for _, text := range place.ToMeasure(&catalog.Wall{}) {
		all = append(all, text.In(quantity.Metric))
	}
	w.texts("to_measure", all)
	return w.out
}()

func (w *writer) check(p *fit.Pairing, c *fit.Check) {
	w.sources = p.AppendSources(w.sources[:0], c.Rule)
	w.line()
	w.open('{')
	w.text("rule", c.Rule.String())
	w.text("status", c.Status.String())
	if m := &c.Measure; m.Given() {
		w.figure("value", int64(measured(m, m.Value)))
		w.figure("limit", int64(measured(m, m.Limit)))
		w.figure("margin", int64(measured(m, m.Margin)))
		w.text("unit", string(m.Unit))
		w.name("figure")
		from := len(w.out)
		w.out = m.AppendIn(append(w.out, '"'), quantity.Metric)
		w.out = quoted(w.out, from)
	}
	w.sentence("text", &c.Text)
	w.sentence("remedy", &c.Remedy)
	if len(c.Marks) > 0 {
		w.texts("marks", c.Marks)
	}
	if len(w.sources) > 0 {
		slices.SortFunc(w.sources, func(a, b fit.Source) int { return strings.Compare(a.Figure, b.Figure) })
		w.name("origins")
		w.open('{')
		for _, s := range w.sources {
			w.text(s.Figure, s.Origin.String())
		}
		w.end('}')
	}
	w.end('}')
}

func (w *writer) stack(name string, s, alternative *stack.Stack) {
	if s == nil {
		w.null(name)
		return
	}
	w.name(name)
	w.open('{')
	w.text("status", s.Status.String())
	w.length("arm_plane_mm", s.Plane)
	w.figure("lean_deg", int64(decimals(s.Lean, 3)))
	w.name("supplied")
	w.open('[')
	for _, x := range s.Supplied {
		w.supplied(suppliedOf(x, s.Groups[0].Thread))
	}
	w.end(']')
	w.name("groups")
	w.open('[')
	for i := range s.Groups {
		w.group(&s.Groups[i])
	}
	w.end(']')
	w.stack("alternative", alternative, nil)
	w.end('}')
}

func (w *writer) supplied(x SuppliedItem) {
	w.line()
	w.open('{')
	w.text("kind", x.Kind)
	if x.Thread != "" {
		w.text("thread", x.Thread)
	}
	if len(x.Threads) > 0 {
		w.texts("threads", x.Threads)
	}
	w.optional("length_mm", x.Length)
	w.optional("thickness_mm", x.Thickness)
	w.optional("outer_mm", x.Outer)
	w.count("count", x.Count)
	if x.Head != "" {
		w.text("head", x.Head)
	}
	w.end('}')
}

func (w *writer) group(g *stack.HoleStack) {
	w.line()
	w.open('{')
	w.texts("holes", g.Holes)
	w.text("bearing", g.Bearing.String())
	w.name("bolt")
	w.open('{')
	w.text("thread", g.Thread.String())
	w.length("length_mm", g.Bolt)
	if head := headOf(g.Head); head != "" {
		w.text("head", head)
	}
	w.end('}')
	w.name("washers")
	w.open('{')
	w.count("count", g.Washers.Count)
	w.length("thickness_mm", g.Washers.Thickness)
	w.length("outer_mm", g.Washers.Outer)
	w.end('}')
	w.length("shoulder_washer_mm", g.Shoulder)
	w.name("spacers_mm")
	w.open('[')
	for _, x := range g.Spacers {
		w.line()
		w.out = quantity.AppendDecimal(w.out, int64(x.Length), 6)
	}
	w.end(']')
	w.length("arm_plane_mm", g.Plane)
	w.length("entry_mm", g.Entry)
	w.length("engagement_mm", g.Engagement)
	w.length("engagement_worst_mm", g.EngagementWorst)
	w.length("tip_clearance_mm", g.Clearance)
	w.length("tip_clearance_worst_mm", g.ClearanceWorst)
	w.figure("turns", int64(decimals(g.Turns(), 6)))
	w.text("status", g.Status.String())
	w.end('}')
}

func (w *writer) hang(h *hang.Hang) {
	if h == nil {
		w.null("hang")
		return
	}
	w.name("hang")
	w.open('{')
	w.length("top_hole_below_hook_mm", h.TopHoles)
	w.optional("pattern_center_above_datum_mm", h.CenterAboveDatum)
	w.optional("display_top_above_datum_mm", h.DisplayTopAboveDatum)
	w.end('}')
}

// unescaped reports whether a text needs no escapes.
func unescaped(text []byte) bool {
	foreign := false
	for _, c := range text {
		if c < ' ' || c == '"' || c == '\\' {
			return false
		}
		foreign = foreign || c >= utf8.RuneSelf
	}
	return !foreign || utf8.Valid(text) && !bytes.ContainsAny(text, "\u2028\u2029")
}
