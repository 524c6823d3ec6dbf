package approval

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
)

// Difference is one place where two results differ. A missing text is "".
type Difference struct {
	Path string `json:"path" required:"true"`
	Was  string `json:"was" required:"true"`
	Now  string `json:"now" required:"true"`
}

// MostDifferences is how many differences are listed.
const MostDifferences = 200

// Differences lists where two JSON documents differ, in the order of their paths. Entries of a list that have a name (see names)
// are compared by it, others by their place.
func Differences(was, now []byte) ([]Difference, error) {
	a, err := leaves(was)
	if err != nil {
		return nil, err
	}
	b, err := leaves(now)
	if err != nil {
		return nil, err
	}
	paths := slices.Sorted(maps.Keys(a))
	for p := range b {
		if _, both := a[p]; !both {
			paths = append(paths, p)
		}
	}
	slices.Sort(paths)
	out := []Difference{}
	for _, p := range paths {
		if a[p] != b[p] && len(out) < MostDifferences {
			out = append(out, Difference{p, a[p], b[p]})
		}
	}
	return out, nil
}

// leaves are the scalar values of a document by path.
func leaves(document []byte) (map[string]string, error) {
	in := json.NewDecoder(bytes.NewReader(document))
	in.UseNumber()
	var v any
	if err := in.Decode(&v); err != nil {
		return nil, err
	}
	out := map[string]string{}
	gather(out, "", v)
	return out, nil
}

// names are the members that identify an entry of a list.
var names = []string{"rule", "id", "hole", "tag"}

// renamed are members of results that have another name now: a result stored under the old one is the same.
var renamed = map[string]string{
	"use": "utilisation", "across_n": "shear_n", "holds_pull_n": "capacity_pull_n", "holds_across_n": "capacity_shear_n",
	"load_aside_mm": "eccentricity_mm",
}

func gather(out map[string]string, path string, v any) {
	switch v := v.(type) {
	case map[string]any:
		for name, x := range v {
			if _, figure := x.(json.Number); figure {
				name = cmp.Or(renamed[name], name)
			}
			if path != "" {
				name = path + "." + name
			}
			gather(out, name, x)
		}
	case []any:
		seen := map[string]int{}
		for i, x := range v {
			name := fmt.Sprint(i)
			if m, ok := x.(map[string]any); ok {
				for _, by := range names {
					if s, ok := m[by].(string); ok && s != "" {
						name = s
						break
					}
				}
			}
			if seen[name]++; seen[name] > 1 {
				name = fmt.Sprintf("%s %d", name, seen[name])
			}
			gather(out, fmt.Sprintf("%s[%s]", path, name), x)
		}
	case nil:
		out[path] = "none"
	default:
		out[path] = fmt.Sprint(v)
	}
}
