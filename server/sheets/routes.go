// Package sheets answers with templates, measure cards and step sequences, as files and to
// the plotter, and checks prints.
package sheets

import (
	"nexufix/app/bench"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/standins/plotter"
	"nexufix/store"
)

// Feature has the dependencies of the routes.
type Feature struct {
	Store *store.Store
	Queue *plotter.Plotter
}

// Routes returns the feature's routes.
func (s *Feature) Routes() []api.Route {
	return []api.Route{
		api.Post("/api/template", "The drilling template as a file.", templateFormat{}, "",
			s.drillTemplate).Requires(rights.Look).Weighs(api.Heavy).Returns(200, "image/svg+xml").
			OrAs("application/pdf", "image/vnd.dxf"),
		api.Post("/api/steps", "The step sequence.", stepsFormat{}, exchange.Sequence{}, s.sequence).Requires(rights.Look).Weighs(api.Heavy).
			OrAs("text/markdown", "application/pdf", "text/html", "application/zip"),
		api.Get("/at/{id}", "The steps of a saved job, as a page for a telephone at the wall.", atWall{}, "",
			s.atWall).Weighs(api.Heavy).Returns(200,
			"text/html"),
		api.Post("/at/{id}/ticks", "Steps that are done at the wall, or no more; saved with the job.", ticked{}, Done{},
			s.tick).Requires(rights.Tick),
		api.Get("/at/worker.js", "The script that hands the page out where there is no network.", nil, "", worker).Returns(200,
			"text/javascript"),
		api.Get("/at/manifest.webmanifest", "What a telephone calls the page.", nil, "", manifest).Returns(200, "application/manifest+json"),
		api.Post("/api/photos", "A photograph for a step, JPEG or PNG, as the body; it is made small and stripped of what the camera wrote.", nil,
			Photo{}, s.addPhoto).Weighs(api.Heavy).TakesFile(),
		api.Get("/api/photos/{id}", "A photograph.", api.ByID{}, "", s.photo).Returns(200, "image/jpeg"),
		api.Post("/api/prints", "Whether a print can be used, from a bar as it was measured; saved with the job.", PrintAsk{}, PrintAnswer{},
			s.print),
		api.Get("/api/plotter", "The plotter's queue.", nil, PlotQueue{}, s.plots),
		api.Post("/api/plotter", "Put the template or the measure card into the plotter's queue.", plotFormat{}, PlotLine{}, s.plot).Returns(202,
			""),
		api.Post("/api/plotter/{id}/cancel", "Take a plot out of the queue.", api.ByNumber{}, PlotQueue{}, s.cancelPlot),
		api.Post("/api/plotter/jam", "Jam the simulated plotter's paper, or clear it.", PlotterJam{}, PlotQueue{}, s.jamPlotter),
	}
}

type templateFormat struct {
	bench.Request
	templateQuery
}

type templateQuery struct {
	SheetQuery
	Format string `query:"format" required:"true" enum:"page,svg,pdf,dxf"`
}

// SheetQuery is how a template or a measure card is drawn. Exported, as only then what embeds it is bound.
type SheetQuery struct {
	Paper string `query:"paper" enum:"sheet,a4,letter,a3"`
	Whole string `query:"outline" enum:"whole" description:"The display's whole outline also on pages that are joined."`
	What  string `query:"what" enum:"template,card" description:"The measure card instead of the template."`
	Lang  string `query:"lang" pattern:"^[a-z]{2,3}$" description:"Language of what is written: en, the default, or de."`
	// For who drills by machine.
	Machine string `query:"machine" enum:"yes" description:"A DXF with one entity a hole on the layer DRILL: on a wall a CIRCLE of the drill's diameter, else a POINT."`
	Hide    string `query:"hide" description:"Parts to leave out, with commas: outline, studs, plate, holes, hook, figures."`
}

// ticked are ticks of a job.
type ticked struct {
	ID string `path:"id"`
	Ticked
}

// plotFormat is a template to be plotted.
type plotFormat struct {
	bench.Request
	SheetQuery
}

// atWall is a saved job, and the units that are shown first.
type atWall struct {
	ID    string `path:"id"`
	Units string `query:"units" enum:"mm,in"`
	Bar   string `query:"bar" description:"What the template's bar of 100 mm measures."`
	Lang  string `query:"lang" pattern:"^[a-z]{2,3}$" description:"Language of what is written: en, the default, or de."`
	Studs string `query:"studs" description:"Middles of the studs as they were found, from the wall's left end, with semicolons between."`
}

type stepsFormat struct {
	bench.Request
	stepsQuery
}

type stepsQuery struct {
	Format  string `query:"format" required:"true" enum:"json,md,pdf,html,zip"`
	Figures string `query:"figures" enum:"yes" description:"JSON with the steps' drawings, as SVG."`
	Lang    string `query:"lang" pattern:"^[a-z]{2,3}$" description:"Language of what is written: en, the default, or de."`
	Paper   string `query:"paper" enum:"a4,letter" description:"Of the pack; a4 by default."`
}
