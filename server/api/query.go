package api

import (
	"fmt"
	"maps"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/labstack/echo/v5"

	"nexufix/exchange"
)

// queried is a member of a query, with what its tags allow.
type queried struct {
	name     string
	required bool
	enum     []string
	most     int // letters; 0: no limit of its own
	day      bool
	number   bool
	least    int64 // of a number
	greatest int64
}

// Queries checks the query of a route before its handler reads it, by the tags from which its description is made: one of the enum, not too
// long, a day, a whole number that is neither too small nor too large. All that is wrong is said at once.
func Queries(r *Route) echo.MiddlewareFunc {
	members := queriesOf(reflect.TypeOf(r.Request))
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		strict := strings.HasPrefix(r.Path, "/api/") // what an identity provider sends along is its own affair
		return func(c *echo.Context) error {
			var wrong exchange.Problems
			given := c.QueryParams()
			for _, name := range slices.Sorted(maps.Keys(given)) {
				if strict && !slices.ContainsFunc(members, func(m queried) bool { return m.name == name }) {
					wrong = append(wrong, exchange.Problem{Path: name, Found: "is not known", Allowed: allowedOf(members)})
				}
			}
			for i := range members {
				m := &members[i]
				if m.required && given.Get(m.name) == "" {
					wrong = append(wrong, exchange.Problem{Path: m.name, Found: "is missing", Allowed: "it has to be said"})
				}
				for _, text := range given[m.name] {
					if found, allowed := m.wrong(text); found != "" && text != "" {
						wrong = append(wrong, exchange.Problem{Path: m.name, Found: found, Allowed: allowed})
					}
				}
			}
			if wrong != nil {
				return wrong
			}
			return next(c)
		}
	}
}

// allowedOf lists what a query may have.
func allowedOf(members []queried) string {
	if len(members) == 0 {
		return "nothing is asked after the path"
	}
	names := make([]string, len(members))
	for i := range members {
		names[i] = members[i].name
	}
	return strings.Join(names, ", ")
}

// Query reads the query of a request into a struct of its members, which [Queries] has checked. What is embedded has to be exported.
func Query[T any](c *echo.Context) (in T, err error) { return in, echo.BindQueryParams(c, &in) }

// wrong says what is wrong with a member, and what is allowed; "": nothing.
func (m *queried) wrong(text string) (found, allowed string) {
	_, noDay := time.Parse(time.DateOnly, text)
	n, noNumber := strconv.ParseInt(text, 10, 64)
	said := strconv.Quote(text[:min(len(text), 60)])
	switch {
	case m.enum != nil && !slices.Contains(m.enum, text):
		return said + " is not known", strings.Join(m.enum, ", ")
	case m.most > 0 && utf8.RuneCountInString(text) > m.most:
		return fmt.Sprintf("has %d letters", utf8.RuneCountInString(text)), fmt.Sprintf("at most %d", m.most)
	case m.day && noDay != nil:
		return said, "a day, as 2026-11-30"
	case m.number && m.enum == nil && n > m.greatest:
		return said, fmt.Sprintf("a whole number, at most %d", m.greatest)
	case m.number && m.enum == nil && (noNumber != nil || n < m.least):
		return said, fmt.Sprintf("a whole number, at least %d", m.least)
	}
	return "", ""
}

// queriesOf are the members of a request's query, of what is embedded too.
func queriesOf(t reflect.Type) (out []queried) {
	if t == nil || t.Kind() != reflect.Struct {
		return nil
	}
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Anonymous {
			out = append(out, queriesOf(f.Type)...)
			continue
		}
		q := queried{name: f.Tag.Get("query")}
		if q.name == "" {
			continue
		}
		if enum := f.Tag.Get("enum"); enum != "" {
			q.enum = strings.Split(enum, ",")
		}
		if kinds, ok := reflect.Zero(f.Type).Interface().(interface{ Enum() []any }); ok {
			for _, kind := range kinds.Enum() {
				q.enum = append(q.enum, fmt.Sprint(kind))
			}
		}
		q.required = f.Tag.Get("required") == "true"
		q.most, _ = strconv.Atoi(f.Tag.Get("maxLength")) // "": 0
		q.day = f.Tag.Get("format") == "date"
		q.number = f.Type.Kind() == reflect.Int || f.Type.Kind() == reflect.Int64
		q.least, _ = strconv.ParseInt(f.Tag.Get("minimum"), 10, 64) // "": 0
		if q.greatest = math.MaxInt64; f.Tag.Get("maximum") != "" {
			q.greatest, _ = strconv.ParseInt(f.Tag.Get("maximum"), 10, 64)
		}
		out = append(out, q)
	}
	return out
}
