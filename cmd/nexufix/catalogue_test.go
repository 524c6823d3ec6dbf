package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"

	"nexufix/app/people"
	"nexufix/demo"
	"nexufix/exchange"
	"nexufix/store"
)

// TestMain lets the tests start this program as a process of its own.
func TestMain(m *testing.M) {
	if os.Getenv("NEXUFIX_TEST_RUN") != "" {
		if most, err := strconv.ParseUint(os.Getenv("NEXUFIX_TEST_LARGEST"), 10, 64); err == nil {
			// Beyond it the system writes less than it was asked to, and then fails.
			if err := syscall.Setrlimit(syscall.RLIMIT_FSIZE, &syscall.Rlimit{Cur: most, Max: most}); err != nil {
				panic(err)
			}
		}
		os.Exit(run(os.Args[1:], os.Stdin, os.Stdout, os.Stderr))
	}
	people.HashQuickly()
	os.Exit(m.Run())
}

// demoFolder is a data folder with the demo's catalogue.
func demoFolder(t *testing.T) string {
	t.Helper()
	c, err := demo.Contents()
	if err != nil {
		t.Fatal(err)
	}
	raw, err := exchange.Write(c)
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	must(t, "import", "--data", dir, "--who", "Ada", written(t, string(raw)))
	return dir
}

func must(t *testing.T, args ...string) string {
	t.Helper()
	code, out, errs := call(args...)
	if code != 0 {
		t.Fatalf("%v: exit %d: %s", args, code, errs)
	}
	return out
}

func fileOf(t *testing.T, name string) []byte {
	t.Helper()
	raw, err := os.ReadFile(name)
	if err != nil {
		t.Fatal(err)
	}
	return raw
}

// TestRoundTrips: export, import into an empty database, export again: the
// same bytes, by way of each kind of file.
func TestRoundTrips(t *testing.T) {
	dir, out := demoFolder(t), t.TempDir()
	at := func(name string) string { return filepath.Join(out, name) }
	must(t, "export", "--data", dir, "--out", at("want.json"))
	must(t, "export", "--data", dir, "--out", at("all.xlsx"))
	for _, kind := range []string{"displays", "brackets", "kit"} {
		must(t, "export", "--data", dir, "--kind", kind, "--out", at(kind+".csv"))
	}
	for way, files := range map[string][]string{"json": {"want.json"}, "xlsx": {"all.xlsx"},
		"csv": {"displays.csv", "brackets.csv", "kit.csv"}} {
		empty := t.TempDir()
		for _, f := range files {
			must(t, "import", "--data", empty, at(f))
		}
		must(t, "export", "--data", empty, "--out", at(way+".json"))
		want := fileOf(t, at("want.json"))
		if way != "json" {
			want = withoutJobs(t, want) // tables have none
		}
		if !bytes.Equal(want, fileOf(t, at(way+".json"))) {
			t.Errorf("by way of %s the catalogue changes", way)
		}
	}
}

func withoutJobs(t *testing.T, raw []byte) []byte {
	t.Helper()
	c, err := exchange.Read(raw)
	if err != nil || len(c.Jobs) == 0 {
		t.Fatal("the demo has jobs", err)
	}
	c.Jobs = nil
	raw, err = exchange.Write(c)
	if err != nil {
		t.Fatal(err)
	}
	return append(raw, '\n')
}

func TestImportSaysWhatItDoes(t *testing.T) {
	dir := demoFolder(t)
	table := filepath.Join(t.TempDir(), "list.csv")
	put := func(text string) {
		if err := os.WriteFile(table, []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	put("Maker,Model,Weight (lb),Width\nVelmora,Pane 49,33,\nTarn,New One,5,20 in\nas of yesterday\n")
	if out := must(t, "import", "--data", dir, "--dry-run", table); !strings.Contains(out, `"new": 1`) ||
		!strings.Contains(out, `"changed": 1`) || !strings.Contains(out, `"dry_run": true`) || !strings.Contains(out, `"ignored": 1`) ||
		!strings.Contains(out, `"row 4: left out: no model and no id`) {
		t.Error(out)
	}
	if out := must(t, "import", "--data", dir, table); strings.Contains(out, `"batch": 0`) {
		t.Error(out)
	}
	if out := must(t, "import", "--data", dir, table); !strings.Contains(out, `"same": 2`) {
		t.Error(out)
	}
	put("Maker,Model,Weight (lb)\nTarn,New One,heavy\n")
	if code, _, errs := call("import", "--data", dir, table); code != 2 || !strings.Contains(errs, "row 2, Weight (lb)") {
		t.Error(code, errs)
	}
	// What the catalogue would call odd is said before, and what is not read.
	put("Maker,Model,Width,Pattern,Mood\nTarn,Metres,1.095,200 x 200,good\nTarn,Right,1095,200 x 200,good\n")
	if out := must(t, "import", "--data", dir, "--dry-run", table); !strings.Contains(out, `"row 2: The pattern 200 × 200 is larger`) ||
		strings.Contains(out, "row 3") || !strings.Contains(out, `"Mood"`) {
		t.Error(out)
	}
	for text, said := range map[string]string{"Model,Width,Mood\n,,\n,1,\n": "not read: Mood\nrow 3: left out",
		"Model,Width\n": "not read: nothing"} {
		put(text)
		if code, _, errs := call("import", "--data", dir, table); code != 2 || !strings.Contains(errs, "nothing was taken; "+said) {
			t.Error(code, errs)
		}
	}
	policy := written(t, `{"format":"nexufix/1","policy":{"max_washers":2}}`)
	if code, _, errs := call("import", "--data", dir, "--dry-run", policy); code != 0 {
		t.Errorf("a policy alone: %d %s", code, errs)
	}
	put("one,two\n1,2\n")
	if code, _, errs := call("import", "--data", dir, table); code != 2 || !strings.Contains(errs, "no columns") {
		t.Error(code, errs)
	}
	for _, args := range [][]string{
		{"import", "--data", dir, "nowhere.csv"}, {"export", "--data", dir, "--out", "x.doc"}, {"export", "--data", dir, "--out",
			"/nowhere/x.json"},
		{"restore", "--data", dir, "--in", table}, {"restore", "--data", dir, "--in", "nowhere.db"},
	} {
		if code, _, errs := call(args...); code != 2 || errs == "" {
			t.Errorf("%v: exit %d, %s", args, code, errs)
		}
	}
}

func TestBackupAndRestore(t *testing.T) {
	dir, out := demoFolder(t), t.TempDir()
	at := func(name string) string { return filepath.Join(out, name) }
	must(t, "export", "--data", dir, "--out", at("before.json"))
	must(t, "backup", "--data", dir, "--out", at("backup.db"))
	if code, _, _ := call("backup", "--data", dir, "--out", at("backup.db")); code != 2 {
		t.Error("a backup went over another")
	}
	must(t, "import", "--data", dir, written(t, `{"format":"nexufix/1","displays":[{"id":"late","model":"Late"}]}`))
	must(t, "restore", "--data", dir, "--in", at("backup.db"))
	must(t, "export", "--data", dir, "--out", at("after.json"))
	if !bytes.Equal(fileOf(t, at("before.json")), fileOf(t, at("after.json"))) {
		t.Error("the backup is not what was there")
	}
	// What was there before the restoring is saved too.
	saved, err := filepath.Glob(filepath.Join(dir, "before-restore-*.db"))
	if err != nil || len(saved) != 1 {
		t.Fatal(saved, err)
	}
	must(t, "restore", "--data", dir, "--in", saved[0])
	must(t, "export", "--data", dir, "--out", at("late.json"))
	if !strings.Contains(string(fileOf(t, at("late.json"))), `"late"`) {
		t.Error("what was there before restoring is lost")
	}
	half := fileOf(t, at("backup.db"))
	if err := os.WriteFile(at("half.db"), half[:len(half)/2], 0o600); err != nil {
		t.Fatal(err)
	}
	if code, _, errs := call("restore", "--data", dir, "--in", at("half.db")); code != 2 || !strings.Contains(errs, "half.db") {
		t.Error(code, errs)
	}
	// An empty file restores nothing, and does not even make a backup of what is there.
	if err := os.WriteFile(at("empty.db"), nil, 0o600); err != nil {
		t.Fatal(err)
	}
	before, _ := filepath.Glob(filepath.Join(dir, "*"))
	if code, _, errs := call("restore", "--data", dir, "--in", at("empty.db")); code != 2 || !strings.Contains(errs, "empty.db is empty") {
		t.Error(code, errs)
	}
	if after, _ := filepath.Glob(filepath.Join(dir, "*")); len(after) != len(before) {
		t.Errorf("%v became %v", before, after)
	}
	must(t, "export", "--data", dir, "--out", at("still.json"))
	if !bytes.Equal(fileOf(t, at("late.json")), fileOf(t, at("still.json"))) {
		t.Error("an empty file changed something")
	}
}

// TestRestoreOntoDamaged: a backup takes the place of a database whose pages are
// damaged, which is saved as it is.
func TestRestoreOntoDamaged(t *testing.T) {
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(t.TempDir(), name) }
	var doc strings.Builder
	doc.WriteString(`{"format":"nexufix/1","displays":[{"id":"first"}`)
	for i := range 300 {
		fmt.Fprintf(&doc, `,{"id":"d%d","model":%q}`, i, strings.Repeat("x", 100))
	}
	doc.WriteString("]}")
	must(t, "import", "--data", dir, written(t, doc.String()))
	backup, before, after := at("b.db"), at("before.json"), at("after.json")
	must(t, "backup", "--data", dir, "--out", backup)
	must(t, "export", "--data", dir, "--out", before)
	file := filepath.Join(dir, "nexufix.db")
	raw := fileOf(t, file)
	for page := 4096; page < len(raw); page += 4096 {
		if raw[page] == 0x0a && bytes.Contains(raw[page:page+4096], []byte(`"id":"d1`)) {
			copy(raw[page:], bytes.Repeat([]byte{0xff}, 600))
		}
	}
	if err := os.WriteFile(file, raw, 0o600); err != nil {
		t.Fatal(err)
	}
	must(t, "restore", "--data", dir, "--in", backup)
	must(t, "export", "--data", dir, "--out", after)
	if !bytes.Equal(fileOf(t, before), fileOf(t, after)) {
		t.Error("the backup is not what is there now")
	}
	saved, err := filepath.Glob(filepath.Join(dir, "before-restore-*.db"))
	if err != nil || len(saved) != 1 || !bytes.Equal(fileOf(t, saved[0]), raw) {
		t.Errorf("the damaged one was not saved: %v %v", saved, err)
	}
}

var address = regexp.MustCompile(`url=(http://\S+)`)

// TestKilledWhileWriting kills the server 30 times while four people write,
// and finds the database whole each time, with every change in it that was
// acknowledged.
func TestKilledWhileWriting(t *testing.T) {
	dir := t.TempDir()
	acknowledged := map[string]int{} // the last number that was said to be saved, by display
	for round := range kills() {
		killOnce(t, dir, round, acknowledged)
		check(t, dir, acknowledged)
		if t.Failed() {
			return
		}
	}
	total := 0
	for _, n := range acknowledged {
		total += n
	}
	if total < 200 {
		t.Errorf("only %d changes were acknowledged: the test kills too early", total)
	}
}

// kills is how often a server is killed: 200 times in the long form.
func kills() int {
	if os.Getenv("NEXUFIX_ALL") != "" {
		return 200
	}
	return 30
}

// serving starts this program on a folder, and gives where it listens. With largest
// no file of its may grow beyond so many bytes.
func serving(t *testing.T, dir string, largest int64, more ...string) (*exec.Cmd, string) {
	t.Helper()
	c := exec.Command(os.Args[0], append([]string{"serve", "--addr", "127.0.0.1:0", "--data", dir}, more...)...)
	c.Env = append(os.Environ(), "NEXUFIX_TEST_RUN=1")
	if largest > 0 {
		c.Env = append(c.Env, fmt.Sprint("NEXUFIX_TEST_LARGEST=", largest))
	}
	log, err := c.StderrPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := c.Start(); err != nil {
		t.Fatal(err)
	}
	url := ""
	for lines := bufio.NewScanner(log); url == "" && lines.Scan(); {
		if m := address.FindStringSubmatch(lines.Text()); m != nil {
			url = m[1]
		}
	}
	go io.Copy(io.Discard, log) // until the pipe breaks
	return c, url
}

func killOnce(t *testing.T, dir string, round int, acknowledged map[string]int) {
	t.Helper()
	c, url := serving(t, dir, 0)
	var mu sync.Mutex
	var writers sync.WaitGroup
	enough := make(chan struct{})
	saved := 0
	for w := range 4 {
		writers.Go(func() {
			id := fmt.Sprint("display-", w)
			for {
				mu.Lock()
				n := acknowledged[id] + 1
				mu.Unlock()
				if !keepNumber(url, id, n) {
					return // the server is gone
				}
				mu.Lock()
				acknowledged[id] = n
				if saved++; saved == 5+round%13 {
					close(enough)
				}
				mu.Unlock()
			}
		})
	}
	<-enough
	if err := c.Process.Kill(); err != nil {
		t.Fatal(err)
	}
	writers.Wait()
	_ = c.Wait() // it was killed
}

// TestShortWrites: the system writes a part of what it is asked to, and fails from
// there on, wherever in a file that is: what was acknowledged is there, nothing else,
// reading goes on, and with room again so does writing.
func TestShortWrites(t *testing.T) {
	dir := t.TempDir()
	acknowledged := map[string]int{}
	killOnce(t, dir, 0, acknowledged) // a database is there
	check(t, dir, acknowledged)
	for round := range 12 {
		had := acknowledged["display-0"]
		size, err := os.Stat(filepath.Join(dir, "nexufix.db"))
		if err != nil {
			t.Fatal(err)
		}
		// The log begins empty, so it is what grows beyond; at other places of a page each time.
		c, url := serving(t, dir, size.Size()+int64(7_001*round))
		refused := 0
		for range 400 {
			if keepNumber(url, "display-0", acknowledged["display-0"]+1) {
				acknowledged["display-0"]++
			} else if refused++; refused == 3 {
				break
			}
		}
		if refused == 0 {
			t.Errorf("round %d: nothing was refused", round)
		}
		answers := func(what string, want int, a *http.Response, err error) {
			if err != nil {
				t.Fatalf("round %d: %s: %v", round, what, err)
			}
			if a.Body.Close(); a.StatusCode != want {
				t.Errorf("round %d: %s answers %d, want %d", round, what, a.StatusCode, want)
			}
		}
		a, err := http.Get(url + "/api/items/displays/display-0")
		answers("reading", http.StatusOK, a, err)
		a, err = http.Get(url + "/readyz")
		answers("readyz", http.StatusServiceUnavailable, a, err)
		a, err = http.Post(url+"/api/import", "application/json", strings.NewReader(`{"format":"nexufix/1","displays":[{"id":"more","model":"More"}]}`))
		answers("writing", http.StatusInsufficientStorage, a, err)
		if err := c.Process.Kill(); err != nil {
			t.Fatal(err)
		}
		_ = c.Wait() // it was killed
		if check(t, dir, acknowledged); t.Failed() {
			return
		}
		t.Logf("round %d: %d saved, then refused", round, acknowledged["display-0"]-had)
	}
	killOnce(t, dir, 0, acknowledged)
	check(t, dir, acknowledged)
}

// keepNumber writes a number into a display, and says whether the server
// acknowledged it.
func keepNumber(url, id string, n int) bool {
	doc := fmt.Sprintf(`{"format":"nexufix/1","displays":[{"id":%q,"model":"Number %d","width_mm":%d}]}`, id, n, n)
	a, err := http.Post(url+"/api/import", "application/json", strings.NewReader(doc))
	if err != nil {
		return false
	}
	defer a.Body.Close()
	var said store.Imported
	return a.StatusCode == http.StatusOK && json.NewDecoder(a.Body).Decode(&said) == nil && said.New+said.Changed+said.Same == 1
}

func check(t *testing.T, dir string, acknowledged map[string]int) {
	t.Helper()
	st, err := store.Open(context.Background(), filepath.Join(dir, "nexufix.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	if err := st.Check(t.Context()); err != nil {
		t.Fatal(err)
	}
	all, err := st.Catalogue(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	for id, n := range acknowledged {
		d := all.Display(id)
		if d == nil {
			t.Errorf("%s is gone", id)
			continue
		}
		// One more may have been written whose acknowledgement was lost.
		if got := int(d.Width.Value.MM()); got != n && got != n+1 {
			t.Errorf("%s holds %d, %d was acknowledged", id, got, n)
		}
		history, err := st.History(t.Context(), "display", id, 10_000, 0)
		if err != nil || len(history) < n {
			t.Errorf("%s: %d revisions, %d acknowledged, %v", id, len(history), n, err)
		}
		acknowledged[id] = int(d.Width.Value.MM())
	}
}
