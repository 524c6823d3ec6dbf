// Command licences writes the licences of everything that goes with the program: the Go modules that are linked, the packages of the
// page, and the fonts. It runs at the root of the repository, when the page has been built.
package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
)

func main() {
	if err := write(os.Stdout); err != nil {
		fmt.Fprintln(os.Stderr, "licences:", err)
		os.Exit(1)
	}
}

// part is a module or package and the folder of its files.
type part struct{ name, dir string }

func write(to io.Writer) error {
	modules, err := goModules()
	if err != nil {
		return err
	}
	packages, err := pagePackages("web")
	if err != nil {
		return err
	}
	fmt.Fprintf(to, "What goes with this program and is not of its makers, with the licences under which it is used.\n")
	same := map[string][]string{} // licence text: whose
	var order []string
	for _, p := range slices.Concat(modules, packages) {
		text, err := licenceOf(p.dir)
		if err != nil {
			return fmt.Errorf("%s: %w", p.name, err)
		}
		if same[text] == nil {
			order = append(order, text)
		}
		same[text] = append(same[text], p.name)
	}
	for _, text := range order {
		fmt.Fprintf(to, "\n%s\n%s\n\n%s\n", strings.Repeat("=", 80), strings.Join(same[text], "\n"), text)
	}
	return nil
}

// goModules are the modules of the program, and Go's own library.
func goModules() (all []part, err error) {
	const format = "{{with .Module}}{{if not .Main}}{{.Path}} {{.Version}}\t{{.Dir}}{{end}}{{end}}"
	out, err := exec.Command("go", "list", "-deps", "-f", format, "./cmd/nexufix").Output()
	if err != nil {
		return nil, err
	}
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return nil, err
	}
	all = append(all, part{"Go", strings.TrimSpace(string(root))})
	lines := strings.Fields(strings.ReplaceAll(string(out), " ", "@"))
	for i := 0; i+1 < len(lines); i += 2 {
		p := part{strings.Replace(lines[i], "@", " ", 1), lines[i+1]}
		if !slices.Contains(all, p) {
			all = append(all, p)
		}
	}
	return all, nil
}

// pagePackages are the packages that the page is built of.
func pagePackages(web string) (all []part, err error) {
	raw, err := os.ReadFile(filepath.Join(web, "package-lock.json"))
	if err != nil {
		return nil, err
	}
	var lock struct {
		Packages map[string]struct {
			Version       string
			Dev, Optional bool
			License       string
		}
	}
	if err := json.Unmarshal(raw, &lock); err != nil {
		return nil, err
	}
	for dir, p := range lock.Packages {
		if dir == "" || p.Dev {
			continue
		}
		if _, err := os.Stat(filepath.Join(web, dir)); err != nil {
			continue // of another system
		}
		name := dir[strings.LastIndex(dir, "node_modules/")+len("node_modules/"):]
		all = append(all, part{fmt.Sprintf("%s %s (%s)", name, p.Version, p.License), filepath.Join(web, dir)})
	}
	slices.SortFunc(all, func(a, b part) int { return strings.Compare(a.name, b.name) })
	return all, nil
}

var names = regexp.MustCompile(`(?i)^(licen[cs]e|copying|notice|patents|ofl)([.-].*)?$`)

// licenceOf is the text of the licence files of a folder.
func licenceOf(dir string) (string, error) {
	entries, err := os.ReadDir(dir)
	if err != nil {
		return "", err
	}
	var out []string
	for _, e := range entries {
		if !e.Type().IsRegular() || !names.MatchString(e.Name()) || strings.HasSuffix(e.Name(), ".go") {
			continue
		}
		raw, err := os.ReadFile(filepath.Join(dir, e.Name()))
		if err != nil {
			return "", err
		}
		out = append(out, string(bytes.TrimSpace(raw)))
	}
	if out == nil {
		// Some packages only name a licence in their description.
		raw, err := os.ReadFile(filepath.Join(dir, "package.json"))
		var described struct {
			License string
			Author  any
		}
		if err == nil {
			err = json.Unmarshal(raw, &described)
		}
		if err != nil || described.License == "" {
			return "", errors.Join(errors.New("no licence is found"), err)
		}
		out = append(out, fmt.Sprintf("%s, by %v", described.License, described.Author))
	}
	return strings.Join(out, "\n\n"), nil
}
