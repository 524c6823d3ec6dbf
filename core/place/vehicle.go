package place

import (
	"nexufix/core/fit"
	"nexufix/core/quantity"
)

// VehicleRule: in a vehicle a display is locked, and an arm too.
const VehicleRule fit.RuleID = "vehicle"

var vehicleRule = rule{About: fit.About{ID: VehicleRule, Name: "Vehicle", Blocks: true, Step: "lock"},
	Judge: (*Placement).judgeVehicle}

func (p *Placement) judgeVehicle() []fit.Check {
	switch b := p.Pairing.Bracket; {
	case !p.Job.Wall.Vehicle:
		return nil
	case b.Lock == nil:
		return []fit.Check{stated(fit.Fail, quantity.Say("In a vehicle a display without a lock comes off its bracket."),
			quantity.Say("Take a bracket with a lock."), "lock")}
	case b.Swings():
		return []fit.Check{stated(fit.Caution, quantity.Say("In a vehicle an arm swings by itself: the lock of the display "+
			"does not hold it."),
			quantity.Say("Fit a travel lock to the arm, and close it before the vehicle moves."), "lock")}
	}
	return []fit.Check{stated(fit.Pass, quantity.Say("In a vehicle: the display has a lock, and weights count three times."),
		quantity.Phrase{}, "lock")}
}
