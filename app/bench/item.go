package bench

import (
	"nexufix/core/catalog"
	"nexufix/exchange"
	"nexufix/store"
)

// SavedItem is a display or a bracket of the catalogue with its revision.
type SavedItem struct {
	Revision int              `json:"revision" required:"true"`
	Display  *catalog.Display `json:"display,omitempty"`
	Bracket  *catalog.Bracket `json:"bracket,omitempty"`
	Job      *catalog.Job     `json:"job,omitempty"`
}

// SavedItemOf reads an item of the database.
func SavedItemOf(i store.Item) (SavedItem, error) {
	k := SavedItem{Revision: i.Revision}
	var in struct {
		Display *catalog.Display `json:"display"`
		Bracket *catalog.Bracket `json:"bracket"`
		Job     *catalog.Job     `json:"job"`
	}
	err := exchange.ReadInto([]byte(`{"`+i.Kind+`":`+i.Doc+`}`), &in)
	k.Display, k.Bracket, k.Job = in.Display, in.Bracket, in.Job
	return k, err
}

// TheirVersion is the version of an item that somebody else saved meanwhile.
type TheirVersion struct {
	Number  int        `json:"number" required:"true"`
	Who     string     `json:"who" required:"true"`
	At      string     `json:"at" required:"true"`
	Removed bool       `json:"removed" required:"true"`
	Saved   *SavedItem `json:"saved,omitempty"`
}

// TheirVersionOf returns the other version of a conflict.
func TheirVersionOf(conflict *store.Conflict) *TheirVersion {
	r := conflict.Theirs
	out := &TheirVersion{Number: r.Number, Who: r.Who, At: r.At, Removed: !r.Doc.Valid}
	if r.Doc.Valid {
		if k, err := SavedItemOf(store.Item{Kind: r.Kind, ID: r.ID, Doc: r.Doc.String, Revision: r.Number}); err == nil {
			out.Saved = &k
		}
	}
	return out
}
