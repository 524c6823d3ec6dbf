package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// TestStreams: - is standard input or output, of every command that reads or writes a document; a file that is written there is
// the one that is written into a file, and what is written there has to be said.
func TestStreams(t *testing.T) {
	raw, err := os.ReadFile(example)
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	pair := "--display velmora-pane-49 --bracket sill-40 "
	for args, begins := range map[string]string{
		"match --in -": "{\n  \"format\": \"nexufix/1\"",
		"template --in - " + pair + "--out - --format svg":             "<svg",
		"template --in - " + pair + "--out - --format dxf":             "999\r\n",
		"template --in - " + pair + "--out - --format pdf":             "%PDF-",
		"steps --in - " + pair + "--wall concrete --out - --format md": "# ",
		"import - --format json --dry-run --data " + dir:               "{\n",
		"export --out - --format json --data " + dir:                   "{",
		"export --out - --format csv --data " + dir:                    "\ufeff",
		"export --out - --format xlsx --data " + dir:                   "PK",
	} {
		code, out, errs := callWith(string(raw), strings.Fields(args)...)
		if code != 0 || !strings.HasPrefix(out, begins) {
			t.Errorf("%s: %d %.60q %s", args, code, out, errs)
		}
	}
	file := filepath.Join(dir, "t.whatever")
	args := strings.Fields("template --in - " + pair + "--format svg --out")
	if code, _, errs := callWith(string(raw), append(args, file)...); code != 0 {
		t.Fatal(errs)
	}
	written, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	if _, out, _ := callWith(string(raw), append(args, "-")...); out != string(written) {
		t.Error("a file is written otherwise than to standard output")
	}
	for args, says := range map[string]string{
		"match --in - --in -":                       "can be read once",
		"template --in - " + pair + "--out -":       "say --format",
		"export --format xls --out - --data " + dir: "--format xls: one of json, xlsx, csv",
		"steps --in - --all --format zip --out -":   "a file",
	} {
		if code, out, errs := callWith(string(raw), strings.Fields(args)...); code != exitBadInput || out != "" || !strings.Contains(errs, says) {
			t.Errorf("%s: %d %.60q %s", args, code, out, errs)
		}
	}
}

// TestLines: as JSON Lines there is what the document has, a pairing a line, and what goes wrong is said.
func TestLines(t *testing.T) {
	demo := []string{"match", "--in", "../../demo/bakeries.json", "--in", "../../demo/brackets.json"}
	code, whole, errs := call(demo...)
	if code != 0 {
		t.Fatal(errs)
	}
	var document struct{ Pairings []json.RawMessage }
	if err := json.Unmarshal([]byte(whole), &document); err != nil {
		t.Fatal(err)
	}
	_, out, _ := call(append(demo, "--format", "jsonl")...)
	lines := strings.Split(strings.TrimSuffix(out, "\n"), "\n")
	if len(lines) != len(document.Pairings) || len(lines) < 100 {
		t.Fatalf("%d lines of %d pairings", len(lines), len(document.Pairings))
	}
	for i, line := range lines {
		var a, b any
		if json.Unmarshal([]byte(line), &a) != nil || json.Unmarshal(document.Pairings[i], &b) != nil {
			t.Fatalf("line %d is %.80s", i, line)
		}
		if a, b := compact(t, a), compact(t, b); a != b {
			t.Fatalf("line %d is\n%s\nnot\n%s", i, a, b)
		}
	}
	if code, out, errs := call("match", "--in", example, "--display", "none", "--format", "jsonl"); code != exitBadInput || out != "" {
		t.Error(code, out, errs)
	}
}

func compact(t *testing.T, v any) string {
	t.Helper()
	raw, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	return string(raw)
}

// TestSaysWhatItTakes: help as other programs give it, a manual page of every command, and what a shell puts in to complete it.
func TestSaysWhatItTakes(t *testing.T) {
	_, help, _ := call("steps", "--help")
	if code, out, _ := call("help", "steps"); code != 0 || out != help || !strings.Contains(out, "--wall") {
		t.Errorf("help steps says %.80s", out)
	}
	if code, out, _ := call("help"); code != 0 || !strings.Contains(out, "completion") {
		t.Errorf("help says %.80s", out)
	}
	code, man, _ := call("--man")
	for _, part := range []string{".TH NEXUFIX 1", "match", "second-factor", "base-path"} {
		if code != 0 || !strings.Contains(man, part) {
			t.Errorf("the manual page has no %s", part)
		}
	}
	for _, shell := range []string{"bash", "zsh", "fish"} {
		if code, out, errs := call("completion", "--code", shell); code != 0 || !strings.Contains(out, "nexufix") {
			t.Errorf("%s: %d %s%s", shell, code, out, errs)
		}
	}
}

// TestEnvironment: what a service is told every time can stand in its environment; what is said on the line counts before it.
func TestEnvironment(t *testing.T) {
	dir := t.TempDir()
	t.Setenv("NEXUFIX_DATA", dir)
	if code, _, errs := callWith("seven loaves on a rail\n", strings.Fields("user add ada --name Ada --role administrator")...); code != 0 {
		t.Fatal(errs)
	}
	if _, out, _ := call("user", "list"); !strings.Contains(out, `"ada"`) {
		t.Error(out)
	}
	if _, out, _ := call("user", "list", "--data", t.TempDir()); strings.Contains(out, `"ada"`) {
		t.Error(out)
	}
	t.Setenv("NEXUFIX_IDLE", "13h")
	if code, _, errs := call("serve", "--addr", "127.0.0.1:0"); code != exitBadInput || !strings.Contains(errs, "from 1m to 12h") {
		t.Error(code, errs)
	}
}
