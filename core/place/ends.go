package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// WallRule and FloorRule: the display is between the wall's ends, and above the floor.
const WallRule fit.RuleID = "wall"

var wallRule = rule{About: fit.About{ID: WallRule, Name: "Wall’s ends", Step: "offsets"},
	Judge: (*Placement).ends}

// FloorRule: see WallRule.
const FloorRule fit.RuleID = "floor"

var floorRule = rule{About: fit.About{ID: FloorRule, Name: "Floor", Step: "offsets"},
	Judge: (*Placement).floor}

// ends: the display is between the wall's ends.
func (p *Placement) ends() []fit.Check {
	left, right := p.edges()
	room := left
	if w := p.Job.Wall.Width; w.Known {
		room = min(left, w.Value-right)
	}
	if !p.Job.Wall.Width.Known && room >= 0 {
		return nil
	}
	return []fit.Check{measured(fit.AtLeast(room, 0), quantity.Say("The display stays %v inside the wall's ends.",
		quantity.Coarse(room, quantity.Down)), quantity.Say("The display stands out %v past the wall's end.",
		quantity.Coarse(-room, quantity.Up)),
		quantity.Say("Move it, or take a narrower one."), "display")}
}

func (p *Placement) floor() []fit.Check {
	if p.Bottom >= 0 {
		return nil
	}
	return []fit.Check{stated(fit.Fail, quantity.Say("The bottom edge would be %v under the floor.", quantity.Coarse(-p.Bottom, quantity.Up)),
		quantity.Say("Hang it higher."))}
}
