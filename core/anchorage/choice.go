package anchorage

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/quantity"
)

// Choice is the fastener of a bracket's plate in one type of wall: one item for
// all points, or a second one for those beside the studs. Placement, strength,
// sheets and steps all use it.
type Choice struct {
	Wall   catalog.WallType
	Blocks string       // their kind; "": not known
	Steel  optional     // sheet of a metal stud
	Said   bool         // the bracket's table has this type of wall
	Item   catalog.Item // the fastener; zero if there is none
	Plug   *catalog.Item
	// Beside is for the board beside the studs, if the table names two.
	Beside *catalog.Item

	// What is wrong with it, and why it cannot be judged. Both empty: sound.
	Wrong, Unclear quantity.Phrase
}

// Known reports whether there is an item to judge.
func (c *Choice) Known() bool { return c.Item.Kind != "" }

// Sound reports whether the item is one that is made for the wall.
func (c *Choice) Sound() bool { return c.Known() && c.Wrong.Empty() && c.Unclear.Empty() }

// Carrier returns the item whose rating counts: the plug of a lag or screw in
// masonry, else the item itself.
func (c *Choice) Carrier() *catalog.Item {
	if c.Plug != nil {
		return c.Plug
	}
	return &c.Item
}

// Label returns its name on lists.
func (c *Choice) Label() string {
	if c.Plug != nil {
		return c.Plug.Label() + " with " + c.Item.Label()
	}
	return c.Item.Label()
}

// Word returns a short name of its kind.
func (c *Choice) Word() string {
	word := c.Item.Kind.Properties().Short
	switch {
	case c.Plug != nil:
		return "plug and " + word
	case word != "":
		return word
	}
	return c.Item.Kind.Word()
}

// Choose returns the fastener for a type of wall: the one that the bracket's table names by
// kind or by name, else an item of the usual kind. A lag or screw in masonry
// is combined with the kit's plug.
func Choose(b *catalog.Bracket, wall *catalog.Wall) Choice {
	w := wall.Type
	said, ok := b.Walls[w]
	c := Choice{Wall: w, Blocks: wall.BlockKind, Steel: wall.Steel, Said: ok}
	if len(said.Fasteners) == 0 {
		c.takeUsual(b, wall)
		return c
	}
	var found []catalog.Item
	for _, name := range said.Fasteners {
		i, unclear := named(b, name, wall)
		if !unclear.Empty() {
			c.Unclear = unclear
			return c
		}
		found = append(found, i)
	}
	c.take(b, found[0])
	if len(found) > 1 {
		c.sortNamed(b, found)
	}
	return c
}

// takeUsual chooses an item of the usual kinds for the wall.
func (c *Choice) takeUsual(b *catalog.Bracket, wall *catalog.Wall) {
	for _, kind := range c.Wall.Properties().Usual {
		if i, ok := bestOf(b, wall, kind); ok && i.MadeFor(c.Wall) {
			c.take(b, i)
			return
		}
	}
	for _, i := range b.Kit {
		if i.Kind == catalog.Anchor {
			if _, ok := i.Resolved(); !ok {
				c.Unclear = ratingRequest(&i)
				return
			}
		}
	}
	c.Unclear = quantity.Say("The kit has no fastener for %v.", c.Wall.Name())
}

func ratingRequest(i *catalog.Item) quantity.Phrase {
	return quantity.Say("What kind of fixing %v is, and for which walls, is not known.", i.Label())
}

// sortNamed sorts two named items: the one for the studs, and the one beside them.
func (c *Choice) sortNamed(b *catalog.Bracket, found []catalog.Item) {
	if !found[0].MadeFor(c.Wall) && found[1].MadeFor(c.Wall) {
		found[0], found[1] = found[1], found[0]
		c.Wrong = quantity.Phrase{}
		c.take(b, found[0])
	}
	c.Beside = &found[1]
}

// take chooses an item, with the plug it needs, and records what is wrong
// with it.
func (c *Choice) take(b *catalog.Bracket, i catalog.Item) {
	c.Item, c.Plug = i, nil
	lag := i.Kind.Properties().InWood
	switch masonry := c.Wall.Holds() == catalog.Masonry; {
	case masonry && lag:
		plug, ok := firstOf(b.Kit, c.Wall, catalog.Plug)
		if !ok {
			c.Wrong = quantity.Say("%v alone does not hold in %v, and the kit has no plug for it.", capital(i.Label()), c.Wall.Name())
			return
		}
		c.Plug = &plug
	case masonry && i.Kind == catalog.Plug:
		plug := i
		with, ok := firstOf(b.Kit, catalog.WoodStud, catalog.Lag, catalog.Screw)
		if !ok {
			c.Wrong = quantity.Say("The kit has no lag or screw for %v.", i.Label())
			return
		}
		c.Item, c.Plug = with, &plug
	}
	if c.Wall == catalog.HollowBoard && lag {
		c.Wrong = quantity.Say("%v alone does not hold in board, whatever it is said to be for.", capital(i.Label()))
		return
	}
	if carrier := c.Carrier(); !carrier.MadeFor(c.Wall) {
		c.Wrong = quantity.Say("%v is not made for %v.", capital(carrier.Label()), c.Wall.Name())
	}
}

// firstOf returns the first item of one of some kinds; those made for the
// wall come before others.
func firstOf(kit []catalog.Item, w catalog.WallType, kinds ...catalog.ItemKind) (catalog.Item, bool) {
	var out catalog.Item
	for _, kind := range kinds {
		for _, i := range kit {
			i, ok := i.Resolved()
			if !ok || i.Kind != kind {
				continue
			}
			if i.MadeFor(w) {
				return i, true
			}
			if out.Kind == "" {
				out = i
			}
		}
	}
	return out, out.Kind != ""
}

// bestOf returns the best item of a kind: made for the wall, long enough for it and no longer than it takes, thicker, then
// longer. What stands first in a kit does not decide.
func bestOf(b *catalog.Bracket, wall *catalog.Wall, kind catalog.ItemKind) (best catalog.Item, found bool) {
	layers := LayersOf(b, wall)
	suits := func(i *catalog.Item) int {
		in, known := layers.In(i.Length)
		switch {
		case !i.MadeFor(wall.Type):
			return 0
		case !known:
			return 1
		}
		c := Choice{Wall: wall.Type, Item: *i}
		long := true
		switch wall.Type.Holds() {
		case catalog.Wood:
			long = Penetration(b, &c, &layers).Short == 0
		case catalog.Masonry:
			long = kind == catalog.Plug || Embedment(&c, &layers).Short == 0
		}
		past, _ := layers.Past(i.Length)
		inside, limited := layers.Inside()
		switch {
		case long && (!limited || past <= inside):
			return 3
		case in > 0:
			return 2
		}
		return 1
	}
	better := func(i, o *catalog.Item) bool {
		return cmp.Or(cmp.Compare(suits(i), suits(o)), cmp.Compare(i.Diameter, o.Diameter), cmp.Compare(i.Length, o.Length),
			cmp.Compare(o.Label(), i.Label())) > 0
	}
	for n := range b.Kit {
		if i, ok := b.Kit[n].Resolved(); ok && i.Kind == kind && (!found || better(&i, &best)) {
			best, found = i, true
		}
	}
	return best, found
}

// named returns the item that a table names, by kind or by name; else the reason.
func named(b *catalog.Bracket, name string, wall *catalog.Wall) (catalog.Item, quantity.Phrase) {
	kit, w := b.Kit, wall.Type
	if kind, ok := catalog.ParseItemKind(name); ok {
		if i, ok := bestOf(b, wall, kind); ok {
			return i, quantity.Phrase{}
		}
		if kind == catalog.Anchor { // an older table and a newer kit, or the other way round
			kinds := w.Properties().Usual
			for _, i := range kit {
				if i.Kind == catalog.Anchor {
					if r, ok := i.Resolved(); ok && (slices.Contains(kinds, r.Kind) || r.MadeFor(w)) {
						return r, quantity.Phrase{}
					}
					return i, ratingRequest(&i)
				}
			}
		}
		return catalog.Item{}, quantity.Say("The bracket's table names a %v, which its kit does not have.", kind.Word())
	}
	fold := func(s string) string { return strings.ToLower(strings.Join(strings.Fields(s), " ")) }
	var part []catalog.Item
	for _, i := range kit {
		if !i.Kind.Fastens() {
			continue
		}
		r, ok := i.Resolved()
		switch {
		case fold(i.Name) == fold(name) && !ok:
			return i, ratingRequest(&i)
		case fold(i.Name) == fold(name):
			return r, quantity.Phrase{}
		case ok && strings.Contains(fold(i.Name), fold(name)):
			part = append(part, r)
		}
	}
	if len(part) == 1 {
		return part[0], quantity.Phrase{}
	}
	return catalog.Item{}, quantity.Say("The bracket's table names %v, which its kit does not have.", fmt.Sprintf("%q", name))
}

func capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
