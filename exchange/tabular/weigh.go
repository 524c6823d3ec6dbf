package tabular

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
	"strings"
)

// Limits of a workbook's parts, which are counted before anything is made of
// them: elements of its XML by name.
const (
	mostStrings = 1_000_000 // texts that its cells share
	mostStyles  = 100_000   // elements of its styles; there are 64,000 formats at the most
	mostParts   = 2_000     // files in it
	mostOther   = 500_000   // elements of any other part
)

// weigh counts what is in a workbook while it is unpacked, and refuses what is
// too much: nothing of it is saved.
func weigh(raw []byte) error {
	book, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	if err != nil {
		return errDamaged
	}
	if len(book.File) > mostParts {
		return fmt.Errorf("the workbook has %d parts; at most %d are read", len(book.File), mostParts)
	}
	w := weighing{left: unpacked}
	for _, f := range book.File {
		if err := w.part(f); err != nil {
			return err
		}
	}
	return nil
}

var errDamaged = errors.New("the workbook cannot be read: it is damaged or cut short; open it in a spreadsheet program and save it again")

// weighing is what has been found so far.
type weighing struct {
	left    int64 // bytes that may still be unpacked
	cells   int
	strings int
}

func (w *weighing) part(f *zip.File) error {
	in, err := f.Open()
	if err != nil {
		return errDamaged
	}
	defer in.Close()
	name := strings.ToLower(f.Name)
	count := 0 // elements of this part
	least := func(n, most int, what string) error {
		if n > most {
			return fmt.Errorf("the workbook has more than %d %s; split it, or take out what is not needed", most, what)
		}
		return nil
	}
	chunk := make([]byte, 64<<10)
	tail := 0 // of the chunk before, where an element may have begun
	for {
		n, err := in.Read(chunk[tail:])
		end := errors.Is(err, io.EOF)
		w.left -= int64(n)
		if w.left < 0 {
			return fmt.Errorf("the workbook is more than %d MB when it is unpacked; take out what is not needed", unpacked>>20)
		}
		got := chunk[:tail+n]
		switch {
		case strings.Contains(name, "sharedstrings"):
			w.strings += elements(got, "<si")
			err = errors.Join(noEnd(err), least(w.strings, mostStrings, "texts"))
		case strings.Contains(name, "worksheets/"):
			w.cells += elements(got, "<c")
			count += bytes.Count(got, []byte("<row"))
			err = errors.Join(noEnd(err), least(w.cells, mostCells, "cells"), least(count, 2*MostRows, "rows"))
		default:
			count += bytes.Count(got, []byte("<"))
			most := mostOther
			if strings.HasSuffix(name, "styles.xml") {
				most = mostStyles
			}
			err = errors.Join(noEnd(err), least(count, 2*most, "elements in "+short(f.Name)))
		}
		if err != nil {
			if errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, zip.ErrChecksum) {
				return errDamaged
			}
			return err
		}
		if end {
			return nil
		}
		tail = copy(chunk, got[max(0, len(got)-4):])
	}
}

// noEnd is an error that is not the end of what is read.
func noEnd(err error) error {
	if errors.Is(err, io.EOF) {
		return nil
	}
	return err
}

// elements counts those of a name that begin before the last four bytes, which
// are looked at again with what follows.
func elements(text []byte, name string) (n int) {
	for {
		at := bytes.Index(text, []byte(name))
		if at < 0 || at+len(name) >= len(text) || at > len(text)-4 {
			return n
		}
		switch text[at+len(name)] {
		case ' ', '>', '/', '\t', '\n', '\r':
			n++
		}
		text = text[at+len(name):]
	}
}

func short(name string) string {
	if len(name) > 60 {
		return name[:60] + "…"
	}
	return name
}
