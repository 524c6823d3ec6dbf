package server

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/language"
)

// Words is the page's list of walls, kinds of fastener and rules with their names in a language, nil for English, as TypeScript: made
// from the tables of core, so that the page has none of its own.
func Words(l *quantity.Language) string {
	var b strings.Builder
	b.WriteString("// Made by `make types` from the tables of core. Do not edit.\n")
	table := func(name, doc string, keys []string, word func(string) string) {
		fmt.Fprintf(&b, "\n/** %s */\nexport const %s: Record<string, string> = {\n", doc, name)
		for _, k := range keys {
			text, _ := json.Marshal(l.Words(word(k)))
			fmt.Fprintf(&b, "  %s: %s,\n", k, text)
		}
		b.WriteString("};\n")
	}
	var walls, fasteners, rules []string
	for _, w := range catalog.WallTypes {
		walls = append(walls, w.String())
	}
	for _, k := range catalog.ItemKinds {
		if k.Fastens() {
			fasteners = append(fasteners, k.String())
		}
	}
	names := map[string]string{}
	for _, r := range place.Registry() {
		rules = append(rules, r.ID.String())
		names[r.ID.String()] = r.Name
	}
	table("wallWords", "The kinds of wall.", walls, func(s string) string { return catalog.WallType(s).Name() })
	base := func(s string) string { return catalog.WallType(s).Properties().Base }
	table("baseWords", "What the thickness of a wall's base is the thickness of.",
		slices.DeleteFunc(slices.Clone(walls), func(s string) bool { return base(s) == "" }), base)
	lost, _ := json.Marshal(catalog.LostWithKind)
	fmt.Fprintf(&b, "\n/** What is measured of one kind of wall and not so of another. */\nexport const lostWithKind: string[] = %s;\n", lost)
	table("fastenerWords", "The kinds of fastener that go into walls.", fasteners, func(s string) string { return catalog.ItemKind(s).Word() })
	table("ruleWords", "The rules.", rules, func(s string) string { return names[s] })
	table("figureWords", "What the figures and parts of documents are called.", catalog.Fields(), catalog.FigureName)
	for i, code := range language.Codes() {
		names[code] = language.Names()[i]
	}
	l = nil // a language is called what its speakers call it
	table("languageWords", "The languages that steps and sheets are written in.", language.Codes(), func(s string) string { return names[s] })
	return b.String()
}
