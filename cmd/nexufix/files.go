package main

import (
	"archive/zip"
	"cmp"
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"time"

	"nexufix/app/bench"
	"nexufix/exchange"
)

type templateCommand struct {
	inputs
	chosen
	Job string `placeholder:"ID" help:"Job whose display, bracket and turn are drawn."`
	output
	Paper   string   `default:"sheet" enum:"sheet,a4,letter,a3" help:"Of a PDF: one sheet at its size, or pages of a4, letter or a3 to be joined."`
	Card    bool     `help:"The measure card instead: the numbers for who works with a tape."`
	Whole   bool     `help:"The display's whole outline also on pages that are joined; else these show what is drilled."`
	Machine bool     `help:"Of a DXF: one entity a hole on the layer DRILL, for a machine that drills each once."`
	Lang    string   `default:"en" placeholder:"CODE" help:"Language of what is written: en or de."`
	Hide    []string `placeholder:"PART" help:"Parts of the template to leave out: outline, studs, plate, holes, hook, figures."`
}

// Run writes the drilling template at 1:1: of a job's wall, or site-free.
func (t *templateCommand) Run(s *streams) error {
	in, err := t.read(s)
	if err != nil {
		return err
	}
	format, err := t.kind(bench.Formats)
	if err != nil {
		return err
	}
	if t.Paper != "sheet" && format != "pdf" {
		return badInput{fmt.Errorf("--paper %s: only a PDF is put on pages", t.Paper)}
	}
	w, err := t.open(in, t.Job, "")
	if err != nil {
		return err
	}
	l, err := bench.Language(t.Lang)
	if err != nil {
		return badInput{err}
	}
	sheet, err := w.Sheet(bench.SheetOptions{Card: t.Card, Hide: t.Hide, Paper: t.Paper, Whole: t.Whole, Machine: t.Machine,
		Now: time.Now().UTC(), Language: l})
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
	return t.write(s, raw)
}

type stepsCommand struct {
	inputs
	chosen
	Job   string `placeholder:"ID" help:"Job whose display, bracket, turn and wall count."`
	Quiet bool   `short:"q" help:"With --all: do not say how far it is."`
	All   bool   `help:"Every job of the documents, each in a folder of its own; with --out FILE.zip."`
	Wall  string `default:"wood_stud" help:"Type of wall, without a job."`
	output
	Paper string `default:"a4" enum:"a4,letter" help:"Of the pack."`
	Units string `default:"mm" enum:"mm,in" help:"Of what is written."`
	Lang  string `default:"en" placeholder:"CODE" help:"Language of what is written: en or de."`
}

// Run writes the step sequence, or the packs of every job.
func (c *stepsCommand) Run(s *streams) error {
	in, err := c.read(s)
	if err != nil {
		return err
	}
	format, err := c.kind(bench.StepFormats)
	if err != nil {
		return err
	}
	l, err := bench.Language(c.Lang)
	if err != nil {
		return badInput{err}
	}
	o := bench.InstallOptions{Paper: c.Paper, Units: bench.Units(c.Units), Now: time.Now().UTC(), Language: l,
		Photos: func(id string) ([]byte, error) { return in.Photos[id], nil }}
	if c.All {
		if format != "zip" || c.Out == stdout {
			return badInput{fmt.Errorf("--all: every job goes into one .zip, a file; --out %s", c.Out)}
		}
		return c.packs(s, in, o)
	}
	w, err := c.open(in, c.Job, c.Wall)
	if err != nil {
		return err
	}
	out, err := w.Install(o)
	if err != nil {
		return badInput{err}
	}
	raw, err := out.File(format)
	if err != nil {
		return err
	}
	return c.write(s, raw)
}

// packs writes a folder for every job, one after the other into the file, and says how far it is.
// A job that cannot be worked out is named and left out. What is interrupted leaves no file.
func (c *stepsCommand) packs(s *streams, in *exchange.Contents, o bench.InstallOptions) error {
	part := c.Out + ".part"
	file, err := os.Create(part)
	if err != nil {
		return badInput{err}
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	err = errors.Join(c.writePacks(ctx, s, in, o, zip.NewWriter(file)), file.Close())
	if err != nil {
		return errors.Join(err, os.Remove(part))
	}
	return os.Rename(part, c.Out)
}

func (c *stepsCommand) writePacks(ctx context.Context, s *streams, in *exchange.Contents, o bench.InstallOptions, z *zip.Writer) error {
	for n, job := range in.Jobs {
		if ctx.Err() != nil {
			return badInput{errors.New("interrupted: nothing was written")}
		}
		if !c.Quiet {
			fmt.Fprintf(s.err, "%d of %d: %s\n", n+1, len(in.Jobs), job.ID)
		}
		w, err := c.open(in, job.ID, "")
		if err != nil {
			return err
		}
		out, err := w.Install(o)
		if err != nil {
			fmt.Fprintf(s.err, "%s is left out: %v\n", job.ID, err)
			continue
		}
		if err := out.Folder(z, job.ID+"/"); err != nil {
			return err
		}
	}
	return z.Close()
}

// stdout is the name of a file that stands for standard output.
const stdout = "-"

// output is where a command writes its file to, and of which kind it is.
type output struct {
	Out    string `required:"" placeholder:"FILE" help:"File to write, whose ending says what it is; - for standard output, with --format."`
	Format string `placeholder:"KIND" help:"What is written, where the file's name does not end in it."`
}

// kind is what is written: one of those there are.
func (o *output) kind(all []string) (string, error) {
	kind := strings.ToLower(strings.TrimPrefix(cmp.Or(o.Format, filepath.Ext(o.Out)), "."))
	switch {
	case slices.Contains(all, kind):
		return kind, nil
	case o.Format != "":
		return "", badInput{fmt.Errorf("--format %s: one of %s", o.Format, strings.Join(all, ", "))}
	}
	return "", badInput{fmt.Errorf("--out %s: the file's name must end in .%s, or say --format", o.Out, strings.Join(all, ", ."))}
}

// write writes the file, or to standard output.
func (o *output) write(s *streams, raw []byte) error {
	if o.Out != stdout {
		return writeFile(o.Out, raw)
	}
	_, err := s.out.Write(raw)
	return err
}

func writeFile(name string, raw []byte) error {
	if err := os.WriteFile(name, raw, 0o644); err != nil {
		return badInput{err}
	}
	return nil
}
