package tabular

import (
	"fmt"
	"os"
	"testing"

	"nexufix/exchange"
)

// TestHeadsInOtherLanguages: heads as colleagues in other countries write them (practice).
func TestHeadsInOtherLanguages(t *testing.T) {
	for head, want := range map[string][2]string{ // field, unit
		"Hersteller": {"maker", ""}, "Modell": {"model", ""}, "Gewicht": {"mass_kg", ""}, "Gewicht (kg)": {"mass_kg", "kg"},
		"Gewicht ohne Fuß (kg)": {"mass_kg", "kg"}, "Gewicht mit Standfuß": {"mass_with_stand_kg", ""}, "Breite": {"width_mm", ""},
		"Breite (mm)": {"width_mm", "mm"}, "Höhe cm": {"height_mm", "cm"}, "Tiefe": {"depth_mm", ""}, "Gewinde": {"pattern1.thread", ""},
		"Gewindetiefe": {"pattern1.thread_depth_mm", ""}, "Diagonale (Zoll)": {"diagonal_mm", "in"}, "Zoll": {"diagonal_mm", ""},
		"Diagonale in Zoll": {"diagonal_mm", "in"}, "Lochbild": {pattern, ""}, "Artikelnummer": {"id", ""},
		"Marque": {"maker", ""}, "Modèle": {"model", ""}, "Poids (kg)": {"mass_kg", "kg"}, "Poids sans pied": {"mass_kg", ""},
		"Largeur": {"width_mm", ""}, "Hauteur (mm)": {"height_mm", "mm"}, "Profondeur": {"depth_mm", ""}, "Filetage": {"pattern1.thread", ""},
		"Profondeur de filetage": {"pattern1.thread_depth_mm", ""}, "Diagonale (pouces)": {"diagonal_mm", "in"}, "Entraxe": {pattern, ""},
		"Fabricante": {"maker", ""}, "Modelo": {"model", ""}, "Peso": {"mass_kg", ""}, "Anchura": {"width_mm", ""}, "Altura": {"height_mm", ""},
		"Profundidad": {"depth_mm", ""}, "Rosca": {"pattern1.thread", ""}, "Diagonal (pulgadas)": {"diagonal_mm", "in"},
		"Produttore": {"maker", ""}, "Modello": {"model", ""}, "Peso senza piede": {"mass_kg", ""}, "Larghezza": {"width_mm", ""},
		"Altezza": {"height_mm", ""}, "Profondità": {"depth_mm", ""}, "Filettatura": {"pattern1.thread", ""},
		"Merk": {"maker", ""}, "Gewicht zonder voet": {"mass_kg", ""}, "Breedte": {"width_mm", ""}, "Hoogte": {"height_mm", ""},
		"Diepte": {"depth_mm", ""}, "Schroefdraad": {"pattern1.thread", ""}, "Schermdiagonaal": {"diagonal_mm", ""},
		"Gewicht ohne Halterung": {"mass_kg", ""}, "Weight without bracket": {"mass_kg", ""}, "Weight (w/o stand, kg)": {"mass_kg", "kg"},
		"Höhe ohne Fuß": {"height_mm", ""}, "Height without stand (mm)": {"height_mm", "mm"}, "Depth excl. wall bracket": {"depth_mm", ""},
		"Weight without bracket with stand": {"mass_with_stand_kg", ""}, "Nombre": {"", ""},
		// What is no figure of the display, and what is of no known unit, is neither in another language.
		"Gewicht brutto": {"", ""}, "Versand Gewicht": {"", ""}, "Zulässiges Gewicht": {"", ""}, "Traglast": {"", ""},
		"Poids maximal": {"", ""},
		"Peso lordo":    {"", ""}, "Höhe mit Fuß": {"", ""}, "Breite Karton": {"", ""}, "Tiefe mit Halterung": {"", ""}, "Einbautiefe": {"", ""},
		"Gewicht (Pfund)": {"mass_kg", "?"}, "Breite (Fuß)": {"width_mm", "?"}, "Largeur (pieds)": {"width_mm", "?"},
		"Peso (libras)": {"mass_kg", "?"}, "Breedte (voet)": {"width_mm", "?"}, "Bracket weight": {"", ""},
	} {
		if c := recognise(Displays, head, nil); c.Field != want[0] || want[0] != "" && c.Unit != want[1] || c.Head != head {
			t.Errorf("%q is %q in %q, want %q", head, c.Field, c.Unit, want)
		}
	}
	// A list as it is kept: what is weighed and measured with its box, its stand or its bracket stands beside what is wanted.
	list, err := os.ReadFile("testdata/ausstellung.csv")
	if err != nil {
		t.Fatal(err)
	}
	_, taken := take(t, "ausstellung.csv", list, &exchange.Contents{})
	if len(taken.Contents.Displays) != 2 {
		t.Fatalf("%d displays are taken: %s", len(taken.Contents.Displays), complaints(taken))
	}
	d := taken.Contents.Displays[0]
	got := fmt.Sprint(d.Maker, d.Model, d.Mass.Value, d.MassWithStand.Known, d.Width.Value, d.Height.Value, d.Depth.Value, d.Patterns[0].Width)
	if got != "TarnLarch 439.8 kg false 965 mm 559 mm 62 mm 200 mm" {
		t.Error(got)
	}
}
