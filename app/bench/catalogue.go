package bench

import (
	"fmt"
	"strconv"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/exchange"
)

// DisplayLine is a display in the catalogue's grid.
type DisplayLine struct {
	ID       string         `json:"id" required:"true"`
	Maker    string         `json:"maker" required:"true"`
	Model    string         `json:"model" required:"true"`
	Diagonal exchange.OptMM `json:"diagonal_mm,omitzero"`
	Width    exchange.OptMM `json:"width_mm,omitzero"`
	Height   exchange.OptMM `json:"height_mm,omitzero"`
	Depth    exchange.OptMM `json:"depth_mm,omitzero"`
	Mass     exchange.OptKG `json:"mass_kg,omitzero"`
	Patterns string         `json:"patterns" required:"true"`
	Origin   string         `json:"origin" required:"true"`
	Odd      string         `json:"odd" required:"true"` // which of its figures disagree
}

// BracketLine is a bracket in the catalogue's grid.
type BracketLine struct {
	ID       string         `json:"id" required:"true"`
	Name     string         `json:"name" required:"true"`
	Revision string         `json:"revision" required:"true"`
	Kind     string         `json:"kind" required:"true"`
	Rated    exchange.OptKG `json:"rated_load_kg,omitzero"`
	Smallest exchange.OptMM `json:"diagonal_min_mm,omitzero"`
	Largest  exchange.OptMM `json:"diagonal_max_mm,omitzero"`
	Profile  exchange.OptMM `json:"profile_mm,omitzero"`
	Reach    exchange.OptMM `json:"reach_mm,omitzero"`
	Threads  string         `json:"threads" required:"true"`
	Parts    int            `json:"parts" required:"true"`
}

// Items is the whole catalogue as lines of a grid.
type Items struct {
	Displays []DisplayLine `json:"displays" required:"true"`
	Brackets []BracketLine `json:"brackets" required:"true"`
}

// Grid returns the whole catalogue as lines of a grid, for who reads it.
func Grid(all *exchange.Contents, to quantity.Reader) Items {
	out := Items{Displays: make([]DisplayLine, 0, len(all.Displays)), Brackets: []BracketLine{}}
	for _, d := range all.Displays {
		line := DisplayLine{ID: d.ID, Maker: d.Maker, Model: d.Model, Diagonal: d.Diagonal, Width: d.Width, Height: d.Height,
			Depth: d.Depth, Mass: d.Mass, Patterns: PatternsNote(d), Origin: d.Origin.String()}
		if odd := fit.DataCheck(d); odd.Status > fit.Note {
			line.Odd = to.Say(odd.Text)
		}
		out.Displays = append(out.Displays, line)
	}
	for _, b := range all.Brackets {
		var threads []string
		for _, t := range b.Threads {
			threads = append(threads, t.String())
		}
		out.Brackets = append(out.Brackets, BracketLine{ID: b.ID, Name: b.Name, Revision: b.Revision,
			Kind:     to.Language.Words(b.Kind.Properties().Word),
			Rated:    b.RatedLoad,
			Smallest: b.DiagonalMin, Largest: b.DiagonalMax, Profile: b.Profile, Reach: b.Reach,
			Threads: strings.Join(threads, ", "), Parts: len(b.Kit)})
	}
	return out
}

// BulkChange sets figures of several displays at once.
type BulkChange struct {
	IDs    []string        `json:"ids" required:"true" minItems:"1" maxItems:"20000" maxLength:"80"`
	Maker  string          `json:"maker,omitempty" maxLength:"120"`
	Origin *catalog.Origin `json:"origin,omitempty"`
}

// Changed returns the displays of a catalogue with the figures changed.
func (in *BulkChange) Changed(all *exchange.Contents) (*exchange.Contents, error) {
	var problems exchange.Problems
	doc := exchange.Document{Format: exchange.Format}
	for i, id := range in.IDs {
		d := all.Display(id)
		if d == nil {
			problems = append(problems, Missing("display", id))
			problems[len(problems)-1].Path = "ids[" + strconv.Itoa(i) + "]"
			continue
		}
		x := *d
		if in.Maker != "" {
			x.Maker = in.Maker
		}
		if in.Origin != nil {
			x.Origin = *in.Origin
		}
		doc.Displays = append(doc.Displays, &x)
	}
	if problems != nil {
		return nil, problems
	}
	return doc.Contents()
}

// PatternsNote lists a display's patterns and threads.
func PatternsNote(d *catalog.Display) string {
	note := ""
	for i, p := range d.Patterns {
		if i > 0 {
			note += ", "
		}
		note += exchange.Plain(p.Width) + " × " + exchange.Plain(p.Height) + " " + p.Thread.String()
	}
	if note == "" {
		return "pattern not known"
	}
	return note
}

// FoundBy returns the words that a display is found by: maker, model, other names, pattern and size.
func FoundBy(d *catalog.Display) string {
	size := ""
	if d.Diagonal.Known {
		size = fmt.Sprintf("%.0f", float64(d.Diagonal.Value)/float64(quantity.Inch))
	}
	return d.Name() + " " + strings.Join(d.Aliases, " ") + " " + d.ID + " " + PatternsNote(d) + " " + size
}
