package exchange

import (
	"fmt"
	"math"
	"reflect"
	"regexp"
	"strconv"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// limits are what a field's tag allows; each tag is parsed once.
type limits struct {
	tag                           reflect.StructTag
	minItems, maxItems, maxLength int
	least, most                   int      // of a whole number
	lo, hi                        int64    // of a quantity, in its integer units
	enum                          []string // by the tag, else by the type
	pattern                       *regexp.Regexp
	filled                        bool // a text that is required, and may not be empty
	lines                         bool // a text of several lines
}

// patternTexts are the patterns of the format's fields, in words.
var patternTexts = map[string]string{
	`^(displays|brackets|kit|document|)$`:           "displays, brackets, kit or nothing",
	`^[0-9]{4}-[0-9]{2}-[0-9]{2}$`:                  "a day, as 2026-11-25",
	`^[0-9a-f]{32}$`:                                "32 small hexadecimal digits",
	`^[A-Za-z0-9]([A-Za-z0-9_-]|\.[A-Za-z0-9_-])*$`: "letters, digits, dots, dashes and underscores, starting with a letter or digit",
	`^[A-Za-z0-9][A-Za-z0-9._@-]{1,63}$`:            "two letters, digits, . _ @ - or more",
	`^[A-Za-z0-9_-]{1,16}$`:                         "up to 16 letters and digits",
	`^[a-z][a-z0-9_-]{0,39}$`:                       "small letters, digits, dashes and underscores, starting with a letter",
	`^[a-z]{2,3}$`:                                  "a language code of two or three small letters, as de",
}

// noLimits are the limits of a value without a tag.
var noLimits = limitsOf("", reflect.TypeFor[string]())

func limitsOf(tag reflect.StructTag, t reflect.Type) *limits {
	number := func(name string, fallback int) int {
		if n, err := strconv.Atoi(tag.Get(name)); err == nil {
			return n
		}
		return fallback
	}
	l := &limits{
		tag: tag, minItems: number("minItems", 0), maxItems: number("maxItems", maxItems), maxLength: number("maxLength", 200),
		least: number("minimum", -1_000_000_000), most: number("maximum", 1_000_000_000), lo: math.MinInt64, hi: math.MaxInt64,
		filled: tag.Get("required") == "true" && tag.Get("empty") != "ok", lines: tag.Get("lines") == "ok",
	}
	if e := tag.Get("enum"); e != "" {
		l.enum = strings.Split(e, ",")
	}
	if p := tag.Get("pattern"); p != "" {
		l.pattern = regexp.MustCompile(p)
		if patternTexts[p] == "" {
			panic("exchange: no words for the pattern " + p) // a mistake in the format's structs
		}
	}
	for {
		inner := Bare(t)
		switch {
		case inner.Kind() == reflect.Slice || inner.Kind() == reflect.Map:
			inner = inner.Elem()
		case inner == reflect.TypeFor[fastener.Interval]() || inner == reflect.TypeFor[catalog.PatternSize]():
			inner = reflect.TypeFor[MM]()
		}
		if inner == t {
			break
		}
		t = inner
	}
	if m, ok := measures[t]; ok {
		l.bounds(m)
	}
	if l.enum == nil {
		l.enum = choices(t)
	}
	return l
}

// bounds reads the least and the most of a quantity.
func (l *limits) bounds(m measure) {
	bound := func(name string) (int64, bool) {
		s, ok := l.tag.Lookup(name)
		if !ok {
			return 0, false
		}
		n, err := quantity.Decimal(s, m.perOne)
		if err != nil {
			panic("exchange: bad tag " + name + ": " + s) // a mistake in the format's structs
		}
		return n, true
	}
	if n, ok := bound("minimum"); ok {
		l.lo = n
	}
	if n, ok := bound("exclusiveMinimum"); ok {
		l.lo = max(l.lo, n+1)
	}
	if n, ok := bound("maximum"); ok {
		l.hi = n
	}
}

// choices returns the texts of a type that names them, nil of another.
func choices(t reflect.Type) (out []string) {
	if named, ok := reflect.Zero(t).Interface().(interface{ Enum() []any }); ok {
		for _, x := range named.Enum() {
			out = append(out, fmt.Sprint(x))
		}
	}
	return out
}

// allowed describes what a field's tag allows.
func (r *reader) allowed(of *limits, what string) string {
	tag := of.tag
	if of.enum != nil {
		return strings.Join(of.enum, ", ")
	}
	if d := patternTexts[tag.Get("pattern")]; d != "" {
		return d
	}
	var parts []string
	if what != "" {
		parts = append(parts, what)
	}
	if s := tag.Get("exclusiveMinimum"); s != "" {
		parts = append(parts, "more than "+s)
	}
	if s := tag.Get("minimum"); s != "" {
		parts = append(parts, "at least "+s)
	}
	if s := tag.Get("maximum"); s != "" {
		parts = append(parts, "at most "+s)
	}
	return strings.Join(parts, ", ")
}
