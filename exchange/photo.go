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
	case !plainJPEG(raw):
		return nil, "has more in it than a picture, or not all of one: attach it at its step, where it is made new"
	}
	return raw, ""
}

// The markers of JPEG (ITU-T T.81, table B.1).
const (
	markTables, markBaseline, markCodes, markScan, markEnd = 0xdb, 0xc0, 0xc4, 0xda, 0xd9
	markStuffed, markRestart, markRestarts                 = 0x00, 0xd0, 0xd7
)

// segments walks through the segments of a JPEG by their markers, and returns where its end is; 0 where it breaks off.
func segments(raw []byte, each func(mark byte)) (end int) {
	if len(raw) < 2 || raw[0] != 0xff || raw[1] != 0xd8 {
		return 0
	}
	for at := 2; at+1 < len(raw); {
		if raw[at] != 0xff {
			return 0
		}
		mark := raw[at+1]
		if mark == 0xff { // filled up
			at++
			continue
		}
		each(mark)
		if mark == markEnd {
			return at + 2
		}
		if at+3 >= len(raw) {
			return 0
		}
		at += 2 + (int(raw[at+2])<<8 | int(raw[at+3]))
		for mark == markScan && at+1 < len(raw) {
			if next := raw[at+1]; raw[at] == 0xff && next != markStuffed && (next < markRestart || next > markRestarts) {
				break
			}
			at++
		}
	}
	return 0
}

// Scans counts the scans of a JPEG.
func Scans(raw []byte) (n int) {
	segments(raw, func(mark byte) {
		if mark == markScan {
			n++
		}
	})
	return n
}

// plainJPEG reports whether a JPEG is what this program writes: one scan with its tables, which can be decoded, and nothing else, before
// or after: no place, no owner, no second file.
func plainJPEG(raw []byte) bool {
	plain := true
	end := segments(raw, func(mark byte) {
		plain = plain && slices.Contains([]byte{markTables, markBaseline, markCodes, markScan, markEnd}, mark)
	})
	_, err := jpeg.Decode(bytes.NewReader(raw))
	return plain && end == len(raw) && Scans(raw) == 1 && err == nil
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
