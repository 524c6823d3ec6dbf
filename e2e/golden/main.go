// Command golden writes what the program answers, over the demo, over the testdata
// and over documents made at random from the demo, into a folder: the command line's
// results and the server's. Run before a change of the layout and after it, the two
// folders are the same, byte for byte:
//
//	go run ./e2e/golden -program OLD -out /tmp/before
//	go run ./e2e/golden -program NEW -out /tmp/after && diff -r /tmp/before /tmp/after
package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"nexufix/e2e/drive"
)

func main() {
	program := flag.String("program", "bin/nexufix", "the program to ask")
	out := flag.String("out", "", "the folder to write into")
	count := flag.Int("count", 500, "how many documents to make")
	flag.Parse()
	if *out == "" {
		fmt.Fprintln(os.Stderr, "golden: -out is missing")
		os.Exit(2)
	}
	if err := run(*program, *out, *count); err != nil {
		fmt.Fprintln(os.Stderr, "golden:", err)
		os.Exit(1)
	}
}

// document is the part of the exchange format that is taken apart here.
type document struct {
	Format   string           `json:"format"`
	Displays []map[string]any `json:"displays"`
	Brackets []map[string]any `json:"brackets"`
	Jobs     []map[string]any `json:"jobs,omitempty"`
}

func run(program, out string, count int) error {
	program, err := filepath.Abs(program)
	if err != nil {
		return err
	}
	data, err := os.MkdirTemp("", "golden")
	if err != nil {
		return err
	}
	defer os.RemoveAll(data)
	demo, err := ofServer(program, data, filepath.Join(out, "server"))
	if err != nil {
		return err
	}
	file := filepath.Join(data, "demo.json")
	if err := os.WriteFile(file, demo, 0o600); err != nil {
		return err
	}
	var all document
	if err := json.Unmarshal(demo, &all); err != nil {
		return err
	}
	asks := []ask{{file, filepath.Join(out, "demo"), all.Jobs}}
	given, err := filepath.Glob("exchange/testdata/adversarial/*/*.json")
	if err != nil || len(given) == 0 {
		return fmt.Errorf("the testdata is not here; run it at the root of the tree: %w", err)
	}
	for _, file := range given {
		raw, err := os.ReadFile(file)
		if err != nil {
			return err
		}
		var d document
		_ = json.Unmarshal(raw, &d) // some are there to be refused
		asks = append(asks, ask{file, filepath.Join(out, strings.TrimPrefix(file, "exchange/testdata/")), d.Jobs})
	}
	for n := range count {
		d, err := invent(&all, uint64(n))
		if err != nil {
			return err
		}
		raw, err := json.MarshalIndent(d, "", " ")
		if err != nil {
			return err
		}
		file := filepath.Join(data, fmt.Sprintf("made-%03d.json", n))
		if err := os.WriteFile(file, raw, 0o600); err != nil {
			return err
		}
		asks = append(asks, ask{file, filepath.Join(out, fmt.Sprintf("made/%03d", n)), d.Jobs})
	}
	return inParallel(asks, func(a ask) error { return a.run(program) })
}

// ask is a document, where its answers go, and its jobs.
type ask struct {
	in, out string
	jobs    []map[string]any
}

func inParallel(asks []ask, do func(ask) error) error {
	errs := make([]error, len(asks))
	next := make(chan int)
	var workers sync.WaitGroup
	for range 2 {
		workers.Go(func() {
			for n := range next {
				errs[n] = do(asks[n])
			}
		})
	}
	for n := range asks {
		next <- n
	}
	close(next)
	workers.Wait()
	return errors.Join(errs...)
}

// run asks the command line everything about a document.
func (a ask) run(program string) error {
	if err := os.MkdirAll(a.out, 0o750); err != nil {
		return err
	}
	call := func(name string, args ...string) error {
		var said, complained bytes.Buffer
		c := exec.Command(program, args...)
		c.Stdout, c.Stderr = &said, &complained
		err := c.Run()
		var exit *exec.ExitError
		if err != nil && !errors.As(err, &exit) {
			return err
		}
		text := fmt.Sprintf("exit %d\n%s\n%s", c.ProcessState.ExitCode(), complained.String(), said.String())
		return os.WriteFile(filepath.Join(a.out, name), []byte(strings.ReplaceAll(text, a.in, "IN")), 0o600)
	}
	err := errors.Join(call("match", "match", "--in", a.in), call("place", "place", "--in", a.in), call("probe", "probe", "--in", a.in))
	for _, j := range a.jobs {
		id := fmt.Sprint(j["id"])
		for name, args := range map[string][]string{
			"template.svg": {"template"}, "template.dxf": {"template"}, "card.svg": {"template",
				"--card"}, "steps.json": {"steps"}, "steps.md": {"steps"},
		} {
			to := filepath.Join(a.out, id+"-"+name)
			err = errors.Join(err, call(id+"-"+name+".said", append(args, "--in", a.in, "--job", id, "--out", to)...))
		}
	}
	return err
}

// invent makes a document of one display, one bracket and one job of the demo, some
// of whose figures are others, or missing.
func invent(all *document, seed uint64) (*document, error) {
	r := rand.New(rand.NewPCG(seed, 12))
	job := all.Jobs[r.IntN(len(all.Jobs))]
	d := &document{Format: all.Format, Displays: []map[string]any{all.Displays[r.IntN(len(all.Displays))]},
		Brackets: []map[string]any{all.Brackets[r.IntN(len(all.Brackets))]}, Jobs: []map[string]any{job}}
	raw, err := json.Marshal(d)
	if err != nil {
		return nil, err
	}
	d = &document{}
	if err := json.Unmarshal(raw, d); err != nil {
		return nil, err
	}
	d.Jobs[0]["display"], d.Jobs[0]["bracket"] = d.Displays[0]["id"], d.Brackets[0]["id"]
	var figures []func()
	var walk func(any)
	walk = func(v any) {
		switch v := v.(type) {
		case map[string]any:
			names := []string{}
			for name := range v {
				names = append(names, name)
			}
			slices.Sort(names)
			for _, name := range names {
				if x, is := v[name].(float64); is {
					figures = append(figures, func() {
						if v[name] = float64(int(x * []float64{0.5, 0.8, 0.95, 1.05, 1.3, 2}[r.IntN(6)])); r.IntN(4) == 0 {
							delete(v, name)
						}
					})
				}
				walk(v[name])
			}
		case []any:
			for _, x := range v {
				walk(x)
			}
		}
	}
	for _, part := range []map[string]any{d.Displays[0], d.Brackets[0], d.Jobs[0]} {
		walk(part)
	}
	for range r.IntN(6) {
		figures[r.IntN(len(figures))]()
	}
	return d, nil
}

// ofServer asks a server of the demo everything about every pairing, and gives its
// catalogue as a document.
func ofServer(program, data, out string) ([]byte, error) {
	app, err := drive.Start(program, "demo", filepath.Join(data, "demo"))
	if err != nil {
		return nil, err
	}
	defer app.Stop()
	if err := os.MkdirAll(out, 0o750); err != nil {
		return nil, err
	}
	fetch := func(name, path, body string) ([]byte, error) {
		method := http.MethodGet
		if body != "" {
			method = http.MethodPost
		}
		r, err := http.NewRequest(method, app.URL+path, strings.NewReader(body))
		if err != nil {
			return nil, err
		}
		r.Header.Set("Content-Type", "application/json")
		answer, err := http.DefaultClient.Do(r)
		if err != nil {
			return nil, err
		}
		defer answer.Body.Close()
		raw, err := io.ReadAll(answer.Body)
		if err != nil {
			return nil, err
		}
		if name == "matrix" { // its rows come as they are done
			lines := bytes.Split(raw, []byte("\n"))
			slices.SortFunc(lines, bytes.Compare)
			raw = bytes.Join(lines, []byte("\n"))
		}
		return raw, os.WriteFile(filepath.Join(out, name), raw, 0o600)
	}
	demo, err := fetch("export.json", "/api/export", "")
	if err != nil {
		return nil, err
	}
	var all document
	if err := json.Unmarshal(demo, &all); err != nil {
		return nil, err
	}
	for _, path := range []string{"matrix", "matrix.csv", "export/displays", "export/brackets", "export/kit", "catalogue", "openapi.json",
		"duplicates", "policies"} {
		if _, err := fetch(strings.ReplaceAll(path, "/", "-"), "/api/"+path, ""); err != nil {
			return nil, err
		}
	}
	for _, d := range all.Displays {
		for _, b := range all.Brackets {
			for name, path := range map[string]string{"bench": "/api/bench", "steps": "/api/steps?format=json",
				"page": "/api/template?format=page"} {
				body := fmt.Sprintf(`{"display_id":%q,"bracket_id":%q}`, d["id"], b["id"])
				if _, err := fetch(fmt.Sprintf("%s-%s-%s", d["id"], b["id"], name), path, body); err != nil {
					return nil, err
				}
			}
		}
	}
	for _, j := range all.Jobs {
		job, err := json.Marshal(j)
		if err != nil {
			return nil, err
		}
		question := fmt.Sprintf(`{"display_id":%q,"bracket_id":%q,"site":%s}`, j["display"], j["bracket"], job)
		if _, err := fetch(fmt.Sprintf("job-%s-wall", j["id"]), "/api/wall", fmt.Sprintf(`{"request":%s}`, question)); err != nil {
			return nil, err
		}
		if _, err := fetch(fmt.Sprintf("job-%s-bench", j["id"]), "/api/bench", question); err != nil {
			return nil, err
		}
	}
	return demo, nil
}
