package exchange

import (
	"bytes"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"image/jpeg"
	"maps"
	"slices"

	"nexufix/core/catalog"
)

// Photo is a photograph that steps of jobs show. Its id is a hash of its content: a changed one has
// another id.
type Photo struct {
	ID   string `json:"id" required:"true" pattern:"^[0-9a-f]{32}$"`
	JPEG string `json:"jpeg" required:"true" maxLength:"800000"` // base64
}

// The largest photograph: its longer side in pixels, and its file.
const (
	MostPhotoSide  = 1600
	MostPhotoBytes = 500_000
)

// PhotoID is the id of a photograph: half of its SHA-256.
func PhotoID(raw []byte) string {
	sum := sha256.Sum256(raw)
	return hex.EncodeToString(sum[:16])
}

// picture decodes the file of a photograph; wrong is what is wrong with it.
func (p *Photo) picture() (raw []byte, wrong string) {
	raw, err := base64.StdEncoding.DecodeString(p.JPEG)
	if err != nil {
		return nil, "is no base64"
	}
	size, err := jpeg.DecodeConfig(bytes.NewReader(raw))
	switch {
	case err != nil:
		return nil, "is no JPEG"
	case len(raw) > MostPhotoBytes || max(size.Width, size.Height) > MostPhotoSide:
		return nil, "is too large"
	case PhotoID(raw) != p.ID:
		return nil, "is another photograph than its id says"
	}
	return raw, ""
}

// Photographs returns the ids of the photographs that jobs show, each once.
func Photographs(jobs ...*catalog.Job) []string {
	all := map[string]bool{}
	for _, j := range jobs {
		for i := range j.StepChanges {
			if id := j.StepChanges[i].Photo; id != "" {
				all[id] = true
			}
		}
	}
	return slices.Sorted(maps.Keys(all))
}

// photosOf writes photographs in the order of their ids.
func photosOf(all map[string][]byte) []Photo {
	var out []Photo
	for _, id := range slices.Sorted(maps.Keys(all)) {
		out = append(out, Photo{id, base64.StdEncoding.EncodeToString(all[id])})
	}
	return out
}
