package tabular

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/xuri/excelize/v2"

	"nexufix/core/catalog"
	"nexufix/demo"
	"nexufix/exchange"
)

// book is a workbook of sheets by name, in order.
func book(t *testing.T, names []string, sheets map[string][][]any) []byte {
	t.Helper()
	f := excelize.NewFile()
	for i, name := range names {
		if i == 0 {
			if err := f.SetSheetName("Sheet1", name); err != nil {
				t.Fatal(err)
			}
		} else if _, err := f.NewSheet(name); err != nil {
			t.Fatal(err)
		}
		for n, row := range sheets[name] {
			if err := f.SetSheetRow(name, fmt.Sprint("A", n+1), &row); err != nil {
				t.Fatal(err)
			}
		}
	}
	b, err := f.WriteToBuffer()
	if err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// TestTwoKitSheets: a bracket's parts on two sheets are all in its box, also of a
// bracket that is in the same file and is called by its name.
func TestTwoKitSheets(t *testing.T) {
	have, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	one, two := have.Brackets[0], have.Brackets[1]
	one.Assembly, two.Assembly = nil, nil // they name parts that these lists have not
	head := []any{"bracket", "kind", "thread", "length_mm", "count"}
	kits := map[string][][]any{
		"Bolts": {head, {one.ID, "bolt", "M6", 12, 4}, {one.ID, "bolt", "M8", 20, 4}},
		"More":  {head, {one.Name, "bolt", "M6", 25, 4}, {"Corbel 12", "bolt", "M4", 12, 4}},
		"Rails": {{"id", "name", "kind", "rated_load_kg"}, {two.ID, "Corbel 12", two.Kind, 12}},
	}
	_, taken := take(t, "two.xlsx", book(t, []string{"Bolts", "More", "Rails"}, kits), have)
	if taken.Contents == nil {
		t.Fatalf("nothing was taken: %s", complaints(taken))
	}
	counts := map[string]int{}
	for _, b := range taken.Contents.Brackets {
		counts[b.ID] = len(b.Kit)
	}
	if counts[one.ID] != 3 || counts[two.ID] != 1 {
		t.Errorf("the boxes have %v parts", counts)
	}
	// What is wrong with a box as a whole is told in a row, never in none.
	rows := [][]any{head}
	for range 300 {
		rows = append(rows, []any{one.ID, "bolt", "M6", 12, 4})
	}
	_, taken = take(t, "many.xlsx", book(t, []string{"Bolts", "More"}, map[string][][]any{"Bolts": rows, "More": kits["Bolts"]}), have)
	if taken.Contents == nil && complaints(taken) == "" {
		t.Error("a box that is too full is refused without a word")
	}
}

// TestNamesOfEveryScript: each display has an id of its own in Latin letters, and
// none replaces another because their names sound or look alike.
func TestNamesOfEveryScript(t *testing.T) {
	have := &exchange.Contents{Displays: []*catalog.Display{
		{ID: "veira-43", Maker: "Veira", Model: "43"},
		{ID: "slab-43", Maker: "Veyra", Model: "Slab Forty-Three"},
		{ID: "42", Maker: "Orrin", Model: "Counter 42"},
	}}
	names := []string{
		"Вейра 43", "Орион 43", "Вейра 43+", // Cyrillic; a plus tells models apart
		"凸版 43", "サイン板", "화면 50", // CJK
		"شاشة 12", "पटल", "पाटल", // Arabic; Devanagari that differs in a vowel's sign
		"Slab 43", // is the id of another display, but not its name
		"★★", "♦♦",
		"Écran 43", "Ecran 43", "E\u0301cran 44",
	}
	rows := "model,width_mm,height_mm\n"
	for i, n := range names {
		rows += fmt.Sprintf("%s,%d,500\n", n, 900+i)
	}
	_, taken := take(t, "names.csv", []byte(rows), have)
	if taken.Contents == nil {
		t.Fatalf("nothing was taken: %s", complaints(taken))
	}
	latin := regexp.MustCompile(`^[a-z0-9]+(-[a-z0-9]+)*$`)
	var ids []string
	for i := range taken.Rows {
		r := &taken.Rows[i]
		if !latin.MatchString(r.ID) || slices.Contains(ids, r.ID) {
			t.Errorf("%s has the id %q", r.Name, r.ID)
		}
		ids = append(ids, r.ID)
		// An id that somebody typed for a name is that display; see below.
		if want := New; r.Outcome != want && r.Name != "Slab 43" {
			t.Errorf("%s is %s as %s", r.Name, r.Outcome, r.ID)
		}
	}
	if len(ids) != len(names) || len(taken.Contents.Displays) != len(names) {
		t.Fatalf("%d of %d names were taken, as %v", len(taken.Contents.Displays), len(names), ids)
	}
	if ids[0] == "veira-43" || !strings.HasPrefix(ids[0], "ve") {
		t.Errorf("Вейра 43 became %s", ids[0])
	}
	// Previewed again, every one is found by its name.
	_, again := take(t, "names.csv", []byte(rows), taken.Contents)
	for i := range again.Rows {
		if r := &again.Rows[i]; r.Outcome != Same || r.ID != ids[i] {
			t.Errorf("%s is %s as %s, was %s", r.Name, r.Outcome, r.ID, ids[i])
		}
	}
	// Two rows of one name are still refused.
	_, twice := take(t, "twice.csv", []byte("model,width_mm\nВейра 43,900\nВейра 43,901\n"), have)
	if twice.Contents != nil || !strings.Contains(complaints(twice), "rows 2 and 3 are both") {
		t.Errorf("two rows of one name: %s", complaints(twice))
	}
}
