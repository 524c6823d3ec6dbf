package place

import (
	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// ToMeasure lists what has to be measured at a wall before it can be judged, in words; none: nothing.
func ToMeasure(w *catalog.Wall) (out []quantity.Phrase) {
	kind := w.Type.Properties()
	add := func(missing bool, text string) {
		if missing {
			out = append(out, quantity.Say(text))
		}
	}
	add(w.Type == catalog.NoWall, "what the wall is made of")
	add(!w.Covering.Known, "how thick its covering is")
	add(kind.Cavity && !w.Cavity.Known, "how deep the cavity behind it is")
	add((w.Type == catalog.NoWall || kind.Studs) && w.Studs == nil, "where its studs are")
	add(kind.Studs && kind.Holds == catalog.Wood && !w.Backing.Known, "how deep its studs are")
	add(w.Type == catalog.MetalStud && !w.Steel.Known, "how thick the sheet of its studs is")
	add(kind.Holds == catalog.Masonry && !w.Backing.Known, "how thick the masonry is")
	add(w.Type == catalog.Block && w.BlockKind == "", "whether its blocks are solid, hollow, aerated or old brick")
	add(w.Type.OfBoard() && !w.Backing.Known, "how thick the board is")
	add(w.Type.OfBoard() && w.BoardKind == "", "whether its board is ply, OSB or particle board")
	add(w.Type == catalog.HollowBoard && !w.Cavity.Known, "how much room is behind the board")
	add(!w.Width.Known || !w.Height.Known, "how wide and how high it is")
	return out
}
