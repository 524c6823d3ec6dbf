package main

import (
	"encoding/csv"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"github.com/xuri/excelize/v2"

	"nexufix/core/catalog"
	"nexufix/core/fastener"
)

// Columns of the sheets: five for a display, then for a bracket its limits,
// four slots (start and end), a washer's thickness and count by thread, and the
// threads and then the lengths of up to forty bolts.
const (
	slots = 4
	bolts = 40
)

// bySheet has LibreOffice Calc recalculate a workbook without a window. The
// second result is what it takes to open and convert the same without the
// pairs.
func bySheet(s *scenario) (calc, opening timed, err error) {
	pairs := len(s.displays) * len(s.brackets)
	calc = timed{name: "LibreOffice Calc, five rules, opening included", pairs: pairs}
	opening = timed{name: "LibreOffice Calc, opening alone", pairs: pairs}
	dir, err := os.MkdirTemp("", "compare")
	if err != nil {
		return calc, opening, err
	}
	defer os.RemoveAll(dir)
	if opening.took, err = convert(s, dir, "opening", false); err != nil {
		return calc, opening, err
	}
	if calc.took, err = convert(s, dir, "pairs", true); err != nil {
		return calc, opening, err
	}
	file, err := os.Open(filepath.Join(dir, "pairs.csv"))
	if err != nil {
		return calc, opening, err
	}
	defer file.Close()
	lines, err := csv.NewReader(file).ReadAll()
	if err != nil {
		return calc, opening, err
	}
	for _, line := range lines[:len(s.displays)] {
		var row []bool
		for _, cell := range line[:len(s.brackets)] {
			if cell != "0" && cell != "1" {
				return calc, opening, fmt.Errorf("the sheet says %q", cell)
			}
			row = append(row, cell == "1")
		}
		calc.takes = append(calc.takes, row)
	}
	return calc, opening, nil
}

func convert(s *scenario, dir, name string, withPairs bool) (time.Duration, error) {
	path := filepath.Join(dir, name+".xlsx")
	if err := workbook(s, path, withPairs); err != nil {
		return 0, err
	}
	cmd := exec.Command("soffice", "-env:UserInstallation=file://"+dir+"/profile", "--headless", "--convert-to", "csv", "--outdir", dir, path)
	start := time.Now()
	if out, err := cmd.CombinedOutput(); err != nil {
		return 0, fmt.Errorf("soffice (Debian package libreoffice-calc): %w: %s", err, out)
	}
	return time.Since(start), nil
}

func workbook(s *scenario, path string, withPairs bool) error {
	book := excelize.NewFile()
	defer book.Close()
	for _, sheet := range []string{"Displays", "Brackets"} {
		if _, err := book.NewSheet(sheet); err != nil {
			return err
		}
	}
	for i, d := range s.displays {
		p := d.Patterns[0]
		row := []any{p.Width.MM(), p.Height.MM(), int(p.Thread), p.Holes[0].ThreadDepth.Length.MM(), float64(d.Mass.Value) / 1e9,
			d.Diagonal.Value.MM(), (p.Thread.Standard().Nominal).MM()}
		if err := book.SetSheetRow("Displays", fmt.Sprintf("A%d", i+1), &row); err != nil {
			return err
		}
	}
	for j, b := range s.brackets {
		row := bracketRow(b)
		if err := book.SetSheetRow("Brackets", fmt.Sprintf("A%d", j+1), &row); err != nil {
			return err
		}
	}
	if withPairs {
		for i := range s.displays {
			for j := range s.brackets {
				cell, err := excelize.CoordinatesToCellName(j+1, i+1)
				if err != nil {
					return err
				}
				if err := book.SetCellFormula("Sheet1", cell, formula(i+1, j+1)); err != nil {
					return err
				}
			}
		}
	}
	return book.SaveAs(path)
}

func bracketRow(b *catalog.Bracket) []any {
	i := b.Interface
	threads := ""
	for _, t := range b.Threads {
		threads += fmt.Sprint(int(t))
	}
	row := []any{i.WidthMin.Value.MM(), min(i.WidthMax.Value.MM(), (i.RailWidth.Value - i.ArmWidth).MM()), "t" + threads,
		float64(b.RatedLoad.Value) / 1e9, b.DiagonalMax.Value.MM(), b.PlateThickness.MM()}
	for n := range slots {
		if n < len(i.Slots) {
			row = append(row, i.Slots[n].Min.MM(), i.Slots[n].Max.MM())
		} else {
			row = append(row, 1e9, -1e9)
		}
	}
	for _, t := range fastener.Threads {
		thick, count := 0.0, 0
		for _, x := range b.Kit {
			if x.Kind == "washer" && x.Thread == t && x.Outer.MM() >= b.Slot().MM()+3 {
				thick, count = x.Thickness.MM(), x.Count
			}
		}
		row = append(row, thick, count)
	}
	of, lengths := make([]any, bolts), make([]any, bolts)
	n := 0
	for _, x := range b.Kit {
		if x.Kind == "bolt" {
			of[n], lengths[n] = int(x.Thread), x.Length.MM()
			n++
		}
	}
	for ; n < bolts; n++ {
		of[n], lengths[n] = 0, 0
	}
	return append(append(row, of...), lengths...)
}

// formula is one pair: 1 where the bracket takes the display.
func formula(display, bracket int) string {
	d := func(column string) string { return fmt.Sprintf("Displays!$%s%d", column, display) }
	b := func(column int) string {
		name, _ := excelize.ColumnNumberToName(column)
		return fmt.Sprintf("Brackets!$%s$%d", name, bracket)
	}
	var hangs, holds []string
	for p := range slots {
		for q := range slots {
			hangs = append(hangs, fmt.Sprintf("AND(%s<=%s-%s,%s>=%s-%s)", b(7+2*p), b(8+2*q), d("B"), b(8+2*p), b(7+2*q), d("B")))
		}
	}
	washers, first := 7+2*slots, 7+2*slots+2*len(fastener.Threads)
	thick := fmt.Sprintf("CHOOSE(%s,%s,%s,%s,%s)", d("C"), b(washers), b(washers+2), b(washers+4), b(washers+6))
	count := fmt.Sprintf("CHOOSE(%s,%s,%s,%s,%s)", d("C"), b(washers+1), b(washers+3), b(washers+5), b(washers+7))
	threads := b(first) + ":" + b(first+bolts-1)
	lengths := b(first+bolts) + ":" + b(first+2*bolts-1)
	for n := 1; n <= 3; n++ {
		entry := fmt.Sprintf("(%s-%d*%s-%s)", lengths, n, thick, b(6))
		// Rounding hides the noise of fractions.
		holds = append(holds, fmt.Sprintf("AND(%s>=%d,SUMPRODUCT((%s=%s)*(ROUND(%s,6)>=%s)*(ROUND(%s,6)<=%s-1))>0)",
			count, 4*n, threads, d("C"), entry, d("G"), entry, d("D")))
	}
	return fmt.Sprintf(`IF(AND(%s>=%s,%s<=%s,%s<=%s,%s<=%s,ISNUMBER(SEARCH(%s,%s)),OR(%s),OR(%s)),1,0)`,
		d("A"), b(1), d("A"), b(2), d("E"), b(4), d("F"), b(5), d("C"), b(3), strings.Join(hangs, ","), strings.Join(holds, ","))
}
