package server

import (
	"bytes"
	"errors"
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

// Kept is a display or a bracket of the catalogue with its revision.
type Kept struct {
	Revision int               `json:"revision" required:"true"`
	Display  *exchange.Display `json:"display,omitempty"`
	Bracket  *exchange.Bracket `json:"bracket,omitempty"`
}

// Keeping is a display or a bracket to keep. The revision is the one it was
// made from, 0 for a new one.
type Keeping struct {
	Kind     string            `json:"-" path:"kind"`
	ID       string            `json:"-" path:"id"`
	Revision int               `json:"revision" required:"true" minimum:"0"`
	Why      string            `json:"why,omitempty" maxLength:"400"`
	Display  *exchange.Display `json:"display,omitempty"`
	Bracket  *exchange.Bracket `json:"bracket,omitempty"`
}

// Edition is a revision in a history.
type Edition struct {
	Seq     int64             `json:"seq" required:"true"`
	Kind    string            `json:"kind" required:"true"`
	ID      string            `json:"id" required:"true"`
	Number  int               `json:"number" required:"true"`
	Who     string            `json:"who" required:"true"`
	Why     string            `json:"why" required:"true"`
	At      string            `json:"at" required:"true"`
	Removed bool              `json:"removed" required:"true"`
	Changes []exchange.Change `json:"changes" required:"true"` // against the revision before
}

// BatchLine is a number of changes made together.
type BatchLine struct {
	ID     int64  `json:"id" required:"true"`
	What   string `json:"what" required:"true"`
	Who    string `json:"who" required:"true"`
	At     string `json:"at" required:"true"`
	Items  int    `json:"items" required:"true"`
	Undone bool   `json:"undone" required:"true"`
}

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

var itemKinds = map[string]string{"displays": "display", "brackets": "bracket"}

func itemOf(c *echo.Context) (kind, id string, err error) {
	kind, ok := itemKinds[c.Param("kind")]
	if !ok {
		return "", "", store.ErrNotFound
	}
	return kind, c.Param("id"), nil
}

// item answers with a display or bracket and its revision.
func (s *Server) item(c *echo.Context) error {
	kind, id, err := itemOf(c)
	if err != nil {
		return err
	}
	i, err := s.store.Item(c.Request().Context(), kind, id)
	if err != nil {
		return err
	}
	k, err := keptOf(i)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, k)
}

func keptOf(i store.Item) (Kept, error) {
	k := Kept{Revision: i.Revision}
	var in struct {
		Display *exchange.Display `json:"display"`
		Bracket *exchange.Bracket `json:"bracket"`
	}
	err := exchange.ReadInto([]byte(`{"`+i.Kind+`":`+i.Doc+`}`), &in)
	k.Display, k.Bracket = in.Display, in.Bracket
	return k, err
}

// keepItem keeps a display or bracket. One that somebody else has changed
// meanwhile is refused, with theirs.
func (s *Server) keepItem(c *echo.Context) error {
	kind, id, err := itemOf(c)
	if err != nil {
		return err
	}
	raw, err := body(c)
	if err != nil {
		return err
	}
	var in Keeping
	if err := exchange.ReadInto(raw, &in); err != nil {
		return err
	}
	i, err := in.item(kind, id)
	if err != nil {
		return err
	}
	revision, err := s.store.Keep(c.Request().Context(), author(c, in.Why), i, in.Revision)
	if err != nil {
		return stale(err)
	}
	i.Revision = revision
	k, err := keptOf(i)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, k)
}

// item checks what is to be kept as a document is checked.
func (in *Keeping) item(kind, id string) (store.Item, error) {
	doc := exchange.Document{Format: exchange.Format}
	switch {
	case kind == "display" && in.Display != nil && in.Bracket == nil && in.Display.ID == id:
		doc.Displays = []exchange.Display{*in.Display}
	case kind == "bracket" && in.Bracket != nil && in.Display == nil && in.Bracket.ID == id:
		doc.Brackets = []exchange.Bracket{*in.Bracket}
	default:
		return store.Item{}, exchange.Problems{{Path: kind, Found: "is missing, or of another id", Allowed: "the " + kind + " with the id " + id}}
	}
	all, err := doc.Contents()
	if err != nil {
		return store.Item{}, mended(err)
	}
	if kind == "display" {
		return store.DisplayItem(all.Displays[0])
	}
	return store.BracketItem(all.Brackets[0])
}

// mended gives problems of a document with one thing in it the paths of that
// thing alone.
func mended(err error) error {
	var problems exchange.Problems
	if !errors.As(err, &problems) {
		return err
	}
	for n := range problems {
		problems[n].Path = strings.NewReplacer("displays[0]", "display", "brackets[0]", "bracket").Replace(problems[n].Path)
	}
	return problems
}

// stale makes problem details of a conflict: what is there now goes with them.
func stale(err error) error {
	var conflict *store.Conflict
	if !errors.As(err, &conflict) {
		return err
	}
	r := conflict.Theirs
	who := r.Who
	if who == "" {
		who = "Somebody else"
	}
	p := problem(http.StatusConflict, "It was changed meanwhile.", who+" changed it while you did. Compare the two, and keep what is right.")
	p.Theirs = &Theirs{Number: r.Number, Who: r.Who, At: r.At, Removed: !r.Doc.Valid}
	if r.Doc.Valid {
		if k, err := keptOf(store.Item{Kind: r.Kind, ID: r.ID, Doc: r.Doc.String, Revision: r.Number}); err == nil {
			p.Theirs.Kept = &k
		}
	}
	return p
}

// Theirs is what somebody else has made of an item meanwhile.
type Theirs struct {
	Number  int    `json:"number" required:"true"`
	Who     string `json:"who" required:"true"`
	At      string `json:"at" required:"true"`
	Removed bool   `json:"removed" required:"true"`
	Kept    *Kept  `json:"kept,omitempty"`
}

// removal says which revision is to be taken out.
type removal struct {
	Kind     string `path:"kind"`
	ID       string `path:"id"`
	Revision int    `query:"revision" required:"true"`
}

// removeItem takes a display or bracket out of the catalogue. Its history
// stays.
func (s *Server) removeItem(c *echo.Context) error {
	kind, id, err := itemOf(c)
	if err != nil {
		return err
	}
	revision, err := strconv.Atoi(c.QueryParam("revision"))
	if err != nil {
		return exchange.Problems{{Path: "revision", Found: c.QueryParam("revision"), Allowed: "the number of the revision that is to go"}}
	}
	if err := s.store.Take(c.Request().Context(), author(c, "Taken out."), kind, id, revision); err != nil {
		return stale(err)
	}
	return c.NoContent(http.StatusNoContent)
}

type historyOf struct {
	Kind string `query:"kind" description:"displays, brackets or policies; empty for everything."`
	ID   string `query:"id"`
}

// mostEditions is how much of a history is shown.
const mostEditions = 200

// history lists revisions, the latest first.
func (s *Server) history(c *echo.Context) error {
	kind := map[string]string{"displays": "display", "brackets": "bracket", "policies": "policy"}[c.QueryParam("kind")]
	list, err := s.store.History(c.Request().Context(), kind, c.QueryParam("id"), mostEditions)
	if err != nil {
		return err
	}
	out := []Edition{}
	for n, r := range list {
		e := Edition{Seq: r.Seq, Kind: r.Kind, ID: r.ID, Number: r.Number, Who: r.Who, Why: r.Why, At: r.At, Removed: !r.Doc.Valid, Changes: []exchange.Change{}}
		if kind != "" && n+1 < len(list) {
			e.Changes = append(e.Changes, exchange.Compare([]byte(list[n+1].Doc.String), []byte(r.Doc.String))...)
		}
		out = append(out, e)
	}
	return c.JSON(http.StatusOK, out)
}

type twoEditions struct {
	A int64 `query:"a" required:"true"`
	B int64 `query:"b" required:"true"`
}

// compare says what differs between two revisions.
func (s *Server) compare(c *echo.Context) error {
	var docs [2][]byte
	for i, name := range []string{"a", "b"} {
		seq, err := strconv.ParseInt(c.QueryParam(name), 10, 64)
		if err != nil {
			return exchange.Problems{{Path: name, Found: c.QueryParam(name), Allowed: "the number of a revision"}}
		}
		r, err := s.store.Revision(c.Request().Context(), seq)
		if err != nil {
			return err
		}
		docs[i] = []byte(r.Doc.String)
	}
	return c.JSON(http.StatusOK, append([]exchange.Change{}, exchange.Compare(docs[0], docs[1])...))
}

// restoreEdition puts a revision in place again.
func (s *Server) restoreEdition(c *echo.Context) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	i, err := s.store.RestoreRevision(c.Request().Context(), author(c, "").Who, id)
	if err != nil {
		return err
	}
	k := Kept{Revision: i.Revision}
	if i.Kind == "display" || i.Kind == "bracket" {
		if k, err = keptOf(i); err != nil {
			return err
		}
	}
	return c.JSON(http.StatusOK, k)
}

// batches lists what was changed together.
func (s *Server) batches(c *echo.Context) error {
	list, err := s.store.Batches(c.Request().Context(), 100)
	if err != nil {
		return err
	}
	out := []BatchLine{}
	for _, b := range list {
		out = append(out, BatchLine{b.ID, b.What, b.Who, b.At, b.Items, b.UndoneBy.Valid})
	}
	return c.JSON(http.StatusOK, out)
}

func pathID(c *echo.Context) (int64, error) {
	id, err := strconv.ParseInt(c.Param("id"), 10, 64)
	if err != nil {
		return 0, store.ErrNotFound
	}
	return id, nil
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
	raw, err := body(c)
	if err != nil {
		return err
	}
	var in Together
	if err := exchange.ReadInto(raw, &in); err != nil {
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
	raw, err := body(c)
	if err != nil {
		return err
	}
	var in Merging
	if err := exchange.ReadInto(raw, &in); err != nil {
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
	i, err := store.DisplayItem(merged(keep, gone))
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
func merged(keep, gone *catalog.Display) *catalog.Display {
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
	if len(out.Patterns) == 0 {
		out.Patterns = gone.Patterns
	}
	if len(out.Zones) == 0 {
		out.Zones = gone.Zones
	}
	if len(out.OwnParts) == 0 {
		out.OwnParts = gone.OwnParts
	}
	for _, name := range append([]string{gone.Name()}, gone.Aliases...) {
		if !slices.Contains(out.Aliases, name) && len(out.Aliases) < 16 {
			out.Aliases = append(out.Aliases[:len(out.Aliases):len(out.Aliases)], name)
		}
	}
	return &out
}
