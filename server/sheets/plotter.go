package sheets

import (
	"errors"
	"net/http"
	"path/filepath"
	"strconv"
	"time"

	"github.com/labstack/echo/v5"

	"nexufix/app/bench"
	"nexufix/core/catalog"
	"nexufix/core/sheet"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/standins/plotter"
	"nexufix/store"
)

// PlotLine is one plot in the plotter's queue.
type PlotLine struct {
	ID    int    `json:"id" required:"true"`
	Name  string `json:"name" required:"true"`
	State string `json:"state" required:"true" enum:"waiting,plotting,jammed,done,cancelled,failed"`
	Done  int    `json:"done" required:"true"`
	Steps int    `json:"steps" required:"true"`
	File  string `json:"file" required:"true"` // its name in the folder, once it is there
	Note  string `json:"note" required:"true"`
}

// PlotQueue is the plotter's queue.
type PlotQueue struct {
	Plots  []PlotLine `json:"plots" required:"true"`
	Jammed bool       `json:"jammed" required:"true"`
}

// PlotterJam jams the simulated plotter, or clears it.
type PlotterJam struct {
	Jammed bool `json:"jammed" required:"true"`
}

func plotLine(p plotter.Plot) PlotLine {
	file := ""
	if p.File != "" {
		file = filepath.Base(p.File)
	}
	return PlotLine{p.ID, p.Name, string(p.State), p.Done, p.Steps, file, p.Note}
}

func (s *Feature) plotQueue() PlotQueue {
	all, jammed := s.Queue.List()
	out := PlotQueue{Plots: []PlotLine{}, Jammed: jammed}
	for _, p := range all {
		out.Plots = append(out.Plots, plotLine(p))
	}
	return out
}

func (s *Feature) plots(c *echo.Context) error { return c.JSON(http.StatusOK, s.plotQueue()) }

// plot puts a template or a measure card into the queue.
func (s *Feature) plot(c *echo.Context) error {
	q, err := api.Query[SheetQuery](c)
	if err != nil {
		return err
	}
	sheet, err := s.sheet(c, &q)
	if err != nil {
		return err
	}
	raw, err := sheet.PDF(q.Paper)
	if err != nil {
		return err
	}
	p, err := s.Queue.Add(sheet.Name, raw, sheet.Pages(q.Paper))
	if errors.Is(err, plotter.ErrFull) {
		return api.New(http.StatusTooManyRequests, "The plotter's queue is full.", "Wait until some are done, or cancel some.")
	}
	if err != nil {
		return err
	}
	return c.JSON(http.StatusAccepted, plotLine(p))
}

func (s *Feature) cancelPlot(c *echo.Context) error {
	id, err := strconv.Atoi(c.Param("id"))
	if err != nil || s.Queue.Cancel(id) != nil {
		return api.New(http.StatusNotFound, "There is no such plot, or it is over.", "The queue shows what can still be cancelled.")
	}
	return s.plots(c)
}

func (s *Feature) jamPlotter(c *echo.Context) error {
	in, err := api.Read[PlotterJam](c)
	if err != nil {
		return err
	}
	s.Queue.Jam(in.Jammed)
	return s.plots(c)
}

// PrintAsk is the measured bar of a print. With a job's id the answer is
// saved with the job.
type PrintAsk struct {
	Job      string      `json:"job,omitempty" maxLength:"80"`
	Bar      exchange.MM `json:"bar_mm" required:"true" exclusiveMinimum:"0" maximum:"1000"`
	Measured exchange.MM `json:"measured_mm" required:"true" exclusiveMinimum:"0" maximum:"1000"`
	Paper    string      `json:"paper,omitempty" enum:"sheet,a4,letter,a3"`
	Units    string      `json:"units,omitempty" enum:"mm,in"`
}

// PrintAnswer reports whether the print can be used.
type PrintAnswer struct {
	Accepted bool             `json:"accepted" required:"true"`
	Text     string           `json:"text" required:"true"`
	Saved    *bench.SavedItem `json:"saved"` // the job with the answer; null without one
}

// print checks a print by its bar.
func (s *Feature) print(c *echo.Context) error {
	in, err := api.Read[PrintAsk](c)
	if err != nil {
		return err
	}
	bar, measured := in.Bar, in.Measured
	if bar != sheet.Bars[0] && bar != sheet.Bars[1] {
		return exchange.Problems{{Path: "bar_mm", Found: bar.String(), Allowed: "100 or 101.6, the bars on every sheet"}}
	}
	ok, text := sheet.CheckPrint(bar, measured)
	out := PrintAnswer{Accepted: ok, Text: api.Reader(c, in.Units).Say(text)}
	if in.Job == "" {
		return c.JSON(http.StatusOK, out)
	}
	ctx := c.Request().Context()
	i, err := s.Store.Item(ctx, "job", in.Job)
	if err != nil {
		return err
	}
	k, err := bench.SavedItemOf(i)
	if err != nil {
		return err
	}
	job := k.Job
	job.Prints = append(job.Prints, catalog.Print{Bar: bar, Measured: measured, Accepted: ok, Paper: in.Paper, Who: api.Author(c, "").Who,
		At: time.Now().UTC().Format(time.RFC3339)})
	if len(job.Prints) > maxPrints {
		job.Prints = job.Prints[len(job.Prints)-maxPrints:]
	}
	item, err := store.JobItem(job)
	if err != nil {
		return err
	}
	if item.Revision, err = s.Store.Save(ctx, api.Author(c, "Print checked."), item, i.Revision); err != nil {
		return err
	}
	saved, err := bench.SavedItemOf(item)
	if err != nil {
		return err
	}
	out.Saved = &saved
	return c.JSON(http.StatusOK, out)
}

// maxPrints is how many checked prints are saved with a job.
const maxPrints = 200
