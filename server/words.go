package server

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/language"
)

// ruleWords are what the page calls the rules.
var ruleWords = map[fit.Rule]string{
	fit.PatternRule: "Hole pattern", fit.BoltsRule: "Bolts per arm", fit.ThreadRule: "Thread", fit.StackRule: "Bolt stack",
	fit.LoadRule: "Load",
	fit.SizeRule: "Size", fit.TurnRule: "Turn", fit.ArmsRule: "Arms", fit.PortsRule: "Ports", fit.PlugsRule: "Plugs",
	fit.ProtrusionRule: "Stands out",
	fit.TiltRule:       "Tilt", fit.SwivelRule: "Swivel", fit.HoldRule: "Joint holds", fit.DataRule: "Figures",

	place.PlaceRule: "Place", place.StudsRule: "Studs", place.AnchorsRule: "Anchors", place.CoveringRule: "Covering",
	place.FastenerRule: "Fastener",
	place.DepthRule:    "Hole depth", place.PilotRule: "Pilot hole", place.EmbedmentRule: "Embedment", place.EdgesRule: "Edges, spacing",
	place.StrengthRule: "Strength", place.BendingRule: "Stand-off bending", place.TypeTestRule: "Type test",
	place.HandlingRule: "People lean on it",
	place.VehicleRule:  "Vehicle", place.PlateRule: "Wall plate", place.AboveRule: "Above it", place.BelowRule: "Below it",
	place.LockRule: "Room at the lock",
	place.WallRule: "Wall’s ends", place.FloorRule: "Floor", place.NicheRule: "Niche", place.ServicesRule: "Hidden services",
	place.TetherRule:   "Tether",
	place.HeadroomRule: "Headroom", place.ProjectionRule: "Public walkway",
}

// Words is the page's list of walls, kinds of fastener and rules with their
// names, as TypeScript: made from the tables of core, so that the page has none
// of its own.
func Words() string {
	var b strings.Builder
	b.WriteString("// Made by `make types` from the tables of core. Do not edit.\n")
	list := func(name, doc string, keys []string, word func(string) string) {
		fmt.Fprintf(&b, "\n/** %s */\nexport const %s: Record<string, string> = {\n", doc, name)
		for _, k := range keys {
			text, _ := json.Marshal(word(k))
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
	for _, r := range slices.Concat(fit.Rules, place.Rules) {
		rules = append(rules, r.String())
	}
	list("wallWords", "The kinds of wall.", walls, func(s string) string { return catalog.WallType(s).Name() })
	list("fastenerWords", "The kinds of fastener that go into walls.", fasteners, func(s string) string { return catalog.ItemKind(s).Word() })
	list("ruleWords", "The rules.", rules, func(s string) string { return ruleWords[fit.Rule(s)] })
	names := map[string]string{}
	for i, code := range language.Codes() {
		names[code] = language.Names()[i]
	}
	list("languageWords", "The languages that steps and sheets are written in.", language.Codes(), func(s string) string { return names[s] })
	return b.String()
}
