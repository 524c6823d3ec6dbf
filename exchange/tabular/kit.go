package tabular

import "fmt"

// kit reads parts, and puts them into the boxes of their brackets in place of
// what was in them. A bracket's parts may stand on several sheets of a file: all
// of them are in its box.
func (k *previewer) kit(index int, s *Sheet) {
	_, columns := s.Layout.placed()
	boxes, begun := k.boxes, k.begun
	var rows []Row
	for n := min(s.Layout.Head+s.Layout.HeadRows, len(s.Table.Rows)); n < len(s.Table.Rows); n++ {
		cells := s.Table.Rows[n]
		if blank(cells) {
			continue
		}
		r := Row{Sheet: index, N: n, kind: Kits, doc: map[string]any{}, from: map[string]int{}}
		for _, c := range columns {
			if c.column < len(cells) && !unknown(cells[c.column]) {
				r.cell(&s.Layout.Columns[c.column], c, cells[c.column], s.Table.Comma)
			}
		}
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
