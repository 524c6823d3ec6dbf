package api

import (
	"sync"

	"github.com/labstack/echo/v5"
	tags "golang.org/x/text/language"

	"nexufix/app/bench"
	"nexufix/core/quantity"
	"nexufix/language"
)

// matcher finds the best of the languages that there are, in the order of [language.Codes].
var matcher = sync.OnceValue(func() tags.Matcher {
	var known []tags.Tag
	for _, code := range language.Codes() {
		known = append(known, tags.Make(code))
	}
	return tags.NewMatcher(known)
})

// Language is the language that a request asks for its answer in, by the header Accept-Language (RFC 9110, 12.5.4): the best that
// there is, nil for English. The answer says which it is.
func Language(c *echo.Context) *quantity.Language {
	codes := language.Codes()
	wanted, _, err := tags.ParseAcceptLanguage(c.Request().Header.Get("Accept-Language"))
	at := 0
	if err == nil && len(wanted) > 0 {
		_, at, _ = matcher().Match(wanted...)
	}
	head := c.Response().Header()
	head.Set("Content-Language", codes[at])
	head.Add("Vary", "Accept-Language")
	l, _ := language.Of(codes[at]) // one of those that there are
	return l
}

// Reader is who reads the answer of a request: its units, "in" or "mm", are in its body.
func Reader(c *echo.Context, units string) quantity.Reader {
	return quantity.Reader{Units: bench.Units(units), Language: Language(c)}
}
