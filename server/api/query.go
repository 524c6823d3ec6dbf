package api

import (
	"reflect"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/labstack/echo/v5"

	"nexufix/exchange"
)

// queried is a member of a query, with what its tags allow.
type queried struct {
	name string
	enum []string
	most int // letters; 0: no limit of its own
}

// Queries checks the query of a route before its handler reads it, by the tags from which its description is made: one of the enum, and not
// too long. All that is wrong is said at once.
func Queries(r *Route) echo.MiddlewareFunc {
	members := queriesOf(reflect.TypeOf(r.Request))
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		if members == nil {
			return next
		}
		return func(c *echo.Context) error {
			var wrong exchange.Problems
			given := c.QueryParams()
			for i := range members {
				m := &members[i]
				for _, text := range given[m.name] {
					switch {
					case m.enum != nil && text != "" && !slices.Contains(m.enum, text):
						wrong = append(wrong, exchange.Problem{Path: m.name, Found: strconv.Quote(text[:min(len(text), 60)]) + " is not known",
							Allowed: strings.Join(m.enum, ", ")})
					case m.most > 0 && utf8.RuneCountInString(text) > m.most:
						wrong = append(wrong, exchange.Problem{Path: m.name, Found: "is long", Allowed: strconv.Itoa(m.most) + " letters"})
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
		q.most, _ = strconv.Atoi(f.Tag.Get("maxLength")) // "": 0
		out = append(out, q)
	}
	return out
}
