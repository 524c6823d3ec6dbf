package sheets

import (
	"errors"
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/app/imports"
	"nexufix/server/api"
	"nexufix/store"
)

// Photo is the id of an uploaded photograph, for a step's change.
type Photo struct {
	ID string `json:"id" required:"true"`
}

// addPhoto saves a photograph, reduced and without metadata.
func (s *Feature) addPhoto(c *echo.Context) error {
	raw, err := api.File(c, "Only a picture's file is taken here.")
	if err != nil {
		return err
	}
	id, picture, err := imports.Photograph(c.Request().Context(), raw)
	if err != nil {
		return err
	}
	switch err := s.Store.SavePhoto(c.Request().Context(), id, picture); {
	case errors.Is(err, store.ErrManyPhotos):
		return api.New(http.StatusInsufficientStorage, "There are too many photographs.",
			"Take some out of the jobs' steps, and try again tomorrow.")
	case err != nil:
		return err
	}
	return c.JSON(http.StatusOK, Photo{id})
}

// photo answers with a photograph. Its id is a hash of its content, so it never changes.
func (s *Feature) photo(c *echo.Context) error {
	raw, err := s.Store.Photo(c.Request().Context(), c.Param("id"))
	if err == nil && raw == nil {
		err = store.ErrNotFound
	}
	if err != nil {
		return err
	}
	c.Response().Header().Set("Cache-Control", "private, max-age=31536000, immutable")
	return c.Blob(http.StatusOK, "image/jpeg", raw)
}

// photos returns the photographs of a request's steps.
func (s *Feature) photos(c *echo.Context) func(id string) ([]byte, error) {
	return func(id string) ([]byte, error) { return s.Store.Photo(c.Request().Context(), id) }
}
