// Package matrix answers with every display on every bracket.
package matrix

import (
	"log/slog"

	"nexufix/app"
	"nexufix/core/fit"
	"nexufix/server/api"
	"nexufix/store"
)

// Feature has the dependencies of the routes.
type Feature struct {
	Store *store.Store
	Log   *slog.Logger
	grid  fit.Grid // the cells judged before
}

// Routes returns the feature's routes.
func (s *Feature) Routes() []api.Route {
	return []api.Route{
		api.Get("/api/matrix", "Every display with every bracket: lines of JSON, a MatrixHead, a MatrixRow a display as it is done, a "+
			"MatrixEnd.", nil, app.MatrixLines{}, s.matrix).Weighs(api.Heavy).Returns(200, "application/x-ndjson"),
		api.Get("/api/matrix.csv", "The same as a table.", nil, "", s.matrixCSV).Weighs(api.Heavy).Returns(200, "text/csv"),
		api.Get("/api/matrix.xlsx", "The same as a workbook.", nil, "", s.matrixXLSX).Weighs(api.Heavy).Returns(200,
			"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"),
	}
}
