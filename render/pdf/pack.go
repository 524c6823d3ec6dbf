package pdf

import (
	"bytes"
	"fmt"
	"slices"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/core/sheet"
	"nexufix/core/steps"
)

// Pack is the document for one installation: a cover, parts and tools, the
// steps with their figures, the measure card, what to do when something is wrong, what is left
// over, a sheet to sign, and the template at 1:1 at the end.
type Pack struct {
	Sequence    *steps.Sequence
	Figures     map[string]*drawing.Drawing // of the steps, by name
	Photos      map[string][]byte           // of the steps, JPEG by id
	Verdict     string
	Conditions  []quantity.Phrase
	StandsOn    []quantity.Phrase // what nobody has said, and how far it may be off
	Card        *drawing.Drawing  // nil: none
	Template    *drawing.Drawing  // nil: none
	Fingerprint string
	Release     *sheet.Release // nil: it is a draft
	Paper       string         // a4 or letter
	Units       quantity.Units
	Created     time.Time
}

// Sizes of lettering: the height of a line's letters in millimetres.
const (
	bodySize  = 3.6
	headSize  = 6.0
	titleSize = 8.5
	leading   = 1.32
	side      = 16.0 // left and right margin
	above     = 18.0
	below     = 16.0
)

// Write writes the pack.
func (p *Pack) Write() ([]byte, error) {
	size, ok := Papers[p.Paper]
	if !ok || p.Paper == "a3" {
		return nil, fmt.Errorf("paper %q is not known; allowed: a4, letter", p.Paper)
	}
	head := &drawing.Drawing{Title: p.Sequence.Title.In(p.Units), Pen: 0.2}
	w := beginWith(head, fpdf.SizeType{Wd: size[0], Ht: size[1]}, p.Units, p.Created, p.texts())
	w.AliasNbPages("")
	f := &flow{writer: w, p: p, wide: size[0], high: size[1], left: side, right: size[0] - side}
	f.cover()
	f.parts()
	f.steps()
	f.card()
	f.symptoms()
	f.leftovers()
	f.sign()
	if err := f.template(); err != nil {
		return nil, err
	}
	return w.file(head.Title, codeOf(p.Sequence.Language))
}

// texts returns all texts of the pack, to choose its fonts.
func (p *Pack) texts() []string {
	s := p.Sequence
	out := []string{s.Language.Words(p.Verdict), p.Fingerprint}
	if p.Release != nil {
		out = append(out, p.Release.Standing().For(s.Language).In(p.Units))
	}
	say := func(list ...quantity.Phrase) {
		for _, x := range list {
			out = append(out, x.For(s.Language).In(p.Units))
		}
	}
	say(s.Title)
	say(s.Cautions...)
	say(p.Conditions...)
	say(p.StandsOn...)
	for i := range s.Steps {
		x := &s.Steps[i]
		say(x.Text...)
		say(x.Mind...)
		say(x.Caution, x.Check, x.Wrong)
		say(quantity.Names(slices.Concat(x.Tools, []string{x.Title})...)...)
	}
	for _, c := range s.Blocked {
		say(c.Text, c.Remedy)
	}
	for i := range s.Hidden {
		say(s.Hidden[i].Text())
	}
	for _, list := range [][]steps.Part{s.Parts, s.Supply, s.Leftovers} {
		for _, x := range list {
			say(x.Line())
		}
	}
	for _, x := range s.Symptoms {
		for _, c := range x.Causes {
			say(c.What, c.Look, c.Do)
		}
	}
	drawings := []*drawing.Drawing{p.Card, p.Template}
	for _, d := range p.Figures {
		drawings = append(drawings, d)
	}
	for _, d := range drawings {
		if d != nil {
			out = append(out, d.Title)
			for i := range d.Items {
				if t, ok := d.Items[i].Shape.(drawing.Text); ok {
					out = append(out, t.Text.In(p.Units))
				}
			}
		}
	}
	return out
}

func (f *flow) cover() {
	s := f.p.Sequence
	f.page()
	f.Bookmark(f.words("Cover"), 0, 0)
	f.y += 14
	list := []paragraph{{text: f.say(s.Title), weight: "B", size: titleSize},
		{text: f.words("Installation on %v", s.Wall.Name()), size: headSize, before: 3}}
	if r := f.p.Release; r != nil {
		f.code(r)
		list = append(list, paragraph{text: f.say(r.Standing()), size: bodySize, before: 3})
	}
	if len(s.Blocked) == 0 { // a verdict of fits must not be read where it must not be installed
		list = append(list, paragraph{text: f.words(f.p.Verdict), weight: "B", size: 5, before: 8})
	} else {
		list = append(list, paragraph{text: f.words("Do not install."), weight: "B", size: headSize, before: 6, red: true})
		for _, c := range s.Blocked {
			p := f.bullet(f.say(c.Sentences()))
			p.red = true
			list = append(list, p)
		}
	}
	if s.ToMeasure != nil {
		list = append(list, paragraph{text: f.say(s.Cautions[0]), weight: "B", size: bodySize, before: 4, red: true})
	}
	if len(f.p.Conditions) > 0 {
		list = append(list, paragraph{text: f.words("Conditions"), weight: "B", size: 4.4, before: 6})
		for _, c := range f.p.Conditions {
			list = append(list, f.bullet(f.say(c)))
		}
	}
	if len(f.p.StandsOn) > 0 {
		list = append(list, paragraph{text: f.words("Stands on what nobody has said"), weight: "B", size: 4.4, before: 6})
		for _, text := range f.p.StandsOn {
			list = append(list, f.bullet(f.say(text)))
		}
	}
	for i := range s.Hidden {
		list = append(list, paragraph{text: f.say(s.Hidden[i].Text()), weight: "B", size: bodySize, before: 3, red: true})
	}
	list = append(list, paragraph{text: f.words("Cautions"), weight: "B", size: 4.4, before: 6})
	for i, c := range s.Cautions {
		if i == 0 && s.ToMeasure != nil {
			continue // it stands above
		}
		list = append(list, f.bullet(f.say(c)))
	}
	if len(s.Steps) > 0 {
		list = append(list, paragraph{text: f.words("People and time"), weight: "B", size: 4.4, before: 6},
			f.body(f.words("%v About %v minutes in all.", s.Lift.Text(), s.Minutes)))
	} else {
		list = append(list, f.body(f.words("There are no steps until that is settled.")))
	}
	f.write(list, f.right-f.left)
}

// code draws the release's code in the page's upper right corner.
func (f *flow) code(r *sheet.Release) {
	wide := max(30, r.CodeSize())
	d := &drawing.Drawing{Max: drawing.Point{X: wide}, Min: drawing.Point{Y: -wide}, Pen: 0.1}
	r.Code(d, 0, 0, wide)
	f.draw(d, f.right-wide, above-2, wide, wide)
}

func (f *flow) partList(title string, all []steps.Part) {
	if len(all) == 0 {
		return
	}
	list := []paragraph{{text: f.words(title), weight: "B", size: 4.4, before: 4}}
	for i := range all {
		list = append(list, f.bullet(f.say(all[i].Line())))
	}
	f.write(list, f.right-f.left)
}

func (f *flow) parts() {
	s := f.p.Sequence
	if len(s.Steps) == 0 {
		return
	}
	f.section("Parts and tools", true)
	f.partList("Parts", s.Parts)
	f.partList("To be supplied", s.Supply)
	list := []paragraph{{text: f.words("Tools"), weight: "B", size: 4.4, before: 4},
		f.body(f.words("%v.", quantity.List(", ", quantity.Names(s.Tools...)...)))}
	f.write(list, f.right-f.left)
	if d := f.p.Figures["bags"]; d != nil {
		f.figureBelow(d, f.right-f.left)
	}
}

const figureWide = 80.0

func (f *flow) steps() {
	s := f.p.Sequence
	if len(s.Steps) == 0 {
		return
	}
	f.section("Steps", true)
	seen := map[string]bool{}
	for i := range s.Steps {
		x := &s.Steps[i]
		d := f.p.Figures[x.Figure]
		if x.Figure == "bags" || seen[x.Figure] {
			d = nil // it is shown with an earlier step or with the parts
		}
		seen[x.Figure] = true
		f.step(i+1, x, d)
	}
}

func (f *flow) step(n int, x *steps.Step, d *drawing.Drawing) {
	list := []paragraph{{text: f.words("%v  %v", n, x.Title), weight: "B", size: 4.8}}
	if len(f.p.Sequence.Blocked) > 0 {
		list = append(list, paragraph{text: f.words("Do not install: see the cover."), weight: "B", size: bodySize, before: 1, red: true})
	}
	for _, t := range x.Text {
		list = append(list, f.body(f.say(t)))
	}
	for _, t := range x.Mind {
		list = append(list, paragraph{text: f.words("Mind: %v", t), weight: "B", size: bodySize, before: 1})
	}
	for i := range x.Parts {
		list = append(list, f.bullet(f.say(x.Parts[i].Line())))
	}
	if !x.Caution.Empty() {
		list = append(list, paragraph{text: f.words("Caution: %v", x.Caution), weight: "B", size: bodySize, before: 1.4, red: true})
	}
	if !x.Check.Empty() {
		list = append(list, paragraph{text: f.words("Right when: %v", x.Check), size: bodySize, before: 1.4})
	}
	if !x.Wrong.Empty() {
		list = append(list, paragraph{text: f.words("If it goes wrong: %v", x.Wrong), size: bodySize, before: 1.4})
	}
	list = append(list, paragraph{text: f.say(x.Effort()), size: 3, before: 1.2})
	wide := f.right - f.left
	figure := 0.0
	if d != nil {
		wide -= figureWide + 6
		figure = min(f.scale(d, figureWide, 95)*d.Height(), 95)
	}
	high := max(f.height(list, wide), figure+4)
	f.y += 6
	if high < f.high-above-below {
		f.room(high + 3)
	} else {
		f.room(60)
	}
	f.SetDrawColor(168, 168, 174)
	f.SetLineWidth(0.2)
	f.Line(f.left, f.y, f.right, f.y)
	f.Bookmark(f.words("%v %v", n, x.Title), 1, f.y)
	f.y += 1.5
	top, page := f.y, f.PageNo()
	if d != nil {
		f.draw(d, f.right-figureWide, top+3, figureWide, 95)
	}
	f.write(list, wide)
	if f.PageNo() == page {
		f.y = max(f.y, top+figure+4)
	}
	for _, p := range x.Photos {
		f.photo(&p)
	}
}

// photo draws a photograph below its step, with its caption.
func (f *flow) photo(p *steps.Photo) {
	raw := f.p.Photos[p.ID]
	if raw == nil {
		return
	}
	o := fpdf.ImageOptions{ImageType: "JPEG"}
	info := f.RegisterImageOptionsReader(p.ID, o, bytes.NewReader(raw))
	if f.Err() || info.Width() <= 0 {
		return
	}
	wide := min(f.right-f.left, 100, 75*info.Width()/info.Height())
	high := wide * info.Height() / info.Width()
	f.y += 3
	f.room(high + 6)
	f.ImageOptions(p.ID, f.left, f.y, wide, high, false, o, 0, "")
	f.y += high + 1
	if p.Shows != "" {
		f.write([]paragraph{{text: p.Shows, size: 3}}, f.right-f.left)
	}
}
