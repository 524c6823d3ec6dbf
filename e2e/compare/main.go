// Command compare holds the matrix against two things that people use instead:
// a query of a database, and a sheet of a spreadsheet program. All three get
// the same made-up displays and brackets, of a kind that all three can do:
// flat backs, no spacers. The query and the sheet know five rules (pattern,
// thread, load, size and a one-row stack); the matrix goes by every rule. They
// have to agree, pair by pair, on those five.
//
// It is run by hand and needs LibreOffice Calc:
//
//	make compare
package main

import (
	"context"
	"flag"
	"fmt"
	"os"
	"time"

	"nexufix/core/catalog"
	"nexufix/core/fit"
)

func main() {
	displays := flag.Int("displays", 2000, "how many displays")
	brackets := flag.Int("brackets", 60, "how many brackets")
	sheet := flag.Int("sheet", 300, "how many of the displays the spreadsheet gets")
	flag.Parse()
	if err := run(*displays, *brackets, *sheet); err != nil {
		fmt.Fprintln(os.Stderr, "compare:", err)
		os.Exit(1)
	}
}

// timed is one way to judge pairs, and what it took.
type timed struct {
	name  string
	pairs int
	took  time.Duration
	takes [][]bool // by display and bracket; nil when there are none
}

func run(displays, brackets, sheet int) error {
	s := invent(displays, brackets)
	matrix, err := byMatrix(s)
	if err != nil {
		return err
	}
	query, err := byQuery(s)
	if err != nil {
		return err
	}
	small := *s
	small.displays = s.displays[:min(sheet, displays)]
	calc, opening, err := bySheet(&small)
	if err != nil {
		return err
	}
	want := byFiveRules(s)
	for _, t := range []timed{query, calc} {
		if err := agree(s, t, want); err != nil {
			return err
		}
	}
	fmt.Printf("%-52s %10s %12s %8s\n", "", "pairs", "µs a pair", "ratio")
	per := func(t timed) float64 { return float64(t.took.Microseconds()) / float64(t.pairs) }
	for _, t := range []timed{matrix, query, calc, opening} {
		fmt.Printf("%-52s %10d %12.2f %8.1f\n", t.name, t.pairs, per(t), per(t)/per(matrix))
	}
	return nil
}

func byMatrix(s *scenario) (timed, error) {
	t := timed{name: "matrix, every rule", pairs: len(s.displays) * len(s.brackets)}
	start := time.Now()
	_, _, err := new(fit.Grid).Matrix(context.Background(), s.displays, s.brackets, catalog.DefaultPolicy(),
		func(fit.Row) error { return nil })
	t.took = time.Since(start)
	return t, err
}

// byFiveRules is what the product says of the five rules: none fails, and the
// bag alone has a stack.
func byFiveRules(s *scenario) [][]bool {
	var out [][]bool
	for _, d := range s.displays {
		var row []bool
		for _, b := range s.brackets {
			p := fit.Judge(d, b, 0, fit.Extra{}, catalog.DefaultPolicy())
			takes := p.Stack != nil && len(p.Stack.Supplied) == 0
			for _, rule := range []string{"pattern", "thread", "load", "size", "arms"} {
				takes = takes && p.Check(fit.RuleID(rule)).Status != fit.Fail
			}
			row = append(row, takes)
		}
		out = append(out, row)
	}
	return out
}

func agree(s *scenario, t timed, want [][]bool) error {
	taken := 0
	for i, row := range t.takes {
		for j, takes := range row {
			if takes != want[i][j] {
				return fmt.Errorf("%s: %s on %s: %v, the product says %v", t.name, s.displays[i].ID, s.brackets[j].ID, takes, want[i][j])
			}
			if takes {
				taken++
			}
		}
	}
	fmt.Printf("%s: agrees on %d pairs, of which %d are taken\n", t.name, len(t.takes)*len(s.brackets), taken)
	return nil
}
