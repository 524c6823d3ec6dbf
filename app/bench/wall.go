package bench

import (
	"errors"
	"slices"
	"strconv"

	"nexufix/core/catalog"
	"nexufix/core/draw/pairing"
	"nexufix/core/draw/wall"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/exchange"
)

// WallRequest is a pairing on a site, and a move of something on its wall.
type WallRequest struct {
	Request Request   `json:"request" required:"true"`
	Move    *WallMove `json:"move,omitempty"`
	Show    string    `json:"show,omitempty" enum:"wall,holding,build_up,side"` // the one drawing that is wanted; without it all are
	Have    []string  `json:"have,omitempty" maxItems:"40" maxLength:"16"`
}

// WallMove moves something on the wall: x, y are its middle, from the wall's left
// end and the floor; for furniture, lines and the ceiling y is the height. With
// snap it goes to a computed place nearby.
type WallMove struct {
	What  string      `json:"what" required:"true" enum:"display,stud,furniture,outlet,niche,surface,line,ceiling"`
	Index int         `json:"index,omitempty" minimum:"0" maximum:"10000"`
	X     exchange.MM `json:"x_mm" required:"true" minimum:"-100000" maximum:"200000"`
	Y     exchange.MM `json:"y_mm" required:"true" minimum:"-100000" maximum:"100000"`
	Snap  bool        `json:"snap,omitempty"`
}

// WallView is a wall with the displays on it.
type WallView struct {
	Site       catalog.Job          `json:"site" required:"true"` // after the move
	Placements []exchange.Placement `json:"placements" required:"true"`
	Numbers    [][]int              `json:"numbers" required:"true"`  // of the points of each placement, as drawing, template and card have them
	Wall       string               `json:"wall" required:"true"`     // SVG, to scale; "" if it cannot be placed
	Holding    string               `json:"holding" required:"true"`  // SVG: the demand of each fastener
	BuildUp    string               `json:"build_up" required:"true"` // SVG: a section through a fastener in the wall
	Side       string               `json:"side" required:"true"`     // SVG from the side with the wall's build-up
	Marks      map[string]string    `json:"marks" required:"true"`    // of the drawings; one whose mark is in have, or that is not shown, is empty
	Left       exchange.MM          `json:"left_mm" required:"true"`  // of the picture of the wall
	Top        exchange.MM          `json:"top_mm" required:"true"`
	Movable    []Movable            `json:"movable" required:"true"` // what can be moved
	Snapped    []string             `json:"snapped" required:"true"`
	Guide      *WallGuide           `json:"guide"`
	Others     []WallAlternative    `json:"others" required:"true"` // brackets that can be placed there, if this one cannot
	Said       Said                 `json:"said" required:"true"`
}

// WallAlternative is another bracket that fits the display and can be placed
// there.
type WallAlternative struct {
	ID      string `json:"id" required:"true"`
	Name    string `json:"name" required:"true"`
	Verdict string `json:"verdict" required:"true" enum:"fits,fits_with_conditions,missing_data,does_not_fit"` // of the pairing
}

// maxOthers is how many other brackets are named.
const maxOthers = 4

// alternatives returns the brackets of the catalogue that fit the display and can be placed
// there, the best first.
func (a *Workspace) alternatives() []WallAlternative {
	out := []WallAlternative{}
	for _, p := range a.rank(a.all.Brackets) {
		if p.Bracket.ID == a.bracket.ID || p.Verdict == fit.DoesNotFit {
			continue
		}
		goes := true
		for _, one := range place.Place(&p, a.job) {
			goes = goes && len(one.Points) > 0 && len(one.Blocked()) == 0
		}
		if goes {
			out = append(out, WallAlternative{p.Bracket.ID, p.Bracket.Name, string(p.Verdict)})
		}
		if len(out) == maxOthers {
			break
		}
	}
	return out
}

// Movable is something that can be moved, its place and its name.
type Movable struct {
	What  string      `json:"what" required:"true"`
	Index int         `json:"index" required:"true"`
	Tag   string      `json:"tag" required:"true"` // of its parts in the picture
	X     exchange.MM `json:"x_mm" required:"true"`
	Y     exchange.MM `json:"y_mm" required:"true"`
	Name  string      `json:"name" required:"true"`
}

// WallGuide is what a type of wall requires, by common practice.
type WallGuide struct {
	Fixing string `json:"fixing" required:"true"`
	Hole   string `json:"hole" required:"true"`
	Limit  string `json:"limit" required:"true"`
}

// OnWall places a pairing on its wall, after moving something on it.
func (a *Workspace) OnWall(in WallRequest) (*WallView, error) {
	m := in.Move
	if a.job == nil || a.job.Wall.Type == "" {
		return nil, exchange.Problems{{Path: "request.site.wall", Found: "is missing", Allowed: "the wall that it is placed on"}}
	}
	p := a.Judge()
	view := &WallView{Placements: []exchange.Placement{}, Numbers: [][]int{},
		Snapped: []string{}, Movable: []Movable{}, Others: []WallAlternative{}}
	if m != nil {
		move := place.Move{What: m.What, Index: m.Index, X: m.X, Y: m.Y, Snap: m.Snap}
		job, said, err := move.Apply(&p, a.job)
		if err != nil {
			return nil, exchange.Problems{{Path: "move.index", Found: strconv.Itoa(m.Index), Allowed: err.Error()}}
		}
		a.job = job
		for _, text := range said {
			view.Snapped = append(view.Snapped, a.reader().Say(text))
		}
	}
	all := a.Placed(&p)
	for i := range all {
		view.Placements = append(view.Placements, exchange.PlacementOf(&all[i], a.reader()))
		numbers := make([]int, len(all[i].Points))
		for n := range numbers {
			numbers[n] = wall.Number(all, i, n)
		}
		view.Numbers = append(view.Numbers, numbers)
	}
	view.Said = a.said(&p, all)
	if view.Said.Verdict == string(fit.DoesNotFit) && m == nil { // not while something is dragged: it takes too long
		view.Others = a.alternatives()
	}
	view.Site = *a.job
	if d := wall.Elevation(all); d != nil {
		view.Wall = a.picture(d)
		view.Left, view.Top = quantity.FromMM(d.Min.X), quantity.FromMM(d.Max.Y)
	}
	for _, t := range place.Movables(all) {
		view.Movable = append(view.Movable, Movable{t.What, t.Index, t.Tag(), t.X, t.Y, a.reader().Say(t.Name)})
	}
	shown := &all[0]
	for i := range all {
		if len(all[i].Points) > 0 {
			shown = &all[i]
			break
		}
	}
	view.Holding, view.BuildUp = a.picture(wall.Holding(shown)), a.picture(wall.BuildUp(shown))
	view.Side = a.picture(pairing.Side(&p, a.Tilt.Value.Degrees(), shown))
	drawings := map[string]*string{"wall": &view.Wall, "holding": &view.Holding, "build_up": &view.BuildUp, "side": &view.Side}
	view.Marks = unsent(in.Have, drawings)
	for name, svg := range drawings {
		if in.Show != "" && in.Show != name {
			*svg = ""
		}
	}
	if g := a.job.Wall.Type.Properties(); g.Type != catalog.NoWall {
		view.Guide = &WallGuide{a.reader().Say(g.Fixing), a.reader().Say(g.Hole), a.reader().Say(g.Limit)}
	}
	return view, nil
}

// At prefixes the paths of problems.
func At(at string, err error) error {
	var problems exchange.Problems
	if errors.As(err, &problems) {
		out := slices.Clone(problems)
		for i := range out {
			out[i].Path = at + out[i].Path
		}
		return out
	}
	return err
}
