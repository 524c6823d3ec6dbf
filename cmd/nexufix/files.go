package main

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"nexufix/app"
	"nexufix/core/quantity"
	"nexufix/exchange"
	"nexufix/render/markdown"
)

type templateCommand struct {
	inputs
	chosen
	Job   string   `placeholder:"ID" help:"Job whose display, bracket and turn are drawn."`
	Out   string   `required:"" placeholder:"FILE" help:"File to write: .svg, .pdf or .dxf."`
	Paper string   `default:"sheet" enum:"sheet,a4,letter,a3" help:"Of a PDF: one sheet at its size, or pages of a4, letter or a3 to be joined."`
	Card  bool     `help:"The measure card instead: the numbers for who works with a tape."`
	Whole bool     `help:"The display's whole outline also on pages that are joined; else these show what is drilled."`
	Hide  []string `placeholder:"PART" help:"Parts of the template to leave out: outline, studs, plate, holes, hook, figures."`
}

// Run writes the drilling template at 1:1: of a job's wall, or site-free.
func (t *templateCommand) Run(s *streams) error {
	in, err := t.read()
	if err != nil {
		return err
	}
	format := strings.ToLower(strings.TrimPrefix(filepath.Ext(t.Out), "."))
	if !slices.Contains(app.Formats, format) {
		return badInput{fmt.Errorf("--out %s: the file's name must end in .svg, .pdf or .dxf", t.Out)}
	}
	if t.Paper != "sheet" && format != "pdf" {
		return badInput{fmt.Errorf("--paper %s: only a PDF is put on pages", t.Paper)}
	}
	w, err := t.open(in, t.Job, "")
	if err != nil {
		return err
	}
	sheet, err := w.Sheet(app.SheetOptions{Card: t.Card, Hide: t.Hide, Paper: t.Paper, Whole: t.Whole, Now: time.Now()})
	if err != nil {
		return badInput{err}
	}
	if sheet.SiteFree {
		fmt.Fprintln(s.err, "The template is site-free: the job cannot be placed on its wall; nexufix place says why.")
	}
	raw, err := sheet.File(format, t.Paper)
	if err != nil {
		return err
	}
	return writeFile(t.Out, raw)
}

type stepsCommand struct {
	inputs
	chosen
	Job  string `placeholder:"ID" help:"Job whose display, bracket, turn and wall count."`
	Wall string `default:"wood_stud" help:"Type of wall, without a job."`
	Out  string `required:"" placeholder:"FILE" help:"File to write: .json or .md."`
}

// Run writes the step sequence.
func (c *stepsCommand) Run(*streams) error {
	in, err := c.read()
	if err != nil {
		return err
	}
	w, err := c.open(in, c.Job, c.Wall)
	if err != nil {
		return err
	}
	sequence, err := w.Steps()
	if err != nil {
		return badInput{err}
	}
	switch format := strings.ToLower(filepath.Ext(c.Out)); format {
	case ".md":
		return writeFile(c.Out, markdown.Steps(sequence, quantity.Metric))
	case ".json":
		var out bytes.Buffer
		if err := writeJSON(&out, exchange.SequenceOf(sequence, quantity.Metric)); err != nil {
			return err
		}
		return writeFile(c.Out, out.Bytes())
	}
	return badInput{fmt.Errorf("--out %s: the file's name must end in .json or .md", c.Out)}
}

func writeFile(name string, raw []byte) error {
	if err := os.WriteFile(name, raw, 0o644); err != nil {
		return badInput{err}
	}
	return nil
}
