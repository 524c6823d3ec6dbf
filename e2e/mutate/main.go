// Command mutate changes the program by a hair, in one place at a time, and looks whether the tests of the changed package see it:
// comparisons are turned or moved by their boundary, numbers changed by a tenth, conditions negated, statuses taken for the next. It is
// run by hand: make mutate. What survives is a limit that nothing holds, or a change that changes nothing; which, is for a person to say:
// equivalent.txt has those that change nothing, each with the reason.
//
// All mutants of a package are compiled into one test binary, which takes the one that an environment variable names; each is tried with
// the tests that reach it, the quick ones first. What cannot be chosen when the program runs (a constant) is compiled by itself.
package main

import (
	"cmp"
	"errors"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"sync"
)

func main() {
	sample := flag.Int("sample", 0, "how many mutants of each package, drawn by lot; 0: all")
	seed := flag.Uint64("seed", 1, "of the lot")
	workers := flag.Int("workers", runtime.GOMAXPROCS(0), "how many are tried at once")
	only := flag.String("only", "", "only what is in files of this pattern, as limit*.go")
	flag.Parse()
	if err := run(flag.Args(), choice{*sample, *seed, *only}, *workers); err != nil {
		fmt.Fprintln(os.Stderr, "mutate:", err)
		os.Exit(1)
	}
}

// choice is which mutants of a package are tried.
type choice struct {
	sample int
	seed   uint64
	only   string
}

// mutant is a change of one place of a file.
type mutant struct {
	id   int // from 1, of its package
	file string
	fn   string // the function it is in; "" for what is outside of them
	text string // its line
	line int
	was  string
	is   string
	slow bool // it cannot be chosen when the program runs
	tie  bool // it changes nothing: what is taken at a tie is the same
	from int  // bytes that are replaced, of one that is compiled by itself
	to   int
	what outcome
}

type outcome int

const (
	killed outcome = iota
	survived
	unreached // survived, as no test comes there
	known     // survived, and is on the list of those that change nothing
	invalid   // it does not compile
)

func run(dirs []string, c choice, workers int) error {
	if len(dirs) == 0 {
		return errors.New("which packages? their folders, as core/place")
	}
	for _, dir := range dirs {
		tmp, err := os.MkdirTemp("", "nexufix-mutate-")
		if err != nil {
			return err
		}
		all, err := tryAll(dir, tmp, c, workers)
		os.RemoveAll(tmp)
		if err != nil {
			return fmt.Errorf("%s: %w", dir, err)
		}
		report(dir, all)
	}
	return nil
}

// tryAll tries the chosen mutants of a package.
func tryAll(dir, tmp string, c choice, workers int) ([]*mutant, error) {
	p, err := load(dir)
	if err != nil {
		return nil, err
	}
	b, err := p.build(tmp)
	if err != nil || b == nil {
		return nil, err
	}
	chosen := slices.DeleteFunc(slices.Clone(p.mutants), func(m *mutant) bool {
		fits, _ := filepath.Match(c.only, filepath.Base(m.file))
		return m.tie || c.only != "" && !fits
	})
	if c.sample > 0 && len(chosen) > c.sample {
		lot := rand.New(rand.NewPCG(c.seed, 0))
		lot.Shuffle(len(chosen), func(i, j int) { chosen[i], chosen[j] = chosen[j], chosen[i] })
		chosen = chosen[:c.sample]
	}
	var (
		next  = make(chan *mutant)
		group sync.WaitGroup
	)
	for w := range workers {
		group.Go(func() {
			for m := range next {
				m.what = b.try(m, filepath.Join(tmp, strconv.Itoa(w)))
			}
		})
	}
	for i, m := range chosen {
		if i%100 == 0 {
			fmt.Fprintf(os.Stderr, "%s: %d of %d\n", dir, i, len(chosen))
		}
		next <- m
	}
	close(next)
	group.Wait()
	return chosen, nil
}

func report(dir string, all []*mutant) {
	n, list := map[outcome]int{}, readEquivalents()
	for _, m := range all {
		if m.what != killed && m.what != invalid && slices.ContainsFunc(list, func(e equivalent) bool { return e.covers(dir, m) }) {
			m.what = known
		}
		n[m.what]++
	}
	tried := len(all) - n[invalid] - n[known]
	fmt.Printf("%s: %d of %d killed (%.1f %%), %d not reached; besides them %d change nothing, %d do not compile\n", dir, n[killed], tried,
		100*float64(n[killed])/float64(max(1, tried)), n[unreached], n[known], n[invalid])
	slices.SortFunc(all, func(a, b *mutant) int {
		return cmp.Or(cmp.Compare(a.file, b.file), cmp.Compare(a.line, b.line), cmp.Compare(a.id, b.id))
	})
	for _, m := range all {
		switch m.what {
		case survived:
			fmt.Printf("  %s:%d %s: %s -> %s\t%s\n", filepath.Join(dir, m.file), m.line, m.fn, m.was, m.is, m.text)
		case unreached:
			fmt.Printf("  %s:%d %s: %s -> %s (not reached)\t%s\n", filepath.Join(dir, m.file), m.line, m.fn, m.was, m.is, m.text)
		}
	}
}
