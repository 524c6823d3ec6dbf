package tabular

import (
	"regexp"
	"strings"
)

// spoken are words of heads in German, French, Spanish, Italian and Dutch, by the English one that the vocabularies have
// (practice). A word that means something else in another of these languages is not among them.
var spoken = func() map[string]string {
	out := map[string]string{}
	for english, words := range map[string]string{
		"maker":        "hersteller marke fabrikat fabricant marque fabricante marca produttore costruttore fabrikant merk",
		"model":        "modell modèle modele modelo modello",
		"name":         "bezeichnung benennung nome naam",
		"description":  "beschreibung désignation descripción descrizione denominazione omschrijving",
		"number":       "nummer numéro número numero",
		"article":      "artikel artículo articolo",
		"article no":   "artikelnummer artikelnr",
		"ref":          "référence réf referencia riferimento",
		"code":         "código codice",
		"weight":       "gewicht poids peso",
		"mass":         "masse massa",
		"width":        "breite largeur ancho anchura larghezza breedte",
		"height":       "höhe hoehe hauteur alto altura altezza hoogte",
		"depth":        "tiefe profondeur fondo profundidad profondità profondita diepte",
		"thread":       "gewinde filetage rosca filetto filettatura schroefdraad",
		"thread depth": "gewindetiefe schroefdraaddiepte",
		"diagonal":     "diagonale bildschirmdiagonale bilddiagonale diagonaal schermdiagonaal beelddiagonaal",
		"size":         "größe groesse bildschirmgröße tamaño grootte",
		"pattern":      "lochbild lochabstand lochraster bohrbild entraxe interasse gatenpatroon",
		"recess":       "versenkung vertiefung",
		"without":      "ohne sans sin senza zonder",
		"with":         "mit avec con met",
		"stand":        "standfuß standfuss ständer socle peana piedistallo",
		"gross":        "brutto brut bruto lordo",
		"net":          "netto neto",
		"packed":       "verpackt verpackung emballé emballage embalaje embalado imballo imballato verpakt verpakking",
		"shipping":     "versand transport expédition envío spedizione verzending",
		"box":          "karton carton caja scatola doos",
		"max": "maximal maximale maximales máximo maximo máxima massimo massima maximaal " +
			"zulässig zulässiges zulässige supporté admissible admisible ammissibile toegestaan",
		"min":           "minimal minimale mínimo minimo mínima minima minimaal",
		"rated load":    "traglast tragkraft tragfähigkeit draagvermogen draaglast",
		"load":          "carga carico portata belasting",
		"bracket":       "halterung wandhalterung wandhalter soporte staffa beugel muurbeugel",
		"qty":           "anzahl stückzahl menge quantité quantite cantidad quantità quantita aantal",
		"bolt":          "schraube schrauben tornillo tornillos vite viti schroef schroeven",
		"length":        "länge laenge longueur longitud lunghezza lengte",
		"thickness":     "dicke épaisseur epaisseur espesor spessore dikte",
		"bag":           "beutel sachet bolsa sacchetto zakje",
		"inch":          "zoll pouce pouces pulgada pulgadas pollice pollici duim",
		"kg":            "kilogramm kilogramme kilogrammes kilogramos chilogrammi kilogram",
		"g":             "gramm gramme grammes gramos grammi",
		"mm":            "millimeter millimètre millimètres milímetros millimetri",
		"cm":            "zentimeter centimeter centimètre centimètres centímetros centimetri",
		"without stand": "fußlos",
	} {
		for w := range strings.FieldsSeq(words) {
			out[w] = english
		}
	}
	return out
}()

// afoot is a stand that has the name of a unit: it is one only behind with or without.
var afoot = regexp.MustCompile(`\b(ohne|mit|sans|avec|sin|con|senza|zonder|met) (fuß|fuss|pieds?|pies?|piedi|piede|voet)(\pL*)`)

var letters = regexp.MustCompile(`\pL+`)

// inEnglish says a head, in small letters, with the words that the vocabularies have.
func inEnglish(head string) string {
	head = afoot.ReplaceAllString(head, "$1 standfuß")
	return letters.ReplaceAllStringFunc(head, func(w string) string {
		if english := spoken[w]; english != "" {
			return english
		}
		return w
	})
}
