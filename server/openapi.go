package server

import (
	"encoding/json"
	"net/http"
	"reflect"
	"strconv"
	"strings"
	"sync"

	"github.com/labstack/echo/v5"
	"github.com/swaggest/jsonschema-go"
	"github.com/swaggest/openapi-go"
	"github.com/swaggest/openapi-go/openapi31"

	"nexufix/app"
	"nexufix/exchange"
	"nexufix/store"
)

// route is one operation of the API with its types, from which the OpenAPI
// document is made.
type route struct {
	method, path, summary string
	request, answer       any // nil: none
	status                int
	kind                  string // content type of the answer, when not JSON
	handler               echo.HandlerFunc
}

type searched struct {
	Q string `query:"q" maxLength:"200" description:"What was typed; empty for all."`
}

type byID struct {
	ID string `path:"id"`
}

type byNumber struct {
	ID int64 `path:"id"`
}

type itemID struct {
	Kind string `path:"kind" enum:"displays,brackets,jobs"`
	ID   string `path:"id"`
}

type fileName struct {
	Name string `query:"name" description:"The file's name."`
}

type fileLayout struct {
	ID int64 `path:"id"`
	app.FileLayout
}

type templateFormat struct {
	app.Question
	Format string `query:"format" required:"true" enum:"page,svg,pdf,dxf"`
	Paper  string `query:"paper" enum:"sheet,a4,letter,a3"`
	What   string `query:"what" enum:"template,card" description:"The measure card instead of the template."`
	Hide   string `query:"hide" description:"Parts to leave out, with commas: outline, studs, plate, holes, hook, figures."`
}

// plotFormat is a template to be plotted.
type plotFormat struct {
	app.Question
	Paper string `query:"paper" enum:"sheet,a4,letter,a3"`
	What  string `query:"what" enum:"template,card"`
	Hide  string `query:"hide"`
}

type stepsFormat struct {
	app.Question
	Format string `query:"format" required:"true" enum:"json,md"`
}

func (s *Server) routes() []route {
	const get, post = http.MethodGet, http.MethodPost
	return []route{
		{get, "/api/displays", "Displays that come close to what was typed.", searched{}, []Entry{}, 200, "", s.displays},
		{get, "/api/displays/{id}", "One display.", byID{}, exchange.Display{}, 200, "", s.display},
		{get, "/api/brackets", "Brackets that come close to what was typed.", searched{}, []Entry{}, 200, "", s.brackets},
		{get, "/api/brackets/{id}", "One bracket.", byID{}, exchange.Bracket{}, 200, "", s.bracket},
		{post, "/api/bench", "Judge a pairing and draw it. Saves nothing.", app.Question{}, app.Bench{}, 200, "", s.bench},
		{post, "/api/stack", "Whether given parts are safe at each group of holes, and by how much.", app.ByHand{}, []app.HandJudged{}, 200, "", s.byHand},
		{post, "/api/probe", "What a caller's trial bolts tell of a hole, and which to try next.", app.Trials{}, app.Probed{}, 200, "", s.probe},
		{post, "/api/template", "The drilling template as a file.", templateFormat{}, "", 200, "image/svg+xml", s.drillTemplate},
		{post, "/api/wall", "Place a pairing on its wall, draw it, and move something on it. Saves nothing.", app.WallAsk{}, app.WallView{}, 200, "", s.wall},
		{get, "/api/jobs", "Jobs, by name.", nil, []app.JobLine{}, 200, "", s.jobs},
		{post, "/api/prints", "Whether a print can be used, from a bar as it was measured; kept with the job.", PrintAsk{}, PrintAnswer{}, 200, "", s.print},
		{get, "/api/plotter", "The plotter's queue.", nil, PlotQueue{}, 200, "", s.plots},
		{post, "/api/plotter", "Put the template or the measure card into the plotter's queue.", plotFormat{}, PlotLine{}, 202, "", s.plot},
		{post, "/api/plotter/{id}/cancel", "Take a plot out of the queue.", byNumber{}, PlotQueue{}, 200, "", s.cancelPlot},
		{post, "/api/plotter/jam", "Jam the simulated plotter's paper, or clear it.", PlotterJam{}, PlotQueue{}, 200, "", s.jamPlotter},
		{post, "/api/steps", "The step sequence.", stepsFormat{}, exchange.Sequence{}, 200, "", s.sequence},
		{get, "/api/matrix", "Every display with every bracket: lines of JSON, a MatrixHead, a MatrixRow a display as it is done, a MatrixEnd.", nil, app.MatrixLines{}, 200, "application/x-ndjson", s.matrix},
		{get, "/api/matrix.csv", "The same as a table.", nil, "", 200, "text/csv", s.matrixCSV},
		{get, "/api/matrix.xlsx", "The same as a workbook.", nil, "", 200, "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", s.matrixXLSX},
		{get, "/api/policies", "The policy in use, those that are kept, and the defaults.", nil, House{}, 200, "", s.policies},
		{http.MethodPut, "/api/policies", "Keep a policy under a name, and use it.", NamedPolicy{}, House{}, 200, "", s.keepPolicy},
		{post, "/api/policies/use", "Use a kept policy, or the defaults.", PolicyChoice{}, House{}, 200, "", s.usePolicy},
		{get, "/api/pairings", "Saved pairings, the latest first.", nil, []SavedPairing{}, 200, "", s.pairings},
		{post, "/api/pairings", "Save a pairing.", app.Question{}, SavedPairing{}, 201, "", s.savePairing},
		{get, "/api/pairings/{id}", "One saved pairing.", byID{}, OpenedPairing{}, 200, "", s.pairing},
		{http.MethodDelete, "/api/pairings/{id}", "Take a saved pairing off the list.", byID{}, nil, 204, "", s.removePairing},
		{post, "/api/pairings/{id}/restore", "Bring a removed pairing back.", byID{}, nil, 204, "", s.restorePairing},
		{post, "/api/import", "Put a document's displays and brackets into the catalogue: all or nothing.", exchange.Document{}, store.Imported{}, 200, "", s.importDocument},
		{get, "/api/export", "The whole catalogue as a document.", nil, exchange.Document{}, 200, "", s.export},
		{get, "/api/export.xlsx", "The same as a workbook.", nil, "", 200, xlsxType, s.exportXLSX},
		{get, "/api/export/{kind}", "Displays, brackets or kit as a table.", tableKind{}, "", 200, "text/csv", s.exportCSV},
		{get, "/api/schema/{kind}", "The JSON Schema of a kind of the exchange format.", schemaOf{}, "", 200, "application/schema+json", s.schema},
		{get, "/api/catalogue", "Displays and brackets as lines of a grid.", nil, app.Shelves{}, 200, "", s.shelves},
		{get, "/api/duplicates", "Displays that could be one and the same.", nil, []Alike{}, 200, "", s.duplicates},
		{get, "/api/unreadable", "Documents in the database that cannot be read, with the reason and their text.", nil, []SetAside{}, 200, "", s.unreadable},
		{get, "/api/items/{kind}/{id}", "A display or bracket with its revision.", itemID{}, Kept{}, 200, "", s.item},
		{http.MethodPut, "/api/items/{kind}/{id}", "Keep a display or bracket that was made from a revision; 409 when that is no longer the latest.", Keeping{}, Kept{}, 200, "", s.keepItem},
		{http.MethodDelete, "/api/items/{kind}/{id}", "Take a display or bracket out; its history stays.", removal{}, nil, 204, "", s.removeItem},
		{post, "/api/together", "Set figures of several displays at once: all of them, or none.", app.Together{}, store.Imported{}, 200, "", s.together},
		{post, "/api/merge", "Make one display of two.", Merging{}, Undone{}, 200, "", s.merge},
		{post, "/api/draw", "Draw a display or bracket as it is being edited, and say what it would change. Saves nothing.", app.Drawing{}, app.Drawn{}, 200, "", s.draw},
		{get, "/api/gauge", "The bench gauge's readings, as server-sent events with a GaugeReading each.", nil, GaugeReading{}, 200, "text/event-stream", s.gaugeLines},
		{post, "/api/gauge/put", "Lay the simulated gauge on something of a size.", GaugePut{}, nil, 204, "", s.putGauge},
		{get, "/api/history", "Revisions, the latest first.", historyOf{}, []Edition{}, 200, "", s.history},
		{get, "/api/compare", "What differs between two revisions.", twoEditions{}, []exchange.Change{}, 200, "", s.compare},
		{post, "/api/history/{id}/restore", "Put a revision in place again.", byNumber{}, Kept{}, 200, "", s.restoreEdition},
		{get, "/api/batches", "What was changed together.", nil, []BatchLine{}, 200, "", s.batches},
		{post, "/api/batches/{id}/undo", "Bring back what was before.", byNumber{}, Undone{}, 200, "", s.undoBatch},
		{post, "/api/files", "Open a file: a document, a workbook or a CSV file, as the body. Writes nothing.", fileName{}, app.File{}, 200, "", s.openFile},
		{post, "/api/files/{id}/layout", "Say what a file's columns mean.", fileLayout{}, app.File{}, 200, "", s.layFile},
		{post, "/api/files/{id}/take", "Put an open file into the catalogue: lines of JSON, a FileStep each.", byNumber{}, FileStep{}, 200, "application/x-ndjson", s.takeFile},
	}
}

// echoPath turns {id} into :id.
func echoPath(p string) string {
	return strings.NewReplacer("{", ":", "}", "").Replace(p)
}

// OpenAPI makes the OpenAPI document from the routes and their Go types.
func OpenAPI() ([]byte, error) {
	r := openapi31.NewReflector()
	r.Spec.Info.WithTitle("Nexufix").WithVersion("1").WithDescription("Displays on brackets: judgement, drawings, templates and steps. Documents are in the exchange format " + exchange.Format + ".")
	r.AddTypeMapping(exchange.MM(0), float64(0))
	r.AddTypeMapping(exchange.KG(0), float64(0))
	r.AddTypeMapping(exchange.Deg(0), float64(0))
	r.AddTypeMapping(exchange.Num(0), float64(0))
	r.DefaultOptions = append(r.DefaultOptions,
		jsonschema.InterceptDefName(func(_ reflect.Type, name string) string {
			for _, pkg := range []string{"Exchange", "Server", "Store", "App"} {
				name = strings.TrimPrefix(name, pkg)
			}
			return name
		}),
		jsonschema.InterceptProp(mendProperty),
	)
	var none *Server
	for _, x := range none.routes() {
		op, err := r.NewOperationContext(x.method, x.path)
		if err != nil {
			return nil, err
		}
		op.SetSummary(x.summary)
		if x.request != nil {
			op.AddReqStructure(x.request)
		}
		op.AddRespStructure(x.answer, func(cu *openapi.ContentUnit) {
			cu.HTTPStatus, cu.ContentType = x.status, x.kind
		})
		op.AddRespStructure(Problem{}, func(cu *openapi.ContentUnit) {
			cu.IsDefault, cu.ContentType, cu.Description = true, "application/problem+json", "What went wrong."
		})
		if err := r.AddOperation(op); err != nil {
			return nil, err
		}
	}
	return json.MarshalIndent(r.Spec, "", "  ")
}

// mendProperty says what the tags mean here: limits of a list or table are
// those of its entries, and null is only where a field is always present.
func mendProperty(p jsonschema.InterceptPropParams) error {
	schema := p.PropertySchema
	if !p.Processed || schema.Type == nil {
		return nil
	}
	kind := p.Field.Type.Kind()
	if kind == reflect.Slice || kind == reflect.Map || p.Field.Tag.Get("required") == "true" || strings.HasSuffix(p.Field.Tag.Get("json"), ",omitempty") {
		schema.RemoveType(jsonschema.Null)
	}
	var entry *jsonschema.Schema
	switch {
	case kind == reflect.Slice && schema.Items != nil && schema.Items.SchemaOrBool != nil:
		entry = schema.Items.SchemaOrBool.TypeObject
	case kind == reflect.Map && schema.AdditionalProperties != nil:
		entry = schema.AdditionalProperties.TypeObject
	}
	if entry == nil {
		wholeNumbers(schema)
	} else {
		entry.Enum, schema.Enum = schema.Enum, nil
		wholeNumbers(entry)
		entry.Minimum, schema.Minimum = schema.Minimum, nil
		entry.Maximum, schema.Maximum = schema.Maximum, nil
		entry.ExclusiveMinimum, schema.ExclusiveMinimum = schema.ExclusiveMinimum, nil
	}
	return nil
}

// wholeNumbers makes the choices of an integer integers.
func wholeNumbers(s *jsonschema.Schema) {
	if !s.HasType(jsonschema.Integer) {
		return
	}
	for i, e := range s.Enum {
		if text, ok := e.(string); ok {
			if n, err := strconv.Atoi(text); err == nil {
				s.Enum[i] = n
			}
		}
	}
}

var openAPIOnce = sync.OnceValues(OpenAPI)

// openapi31JSON answers with the document.
func openapi31JSON(c *echo.Context) error {
	raw, err := openAPIOnce()
	if err != nil {
		return err
	}
	return c.Blob(http.StatusOK, "application/json", raw)
}
