package catalog

import (
	"maps"
	"testing"
)

// TestTranslated: a bracket's own texts are looked up as a message catalogue has them, with the figures of
// the text itself; one of a text that is there no more is not among what is lacking, nor printed.
func TestTranslated(t *testing.T) {
	b := Bracket{Assembly: []AssemblyStep{{ID: "one", Title: "Turn it", Text: "Turn it {turns} until {gap} is left: 100 %."}},
		Translations: []Translation{
			{"de", "Turn it {turns} until {gap} is left: 100 %.", "Bis {gap} bleibt, {turns} drehen: 100 %."},
			{"de", "Push it.", "Drücken."}, {"fr", "Turn it", "Tournez"}}}
	want := map[string]string{"Turn it %v until %v is left: 100 %%.": "Bis %[2]v bleibt, %[1]v drehen: 100 %%.", "Push it.": "Drücken."}
	if got := b.Translated("de"); !maps.Equal(got, want) {
		t.Errorf("%q, wanted %q", got, want)
	}
	if got := b.Untranslated("de"); len(got) != 1 || got[0] != "Turn it" {
		t.Errorf("lacking are %q", got)
	}
}
