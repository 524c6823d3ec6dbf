package catalogue

import (
	"net/http"

	"github.com/labstack/echo/v5"
)

// SetAside is a document in the database that cannot be read.
type SetAside struct {
	Kind     string `json:"kind" required:"true"`
	ID       string `json:"id" required:"true"`
	Revision int    `json:"revision" required:"true"`
	Why      string `json:"why" required:"true"`
	Text     string `json:"text" required:"true" description:"The document as it is there, as far as it can be had."`
	Damaged  bool   `json:"damaged" required:"true" description:"Its page in the file is."`
}

// unreadable lists the documents that cannot be read, so that they can be rescued.
func (s *Feature) unreadable(c *echo.Context) error {
	all, err := s.Store.Unreadable(c.Request().Context())
	if err != nil {
		return err
	}
	out := []SetAside{}
	for _, u := range all {
		out = append(out, SetAside{u.Kind, u.ID, u.Revision, u.Why, u.Doc, u.Damaged})
	}
	return c.JSON(http.StatusOK, out)
}
