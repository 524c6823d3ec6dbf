package exchange

import (
	"reflect"

	"nexufix/core/catalog"
)

// PolicySettings are settings of a company's policy on top of another policy, from which absent ones are
// taken.
type PolicySettings struct{ given *node }

// PolicyOf is every setting of a policy.
func PolicyOf(p catalog.Policy) PolicySettings {
	n, err := nodeOf(p)
	if err != nil {
		panic(err) // a policy always encodes
	}
	return PolicySettings{n}
}

// read is called by the strict reader.
func (p *PolicySettings) read(r *reader, n *node, path string) {
	var all catalog.Policy
	r.object(n, reflect.ValueOf(&all).Elem(), path)
	p.given = n
	if r.typed == nil {
		return
	}
	// What was typed is a number from here on.
	read := PolicyOf(all).given
	for i, name := range n.names() {
		if m := read.member(name); m != nil && n.in.items[i].kind == text {
			n.in.items[i] = *m
		}
	}
}

// On returns base with these settings changed.
func (p *PolicySettings) On(base catalog.Policy) catalog.Policy {
	if p != nil && p.given != nil {
		r := reader{problems: new(Problems)} // these were reported when it was read
		r.object(p.given, reflect.ValueOf(&base).Elem(), "")
	}
	return base
}

// Core returns the default policy with these settings changed.
func (p *PolicySettings) Core() catalog.Policy { return p.On(catalog.DefaultPolicy()) }

// MarshalJSON writes the settings that are given.
func (p PolicySettings) MarshalJSON() ([]byte, error) { return p.given.append(nil), nil }
