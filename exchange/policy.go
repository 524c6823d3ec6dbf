package exchange

import (
	"reflect"

	"nexufix/core/catalog"
)

// PolicySettings are settings of a company's policy; those that are absent are as in another
// policy.
type PolicySettings struct{ given *node }

// PolicyOf is every setting of a policy.
func PolicyOf(p catalog.Policy) PolicySettings {
	n, err := nodeOf(p)
	if err != nil {
		panic(err) // a policy can always be written
	}
	return PolicySettings{n}
}

// read is how the strict reader reads one.
func (p *PolicySettings) read(r *reader, n *node, path string) {
	var all catalog.Policy
	r.object(n, reflect.ValueOf(&all).Elem(), path)
	p.given = n
}

// On is the policy with these settings, and the rest as in base. Without any it is base.
func (p *PolicySettings) On(base catalog.Policy) catalog.Policy {
	if p != nil && p.given != nil {
		r := reader{new(Problems)} // they were found when it was read
		r.object(p.given, reflect.ValueOf(&base).Elem(), "")
	}
	return base
}

// Core is the policy on top of the default one.
func (p *PolicySettings) Core() catalog.Policy { return p.On(catalog.DefaultPolicy()) }

// MarshalJSON writes the settings that are given.
func (p PolicySettings) MarshalJSON() ([]byte, error) { return p.given.append(nil), nil }
