package server

import (
	"bytes"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/labstack/echo/v5"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/exchange"
	"nexufix/exchange/tabular"
	"nexufix/store"
)

// DisplayLine is a display in the catalogue's grid.
type DisplayLine struct {
	ID       string       `json:"id" required:"true"`
	Maker    string       `json:"maker" required:"true"`
	Model    string       `json:"model" required:"true"`
	Diagonal *exchange.MM `json:"diagonal_mm,omitempty"`
	Width    *exchange.MM `json:"width_mm,omitempty"`
	Height   *exchange.MM `json:"height_mm,omitempty"`
	Depth    *exchange.MM `json:"depth_mm,omitempty"`
	Mass     *exchange.KG `json:"mass_kg,omitempty"`
	Patterns string       `json:"patterns" required:"true"`
	Origin   string       `json:"origin" required:"true"`
	Odd      string       `json:"odd" required:"true"` // what does not agree about its figures
}

// BracketLine is a bracket in the catalogue's grid.
type BracketLine struct {
	ID       string       `json:"id" required:"true"`
	Name     string       `json:"name" required:"true"`
	Revision string       `json:"revision" required:"true"`
	Kind     string       `json:"kind" required:"true"`
	Rated    *exchange.KG `json:"rated_load_kg,omitempty"`
	Smallest *exchange.MM `json:"diagonal_min_mm,omitempty"`
	Largest  *exchange.MM `json:"diagonal_max_mm,omitempty"`
	Profile  *exchange.MM `json:"profile_mm,omitempty"`
	Reach    *exchange.MM `json:"reach_mm,omitempty"`
	Threads  string       `json:"threads" required:"true"`
	Parts    int          `json:"parts" required:"true"`
}

// Shelves are the whole catalogue as lines of a grid.
type Shelves struct {
	Displays []DisplayLine `json:"displays" required:"true"`
	Brackets []BracketLine `json:"brackets" required:"true"`
}

func mmOf(o quantity.Optional[quantity.Length]) *exchange.MM {
	if !o.Known {
		return nil
	}
	m := exchange.MM(o.Value)
	return &m
}

func kgOf(o quantity.Optional[quantity.Mass]) *exchange.KG {
	if !o.Known {
		return nil
	}
	k := exchange.KG(o.Value)
	return &k
}

// shelves answers with the catalogue's grid.
func (s *Server) shelves(c *echo.Context) error {
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	out := Shelves{Displays: make([]DisplayLine, 0, len(all.Displays)), Brackets: []BracketLine{}}
	for _, d := range all.Displays {
		line := DisplayLine{ID: d.ID, Maker: d.Maker, Model: d.Model, Diagonal: mmOf(d.Diagonal), Width: mmOf(d.Width), Height: mmOf(d.Height),
			Depth: mmOf(d.Depth), Mass: kgOf(d.Mass), Patterns: patternsNote(d), Origin: d.Origin.String()}
		if odd := fit.Odd(d); odd.Status != fit.Pass {
			line.Odd = odd.Text.In(quantity.Metric)
		}
		out.Displays = append(out.Displays, line)
	}
	for _, b := range all.Brackets {
		var threads []string
		for _, t := range b.Threads {
			threads = append(threads, t.String())
		}
		out.Brackets = append(out.Brackets, BracketLine{ID: b.ID, Name: b.Name, Revision: b.Revision, Kind: kinds[b.Kind], Rated: kgOf(b.RatedLoad),
			Smallest: mmOf(b.DiagonalMin), Largest: mmOf(b.DiagonalMax), Profile: mmOf(b.Profile), Reach: mmOf(b.Reach),
			Threads: strings.Join(threads, ", "), Parts: len(b.Kit)})
	}
	return c.JSON(http.StatusOK, out)
}

type tableKind struct {
	Kind string `path:"kind"`
}

// exportCSV answers with a kind of table.
func (s *Server) exportCSV(c *echo.Context) error {
	kind := c.Param("kind")
	if kind != tabular.Displays && kind != tabular.Brackets && kind != tabular.Kits {
		return store.ErrNotFound
	}
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := tabular.WriteCSV(&out, kind, all); err != nil {
		return err
	}
	return attachment(c, kind+".csv", "text/csv; charset=utf-8", out.Bytes())
}

// exportXLSX answers with the catalogue as a workbook.
func (s *Server) exportXLSX(c *echo.Context) error {
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := tabular.WriteXLSX(&out, all); err != nil {
		return err
	}
	return attachment(c, "nexufix.xlsx", xlsxType, out.Bytes())
}

const xlsxType = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"

// duplicates are displays that could be one and the same.
func (s *Server) duplicates(c *echo.Context) error {
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	out := []Alike{}
	for _, pair := range store.Alike(all.Displays, 100) {
		out = append(out, Alike{[]Name{nameOf(pair[0]), nameOf(pair[1])}})
	}
	return c.JSON(http.StatusOK, out)
}

// Alike are two displays that could be one.
type Alike struct {
	Displays []Name `json:"displays" required:"true"`
}

func nameOf(d *catalog.Display) Name { return Name{d.ID, d.Name()} }

// Together sets figures of several displays at once.
type Together struct {
	IDs    []string `json:"ids" required:"true" minItems:"1" maxItems:"20000" maxLength:"80"`
	Maker  string   `json:"maker,omitempty" maxLength:"120"`
	Origin string   `json:"origin,omitempty" enum:"bench,sheet,caller"`
}

// together changes several displays in one transaction, as one batch.
func (s *Server) together(c *echo.Context) error {
	in, err := request[Together](c)
	if err != nil {
		return err
	}
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	var problems exchange.Problems
	doc := exchange.Document{Format: exchange.Format}
	for i, id := range in.IDs {
		d := all.Display(id)
		if d == nil {
			problems = append(problems, missing("display", id))
			problems[len(problems)-1].Path = "ids[" + strconv.Itoa(i) + "]"
			continue
		}
		x := exchange.DisplayOf(d)
		if in.Maker != "" {
			x.Maker = in.Maker
		}
		if in.Origin != "" {
			x.Origin = in.Origin
		}
		doc.Displays = append(doc.Displays, x)
	}
	if problems != nil {
		return problems
	}
	contents, err := doc.Contents()
	if err != nil {
		return err
	}
	what := strconv.Itoa(len(in.IDs)) + " displays changed together"
	n, err := s.store.Import(c.Request().Context(), author(c, what), what, contents, all, nil)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, n)
}

// Merging says which of two displays stays.
type Merging struct {
	Keep string `json:"keep" required:"true" maxLength:"80"`
	Gone string `json:"gone" required:"true" maxLength:"80"`
}

// merge makes one display of two: the figures that the one that stays lacks
// come from the other, whose name it goes by as well.
func (s *Server) merge(c *echo.Context) error {
	in, err := request[Merging](c)
	if err != nil {
		return err
	}
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return err
	}
	keep, gone := all.Display(in.Keep), all.Display(in.Gone)
	if keep == nil || gone == nil || keep == gone {
		return exchange.Problems{{Path: "keep", Found: in.Keep + " and " + in.Gone, Allowed: "two displays of the catalogue"}}
	}
	both, err := merged(keep, gone)
	if err != nil {
		return err
	}
	i, err := store.DisplayItem(both)
	if err != nil {
		return err
	}
	n, err := s.store.Merge(c.Request().Context(), author(c, "Merged "+gone.ID+" into "+keep.ID), i, gone.ID, all)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, Undone{n})
}

// merged keeps what is known of one and fills it up from the other, each
// figure with where it came from.
func merged(keep, gone *catalog.Display) (*catalog.Display, error) {
	out := *keep
	out.Origins = maps.Clone(keep.Origins)
	from := func(path string, missing, known bool) bool {
		if missing && known && gone.OriginOf(path) != keep.Origin {
			if out.Origins == nil {
				out.Origins = map[string]catalog.Origin{}
			}
			out.Origins[path] = gone.OriginOf(path)
		}
		return missing && known
	}
	for _, f := range []struct {
		path string
		to   *quantity.Optional[quantity.Length]
		of   quantity.Optional[quantity.Length]
	}{
		{"diagonal_mm", &out.Diagonal, gone.Diagonal}, {"width_mm", &out.Width, gone.Width}, {"height_mm", &out.Height, gone.Height},
		{"depth_mm", &out.Depth, gone.Depth}, {"rest_plane_from_front_mm", &out.RestPlaneFromFront, gone.RestPlaneFromFront},
	} {
		if from(f.path, !f.to.Known, f.of.Known) {
			*f.to = f.of
		}
	}
	if from("mass_kg", !out.Mass.Known, gone.Mass.Known) {
		out.Mass = gone.Mass
	}
	if from("mass_with_stand_kg", !out.MassWithStand.Known, gone.MassWithStand.Known) {
		out.MassWithStand = gone.MassWithStand
	}
	taken := map[string]bool{}
	if len(out.Patterns) == 0 {
		out.Patterns, taken["patterns"] = gone.Patterns, true
	}
	if len(out.Zones) == 0 {
		out.Zones, taken["zones"] = gone.Zones, true
	}
	if len(out.OwnParts) == 0 {
		out.OwnParts, taken["own_parts"] = gone.OwnParts, true
	}
	figures, err := exchange.Figures(gone)
	if err != nil {
		return nil, err
	}
	for _, path := range figures {
		list, _, _ := strings.Cut(path, "[")
		from(path, taken[list], true)
	}
	name := gone.Name()
	if len([]rune(name)) > exchange.MostName {
		name = gone.Model // as the other is mostly found
	}
	for _, name := range append([]string{name}, gone.Aliases...) {
		if name != "" && !slices.Contains(out.Aliases, name) && len(out.Aliases) < 16 {
			out.Aliases = append(out.Aliases[:len(out.Aliases):len(out.Aliases)], name)
		}
	}
	return &out, nil
}
