// Package catalogue answers for displays and brackets: finding, the
// grid, editing with a preview, history, merging, unreadable documents.
package catalogue

import (
	"sync"

	"nexufix/app/bench"
	"nexufix/app/search"
	"nexufix/core/catalog"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// Feature has the dependencies of the routes.
type Feature struct {
	Store *store.Store
	found struct {
		sync.Mutex
		in    *exchange.Contents // the indexed catalogue
		index *search.Index[*catalog.Display]
	}
	grid api.KeptByLanguage
}

// Routes returns the feature's routes.
func (s *Feature) Routes() []api.Route {
	return []api.Route{
		api.Get("/api/displays", "Displays that come close to what was typed.", searched{}, []Entry{}, s.displays).Weighs(api.Quick),
		api.Get("/api/displays/{id}", "One display.", api.ByID{}, catalog.Display{}, s.display),
		api.Get("/api/brackets", "Brackets that come close to what was typed.", searched{}, []Entry{}, s.brackets).Weighs(api.Quick),
		api.Get("/api/brackets/{id}", "One bracket.", api.ByID{}, catalog.Bracket{}, s.bracket),
		api.Get("/api/catalogue", "Displays and brackets as lines of a grid.", nil, bench.Items{}, s.items),
		api.Get("/api/duplicates", "Displays that could be one and the same.", nil, []Alike{}, s.duplicates).Weighs(api.Heavy),
		api.Get("/api/unreadable", "Documents in the database that cannot be read, with the reason and their text.", nil, []SetAside{},
			s.unreadable),
		api.Get("/api/items/{kind}/{id}", "A display or bracket with its revision.", itemID{}, bench.SavedItem{}, s.item).OfRevisions(),
		api.Put("/api/items/{kind}/{id}", "Keep a display or bracket that was made from a revision; 409 when that is no longer the latest.",
			ItemToSave{}, bench.SavedItem{}, s.saveItem).OfRevisions(),
		api.Delete("/api/items/{kind}/{id}", "Take a display or bracket out; its history stays.", removal{}, s.removeItem).OfRevisions(),
		api.Post("/api/together", "Set figures of several displays at once: all of them, or none.", bench.BulkChange{}, store.Imported{},
			s.together).Weighs(api.Heavy),
		api.Post("/api/merge", "Make one display of two.", Merging{}, Undone{}, s.merge),
		api.Post("/api/draw", "Draw a display or bracket as it is being edited, and say what it would change. Saves nothing.", bench.Drawing{},
			bench.Drawn{}, s.draw).Requires(rights.Look),
		api.Get("/api/history", "Revisions, the latest first.", historyOf{}, []Edition{}, s.history),
		api.Get("/api/compare", "What differs between two revisions.", twoEditions{}, []exchange.Change{}, s.compare),
		api.Post("/api/history/{id}/restore", "Put a revision in place again.", api.ByNumber{}, bench.SavedItem{}, s.restoreEdition),
		api.Get("/api/batches", "What was changed together.", nil, []BatchLine{}, s.batches),
		api.Post("/api/batches/{id}/undo", "Bring back what was before.", api.ByNumber{}, Undone{}, s.undoBatch),
	}
}

type searched struct {
	Q      string `query:"q" maxLength:"200" description:"What was typed; empty for all."`
	Limit  int    `query:"limit" minimum:"1" maximum:"1000" description:"The most entries of an answer: 50 if nothing is said."`
	Offset int    `query:"offset" minimum:"0" maximum:"1000000" description:"How many entries are left out before them."`
}

type itemID struct {
	Kind string `path:"kind" enum:"displays,brackets,jobs"`
	ID   string `path:"id"`
}
