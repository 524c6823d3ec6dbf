package main

import (
	"fmt"
	"io"
	"os"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

// maxFile is the largest document read.
const maxFile = 64 << 20

// inputs are the documents of a command.
type inputs struct {
	In []string `required:"" placeholder:"FILE" help:"Document in the exchange format; may be repeated."`
}

// read reads and merges the documents, with all their errors at once.
func (i *inputs) read() (*exchange.Contents, error) {
	var all []*exchange.Contents
	var problems exchange.Problems
	for _, file := range i.In {
		raw, err := readFile(file)
		if err != nil {
			return nil, badInput{err}
		}
		c, err := exchange.Read(raw)
		if err != nil {
			for _, p := range err.(exchange.Problems) {
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

func readFile(name string) ([]byte, error) {
	f, err := os.Open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	raw, err := io.ReadAll(io.LimitReader(f, maxFile+1))
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

type pairOf struct {
	display *catalog.Display
	bracket *catalog.Bracket
	turn    catalog.Turn
	job     *catalog.Job // nil without one
}

func (c *chosen) find(in *exchange.Contents, job string) (pairOf, error) {
	p := pairOf{turn: catalog.Turn(c.Turn)}
	display, bracket := c.Display, c.Bracket
	if job != "" {
		if p.job = in.Job(job); p.job == nil {
			return p, badInput{fmt.Errorf("job %q is not in the documents", job)}
		}
		display, bracket, p.turn = p.job.Display, p.job.Bracket, p.job.Turn
	}
	if display == "" || bracket == "" {
		return p, badInput{fmt.Errorf("give --job, or --display and --bracket")}
	}
	if p.display = in.Display(display); p.display == nil {
		return p, badInput{fmt.Errorf("display %q is not in the documents", display)}
	}
	if p.bracket = in.Bracket(bracket); p.bracket == nil {
		return p, badInput{fmt.Errorf("bracket %q is not in the documents", bracket)}
	}
	return p, nil
}
