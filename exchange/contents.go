package exchange

import (
	"sync"

	"nexufix/core/catalog"
)

// Contents is what one or more documents hold, as the catalogue's nouns.
type Contents struct {
	Displays []*catalog.Display
	Brackets []*catalog.Bracket
	Policy   *catalog.Policy // nil: no document has one
	Jobs     []*catalog.Job
	Photos   map[string][]byte // JPEG, by id; those that came with a document

	at *positions // of many; nil: they are looked through
}

// positions are where each document stood when they were indexed; a copy of the contents may have others since.
type positions struct {
	once                     sync.Once
	displays, brackets, jobs map[string]int
}

// Indexed lets documents be found by id without looking through all of them.
func (c *Contents) Indexed() { c.at = new(positions) }

func (c *Contents) index() *positions {
	if c.at == nil {
		return new(positions)
	}
	c.at.once.Do(func() {
		c.at.displays = positionsOf(c.Displays, displayID)
		c.at.brackets = positionsOf(c.Brackets, bracketID)
		c.at.jobs = positionsOf(c.Jobs, jobID)
	})
	return c.at
}

func displayID(d *catalog.Display) string { return d.ID }

func bracketID(b *catalog.Bracket) string { return b.ID }

func jobID(j *catalog.Job) string { return j.ID }

func positionsOf[T any](all []*T, idOf func(*T) string) map[string]int {
	out := make(map[string]int, len(all))
	for i, x := range all {
		out[idOf(x)] = i
	}
	return out
}

// found finds a document by id: where it stood, else wherever it is.
func found[T any](all []*T, at map[string]int, id string, idOf func(*T) string) *T {
	if i, is := at[id]; is && i < len(all) && idOf(all[i]) == id {
		return all[i]
	}
	for _, x := range all {
		if idOf(x) == id {
			return x
		}
	}
	return nil
}

// IDs returns the ids of all displays, brackets and jobs, in this order.
func (c *Contents) IDs() []string {
	out := make([]string, 0, len(c.Displays)+len(c.Brackets)+len(c.Jobs))
	for _, d := range c.Displays {
		out = append(out, d.ID)
	}
	for _, b := range c.Brackets {
		out = append(out, b.ID)
	}
	for _, j := range c.Jobs {
		out = append(out, j.ID)
	}
	return out
}

// Display finds a display by id.
func (c *Contents) Display(id string) *catalog.Display {
	return found(c.Displays, c.index().displays, id, displayID)
}

// Bracket finds a bracket by id.
func (c *Contents) Bracket(id string) *catalog.Bracket {
	return found(c.Brackets, c.index().brackets, id, bracketID)
}

// Job finds a job by id.
func (c *Contents) Job(id string) *catalog.Job { return found(c.Jobs, c.index().jobs, id, jobID) }

// PolicyOrDefault returns the documents' policy, or the default one.
func (c *Contents) PolicyOrDefault() catalog.Policy {
	if c.Policy == nil {
		return catalog.DefaultPolicy()
	}
	return *c.Policy
}
