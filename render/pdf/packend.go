package pdf

func (f *flow) card() {
	d := f.p.Card
	if d == nil {
		return
	}
	f.page()
	f.Bookmark(f.words("Measure card"), 0, 0)
	f.draw(d, f.left, above-4, f.right-f.left, f.high-above-below)
}

func (f *flow) symptoms() {
	if len(f.p.Sequence.Symptoms) == 0 {
		return
	}
	f.section("When something is wrong", true)
	for _, s := range f.p.Sequence.Symptoms {
		list := []paragraph{{text: f.words("%v", s.Name), weight: "B", size: 4.2, before: 3.5}}
		if !s.Stop.Empty() {
			list = append(list, paragraph{text: f.say(s.Stop), weight: "B", size: bodySize, before: 0.8, red: true})
		}
		for n, c := range s.Causes {
			list = append(list, paragraph{text: f.words("%v. %v Right is: %v Else: %v", n+1, c.What, c.Look, c.Do),
				size: 3.3, before: 0.8, indent: 3})
		}
		if high := f.height(list, f.right-f.left); high < 120 {
			f.room(high)
		}
		f.write(list, f.right-f.left)
	}
}

func (f *flow) leftovers() {
	if len(f.p.Sequence.Leftovers) == 0 {
		return
	}
	f.section("What is left over", false)
	list := []paragraph{f.body(f.words("These parts are not used with this display. Bag them and hand them over with this page, so that " +
		"nobody wonders."))}
	for i := range f.p.Sequence.Leftovers {
		list = append(list, f.bullet(f.say(f.p.Sequence.Leftovers[i].Line())))
	}
	f.write(list, f.right-f.left)
}

// sign writes the sheet that is signed at the wall.
func (f *flow) sign() {
	if len(f.p.Sequence.Steps) == 0 {
		return
	}
	f.section("To sign", true)
	rows := []string{"Print bar measured: 100 mm is ........ , 4 in is ........", "What is behind the wall, found and proved a second way",
		"Pull test passed", "Both hooks engaged, seen from the side", "Lock closed, or why not: ........................",
		"Level, turned end for end",
		"Cables free in every position", "Left over parts handed over"}
	for _, row := range rows {
		f.y += 4
		f.room(10)
		f.SetDrawColor(34, 34, 38)
		f.Rect(f.left, f.y, 4.5, 4.5, "D")
		f.font("", bodySize)
		f.at(f.left+8, f.y+3.6, f.words(row))
		f.y += 5.5
	}
	f.y += 12
	for _, row := range []string{"Who", "When", "Where"} {
		f.font("", bodySize)
		f.at(f.left, f.y, f.words(row))
		f.Line(f.left+20, f.y+0.8, f.left+110, f.y+0.8)
		f.y += 12
	}
	f.write([]paragraph{f.body(f.words("These steps advise. The maker's manual, local codes and licensed practice come first."))},
		f.right-f.left)
}

// template adds the template's pages at 1:1.
func (f *flow) template() error {
	d := f.p.Template
	if d == nil || len(f.p.Sequence.Steps) == 0 {
		return nil
	}
	tiles, err := Tiles(d, f.p.Paper)
	if err != nil {
		return err
	}
	f.writer.d = d
	f.tiles(tiles, func(first bool) {
		if first {
			f.Bookmark(f.words("Drilling template, 1:1"), 0, 0)
		}
	})
	return nil
}
