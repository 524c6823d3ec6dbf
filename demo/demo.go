// Package demo is the demo data: an invented mount maker, Plinth & Ledge,
// whose support desk serves a chain of bakeries and a railway museum. Makers,
// models and figures are invented. The files are in the exchange format and
// go through the ordinary reader.
package demo

import (
	"embed"
	"fmt"

	"nexufix/exchange"
)

//go:embed *.json
var files embed.FS

// Files lists the demo's documents.
var Files = []string{"brackets.json", "bakeries.json", "museum.json", "jobs.json"}

// Contents reads and merges the demo's documents.
func Contents() (*exchange.Contents, error) {
	var all []*exchange.Contents
	for _, name := range Files {
		raw, err := files.ReadFile(name)
		if err != nil {
			return nil, err
		}
		c, err := exchange.Read(raw)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		all = append(all, c)
	}
	return exchange.Merge(Files, all)
}
