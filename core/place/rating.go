package place

import (
	"math"

	"nexufix/core/anchorage"
	"nexufix/core/catalog"
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// believable adds to the check of the fastener a rating that its own steel does not hold, A_r·f_u: a figure to check, as those of a
// display are.
func (p *Placement) believable(c fit.Check) fit.Check {
	if p.Job.Wall.Type.Holds() == catalog.Wood || c.Status > fit.Caution {
		return c
	}
	all := []anchorage.Choice{p.Choice}
	if p.Choice.Beside != nil {
		all = append(all, anchorage.Choice{Wall: catalog.HollowBoard, Item: *p.Choice.Beside})
	}
	for i := range all {
		one := &all[i]
		r, rated := one.Rating(&p.Layers)
		steel := steelOf(&one.Item)
		if most := max(r.Pull, r.Shear); rated && one.Item.Diameter > 0 && most > steel {
			c.Status, c.Measure = fit.Caution, fit.Measure{}
			c.Text = quantity.Say("%v is said to hold %v; its own steel breaks at %v.", label(one), most, quantity.Capacity(steel))
			c.Remedy = quantity.Say("Check the figure against its maker's data sheet.")
			return c
		}
	}
	return c
}

// steelOf returns the mass at which a fastener's steel breaks.
func steelOf(i *catalog.Item) quantity.Mass {
	root := i.SoundRoot()
	switch {
	case root > 0:
	case i.Kind.Properties().InWood:
		root = anchorage.RootOf(i)
	default:
		root = i.Diameter * 8 / 10 // an ISO thread of 8 mm has 0.81
	}
	force := math.Pi * root.MM() * root.MM() / 4 * float64(i.TensileStrength())
	return quantity.Mass(force / anchorage.Newtons(quantity.Kilogram) * float64(quantity.Kilogram))
}

// inBag adds to the check of the fastener what the bracket's own bag lacks of its fasteners; each display has a bracket of its own.
func (p *Placement) inBag(c fit.Check) fit.Check {
	if c.Status > fit.Note || !p.Choice.Known() {
		return c
	}
	beside := 0
	for i := range p.Points {
		if p.Points[i].Beside {
			beside++
		}
	}
	lacks := func(n int, item *catalog.Item) {
		if item == nil || c.Status > fit.Note {
			return
		}
		have := 0
		for _, k := range p.Pairing.Bracket.Kit {
			if k, _ = k.Resolved(); k.Same(item) {
				have += k.Count
			}
		}
		if have < n {
			c.Status, c.Measure = fit.Caution, fit.Measure{}
			c.Text = quantity.Say("The bag has %v of the %v %v that the plate takes here.", have, n, item.Label())
			c.Remedy = quantity.Say("Send %v × %v.", n-have, item.Label())
		}
	}
	lacks(len(p.Points)-beside, &p.Choice.Item)
	lacks(len(p.Points)-beside, p.Choice.Plug)
	lacks(beside, p.Choice.Beside)
	return c
}
