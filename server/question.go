package server

import (
	"encoding/json"
	"fmt"
	"io"
	"mime"
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
	"nexufix/core/stack"
	"nexufix/exchange"
)

// Question is what the bench asks: a display on a bracket. Either stands in
// the catalogue under an id, or is given in full, as typed in or as changed to
// see what follows. Without a bracket the best one is taken.
type Question struct {
	DisplayID   string            `json:"display_id,omitempty" maxLength:"80"`
	Display     *exchange.Display `json:"display,omitempty"`
	BracketID   string            `json:"bracket_id,omitempty" maxLength:"80"`
	Bracket     *exchange.Bracket `json:"bracket,omitempty"`
	Turn        int               `json:"turn_deg,omitempty" enum:"0,90,270"`
	Accessories *exchange.KG      `json:"accessories_kg,omitempty" minimum:"0" maximum:"1000"`
	Policy      *exchange.Policy  `json:"policy,omitempty"`
	Wall        string            `json:"wall,omitempty" enum:"wood_stud,metal_stud,concrete,block,lined_masonry,timber_board,thin_backer,hollow_board"`
	TopHoles    *exchange.MM      `json:"top_holes_mm,omitempty" minimum:"-2000" maximum:"3000"` // where the top hole row is wanted, below the hook
	Center      *exchange.MM      `json:"center_mm,omitempty" minimum:"0" maximum:"20000"`
	Tilt        *exchange.Deg     `json:"tilt_deg,omitempty" minimum:"-90" maximum:"90"`     // top forward; only drawn
	Swivel      *exchange.Deg     `json:"swivel_deg,omitempty" minimum:"-180" maximum:"180"` // only drawn
	Site        *exchange.Job     `json:"site,omitempty"`                                    // the wall, and where on it; its display and bracket are the question's
	Units       string            `json:"units,omitempty" enum:"mm,in"`
}

// asked is a question with its nouns found.
type asked struct {
	Question
	display *catalog.Display
	bracket *catalog.Bracket
	policy  catalog.Policy
	all     *exchange.Contents
	job     *catalog.Job // nil without a site
	typed   bool         // the display is not in the catalogue
	work    *stack.Work  // what may be done for it
}

// mostWork is how many steps a question may take: a second or two of a processor.
// What people ask takes a hundredth.
const mostWork = 40_000_000

func (a *asked) units() quantity.Units {
	if a.Question.Units == "in" {
		return quantity.Imperial
	}
	return quantity.Metric
}

// extra is what hangs with the display, and where its arms are wanted.
func (a *asked) extra() fit.Extra {
	out := fit.Extra{Work: a.work}
	if a.Accessories != nil {
		out.Accessories = quantity.Mass(*a.Accessories)
	}
	if a.TopHoles != nil {
		out.TopHoles = quantity.Some(quantity.Length(*a.TopHoles))
	}
	return out
}

// center is the height asked for the display's centre.
func (a *asked) center() quantity.Optional[quantity.Length] {
	if a.Center == nil {
		return quantity.Optional[quantity.Length]{}
	}
	return quantity.Some(quantity.Length(*a.Center))
}

func (a *asked) judge() fit.Pairing {
	return fit.Judge(a.display, a.bracket, catalog.Turn(a.Turn), a.extra(), a.policy)
}

// body reads a JSON request whole.
func body(c *echo.Context) ([]byte, error) {
	kind, _, err := mime.ParseMediaType(c.Request().Header.Get("Content-Type"))
	if err != nil || kind != "application/json" {
		return nil, problem(http.StatusUnsupportedMediaType, "Only JSON is taken here.", "Send Content-Type: application/json.")
	}
	return io.ReadAll(c.Request().Body)
}

// request reads a JSON request of a shape, as strictly as a document.
func request[T any](c *echo.Context) (in T, err error) {
	raw, err := body(c)
	if err != nil {
		return in, err
	}
	return in, exchange.ReadInto(raw, &in)
}

// ask reads a question and finds what it is about.
func (s *Server) ask(c *echo.Context) (*asked, error) {
	raw, err := body(c)
	if err != nil {
		return nil, err
	}
	return s.find(c, raw)
}

func (s *Server) find(c *echo.Context, raw []byte) (*asked, error) {
	var q Question
	if err := exchange.ReadInto(raw, &q); err != nil {
		return nil, err
	}
	return s.resolve(c, q)
}

// resolve finds the nouns of a question.
func (s *Server) resolve(c *echo.Context, q Question) (*asked, error) {
	a := asked{Question: q, work: stack.NewWork(c.Request().Context(), mostWork).Remembering()}
	all, err := s.store.Catalogue(c.Request().Context())
	if err != nil {
		return nil, err
	}
	a.all, a.policy = all, a.Policy.On(all.PolicyOrDefault())
	var problems exchange.Problems
	switch {
	case a.Question.Display != nil:
		var found exchange.Problems
		a.display, found = a.Question.Display.Core("display")
		problems = append(problems, found...)
		a.typed = all.Display(a.display.ID) == nil
	default:
		if a.display = all.Display(a.DisplayID); a.display == nil {
			problems = append(problems, missing("display", a.DisplayID))
		}
	}
	switch {
	case a.Question.Bracket != nil:
		var found exchange.Problems
		a.bracket, found = a.Question.Bracket.Core("bracket")
		problems = append(problems, found...)
	case a.BracketID == "" && a.display != nil && len(all.Brackets) > 0:
		a.bracket = a.rank(all.Brackets)[0].Bracket
	default:
		if a.bracket = all.Bracket(a.BracketID); a.bracket == nil {
			problems = append(problems, missing("bracket", a.BracketID))
		}
	}
	if a.Site != nil {
		if a.Accessories == nil {
			a.Accessories = a.Site.Accessories
		}
		job, found := a.Site.Core("site")
		problems = append(problems, found...)
		a.job = job
	}
	if problems != nil {
		return nil, problems
	}
	if a.job != nil {
		a.job.Display, a.job.Bracket, a.job.Turn, a.job.Accessories = a.display.ID, a.bracket.ID, catalog.Turn(a.Turn), a.extra().Accessories
	}
	return &a, nil
}

func missing(kind, id string) exchange.Problem {
	found := "is missing"
	if id != "" {
		found = fmt.Sprintf("%q is not in the catalogue", id)
	}
	return exchange.Problem{Path: kind + "_id", Found: found, Allowed: "the id of a " + kind + " in the catalogue, or a " + kind + " in full"}
}

// frozen is the question with nothing left to look up, for keeping.
func (a *asked) frozen() ([]byte, error) {
	q := a.Question
	d, b := exchange.DisplayOf(a.display), exchange.BracketOf(a.bracket)
	policy := exchange.PolicyOf(a.policy)
	q.DisplayID, q.Display, q.BracketID, q.Bracket, q.Policy = "", &d, "", &b, &policy
	return json.Marshal(q)
}
