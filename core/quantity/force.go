package quantity

import (
	"math/big"
	"strings"
	"unicode"
)

var (
	newtonMetre = unit{whole(int64(NewtonMetre)), false, "N·m"}
	newton      = unit{whole(int64(Newton)), false, "N"}
	// A pound-force is 4.4482216152605 N: 0.45359237 kg at 9.80665 m/s² (NIST SP 811, B.8).
	poundForce = unit{big.NewRat(44_482_216_152_605, 10_000_000), true, "lbf"}
	poundFoot  = unit{new(big.Rat).Mul(poundForce.size, big.NewRat(int64(Foot), int64(Metre))), true, "lbf·ft"}
	poundInch  = unit{new(big.Rat).Mul(poundForce.size, big.NewRat(int64(Inch), int64(Metre))), true, "lbf·in"}

	torqueUnits = map[string]unit{
		"nm": newtonMetre, "ncm": {big.NewRat(int64(NewtonMetre), 100), false, "N·cm"},
		"lbfft": poundFoot, "ftlbf": poundFoot, "lbft": poundFoot, "ftlb": poundFoot, "ftlbs": poundFoot,
		"lbfin": poundInch, "inlbf": poundInch, "lbin": poundInch, "inlb": poundInch, "inlbs": poundInch,
	}
	forceUnits = map[string]unit{"n": newton, "kn": {whole(1000 * int64(Newton)), false, "kN"}, "lbf": poundForce}
)

// ParseTorque reads a moment: "12", "12 N·m", "9 ft-lb", "13 in·lb". A number without a unit is of newton metres.
func ParseTorque(s string) (Torque, error) {
	bare := newtonMetre
	bare.name = "a moment"
	n, err := parse(joined(s), torqueUnits, bare, "N·m, lbf·ft or lbf·in", 1_000_000*int64(NewtonMetre))
	return Torque(n), err
}

// ParseForce reads a force: "100", "100 N", "1,2 kN", "25 lbf". A number without a unit is of newtons.
func ParseForce(s string) (Force, error) {
	bare := newton
	bare.name = "a force"
	n, err := parse(s, forceUnits, bare, "N, kN or lbf", 1_000_000*int64(Newton))
	return Force(n), err
}

// joined is a text whose unit has nothing between its letters: "13 in·lb" as "13 inlb".
func joined(s string) string {
	at := strings.IndexFunc(s, unicode.IsLetter)
	if at < 0 {
		return s
	}
	return s[:at] + strings.Map(func(r rune) rune {
		if strings.ContainsRune("·⋅.*- \u00a0", r) {
			return -1
		}
		return r
	}, s[at:])
}
