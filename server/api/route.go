// Package api is what every feature of the server has in common: a route with its
// types, reading requests, answering, and errors as problem details (RFC 9457). A
// handler binds, calls app, and answers; what it returns as an error is described in
// one place, [Describe].
package api

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"nexufix/core/rights"
)

// Route is one operation of the API with its types, from which the OpenAPI
// document is made.
type Route struct {
	Method, Path, Summary string
	Request, Answer       any // nil: none
	Status                int
	Kind                  string // content type of the answer, when not JSON
	Handler               echo.HandlerFunc
	Work                  Work
	Right                 rights.Act // what is done by it, which says who may
	Other                 rights.Act // what may be done by it as well; "": nothing
	Large                 bool       // a request may be as large as a file
	Takes                 string     // content type of the request's body, when not JSON
	Also                  []string   // other content types of the answer, by what is asked for
	Versioned             bool       // of something with revisions: it has an ETag, a change of it may have If-Match, PUT may make it
}

// Limits of what is sent with a request, in bytes.
const (
	MostRequest = 1 << 20
	MostFile    = 20 << 20
)

// Work is how much an operation asks of the server, by which it is let in.
type Work int

const (
	Light Work = iota // it only looks something up
	Quick             // it is worked out, in milliseconds
	Heavy             // it may take seconds: matrix, import, export, PDF
)

// ByID is a path with an id in it.
type ByID struct {
	ID string `path:"id"`
}

// ByNumber is a path with a number in it.
type ByNumber struct {
	ID int64 `path:"id"`
}

// Get is an operation that looks something up.
func Get(path, summary string, request, answer any, h echo.HandlerFunc) Route {
	return Route{Method: http.MethodGet, Path: path, Summary: summary, Request: request, Answer: answer, Status: http.StatusOK, Handler: h,
		Right: rights.Look}
}

// Post is an operation that works something out, or changes something.
func Post(path, summary string, request, answer any, h echo.HandlerFunc) Route {
	r := Get(path, summary, request, answer, h)
	r.Method, r.Work, r.Right = http.MethodPost, Quick, rights.Edit
	return r
}

// Put is an operation that saves something.
func Put(path, summary string, request, answer any, h echo.HandlerFunc) Route {
	r := Get(path, summary, request, answer, h)
	r.Method, r.Right = http.MethodPut, rights.Edit
	return r
}

// Delete is an operation that takes something out; it answers with nothing.
func Delete(path, summary string, request any, h echo.HandlerFunc) Route {
	r := Get(path, summary, request, nil, h)
	r.Method, r.Status, r.Right = http.MethodDelete, http.StatusNoContent, rights.Edit
	return r
}

// Requires is the same operation, by which something else is done than its method says.
func (r Route) Requires(act rights.Act) Route { r.Right = act; return r }

// OrRequires is the same operation, by which something else is done to others.
func (r Route) OrRequires(act rights.Act) Route { r.Other = act; return r }

// Needs is the least role of who may ever ask for it.
func (r *Route) Needs() rights.Role { return rights.Least(r.Right) }

// Weighs is the same operation, let in as so much work.
func (r Route) Weighs(w Work) Route { r.Work = w; return r }

// Returns is the same operation with another status than 200, or another type than
// JSON.
func (r Route) Returns(status int, kind string) Route { r.Status, r.Kind = status, kind; return r }

// TakesFile is the same operation, whose body is a file.
func (r Route) TakesFile() Route { r.Large, r.Takes = true, "application/octet-stream"; return r }

// OfRevisions is the same operation, of something with revisions.
func (r Route) OfRevisions() Route { r.Versioned = true; return r }

// OrAs is the same operation, which answers with files of these types too.
func (r Route) OrAs(kinds ...string) Route { r.Also = kinds; return r }

// AllowsFile is the same operation, of which a request may be as large as a file.
func (r Route) AllowsFile() Route { r.Large = true; return r }
