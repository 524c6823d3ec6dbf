package main

import (
	"fmt"

	"nexufix/core/catalog"
	"nexufix/exchange"
)

type placeCommand struct {
	inputs
	Job string `placeholder:"ID" help:"One job; without it, all of them."`
}

// placements is what the command writes.
type placements struct {
	Format     string               `json:"format"`
	Placements []exchange.Placement `json:"placements"`
}

// Run places the displays of jobs on their walls.
func (c *placeCommand) Run(s *streams) error {
	in, err := c.read(s)
	if err != nil {
		return err
	}
	jobs := in.Jobs
	if c.Job != "" {
		job := in.Job(c.Job)
		if job == nil {
			return badInput{fmt.Errorf("job %q is not in the documents", c.Job)}
		}
		jobs = []*catalog.Job{job}
	}
	if len(jobs) == 0 {
		return badInput{fmt.Errorf("there is no job in the documents")}
	}
	out := placements{exchange.Format, []exchange.Placement{}}
	for _, job := range jobs {
		w, err := (&chosen{}).open(in, job.ID, "")
		if err != nil {
			return err
		}
		out.Placements = append(out.Placements, w.Placements()...)
	}
	return writeJSON(s.out, out)
}
