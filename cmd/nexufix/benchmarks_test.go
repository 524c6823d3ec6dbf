package main

import (
	"flag"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

var long = flag.Bool("long", false, "run each benchmark that docs/benchmarks.md names, once")

// TestBenchmarksAreThere: every command of docs/benchmarks.md names a benchmark, or a test, of a package that is there. With -long (make
// soak) each is run once.
func TestBenchmarksAreThere(t *testing.T) {
	raw, err := os.ReadFile("../../docs/benchmarks.md")
	if err != nil {
		t.Fatal(err)
	}
	command := regexp.MustCompile("`([^`]*-bench [^`]*|go test -run [A-Z][^`]*)`")
	name := regexp.MustCompile(`-bench (?:'([^']*)'|"([^"]*)"|(\S+))`)
	pkg, seen := "", 0
	for _, m := range command.FindAllStringSubmatch(string(raw), -1) {
		words := strings.Fields(m[1])
		for _, w := range words {
			if strings.HasPrefix(w, "./") {
				pkg = w
			}
		}
		n := name.FindStringSubmatch(m[1])
		if pkg == "./core/..." || n == nil || n[1] == "." {
			continue
		}
		// "Place/fixed" is a part of BenchmarkPlace.
		wanted, err := regexp.Compile(strings.Split(n[1]+n[2]+n[3], "/")[0])
		if err != nil {
			t.Fatal(err)
		}
		seen++
		found := false
		files, _ := filepath.Glob(filepath.Join("../..", pkg, "*_test.go"))
		for _, file := range files {
			text, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			for _, f := range regexp.MustCompile(`func Benchmark(\w*)\(`).FindAllStringSubmatch(string(text), -1) {
				found = found || wanted.MatchString(f[1])
			}
		}
		if !found {
			t.Errorf("%s: no benchmark of %s is called so", m[1], pkg)
		}
		if *long {
			out, err := exec.CommandContext(t.Context(), "go", "test", "-run", "^$", "-bench", n[1]+n[2]+n[3], "-benchtime", "1x",
				filepath.Join("../..", pkg)).CombinedOutput()
			if err != nil || !strings.Contains(string(out), "Benchmark") {
				t.Errorf("%s: %v\n%s", m[1], err, out)
			}
		}
	}
	if seen < 30 {
		t.Errorf("only %d commands were found", seen)
	}
}
