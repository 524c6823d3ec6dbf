package catalogue

import (
	"context"
	"errors"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/core/catalog"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// ItemToSave is a display or a bracket to save. The revision is the one it was
// made from, 0 for a new one.
type ItemToSave struct {
	Kind     string           `json:"-" path:"kind" enum:"displays,brackets,jobs"`
	ID       string           `json:"-" path:"id"`
	Revision int              `json:"revision" required:"true" minimum:"0"`
	Why      string           `json:"why,omitempty" maxLength:"400"`
	Display  *catalog.Display `json:"display,omitempty"`
	Bracket  *catalog.Bracket `json:"bracket,omitempty"`
	Job      *catalog.Job     `json:"job,omitempty"`
	// What is changed of it, in the order in which it was: display.mass_kg. Without a document they are changes of the revision.
	Changes []exchange.Edit `json:"changes,omitempty" maxItems:"1000"`
	Units   string          `json:"units,omitempty" enum:"mm,in"` // of figures without a unit
}

// edition is a revision of a display, bracket or job as it was saved.
func (s *Feature) edition(ctx context.Context, kind, id string, number int) (bench.SavedItem, error) {
	r, err := s.Store.Numbered(ctx, kind, id, number)
	if err == nil && !r.Doc.Valid {
		err = store.ErrNotFound
	}
	if err != nil {
		return bench.SavedItem{}, err
	}
	return bench.SavedItemOf(store.Item{Kind: kind, Doc: r.Doc.String, Revision: r.Number})
}

// changed is the item with its changes made.
func (s *Feature) changed(ctx context.Context, kind, id string, in ItemToSave) (ItemToSave, error) {
	if len(in.Changes) == 0 {
		return in, nil
	}
	if in.Display == nil && in.Bracket == nil && in.Job == nil {
		saved, err := s.edition(ctx, kind, id, in.Revision)
		if err != nil {
			return in, err
		}
		in.Display, in.Bracket, in.Job = saved.Display, saved.Bracket, saved.Job
	}
	edits := in.Changes
	in.Changes = nil
	if err := bench.Within(edits, kind); err != nil {
		return in, err
	}
	out, _, err := exchange.Edited(in, edits, bench.Units(in.Units))
	out.Kind, out.ID = in.Kind, in.ID
	return out, err
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
func (s *Feature) item(c *echo.Context) error {
	kind, id, err := itemOf(c)
	if err != nil {
		return err
	}
	i, err := s.Store.Item(c.Request().Context(), kind, id)
	if err != nil {
		return err
	}
	k, err := bench.SavedItemOf(i)
	if err != nil {
		return api.New(http.StatusUnprocessableEntity, "What is saved of it cannot be read.",
			"Look under Set aside in the catalogue: it has the text and the reason.")
	}
	c.Response().Header().Set("ETag", tagOf(k.Revision))
	return c.JSON(http.StatusOK, k)
}

// tagOf is the ETag of a revision.
func tagOf(revision int) string { return strconv.Quote(strconv.Itoa(revision)) }

// matches checks the header If-Match of a change of a revision, where there is one.
func matches(c *echo.Context, revision int) error {
	tags := c.Request().Header.Get("If-Match")
	for tag := range strings.SplitSeq(tags, ",") {
		if tag = strings.TrimSpace(tag); tag == "" && tags == "" || tag == "*" && revision > 0 || tag == tagOf(revision) {
			return nil
		}
	}
	return api.New(http.StatusPreconditionFailed, "The change is of another revision.",
		"If-Match says "+tags+", the change is of revision "+strconv.Itoa(revision)+". Nothing was saved.")
}

// late is a change that came too late; it was said which revision had to be there.
func late(c *echo.Context, err error) error {
	var conflict *store.Conflict
	if c.Request().Header.Get("If-Match") == "" || !errors.As(err, &conflict) {
		return err
	}
	p := api.Describe(err)
	p.Status = http.StatusPreconditionFailed
	return p
}

// saveItem saves a display, bracket or job. If somebody else has changed it
// meanwhile, it is refused, and the answer has the other version.
func (s *Feature) saveItem(c *echo.Context) error {
	kind, id, err := itemOf(c)
	if err != nil {
		return err
	}
	in, err := api.Read[ItemToSave](c)
	if err != nil {
		return err
	}
	if err := matches(c, in.Revision); err != nil {
		return err
	}
	if in, err = s.changed(c.Request().Context(), kind, id, in); err != nil {
		return err
	}
	i, err := in.item(kind, id)
	if err != nil {
		return err
	}
	revision, err := s.Store.Save(c.Request().Context(), api.Author(c, in.Why), i, in.Revision)
	if err != nil {
		return late(c, err)
	}
	i.Revision = revision
	k, err := bench.SavedItemOf(i)
	if err != nil {
		return err
	}
	c.Response().Header().Set("ETag", tagOf(revision))
	if in.Revision > 0 {
		return c.JSON(http.StatusOK, k)
	}
	c.Response().Header().Set("Location", api.At(c, "/api/items/"+c.Param("kind")+"/"+url.PathEscape(id)))
	return c.JSON(http.StatusCreated, k)
}

// item validates what is to be saved like a document.
func (in *ItemToSave) item(kind, id string) (store.Item, error) {
	doc := exchange.Document{Format: exchange.Format}
	given := 0
	for _, is := range []bool{in.Display != nil, in.Bracket != nil, in.Job != nil} {
		if is {
			given++
		}
	}
	switch {
	case given != 1:
		return store.Item{}, exchange.Problems{{Path: kind, Found: "is missing, or something else is there too",
			Allowed: "the " + kind + " with the id " + id}}
	case kind == "job" && in.Job != nil && in.Job.ID == id:
		doc.Jobs = []*catalog.Job{in.Job}
	case kind == "display" && in.Display != nil && in.Display.ID == id:
		doc.Displays = []*catalog.Display{in.Display}
	case kind == "bracket" && in.Bracket != nil && in.Bracket.ID == id:
		doc.Brackets = []*catalog.Bracket{in.Bracket}
	default:
		return store.Item{}, exchange.Problems{{Path: kind, Found: "is missing, or of another id", Allowed: "the " + kind + " with the id " + id}}
	}
	all, err := doc.Contents()
	if err != nil {
		return store.Item{}, bench.OwnPaths(err)
	}
	switch kind {
	case "display":
		return store.DisplayItem(all.Displays[0])
	case "job":
		return store.JobItem(all.Jobs[0])
	}
	return store.BracketItem(all.Brackets[0])
}

// removal is the revision to delete.
type removal struct {
	Kind     string `path:"kind" enum:"displays,brackets,jobs"`
	ID       string `path:"id"`
	Revision int    `query:"revision" required:"true"`
}

// removeItem takes a display, bracket or job out of the catalogue. Its history
// stays.
func (s *Feature) removeItem(c *echo.Context) error {
	kind, id, err := itemOf(c)
	if err != nil {
		return err
	}
	q, err := api.Query[removal](c)
	if err != nil {
		return err
	}
	if err := matches(c, q.Revision); err != nil {
		return err
	}
	if err := s.Store.Delete(c.Request().Context(), api.Author(c, "Taken out."), kind, id, q.Revision); err != nil {
		return late(c, err)
	}
	return c.NoContent(http.StatusNoContent)
}
