package imports

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math/rand/v2"
	"nexufix/exchange"
	"slices"
	"strings"
	"testing"
)

// camera is a JPEG of a size as a camera writes it that was held on its side, with where it was taken.
func camera(t *testing.T, w, h int, orientation uint16) []byte {
	t.Helper()
	i := image.NewRGBA(image.Rect(0, 0, w, h))
	for x := range w {
		for y := range h {
			i.Set(x, y, color.RGBA{uint8(x * 255 / w), 0, 0, 255}) // bright on the right
		}
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, i, nil); err != nil {
		t.Fatal(err)
	}
	// Exif 2.3: an APP1 segment of one directory with the orientation, tag 0x0112, and a maker's note.
	exif := append([]byte("Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01"), byte(orientation>>8),
		byte(orientation), 0, 0, 0, 0, 0, 0)
	exif = append(exif, "GPS 52.5 13.4, of Somebody"...)
	head := []byte{0xff, 0xd8, 0xff, 0xe1, 0, 0}
	binary.BigEndian.PutUint16(head[4:], uint16(len(exif)+2))
	return bytes.Join([][]byte{head, exif, out.Bytes()[2:]}, nil)
}

// TestPhotograph: a picture stands upright as its camera was held, is small, and has lost what the camera wrote
// into it; once it is one of ours it stays what it is called.
func TestPhotograph(t *testing.T) {
	id, raw, err := Photograph(t.Context(), camera(t, 2400, 1200, 6)) // turned: its right is the top... of a picture that is 1200 wide
	if err != nil {
		t.Fatal(err)
	}
	got, err := jpeg.Decode(bytes.NewReader(raw))
	if err != nil {
		t.Fatal(err)
	}
	if b := got.Bounds(); b.Dx() != exchange.MostPhotoSide/2 || b.Dy() != exchange.MostPhotoSide {
		t.Errorf("it is %v", b)
	}
	top, _, _, _ := got.At(400, 10).RGBA()
	bottom, _, _, _ := got.At(400, 1590).RGBA()
	if top > bottom {
		t.Error("it stands on its head")
	}
	if bytes.Contains(raw, []byte("GPS")) || bytes.Contains(raw, []byte("Exif")) {
		t.Error("it still says where it was taken")
	}
	if id != exchange.PhotoID(raw) || len(id) != 32 {
		t.Errorf("it is called %s", id)
	}
	noise := image.NewRGBA(image.Rect(0, 0, 3000, 2000))
	r := rand.New(rand.NewPCG(1, 2))
	for n := range noise.Pix {
		noise.Pix[n] = uint8(r.Uint32())
	}
	var out bytes.Buffer
	if err := png.Encode(&out, noise); err != nil {
		t.Fatal(err)
	}
	if out.Len() <= maxPhotoFile {
		if _, raw, err = Photograph(t.Context(), out.Bytes()); err != nil || len(raw) > exchange.MostPhotoBytes {
			t.Errorf("noise is %d bytes: %v", len(raw), err)
		}
	}
}

// headed is the beginning of a PNG of a size.
func headed(wide, high uint32) []byte {
	out := []byte("\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR")
	out = append(binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(out, wide), high), 8, 2, 0, 0, 0)
	return binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(out[12:]))
}

// TestNoPhotograph: what is no picture, is cut off, or would be large when it is unpacked is refused with what is
// taken.
func TestNoPhotograph(t *testing.T) {
	whole := camera(t, 400, 300, 1)
	// A scan more than any camera writes: the last one again and again.
	body := bytes.LastIndex(whole, []byte{0xff, 0xda})
	scans := func(n int) []byte {
		return slices.Concat(whole[:body], bytes.Repeat(whole[body:len(whole)-2], n), whole[len(whole)-2:])
	}
	if _, _, err := Photograph(t.Context(), scans(maxPhotoScans)); err != nil {
		t.Errorf("as many scans as there may be: %v", err)
	}
	// What is said of the size alone: within the limits it is read, and found to be cut off.
	for _, c := range []struct {
		wide, high uint32
		large      bool
	}{{8192, 1, false}, {8193, 1, true}, {1, 8193, true}, {6000, 5000, false}, {6001, 5000, true}, {60000, 60000, true}} {
		_, _, err := Photograph(t.Context(), headed(c.wide, c.high))
		if err == nil || strings.Contains(err.Error(), "pixels;") != c.large {
			t.Errorf("%d × %d: %v", c.wide, c.high, err)
		}
	}
	for name, raw := range map[string][]byte{"nothing": nil, "many scans": scans(maxPhotoScans + 1), "text": []byte("no picture"),
		"a GIF":   []byte("GIF89a\x01\x00\x01\x00\x00\x00\x00;"),
		"cut off": whole[:len(whole)/2], "too long": make([]byte, maxPhotoFile+1), "a TIFF": []byte("II*\x00\x08\x00\x00\x00")} {
		if _, _, err := Photograph(t.Context(), raw); err == nil || !strings.Contains(err.Error(), "JPEG or PNG") {
			t.Errorf("%s: %v", name, err)
		}
	}
}
