package tabular

import (
	"cmp"
	"fmt"
	"regexp"
	"strings"
)

// kit reads parts, and puts them into the boxes of their brackets in place of
// what was in them. A bracket's parts may stand on several sheets of a file: all
// of them are in its box.
func (k *previewer) kit(index int, s *Sheet) {
	_, columns := s.Layout.placed()
	boxes, begun := k.boxes, k.begun
	var rows []Row
	first, flags := min(s.Layout.Head+s.Layout.HeadRows, len(s.Table.Rows)), s.Table.flagged()
	for n, cells := range s.Table.below(first) {
		if blank(cells) {
			continue
		}
		r := Row{Sheet: index, N: first + n, kind: Kits, doc: map[string]any{}, from: map[string]int{}}
		if cells = r.counting(s, cells, flags); r.Outcome == Ignored {
			r.doc = nil
			rows = append(rows, r)
			continue
		}
		r.cells(s, columns, cells)
		r.part()
		name, _ := r.doc["bracket"].(string)
		delete(r.doc, "bracket")
		id := name
		if boxes[id] == nil && k.have.brackets[id] == nil {
			id = k.have.named[Brackets+squeezed(name)]
		}
		r.ID, r.Name = id, name
		switch {
		case name == "" && len(r.doc) < 2:
			r.Outcome, r.doc = Ignored, nil
		case boxes[id] == nil && k.have.brackets[id] == nil:
			r.wrong(-1, fmt.Sprintf("no bracket %q is in the catalogue or the file", name))
		}
		if r.Outcome == "" || r.Outcome == Wrong && id != "" {
			box := boxes[id]
			if box == nil {
				box = &Row{Sheet: index, N: -1, ID: id, kind: Brackets, from: map[string]int{}, have: k.have.document(Brackets, id)}
				box.doc = parsed(box.have)
				boxes[id] = box
			}
			if !begun[id] {
				box.doc["kit"] = []any{}
				begun[id] = true
			}
			kit := box.doc["kit"].([]any)
			r.item = len(kit)
			box.doc["kit"] = append(kit, r.doc)
		}
		rows = append(rows, r)
	}
	k.out.Rows = append(k.out.Rows, rows...)
}

// named are parts as people write them in one cell: "Screw M6 x 16", "Spacer 10 mm" (practice).
var named = regexp.MustCompile(`(?i)^(screw|bolt|machine screw|spacer|washer|schraube|distanzhülse|scheibe)\s*(?:m\s*([4568]))?\s*(?:[x×-]?\s*([0-9]+(?:[.,][0-9]+)?)\s*(?:mm)?)?$`)

// kinds of parts by what people call them.
var called = map[string]string{"screw": "bolt", "machine screw": "bolt", "schraube": "bolt", "distanzhülse": "spacer", "scheibe": "washer"}

// part takes apart what a part is called, where that says more than its kind: a screw with a metric thread is a bolt.
func (r *Row) part() {
	text, _ := r.doc["kind"].(string)
	m := named.FindStringSubmatch(strings.TrimSpace(text))
	if m == nil {
		return
	}
	kind := strings.ToLower(m[1])
	if _, metric := r.doc["thread"]; called[kind] == "bolt" && m[2] == "" && !metric {
		return // a wood screw, maybe
	}
	r.doc["kind"] = cmp.Or(called[kind], kind)
	for field, value := range map[string]string{"thread": m[2], "length_mm": m[3]} {
		if _, said := r.doc[field]; said || value == "" {
			continue
		}
		if r.from[field] = r.from["kind"]; field == "thread" {
			r.doc[field] = "M" + value
		} else if n, err := number(value, Commas); err == nil && kind != "washer" && kind != "scheibe" {
			r.doc[field] = n
		}
	}
}
