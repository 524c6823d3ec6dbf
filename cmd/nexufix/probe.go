package main

import (
	"nexufix/core/probe"
	"nexufix/core/quantity"
	"nexufix/exchange"
)

type probeCommand struct{ inputs }

// Run works out what trial bolts tell of a hole.
func (c *probeCommand) Run(s *streams) error {
	var raws [][]byte
	for _, file := range c.In {
		raw, err := s.read(file)
		if err != nil {
			return badInput{err}
		}
		raws = append(raws, raw)
	}
	in, err := exchange.ReadProbe(c.In, raws)
	if err != nil {
		return err
	}
	return writeJSON(s.out, exchange.ProbeResultOf(probe.Solve(in.Trials, in.Kit), quantity.Reader{Units: quantity.Metric}))
}
