package server

import (
	"errors"
	"net/http"
	"strconv"

	"github.com/labstack/echo/v5"

	"nexufix/app"
	"nexufix/exchange"
	"nexufix/store"
)

// Kept is a display or a bracket of the catalogue with its revision.
type Kept struct {
	Revision int               `json:"revision" required:"true"`
	Display  *exchange.Display `json:"display,omitempty"`
	Bracket  *exchange.Bracket `json:"bracket,omitempty"`
	Job      *exchange.Job     `json:"job,omitempty"`
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
	Job      *exchange.Job     `json:"job,omitempty"`
}

var itemKinds = map[string]string{"displays": "display", "brackets": "bracket", "jobs": "job"}

func itemOf(c *echo.Context) (kind, id string, err error) {
	kind, ok := itemKinds[c.Param("kind")]
	if !ok {
		return "", "", store.ErrNotFound
	}
	return kind, c.Param("id"), nil
}

// item answers with a display, bracket or job and its revision.
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
		return problem(http.StatusUnprocessableEntity, "What is kept of it cannot be read.", "Look under Set aside in the catalogue: it has the text and the reason.")
	}
	return c.JSON(http.StatusOK, k)
}

func keptOf(i store.Item) (Kept, error) {
	k := Kept{Revision: i.Revision}
	var in struct {
		Display *exchange.Display `json:"display"`
		Bracket *exchange.Bracket `json:"bracket"`
		Job     *exchange.Job     `json:"job"`
	}
	err := exchange.ReadInto([]byte(`{"`+i.Kind+`":`+i.Doc+`}`), &in)
	k.Display, k.Bracket, k.Job = in.Display, in.Bracket, in.Job
	return k, err
}

// keepItem keeps a display, bracket or job. One that somebody else has changed
// meanwhile is refused, with theirs.
func (s *Server) keepItem(c *echo.Context) error {
	kind, id, err := itemOf(c)
	if err != nil {
		return err
	}
	in, err := request[Keeping](c)
	if err != nil {
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
	given := 0
	for _, is := range []bool{in.Display != nil, in.Bracket != nil, in.Job != nil} {
		if is {
			given++
		}
	}
	switch {
	case given != 1:
		return store.Item{}, exchange.Problems{{Path: kind, Found: "is missing, or something else is there too", Allowed: "the " + kind + " with the id " + id}}
	case kind == "job" && in.Job != nil && in.Job.ID == id:
		doc.Jobs = []exchange.Job{*in.Job}
	case kind == "display" && in.Display != nil && in.Display.ID == id:
		doc.Displays = []exchange.Display{*in.Display}
	case kind == "bracket" && in.Bracket != nil && in.Bracket.ID == id:
		doc.Brackets = []exchange.Bracket{*in.Bracket}
	default:
		return store.Item{}, exchange.Problems{{Path: kind, Found: "is missing, or of another id", Allowed: "the " + kind + " with the id " + id}}
	}
	all, err := doc.Contents()
	if err != nil {
		return store.Item{}, app.OneThing(err)
	}
	switch kind {
	case "display":
		return store.DisplayItem(all.Displays[0])
	case "job":
		return store.JobItem(all.Jobs[0])
	}
	return store.BracketItem(all.Brackets[0])
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

// removeItem takes a display, bracket or job out of the catalogue. Its history
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
