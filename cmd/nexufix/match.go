package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"runtime/debug"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

type matchCommand struct {
	inputs
	chosen
	Format string `enum:"json,jsonl" default:"json" help:"json: one document; jsonl: a pairing a line."`
}

// Run judges every display with every bracket, or those asked for.
func (m *matchCommand) Run(s *streams) error {
	in, err := m.read(s)
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
	if m.Format == "jsonl" {
		return lines(s.out, "pairings", func(w io.Writer) error {
			return exchange.Match(w, in, m.Display, m.Bracket, catalog.Turn(m.Turn))
		})
	}
	return exchange.Match(s.out, in, m.Display, m.Bracket, catalog.Turn(m.Turn))
}

// lines writes what stands in a list of a document, each entry on a line of its own (JSON Lines), as it comes.
func lines(out io.Writer, list string, document func(io.Writer) error) error {
	from, to := io.Pipe()
	defer from.Close() // who writes is told when nobody reads any more
	go func() { to.CloseWithError(document(to)) }()
	in := json.NewDecoder(from)
	for at := json.Token(nil); at != list; {
		var err error
		if at, err = in.Token(); err != nil {
			return err
		}
	}
	if _, err := in.Token(); err != nil { // the list's beginning
		return err
	}
	var line bytes.Buffer
	for in.More() {
		var entry json.RawMessage
		if err := in.Decode(&entry); err != nil {
			return err
		}
		line.Reset()
		if err := json.Compact(&line, entry); err != nil {
			return err
		}
		line.WriteByte('\n')
		if _, err := out.Write(line.Bytes()); err != nil {
			return err
		}
	}
	_, err := io.Copy(io.Discard, io.MultiReader(in.Buffered(), from)) // what goes wrong at the end is said as well
	return err
}
