package main

import (
	"bytes"
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
)

//go:embed chosen.go.txt
var chooser string

// binary is the tests of a package with all its mutants in them.
type binary struct {
	*source
	path  string
	tests []test
}

// test is one of them, how long it takes and which mutants it reaches; the long form takes what -short leaves out.
type test struct {
	name string
	took time.Duration
	seen []byte
}

// quick is how long a test may take to be tried in the first turn.
const quick = 300 * time.Millisecond

// build compiles the tests with all mutants; what does not compile so is compiled by itself, when it is tried. There is none without tests.
func (s *source) build(tmp string) (*binary, error) {
	b := &binary{source: s, path: filepath.Join(tmp, "all.test")}
	for range 10 {
		out, err := s.compile(tmp, b.path, s.chosen())
		if err == nil {
			break
		}
		if !s.leaveOut(out) {
			return nil, fmt.Errorf("%s: %w", out, err)
		}
	}
	if _, err := os.Stat(b.path); err != nil {
		return nil, nil
	}
	names, err := b.run(tmp, 0, "", time.Minute, "-test.list", "^(Test|Fuzz|Example)")
	if err != nil {
		return nil, err
	}
	for name := range strings.FieldsSeq(names) {
		t := test{name: name}
		seen := filepath.Join(tmp, "seen")
		if err := os.WriteFile(seen, make([]byte, len(s.mutants)+2), 0o600); err != nil {
			return nil, err
		}
		from := time.Now()
		if out, err := b.run(tmp, 0, seen, 20*time.Minute, "-test.run", "^"+name+"$", "-test.short"); err != nil {
			return nil, fmt.Errorf("%s without any mutant: %s", name, out)
		}
		t.took = time.Since(from)
		if t.seen, err = os.ReadFile(seen); err != nil {
			return nil, err
		}
		b.tests = append(b.tests, t)
	}
	return b, nil
}

// chosen are the files with every mutant that can be chosen, and the file that chooses.
func (s *source) chosen() map[string][]byte {
	out := map[string][]byte{}
	for _, f := range s.files {
		out[f.path] = f.edited()
	}
	text := strings.NewReplacer("PACKAGE", s.name, "MANY", strconv.Itoa(len(s.mutants)+2)).Replace(chooser)
	whole, _ := filepath.Abs(filepath.Join(s.dir, "zz_mutants.go"))
	out[whole] = []byte(text)
	return out
}

// edited is a file with the edits of its mutants, line by line as it was.
func (f *file) edited() []byte {
	edits := slices.DeleteFunc(slices.Clone(f.edits), func(e edit) bool { return e.of != nil && e.of.slow })
	all := slices.Clone(edits)
	edits = slices.DeleteFunc(edits, func(e edit) bool { // an import that nothing uses
		return e.of == nil && !slices.ContainsFunc(all, func(x edit) bool { return x.of != nil && strings.Contains(x.text, e.name+".") })
	})
	slices.SortStableFunc(edits, func(a, b edit) int {
		if a.from != b.from {
			return a.from - b.from
		}
		if a.ends != b.ends {
			if a.ends {
				return -1
			}
			return 1
		}
		if a.ends {
			return b.depth - a.depth
		}
		return a.depth - b.depth
	})
	var out bytes.Buffer
	at := 0
	for _, e := range edits {
		out.Write(f.raw[at:e.from])
		out.WriteString(e.text)
		at = e.to
	}
	out.Write(f.raw[at:])
	return out.Bytes()
}

var complaint = regexp.MustCompile(`(?m)^([^\s:]+\.go):(\d+):`)

// leaveOut takes mutants out of the whole whose lines the compiler complains of, and says whether there were any.
func (s *source) leaveOut(complaints string) bool {
	any := false
	for _, c := range complaint.FindAllStringSubmatch(complaints, -1) {
		line, _ := strconv.Atoi(c[2])
		for _, m := range s.mutants {
			if m.file == filepath.Base(c[1]) && m.line == line && !m.slow {
				m.slow, any = true, true
			}
		}
	}
	return any
}

// compile makes the test binary with other files in the place of the package's.
func (s *source) compile(tmp, to string, files map[string][]byte) (string, error) {
	if err := os.MkdirAll(tmp, 0o700); err != nil {
		return "", err
	}
	replace := map[string]string{}
	for path, raw := range files {
		replace[path] = filepath.Join(tmp, filepath.Base(path))
		if err := os.WriteFile(replace[path], raw, 0o600); err != nil {
			return "", err
		}
	}
	raw, err := json.Marshal(map[string]any{"Replace": replace})
	if err != nil {
		return "", err
	}
	overlay := filepath.Join(tmp, "overlay.json")
	if err := os.WriteFile(overlay, raw, 0o600); err != nil {
		return "", err
	}
	out, err := exec.Command("go", "test", "-c", "-vet=off", "-gcflags=-e", "-overlay", overlay, "-o", to, "./"+s.dir).CombinedOutput()
	return string(out), err
}

// try runs the tests that reach a mutant: the quick ones, then the others, then all in their long form.
func (b *binary) try(m *mutant, tmp string) outcome {
	if m.slow {
		return b.trySlow(m, tmp)
	}
	var fast, slow []string
	var took time.Duration
	for _, t := range b.tests {
		switch {
		case t.seen[m.id] == 0:
			continue
		case t.took < quick:
			fast = append(fast, t.name)
		default:
			slow = append(slow, t.name)
		}
		took += t.took
	}
	if len(fast)+len(slow) == 0 {
		return unreached
	}
	longest := 4*took + 5*time.Second
	for _, names := range [][]string{fast, slow} {
		if len(names) == 0 {
			continue
		}
		if _, err := b.run(tmp, m.id, "", longest, "-test.run", "^("+strings.Join(names, "|")+")$", "-test.short", "-test.failfast"); err != nil {
			return killed
		}
	}
	all := "^(" + strings.Join(slices.Concat(fast, slow), "|") + ")$"
	if _, err := b.run(tmp, m.id, "", 10*longest, "-test.run", all, "-test.failfast"); err != nil {
		return killed
	}
	return survived
}

// trySlow compiles a mutant by itself, and runs all tests.
func (b *binary) trySlow(m *mutant, tmp string) outcome {
	i := slices.IndexFunc(b.files, func(f *file) bool { return filepath.Base(f.path) == m.file })
	f := b.files[i]
	own := &binary{source: b.source, path: filepath.Join(tmp, "one.test")}
	if _, err := b.compile(tmp, own.path, map[string][]byte{f.path: slices.Concat(f.raw[:m.from], []byte(m.is), f.raw[m.to:])}); err != nil {
		return invalid
	}
	for _, flags := range [][]string{{"-test.short", "-test.failfast"}, {"-test.failfast"}} {
		if _, err := own.run(tmp, 0, "", 10*time.Minute, flags...); err != nil {
			return killed
		}
	}
	return survived
}

// run runs the tests with one mutant chosen, 0: none, in the package's folder.
func (b *binary) run(tmp string, chosen int, seen string, longest time.Duration, flags ...string) (string, error) {
	ctx, stop := context.WithTimeout(context.Background(), longest)
	defer stop()
	path, err := filepath.Abs(b.path)
	c := exec.CommandContext(ctx, path, flags...)
	c.Dir = b.dir
	c.Env = append(os.Environ(), "NEXUFIX_MUTANT="+strconv.Itoa(chosen), "NEXUFIX_MUTANT_SEEN="+seen)
	out, ran := c.CombinedOutput()
	return string(out), errors.Join(err, ran)
}
