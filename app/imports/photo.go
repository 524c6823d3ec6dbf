package imports

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	_ "image/jpeg" // for telephones
	_ "image/png"  // for screen shots

	"github.com/disintegration/imaging"

	"nexufix/cage"
	"nexufix/exchange"
)

// Limits of an uploaded photograph: a telephone's has some 5 MB and 12 million pixels.
const (
	maxPhotoFile   = 20 << 20
	maxPhotoPixels = 30_000_000
	maxPhotoSide   = 8192
	maxPhotoScans  = 20 // of a progressive JPEG: cameras write ten, and each is worked through over the whole picture
)

// Photograph converts a picture to one that steps can show: turned upright, reduced in size,
// and encoded again as JPEG without the camera's metadata (place, time, owner).
func Photograph(ctx context.Context, raw []byte) (id string, picture []byte, err error) {
	var no *cage.Refused
	switch picture, err = photoJob.Run(ctx, raw); {
	case errors.Is(err, cage.ErrTooMuch):
		no = &cage.Refused{Why: "takes more memory or time to open than a picture may"}
	case err != nil && !errors.As(err, &no):
		return "", nil, err
	}
	if no != nil {
		return "", nil, exchange.Problems{{Path: "photo", Found: no.Why,
			Allowed: fmt.Sprintf("a JPEG or PNG of at most %d MB, %d million pixels and %d a side", maxPhotoFile>>20, maxPhotoPixels/1_000_000,
				maxPhotoSide)}}
	}
	return exchange.PhotoID(picture), picture, nil
}

// remake makes the picture that is stored.
func remake(raw []byte) ([]byte, error) {
	if len(raw) > maxPhotoFile {
		return nil, fmt.Errorf("is %d MB", len(raw)>>20)
	}
	none := errors.New("is no picture that can be read")
	size, kind, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || kind != "jpeg" && kind != "png" {
		return nil, none
	}
	if size.Width < 1 || size.Height < 1 || max(size.Width, size.Height) > maxPhotoSide || size.Width > maxPhotoPixels/size.Height {
		return nil, fmt.Errorf("has %d × %d pixels", size.Width, size.Height)
	}
	if n := exchange.Scans(raw); kind == "jpeg" && n > maxPhotoScans {
		return nil, fmt.Errorf("has %d scans", n)
	}
	whole, err := imaging.Decode(bytes.NewReader(raw), imaging.AutoOrientation(true))
	if err != nil {
		return nil, none
	}
	if most := 2 * exchange.MostPhotoSide; max(whole.Bounds().Dx(), whole.Bounds().Dy()) > most {
		whole = imaging.Fit(whole, most, most, imaging.Box) // the better filter takes its time by how much is to be left out
	}
	for side := exchange.MostPhotoSide; ; side = side * 3 / 4 {
		var out bytes.Buffer
		small := imaging.Fit(whole, side, side, imaging.Lanczos)
		if err := imaging.Encode(&out, imaging.Overlay(imaging.New(small.Bounds().Dx(), small.Bounds().Dy(), image.White), small,
			image.Point{}, 1),
			imaging.JPEG, imaging.JPEGQuality(80)); err != nil {
			return nil, err
		}
		if out.Len() <= exchange.MostPhotoBytes {
			return out.Bytes(), nil
		}
	}
}
