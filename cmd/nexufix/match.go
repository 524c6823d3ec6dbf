package main

import (
	"fmt"
	"runtime/debug"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

type matchCommand struct {
	inputs
	chosen
}

// Run judges every display with every bracket, or those asked for.
func (m *matchCommand) Run(s *streams) error {
	in, err := m.read()
	if err != nil {
		return err
	}
	if m.Display != "" && in.Display(m.Display) == nil {
		return badInput{fmt.Errorf("display %q is not in the documents", m.Display)}
	}
	if m.Bracket != "" && in.Bracket(m.Bracket) == nil {
		return badInput{fmt.Errorf("bracket %q is not in the documents", m.Bracket)}
	}
	// What is remembered of many pairings is most of the memory: it is collected sooner, for a twentieth more time.
	defer debug.SetGCPercent(debug.SetGCPercent(45))
	return exchange.Match(s.out, in, m.Display, m.Bracket, catalog.Turn(m.Turn))
}
