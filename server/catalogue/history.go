package catalogue

import (
	"cmp"
	"context"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

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
	Thinned bool              `json:"thinned,omitempty"`       // its figures are no longer kept
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

type historyOf struct {
	Kind   string `query:"kind" enum:"displays,brackets,policies,jobs" description:"Of what; empty for everything."`
	ID     string `query:"id"`
	Q      string `query:"q" maxLength:"200" description:"Words of the id, the author and the reason, of everything."`
	Limit  int    `query:"limit" minimum:"1" maximum:"1000" description:"The most entries of an answer: 200 if nothing is said."`
	Offset int    `query:"offset" minimum:"0" maximum:"1000000" description:"How many entries are left out before them."`
}

// pageOfHistory is how much of a history is shown if nothing is said.
const pageOfHistory = 200

// history lists revisions, the latest first.
func (s *Feature) history(c *echo.Context) error {
	q, err := api.Query[historyOf](c)
	if err != nil {
		return err
	}
	kind := map[string]string{"displays": "display", "brackets": "bracket", "policies": "policy", "jobs": "job"}[q.Kind]
	most := cmp.Or(q.Limit, pageOfHistory)
	list, total, err := s.revisions(c.Request().Context(), kind, q, most)
	if err != nil {
		return err
	}
	out := []Edition{}
	for n, r := range list[:min(len(list), most)] {
		e := Edition{Seq: r.Seq, Kind: r.Kind, ID: r.ID, Number: r.Number, Who: r.Who, Why: r.Why, At: r.At, Removed: !r.Doc.Valid,
			Changes: []exchange.Change{}}
		e.Thinned = kind != "" && r.Thinned()
		if kind != "" && n+1 < len(list) && !r.Thinned() && !list[n+1].Thinned() {
			e.Changes = append(e.Changes, exchange.Compare([]byte(list[n+1].Doc.String), []byte(r.Doc.String))...)
		}
		out = append(out, e)
	}
	api.Counted(c, total, most, q.Offset+len(out))
	return c.JSON(http.StatusOK, out)
}

// revisions are those asked for; of one item with the one before the last of them, which that is compared with.
func (s *Feature) revisions(ctx context.Context, kind string, q historyOf, most int) (list []store.Revision, total int, err error) {
	if kind == "" {
		return s.Store.AllHistory(ctx, strings.Fields(q.Q), most, q.Offset)
	}
	if total, err = s.Store.Revisions(ctx, kind, q.ID); err != nil {
		return nil, 0, err
	}
	list, err = s.Store.History(ctx, kind, q.ID, most+1, q.Offset)
	return list, total, err
}

type twoEditions struct {
	A int64 `query:"a" required:"true"`
	B int64 `query:"b" required:"true"`
}

// compare lists what differs between two revisions.
func (s *Feature) compare(c *echo.Context) error {
	q, err := api.Query[twoEditions](c)
	if err != nil {
		return err
	}
	var docs [2][]byte
	for i, seq := range []int64{q.A, q.B} {
		r, err := s.Store.Revision(c.Request().Context(), seq)
		if err != nil {
			return err
		}
		if r.Thinned() {
			return exchange.Problems{{Path: [2]string{"a", "b"}[i], Found: "its figures are no longer kept", Allowed: "a revision with a document"}}
		}
		docs[i] = []byte(r.Doc.String)
	}
	return c.JSON(http.StatusOK, append([]exchange.Change{}, exchange.Compare(docs[0], docs[1])...))
}

// restoreEdition restores a revision.
func (s *Feature) restoreEdition(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	i, err := s.Store.RestoreRevision(c.Request().Context(), api.Author(c, ""), id)
	if err != nil {
		return err
	}
	k := bench.SavedItem{Revision: i.Revision}
	if i.Kind == "display" || i.Kind == "bracket" {
		if k, err = bench.SavedItemOf(i); err != nil {
			return err
		}
	}
	return c.JSON(http.StatusOK, k)
}

// batches lists the batches.
func (s *Feature) batches(c *echo.Context) error {
	list, err := s.Store.Batches(c.Request().Context(), 100)
	if err != nil {
		return err
	}
	out := []BatchLine{}
	for _, b := range list {
		out = append(out, BatchLine{b.ID, b.What, b.Who, b.At, b.Items, b.UndoneBy.Valid})
	}
	return c.JSON(http.StatusOK, out)
}

// Undone is the batch that undid another.
type Undone struct {
	Batch int64 `json:"batch" required:"true"`
}

// undoBatch undoes a batch.
func (s *Feature) undoBatch(c *echo.Context) error {
	id, err := api.PathID(c)
	if err != nil {
		return err
	}
	n, err := s.Store.Undo(c.Request().Context(), api.Author(c, ""), id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, Undone{n})
}
