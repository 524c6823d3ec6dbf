package main

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"nexufix/core/catalog"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/steps"
	"nexufix/core/template"
	"nexufix/exchange"
	"nexufix/render/dxf"
	"nexufix/render/markdown"
	"nexufix/render/pdf"
	"nexufix/render/svg"
)

type templateCommand struct {
	inputs
	chosen
	Job   string   `placeholder:"ID" help:"Job whose display, bracket and turn are drawn."`
	Out   string   `required:"" placeholder:"FILE" help:"File to write: .svg, .pdf or .dxf."`
	Paper string   `default:"sheet" enum:"sheet,a4,letter,a3" help:"Paper of a PDF: sheet, one sheet at the drawing's size, or a4, letter or a3, pages to be joined."`
	Card  bool     `help:"The measure card instead: the numbers for who works with a tape."`
	Hide  []string `placeholder:"PART" help:"Parts of the template to leave out: outline, studs, plate, holes, hook, figures."`
}

// Run writes the drilling template at 1:1: of a job's wall, or site-free.
func (t *templateCommand) Run(s *streams) error {
	in, err := t.read()
	if err != nil {
		return err
	}
	p, err := t.judge(in, &t.chosen, t.Job)
	if err != nil {
		return err
	}
	format := strings.ToLower(filepath.Ext(t.Out))
	if format != ".svg" && format != ".pdf" && format != ".dxf" {
		return badInput{fmt.Errorf("--out %s: the file's name must end in .svg, .pdf or .dxf", t.Out)}
	}
	if t.Paper != "sheet" && format != ".pdf" {
		return badInput{fmt.Errorf("--paper %s: only a PDF is put on pages", t.Paper)}
	}
	for _, part := range t.Hide {
		if !slices.Contains(template.Shows, part) {
			return badInput{fmt.Errorf("--hide %s: not known; allowed: %s", part, strings.Join(template.Shows, ", "))}
		}
	}
	sheet := template.Sheet{Date: time.Now().Format(time.DateOnly), Hide: t.Hide}
	sheet.Mark = exchange.Fingerprint(p.Display, p.Bracket, in.PolicyOrDefault(), p.Turn, in.Job(t.Job))
	if job := in.Job(t.Job); t.Job != "" && job.Wall.Type != "" {
		all := place.Place(p, job)
		sheet.Blocked = place.Against(p, all)
		if len(all[0].Points) > 0 {
			sheet.Places = all
		}
	}
	draw := template.DrillTemplate
	if t.Card {
		draw = template.MeasureCard
	}
	d := draw(p, sheet)
	if d == nil {
		return badInput{fmt.Errorf("no template: %s", template.WhyNoDrill(p))}
	}
	if t.Job != "" && sheet.Places == nil {
		fmt.Fprintln(s.err, "The template is site-free: the job cannot be placed on its wall; nexufix place says why.")
	}
	raw := svg.Write(d, svg.Options{})
	switch format {
	case ".dxf":
		raw = dxf.Write(d, quantity.Metric)
	case ".pdf":
		if raw, err = onPaper(d, t.Paper); err != nil {
			return err
		}
	}
	return writeFile(t.Out, raw)
}

func onPaper(d *drawing.Drawing, paper string) ([]byte, error) {
	if paper == "sheet" && max(d.Width(), d.Height()) > pdf.MostSheet {
		return nil, badInput{errors.New("--paper sheet: the drawing is longer than a PDF's page can be, 5 m; take a4, letter or a3")}
	}
	if paper == "sheet" {
		return pdf.Sheet(d, quantity.Metric, time.Now())
	}
	return pdf.Tiled(d, paper, quantity.Metric, time.Now())
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
	p, err := c.judge(in, &c.chosen, c.Job)
	if err != nil {
		return err
	}
	site := steps.Site{Wall: catalog.WallType(c.Wall)}
	if c.Job != "" {
		job := in.Job(c.Job)
		site.Wall, site.Load.Accessories = job.Wall.Type, job.Accessories
		if job.Place.Rule == "center" {
			site.Center = job.Place.Center
		}
		if job.Wall.Type != "" {
			site.Places = place.Place(p, job)
		}
	}
	if site.Wall.Name() == "" {
		return badInput{fmt.Errorf("wall %q is not known; allowed: %s", site.Wall, strings.Trim(fmt.Sprint(catalog.WallTypes), "[]"))}
	}
	sequence := steps.Generate(p, site)
	switch format := strings.ToLower(filepath.Ext(c.Out)); format {
	case ".md":
		return writeFile(c.Out, markdown.Steps(&sequence, quantity.Metric))
	case ".json":
		f, err := os.Create(c.Out)
		if err != nil {
			return badInput{err}
		}
		defer f.Close()
		return writeJSON(f, exchange.SequenceOf(&sequence, quantity.Metric))
	}
	return badInput{fmt.Errorf("--out %s: the file's name must end in .json or .md", c.Out)}
}

// judge judges the one pairing a command is about.
func (i *inputs) judge(in *exchange.Contents, c *chosen, job string) (*fit.Pairing, error) {
	found, err := c.find(in, job)
	if err != nil {
		return nil, err
	}
	load := fit.Extra{}
	if found.job != nil {
		load.Accessories = found.job.Accessories
	}
	p := fit.Judge(found.display, found.bracket, found.turn, load, in.PolicyOrDefault())
	return &p, nil
}

func writeFile(name string, raw []byte) error {
	if err := os.WriteFile(name, raw, 0o644); err != nil {
		return badInput{err}
	}
	return nil
}
