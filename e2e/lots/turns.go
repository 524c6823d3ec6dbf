package lots

import (
	"cmp"
	"fmt"
	"maps"
	"os"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"
)

// Case is what is judged: pointers to its documents, by name, and what is said of them, by what it is said of.
type Case struct {
	Documents map[string]any
	Judge     func() map[string]string
}

// alike is how many turning points of one field, where the same changes in the same way, are on record.
const alike = 2

// barren is in how many cases in turn a figure turns nothing new, until it is not looked at any more.
const barren = 8

// most is how much that changes at once is told of.
const most = 6

// TurnWhereTheyDid looks for turning points: the figures of documents drawn by lot at which an answer changes, to the last nanometre (or
// what else is the unit). Where they are is on record in the package's testdata/turns.txt, a line each: the case, the figure, the last
// value with the answer before, and what changes there. Each is tried at that value and one further. So a limit that moves by a hair, and a
// comparison that takes its boundary to the other side, are seen, wherever the lot finds the limit; whether a limit is right, the tables
// of limits say. A change on purpose is written with -update, which looks for them anew in all n cases, and read in the difference.
func TurnWhereTheyDid(t *testing.T, n int, draw func(n int) Case) {
	t.Helper()
	const file = "testdata/turns.txt"
	if *update {
		var out []string
		found := map[string]int{}
		for i := range n {
			out = append(out, turnsOf(i, draw, found)...)
		}
		if err := os.WriteFile(file, []byte(strings.Join(out, "\n")+"\n"), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	raw, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	told := 0
	for _, line := range strings.Split(strings.TrimSpace(string(raw)), "\n") {
		if is := turnAsOf(line, draw); is != line {
			if told++; told > 5 {
				t.Fatal("and more")
			}
			t.Errorf("was %s\nis  %s", line, is)
		}
	}
}

// turnAsOf is a line of the record as it is today.
func turnAsOf(line string, draw func(n int) Case) string {
	f := strings.SplitN(line, " ", 4)
	if len(f) < 4 {
		return "no line of a turning point"
	}
	i, err := strconv.Atoi(f[0])
	last, err2 := strconv.ParseInt(f[2], 10, 64)
	if err != nil || err2 != nil {
		return "no line of a turning point"
	}
	return turn(i, f[1], last, judgeAt(i, f[1], last, draw), judgeAt(i, f[1], last+1, draw))
}

// turn is a line of the record.
func turn(i int, path string, last int64, before, after map[string]string) string {
	return fmt.Sprintf("%d %s %d %s", i, path, last, changes(before, after))
}

func changes(before, after map[string]string) string {
	keys := map[string]string{}
	maps.Copy(keys, before)
	maps.Copy(keys, after)
	var out []string
	for _, k := range slices.Sorted(maps.Keys(keys)) {
		if before[k] != after[k] {
			out = append(out, fmt.Sprintf("%s: %s > %s", k, cmp.Or(before[k], "none"), cmp.Or(after[k], "none")))
		}
	}
	if len(out) > most { // it has another place, or none
		out = append(out[:most], fmt.Sprintf("and %d more", len(out)-most))
	}
	return strings.Join(out, "; ")
}

// judgeAt is what is said of a case with one figure changed.
func judgeAt(i int, path string, value int64, draw func(n int) Case) map[string]string {
	c := draw(i)
	if f, ok := figures(&c, path)[path]; ok {
		f.SetInt(value)
	}
	return c.Judge()
}

// turnsOf finds the turning points of one case that are not too much like those found.
func turnsOf(i int, draw func(n int) Case, found map[string]int) (out []string) {
	c := draw(i)
	all := figures(&c, "")
	for _, path := range slices.Sorted(maps.Keys(all)) {
		if found[path] >= barren { // often looked at, and nothing new
			continue
		}
		found[path]++
		values := around(all[path].Int())
		said := make([]map[string]string, len(values))
		for k, v := range values {
			said[k] = judgeAt(i, path, v, draw)
			if k == 0 || maps.Equal(said[k-1], said[k]) {
				continue
			}
			last, first, before, after := values[k-1], v, said[k-1], said[k]
			for first-last > 1 {
				middle := last + (first-last)/2
				if x := judgeAt(i, path, middle, draw); maps.Equal(x, before) {
					last = middle
				} else {
					first, after = middle, x
				}
			}
			kind := path + " " + changes(before, after)
			if found[kind]++; found[kind] <= alike {
				found[path] = 0
				out = append(out, turn(i, path, last, before, after))
			}
		}
	}
	return out
}

// around are values near and far of one, as far as figures like it go: never below zero, where it is not.
func around(v int64) []int64 {
	const mm = 1_000_000
	out := []int64{v, v / 2, v * 8 / 10, v * 11 / 10, v * 3 / 2, 2 * v, 0}
	if v > 1000 || v < -1000 {
		out = append(out, v-6*mm, v+6*mm, v-70*mm, v+70*mm, v-400*mm, v+400*mm)
	} else {
		out = append(out, v-1, v+1, v+2, v+4)
	}
	if v >= 0 {
		out = slices.DeleteFunc(out, func(x int64) bool { return x < 0 })
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// figures are the figures of a case's documents that are known, by path: all, or one alone.
func figures(c *Case, only string) map[string]reflect.Value {
	out := map[string]reflect.Value{}
	for name, document := range c.Documents {
		walk(name, reflect.ValueOf(document), only, out)
	}
	return out
}

func walk(path string, v reflect.Value, only string, out map[string]reflect.Value) {
	if only != "" && !strings.HasPrefix(only, path) {
		return
	}
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			walk(path, v.Elem(), only, out)
		}
	case reflect.Struct:
		if known := v.FieldByName("Known"); known.IsValid() && !known.Bool() {
			return
		}
		for i := range v.NumField() {
			walk(path+"/"+v.Type().Field(i).Name, v.Field(i), only, out)
		}
	case reflect.Slice:
		for i := range v.Len() {
			walk(path+"/"+strconv.Itoa(i), v.Index(i), only, out)
		}
	case reflect.Int, reflect.Int64:
		if v.CanSet() && (v.Type().PkgPath() == "" || strings.HasSuffix(v.Type().PkgPath(), "/quantity")) {
			out[path] = v
		}
	}
}
