package wall

import (
	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Drill is how a wall plate's holes are drilled in one type of wall.
type Drill struct {
	Wall     catalog.WallType
	Diameter quantity.Optional[quantity.Length]
	Depth    quantity.Optional[quantity.Length] // from the finished wall's surface
	Maker    quantity.Optional[quantity.Length] // the maker's figure for the depth
	Fastener string
}

// Short says whether the maker's depth is less than what the fastener needs.
func (d Drill) Short() bool {
	return d.Maker.Known && d.Depth.Known && d.Maker.Value < d.Depth.Value
}

const lagTipRoom = 6 * quantity.Millimetre // beyond the lag's tip (practice)

// Drilling gives the drilling of a bracket's plate for a type of wall; false
// when the bracket says nothing of it. For a lag the depth is computed:
// length − wall plate − its washer + 6 mm (practice); otherwise it is the
// maker's.
func Drilling(b *catalog.Bracket, wall catalog.WallType) (Drill, bool) {
	w, ok := b.Walls[wall]
	if !ok {
		return Drill{}, false
	}
	d := Drill{Wall: wall, Diameter: w.Drill, Depth: w.Depth, Maker: w.Depth, Fastener: first0(w.Fasteners)}
	if first0(w.Fasteners) == "lag" && b.WallPlate != nil {
		for _, i := range b.Kit {
			if i.Kind == "lag" {
				d.Depth = quantity.Some(i.Length - b.WallPlate.Thickness.Or(0) - b.WallPlate.Washer + lagTipRoom)
				break
			}
		}
	}
	return d, true
}

func first0(list []string) string {
	if len(list) == 0 {
		return ""
	}
	return list[0]
}
