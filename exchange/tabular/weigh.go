package tabular

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
)

// Limits of a workbook, which are counted before anything is made of it, whatever its parts and elements are called.
const (
	maxParts    = 2_000      // files in it
	maxElements = 10_000_000 // beginnings and ends of XML in all parts together; two million cells with a number in each have eight
)

var errDamaged = errors.New("the workbook cannot be read: it is damaged or cut short; open it in a spreadsheet program and save it again")

// weigh counts what is in a workbook while it is unpacked, and refuses what is
// too much: nothing of it is saved.
func weigh(raw []byte) error {
	book, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	if err != nil {
		return errDamaged
	}
	if len(book.File) > maxParts {
		return fmt.Errorf("the workbook has %d parts; at most %d are read", len(book.File), maxParts)
	}
	chunk := make([]byte, 64<<10)
	left, elements := int64(unpacked), 0
	for _, f := range book.File {
		in, err := f.Open()
		if err != nil {
			return errDamaged
		}
		for err == nil {
			var n int
			n, err = in.Read(chunk)
			left -= int64(n)
			elements += bytes.Count(chunk[:n], []byte("<"))
			switch {
			case left < 0:
				err = fmt.Errorf("the workbook is more than %d MB when it is unpacked; take out what is not needed", unpacked>>20)
			case elements > maxElements:
				err = fmt.Errorf("the workbook has more than %d elements; split it, or take out what is not needed", maxElements)
			case errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, zip.ErrChecksum):
				err = errDamaged
			}
		}
		in.Close()
		if !errors.Is(err, io.EOF) {
			return err
		}
	}
	return nil
}
