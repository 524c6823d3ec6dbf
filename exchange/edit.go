package exchange

import (
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Edit is a change of a document as a person makes it: what was typed into the field of a figure ("12,5", "1 7/8 in"), as it
// was typed. "" takes the figure away, null takes away whatever stands there, an entry of a list too; a list, an object, a number
// or true is put in whole, at the end of a list where the path names the next entry.
type Edit struct {
	Path string   `json:"path" required:"true" maxLength:"200"` // patterns[0].rows.top.recess_mm, after the name of the document
	To   Anything `json:"to"`
}

// Emptied reports whether a field was typed empty, which takes away what stood there.
func (e Edit) Emptied() bool {
	return e.To.given != nil && e.To.given.kind == text && strings.TrimSpace(e.To.given.text) == ""
}

// Anything is any JSON. The zero value is null.
type Anything struct{ given *node }

// MarshalJSON writes it as it was given.
func (a Anything) MarshalJSON() ([]byte, error) { return a.given.append(nil), nil }

// AnythingOf is a value of the format as any JSON.
func AnythingOf(value any) Anything {
	n, err := nodeOf(value)
	if err != nil {
		return Anything{}
	}
	return Anything{n}
}

// Edited returns a value of the format with edits put on in their order, read as strictly as a document; a figure that has no unit
// is in the given system's. Origins and notes of what is taken away go with it. Was has what stood at each
// path before the first edit there, null for nothing. The error is a [Problems] with the paths of the edits.
func Edited[T any](value T, edits []Edit, units quantity.Units) (out T, was map[string]Anything, err error) {
	n, err := nodeOf(value)
	if err != nil {
		return value, nil, err
	}
	var problems Problems
	was = map[string]Anything{}
	for i, e := range edits {
		before, ok := n.edit(e)
		if !ok {
			problems.add(e.Path, "the path of something in the document", "leads nowhere (change %d)", i+1)
			continue
		}
		if _, had := was[e.Path]; !had {
			was[e.Path] = Anything{before}
		}
	}
	r := reader{problems: &problems, typed: &units}
	r.origins(n)
	r.value(n, reflect.ValueOf(&out).Elem(), "", noLimits)
	return out, was, problems.or()
}

// bare is the system of a figure that was typed without a unit. What is metric by its name has that in its tag.
func (r *reader) bare(of *limits) quantity.Units {
	if r.typed == nil || of.tag.Get("unit") == "mm" {
		return quantity.Metric
	}
	return *r.typed
}

// tables are the members that have a path in each name: it is one step of an edit's path.
var tables = map[string]bool{"origins": true, "notes": true}

// olderIndex is an index as older links have it: outlets.2.x_mm.
var olderIndex = regexp.MustCompile(`\.(\d+)(\.|$)`)

// stepsOf splits a path: display.patterns[0].width_mm → display, patterns, [0], width_mm.
func stepsOf(path string) []string {
	path = olderIndex.ReplaceAllString(path, "[$1]$2")
	out := strings.Split(strings.ReplaceAll(path, "[", ".["), ".")
	for i, step := range out {
		if tables[step] && i+1 < len(out) {
			return append(out[:i+1:i+1], pathOf(out[i+1:]))
		}
	}
	return out
}

func pathOf(steps []string) string { return strings.ReplaceAll(strings.Join(steps, "."), ".[", "[") }

// entry is the index that a step names; false for a name.
func entry(step string) (int, bool) {
	if !strings.HasPrefix(step, "[") || !strings.HasSuffix(step, "]") {
		return 0, false
	}
	i, err := strconv.Atoi(step[1 : len(step)-1])
	return i, err == nil && i >= 0
}

// child is what stands at a step below a node; nil for nothing.
func (n *node) child(step string) *node {
	if n.kind == object {
		return n.member(step)
	}
	if i, ok := entry(step); ok && n.kind == list && i < len(n.items()) {
		return &n.in.items[i]
	}
	return nil
}

// add puts a value at a step below a node where nothing stands; false if there is no such place.
func (n *node) add(step string, value node) (*node, bool) {
	if n.in == nil {
		n.in = &inside{}
	}
	i, of := entry(step)
	switch {
	case of && n.kind == list && i == len(n.in.items) && i < maxItems:
	case n.kind == object && !of && step != "" && len(n.in.names) < maxMembers:
		n.in.names = append(n.in.names, step)
	default:
		return nil, false
	}
	n.in.items = append(n.in.items, value)
	return &n.in.items[len(n.in.items)-1], true
}

// drop takes away what stands at a step below a node, if anything does.
func (n *node) drop(step string) {
	at, _ := entry(step)
	if n.kind == object {
		at = slices.Index(n.names(), step)
	}
	if at < 0 || at >= len(n.items()) {
		return
	}
	if n.kind == object {
		n.in.names = slices.Delete(n.in.names, at, at+1)
	}
	n.in.items = slices.Delete(n.in.items, at, at+1)
}

// edit makes one edit, and returns what stood there; false if its path leads nowhere.
func (n *node) edit(e Edit) (before *node, ok bool) {
	steps := stepsOf(e.Path)
	if len(steps) > maxDepth {
		return nil, false
	}
	to, here := e.To.given, n
	if to == nil {
		to = &node{}
	}
	_, ofList := entry(steps[len(steps)-1])
	gone := to.kind == null || to.kind == text && to.text == "" && !ofList
	for i, step := range steps[:len(steps)-1] {
		next := here.child(step)
		if next == nil && gone {
			return nil, true // nothing is there already
		}
		if next == nil {
			made := node{kind: object}
			if _, of := entry(steps[i+1]); of {
				made.kind = list
			}
			if next, ok = here.add(step, made); !ok {
				return nil, false
			}
		}
		here = next
	}
	step := steps[len(steps)-1]
	stood := here.child(step)
	if stood != nil {
		kept := *stood
		before = &kept
	}
	if strings.HasSuffix(e.Path, ".wall.type") && before != nil {
		for _, lost := range catalog.WallType(before.text).Lost(catalog.WallType(to.text)) {
			here.drop(lost)
		}
		stood = here.child(step)
	}
	switch {
	case gone && stood == nil:
		return nil, true
	case gone:
		here.drop(step)
		emptied := ofList && len(here.items()) == 0 // here may move with what is taken away beside it
		n.forget(steps)
		if emptied { // an empty list is none; studs that are marked one by one are none without marks
			_, _ = n.edit(Edit{Path: strings.TrimSuffix(pathOf(steps[:len(steps)-1]), ".at_mm")})
		}
	case stood != nil:
		*stood = to.clone()
	default:
		if _, ok := here.add(step, to.clone()); !ok {
			return nil, false
		}
	}
	if step == "trials" && len(to.items()) > 0 {
		n.standIn(here, steps)
	}
	return before, true
}

// clone copies a value, so that a later edit does not change what was given. A field of an object in which nothing was typed
// is left out.
func (n *node) clone() node {
	out := *n
	if n.in != nil {
		var in inside
		for i := range n.in.items {
			if n.kind == object && n.in.items[i].kind == text && n.in.items[i].text == "" {
				continue
			}
			in.items = append(in.items, n.in.items[i].clone())
			if n.kind == object {
				in.names = append(in.names, n.in.names[i])
			}
		}
		out.in = &in
	}
	return out
}

// standIn makes trial bolts stand in for a hole's recess and depth of thread.
func (n *node) standIn(hole *node, steps []string) {
	for _, name := range [...]string{"recess_mm", "thread_depth_mm"} {
		if hole.member(name) != nil {
			hole.drop(name)
			n.forget(append(steps[:len(steps)-1:len(steps)-1], name))
		}
	}
}

// forget takes away the origins and notes of what was taken away, and what else names it; of a list, the later entries are one
// earlier now.
func (n *node) forget(steps []string) {
	document := n.child(steps[0])
	if document == nil || len(steps) < 2 {
		return
	}
	path := pathOf(steps[1:])
	i, ofList := entry(steps[len(steps)-1])
	in := strings.TrimSuffix(path, steps[len(steps)-1])
	for name := range tables {
		table := document.member(name)
		if table == nil {
			continue
		}
		for at := 0; at < len(table.names()); {
			key := table.in.names[at]
			rest, within := strings.CutPrefix(key, path)
			if within && (rest == "" || rest[0] == '.' || rest[0] == '[') {
				table.drop(key)
				continue
			}
			if ofList {
				table.in.names[at] = earlier(key, in, i)
			}
			at++
		}
		if len(table.names()) == 0 {
			document.drop(name)
		}
	}
	if outlet, of := strings.CutPrefix(in, "wall.outlets"); of && outlet == "" && ofList {
		document.outletGone(i)
	}
}

// earlier is the path of an entry, or of something in it, after the i-th of its list was taken away.
func earlier(path, list string, i int) string {
	rest, within := strings.CutPrefix(path, list+"[")
	if !within {
		return path
	}
	number, after, _ := strings.Cut(rest, "]")
	if n, err := strconv.Atoi(number); err == nil && n > i {
		return list + "[" + strconv.Itoa(n-1) + "]" + after
	}
	return path
}

// outletGone keeps the studs of a job's wall true: those that an outlet told are not known without it.
func (n *node) outletGone(i int) {
	wall := n.member("wall")
	studs := wall.member("studs")
	if studs == nil || studs.member("outlet") == nil {
		return
	}
	told := studs.member("outlet")
	switch at, err := strconv.Atoi(told.text); {
	case err != nil || at < i:
	case at == i:
		wall.drop("studs")
	default:
		told.text = strconv.Itoa(at - 1)
	}
}
