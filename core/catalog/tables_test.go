package catalog

import (
	"fmt"
	"reflect"
	"strings"
	"testing"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
	"nexufix/e2e/lots"
)

// written writes every member of a row of a table that is not zero, sentences in words.
func written(out *strings.Builder, at string, v reflect.Value) {
	if v.CanInterface() && v.Type() != reflect.TypeFor[quantity.Phrase]() && v.IsZero() {
		return
	}
	if p, ok := v.Interface().(quantity.Phrase); ok {
		if words := p.In(quantity.Metric); words != "" {
			fmt.Fprintf(out, "  %s: %s\n", at, words)
		}
		return
	}
	switch v.Kind() {
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Type().Field(i).IsExported() {
				written(out, strings.TrimPrefix(at+"."+v.Type().Field(i).Name, "."), v.Field(i))
			}
		}
	case reflect.Slice, reflect.Array:
		for i := range v.Len() {
			written(out, fmt.Sprintf("%s[%d]", at, i), v.Index(i))
		}
	case reflect.Func:
	default:
		fmt.Fprintf(out, "  %s: %v\n", at, v.Interface())
	}
}

// TestTables: every figure and word of the tables of walls, parts, brackets, bolt heads and policy stands a second time in
// testdata/answers.txt, so that none changes unseen. Their sources are named beside the tables.
func TestTables(t *testing.T) {
	var out strings.Builder
	table := func(name string, rows any) {
		for i, v := 0, reflect.ValueOf(rows); i < v.Len(); i++ {
			fmt.Fprintf(&out, "%s %d\n", name, i)
			written(&out, "", v.Index(i))
		}
	}
	table("wall", Walls)
	table("part", Items)
	table("bracket", BracketKinds)
	table("policy", []Policy{DefaultPolicy()})
	for _, h := range BoltHeads {
		for _, thread := range fastener.Threads {
			fmt.Fprintf(&out, "head %v %v: %v high, %v wide\n", h, thread, h.Height(thread), h.Width(thread))
		}
	}
	for _, m := range BaseMaterials {
		fmt.Fprintf(&out, "material %v: %v\n", m, m.Wall())
	}
	for _, o := range []Origin{Sheet, Bench, Caller} {
		fmt.Fprintf(&out, "origin %v: %v, %s\n", o, o.Tolerance(), o.Word())
	}
	fmt.Fprintf(&out, "turns %v, zones %v, species %v, rules %v, outlets %v, shapes %v, bases %v\n", Turns, ZoneKinds, Species,
		PlaceRules, OutletKinds,
		HoleShapes, RatingBases)
	for _, i := range []Item{{Kind: Bolt}, {Kind: Bolt, Thread: fastener.M6, Length: mm(20)}, {Kind: Lag, Diameter: mm(8), Length: mm(70)},
		{Kind: Screw, Diameter: mm(5), Length: mm(60)}, {Kind: Plug, Diameter: mm(10)}, {Kind: Toggle, Diameter: mm(5)}} {
		fmt.Fprintf(&out, "%v: fastens %v, word %s, tensile %d\n", i.Kind, i.Kind.Fastens(), i.Kind.Word(), i.TensileStrength())
	}
	lots.SameAnswers(t, out.String())
}
