package main

import (
	"errors"
	"fmt"
	"io"
	"os"

	"nexufix/app/bench"
	"nexufix/core/catalog"
	"nexufix/exchange"
)

// maxFile is the largest document read.
const maxFile = 64 << 20

// inputs are the documents of a command.
type inputs struct {
	In []string `required:"" placeholder:"FILE" help:"Document in the exchange format, - for standard input; may be repeated."`
}

// read reads and merges the documents, with all their errors at once.
func (i *inputs) read(s *streams) (*exchange.Contents, error) {
	var all []*exchange.Contents
	var problems exchange.Problems
	for _, file := range i.In {
		raw, err := s.read(file)
		if err != nil {
			return nil, badInput{err}
		}
		c, err := exchange.Read(raw)
		if err != nil {
			var wrong exchange.Problems
			if !errors.As(err, &wrong) {
				return nil, err
			}
			for _, p := range wrong {
				if len(i.In) > 1 {
					p.Path = file + ": " + p.Path
				}
				problems = append(problems, p)
			}
			continue
		}
		all = append(all, c)
	}
	if len(problems) > 0 {
		return nil, problems
	}
	return exchange.Merge(i.In, all)
}

// read reads a file that a command is given; -: standard input, once.
func (s *streams) read(name string) ([]byte, error) {
	from := s.in
	if name != "-" {
		f, err := os.Open(name)
		if err != nil {
			return nil, err
		}
		defer f.Close()
		from = f
	} else if s.used {
		return nil, errors.New("-: standard input can be read once")
	}
	s.used = s.used || name == "-"
	raw, err := io.ReadAll(io.LimitReader(from, maxFile+1))
	if err == nil && len(raw) > maxFile {
		err = fmt.Errorf("%s is larger than %d MB", name, maxFile>>20)
	}
	return raw, err
}

// chosen finds what a command is about: by job, or by display and bracket.
type chosen struct {
	Display string `placeholder:"ID" help:"Display, without a job."`
	Bracket string `placeholder:"ID" help:"Bracket, without a job."`
	Turn    int    `default:"0" enum:"0,90,270" help:"How the display hangs, in degrees clockwise."`
}

// open finds what is chosen, for a kind of wall where there is no job.
func (c *chosen) open(in *exchange.Contents, job, wall string) (*bench.Workspace, error) {
	w, err := bench.OpenChoice(in, bench.Choice{Display: c.Display, Bracket: c.Bracket, Turn: catalog.Turn(c.Turn), Job: job,
		Wall: catalog.WallType(wall)})
	if err != nil {
		return nil, badInput{err}
	}
	return w, nil
}
