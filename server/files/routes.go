// Package files imports documents, workbooks and tables into the catalogue, and exports it
// as such.
package files

import (
	"log/slog"

	"nexufix/app/imports"
	"nexufix/exchange"
	"nexufix/server/api"
	"nexufix/store"
)

// Feature has the dependencies of the routes.
type Feature struct {
	Store *store.Store
	Log   *slog.Logger
	tray  uploads
}

// Routes returns the feature's routes.
func (s *Feature) Routes() []api.Route {
	return []api.Route{
		api.Post("/api/import", "Put a document's displays and brackets into the catalogue: all or nothing.", exchange.Document{},
			store.Imported{}, s.importDocument).Weighs(api.Heavy).AllowsFile(),
		api.Get("/api/export", "The whole catalogue as a document.", nil, exchange.Document{}, s.export).Weighs(api.Heavy),
		api.Get("/api/export.xlsx", "The same as a workbook.", nil, "", s.exportXLSX).Weighs(api.Heavy).Returns(200, api.XLSX),
		api.Get("/api/export/{kind}", "Displays, brackets or kit as a table.", tableKind{}, "", s.exportCSV).Weighs(api.Heavy).Returns(200,
			"text/csv"),
		api.Post("/api/files", "Open a file: a document, a workbook or a CSV file, as the body. Writes nothing.", fileName{}, imports.File{},
			s.openFile).Weighs(api.Heavy).TakesFile(),
		api.Post("/api/files/{id}/layout", "Say what a file's columns mean.", fileLayout{}, imports.File{}, s.setLayout).Weighs(api.Heavy),
		api.Post("/api/files/{id}/commit", "Put an open file into the catalogue: lines of JSON, a FileStep each.", api.ByID{}, FileStep{},
			s.commit).Weighs(api.Heavy).Returns(200, "application/x-ndjson"),
	}
}

type fileName struct {
	Name string `query:"name" description:"The file's name."`
}

type fileLayout struct {
	ID string `path:"id"`
	imports.FileLayout
}
