package fit

// Rule is a rule that a pairing, or its place on a wall, is judged by, by its
// name in the exchange format.
type Rule string

// The rules of a pairing.
const (
	PatternRule    Rule = "pattern"
	BoltsRule      Rule = "bolts"
	ThreadRule     Rule = "thread"
	StackRule      Rule = "stack"
	LoadRule       Rule = "load"
	BalanceRule    Rule = "balance"
	SizeRule       Rule = "size"
	TurnRule       Rule = "turn"
	ArmsRule       Rule = "arms"
	PortsRule      Rule = "ports"
	PlugsRule      Rule = "plugs"
	ProtrusionRule Rule = "protrusion"
	TiltRule       Rule = "tilt"
	SwivelRule     Rule = "swivel"
	HoldRule       Rule = "hold"
	DataRule       Rule = "data"
)

// RuleNames are the names of the rules that people read.
var RuleNames = map[Rule]string{
	PatternRule: "Hole pattern", BoltsRule: "Bolts per arm", ThreadRule: "Thread", StackRule: "Bolt stack", LoadRule: "Load",
	BalanceRule: "Balance", SizeRule: "Size",
	TurnRule: "Turn", ArmsRule: "Arms", PortsRule: "Ports", PlugsRule: "Plugs", ProtrusionRule: "Stands out", TiltRule: "Tilt",
	SwivelRule: "Swivel", HoldRule: "Joint holds", DataRule: "Figures",
}

// Rules lists the rules of a pairing in the order they are judged.
var Rules = []Rule{PatternRule, BoltsRule, ThreadRule, StackRule, LoadRule, BalanceRule, SizeRule, TurnRule, ArmsRule, PortsRule,
	PlugsRule, ProtrusionRule, TiltRule, SwivelRule, HoldRule, DataRule}

// Consequence lists the rules by what it costs to be wrong about one, the worst
// first: a cracked panel, a fall, then what comes out on the wall.
var Consequence = []Rule{StackRule, LoadRule, BalanceRule, BoltsRule, ThreadRule, PatternRule, TurnRule, SizeRule, ProtrusionRule,
	PlugsRule, PortsRule,
	ArmsRule, HoldRule, SwivelRule, TiltRule, DataRule}

// String is the name in the exchange format.
func (r Rule) String() string { return string(r) }

// needed reports whether an unknown of a rule leaves the verdict open.
func needed(r Rule) bool {
	switch r {
	case PatternRule, ThreadRule, StackRule, LoadRule, SizeRule:
		return true
	}
	return false
}
