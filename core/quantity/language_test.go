package quantity

import (
	"slices"
	"testing"
)

// TestLanguage: sentences are translated by their format, figures take the language's sign and may change
// places, words in them and lists of words are translated, names and what is translated already stay.
func TestLanguage(t *testing.T) {
	var missed []string
	l := &Language{Code: "de", Comma: true, Texts: map[string]string{
		"Drill %v holes, %v deep.": "%[2]v tief: %[1]v Löcher bohren.", "Take the %v.": "%v nehmen.", "washer M%v, %v": "Scheibe M%v, %v",
		"washer M%v": "Scheibe M%v", "top left": "oben links", " and ": " und ", "%v %% of it": "%v %% davon", "the arm": "der Arm",
	}, Missing: func(english string, _ bool) { missed = append(missed, english) }}
	for _, c := range []struct {
		say  Phrase
		want string
	}{
		{Say("Drill %v holes, %v deep.", 4, MM(71)+MM(1)/2), "71,5 mm tief: 4 Löcher bohren."},
		{Say("Take the %v.", "washer M6, 1.6"), "Scheibe M6, 1,6 nehmen."},
		{Say("Take the %v.", "Washer M6"), "Scheibe M6 nehmen."},
		{Say("Take the %v.", "top left, washer M8"), "oben links, Scheibe M8 nehmen."},
		{Say("Take the %v.", "Velmora Pane 4.9"), "Velmora Pane 4.9 nehmen."},
		{Say("%v", And(Names("T1", "T2", "top left")...)), "T1, T2 und oben links"},
		{Say("%v %% of it", "3.5"), "3,5 % davon"},
		{Say("%v", l.Said("washer M6")), "washer M6"},
		{Say("Take the %v.", Say("the arm")).For(l), "der Arm nehmen."},
		{Say("nobody translated %v", MM(3)/2), "nobody translated 1,5 mm"},
	} {
		if got := c.say.For(l).In(Metric); got != c.want {
			t.Errorf("%q, wanted %q", got, c.want)
		}
	}
	if !slices.Contains(missed, "nobody translated %v") ||
		!slices.Contains(missed, "Velmora Pane 4.9") || slices.Contains(missed, "washer M6") {
		t.Errorf("told of %q", missed)
	}
	if got := Say("Drill %v holes, %v deep.", 4, MM(5)).For(nil).In(Metric); got != "Drill 4 holes, 5 mm deep." {
		t.Errorf("English is written as it is said, not %q", got)
	}
	lines := Say("Drill %v holes, %v deep.", 4, MM(71)+MM(1)/2).For(l).Wrap(func(line string) bool { return len(line) < 16 })
	if len(lines) < 2 || lines[0].For(l).In(Metric) != "71,5 mm tief: 4" {
		t.Errorf("wrapped is %v", lines)
	}
	more := l.With(map[string]string{"the arm": "der lange Arm"})
	if more.Words("the arm") != "der lange Arm" || l.Words("the arm") != "der Arm" {
		t.Error("more texts come first, and change nothing of the language")
	}
}
