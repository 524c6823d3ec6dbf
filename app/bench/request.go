// Package bench has the use cases of a pairing: what is asked on the bench and on the wall, the sheets and steps that are
// made of the answer, the matrix, edits and what they would change.
//
// Like the packages beside it, it has each use case once, for the server and the command line: a function that takes its data and returns
// a value or an error. It knows neither HTTP nor flags. [Open] finds the nouns that a [Request] names in a catalogue and returns a
// [Workspace], whose methods judge, draw and rank. Errors that the caller can correct are [exchange.Problems], each with a path, what was
// found and what is allowed; package server/api converts them to HTTP answers, package main to exit codes.
package bench

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nexufix/core/catalog"
	"nexufix/core/drawing"
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/core/quantity"
	"nexufix/core/stack"
	"nexufix/exchange"
	"nexufix/render/svg"
	"nexufix/store"
)

// Request is a request of the bench: a display on a bracket. Either is given by its id in
// the catalogue, or in full, as typed in or changed for a
// what-if. Without a bracket the best one is chosen.
type Request struct {
	DisplayID   string                   `json:"display_id,omitempty" maxLength:"80"`
	Display     *catalog.Display         `json:"display,omitempty"`
	BracketID   string                   `json:"bracket_id,omitempty" maxLength:"80"`
	Bracket     *catalog.Bracket         `json:"bracket,omitempty"`
	Turn        int                      `json:"turn_deg,omitempty" enum:"0,90,270"`
	Accessories exchange.OptKG           `json:"accessories_kg,omitzero" minimum:"0" maximum:"1000"`
	Policy      *exchange.PolicySettings `json:"policy,omitempty"`
	Wall        catalog.WallType         `json:"wall,omitempty"`
	// The chosen place of the top hole row, below the hook.
	TopHoles exchange.OptMM `json:"top_holes_mm,omitzero" minimum:"-2000" maximum:"3000"`
	// How far the arms stay behind the display's back at least, by spacers.
	Clearance exchange.OptMM `json:"arm_clearance_mm,omitzero" minimum:"0" maximum:"200"`
	// How far it has to tilt and swivel; else as far as the bracket goes.
	WantedTilt   exchange.OptDeg `json:"wanted_tilt_deg,omitzero" minimum:"0" maximum:"90"`
	WantedSwivel exchange.OptDeg `json:"wanted_swivel_deg,omitzero" minimum:"0" maximum:"180"`

	Center exchange.OptMM  `json:"center_mm,omitzero" minimum:"0" maximum:"20000"`
	Tilt   exchange.OptDeg `json:"tilt_deg,omitzero" minimum:"-90" maximum:"90"`     // top forward; only drawn
	Swivel exchange.OptDeg `json:"swivel_deg,omitzero" minimum:"-180" maximum:"180"` // only drawn
	JobID  string          `json:"job_id,omitempty" maxLength:"80"`                  // a saved job, in place of all that it says
	// The wall, and where on it; its display and bracket are the request's, where that has them.
	Site  *catalog.Job `json:"site,omitempty"`
	Units string       `json:"units,omitempty" enum:"mm,in"`
	// What is changed of all this, in the order in which it was: display.mass_kg, bracket.slot_width_mm, site.wall.width_mm,
	// accessories_kg. Trial bolts of a hole stand in for its recess and depth.
	Changes []exchange.Edit `json:"changes,omitempty" maxItems:"1000"`
	// The revisions that the page first read, to be told what was saved since.
	DisplayRevision int                `json:"display_revision,omitempty" minimum:"0"`
	BracketRevision int                `json:"bracket_revision,omitempty" minimum:"0"`
	Have            []string           `json:"have,omitempty" maxItems:"40" maxLength:"16"` // the marks of drawings that the client has
	Language        *quantity.Language `json:"-"`                                           // in which the answer is read; nil: English
}

// Workspace is a request with its nouns found, on which the use cases of a pairing
// are methods. It belongs to one request and has its limit of work.
type Workspace struct {
	Request
	display *catalog.Display
	bracket *catalog.Bracket
	policy  catalog.Policy
	all     *exchange.Contents
	job     *catalog.Job // nil without a site
	typed   bool         // the display is not in the catalogue
	work    *stack.Work  // the limit of work

	was      map[string]exchange.Anything // what each changed figure is without the change
	unplaced exchange.Problems            // what is wrong with the site, which was left out
}

// MostWork is how many steps a request may take: a second or two of a processor.
// A usual request takes a hundredth of that.
const MostWork = 40_000_000

// NewWork returns the limit of work of one request.
func NewWork(ctx context.Context) *stack.Work {
	return stack.NewWork(ctx, MostWork).Remembering(solved)
}

// solved caches the stacks of requests: the next keystroke needs most of them
// again. It is small: with 24 MB one answer in a hundred took a second under load.
var solved = stack.NewAnswers(3 << 20)

// Units returns the units of a request's answer: "in" for inches, else metric.
func Units(name string) quantity.Units {
	if name == "in" {
		return quantity.Imperial
	}
	return quantity.Metric
}

// reader is who asks: in which units and language the answer is read.
func (a *Workspace) reader() quantity.Reader {
	return quantity.Reader{Units: Units(a.Request.Units), Language: a.Language}
}

func (a *Workspace) units() quantity.Units { return a.reader().Units }

// picture is a drawing as whoever asks reads it.
func (a *Workspace) picture(d *drawing.Drawing) string { return svg.Picture(d.For(a.Language)) }

// extra returns the accessories, the chosen place of the arms, and what the job wants.
func (a *Workspace) extra() fit.Extra {
	var out fit.Extra
	if a.job != nil {
		out = fit.ExtraOf(a.job)
	}
	out.Work, out.Accessories, out.TopHoles = a.work, a.Accessories.Value, a.TopHoles
	out.Clearance = a.Clearance.Or(out.Clearance)
	if a.WantedTilt.Known {
		out.WantedTilt = a.WantedTilt
	}
	if a.WantedSwivel.Known {
		out.WantedSwivel = a.WantedSwivel
	}
	return out
}

func (a *Workspace) Judge() fit.Pairing {
	return fit.Judge(a.display, a.bracket, catalog.Turn(a.Turn), a.extra(), a.policy)
}

// Documents are what a pairing is judged by, in full.
type Documents struct {
	Display *catalog.Display
	Bracket *catalog.Bracket
	Policy  catalog.Policy
	Job     *catalog.Job // nil without a site
}

// OpenDocuments is [Open] for what takes nothing from a catalogue.
func OpenDocuments(ctx context.Context, of Documents) *Workspace {
	a := &Workspace{display: of.Display, bracket: of.Bracket, policy: of.Policy, all: &exchange.Contents{}, work: NewWork(ctx)}
	if of.Job != nil {
		job := *of.Job
		a.job, a.Turn, a.Accessories = &job, int(job.Turn), quantity.Some(job.Accessories)
	}
	return a
}

// Exhausted reports whether the work took more than a request may.
func (a *Workspace) Exhausted() bool { return a.work.Exhausted() }

// Open finds the nouns of a request in a catalogue. Errors are
// [exchange.Problems] with paths in the request.
func Open(ctx context.Context, all *exchange.Contents, q Request) (*Workspace, error) {
	to := q.Language // no part of what is changed
	q, err := q.ofJob(all)
	if err != nil {
		return nil, err
	}
	q, was, err := q.changed(all)
	if err != nil {
		return nil, err
	}
	q.Language = to
	a := Workspace{Request: q, work: NewWork(ctx), was: was}
	a.all, a.policy = all, a.Policy.On(all.PolicyOrDefault())
	var problems exchange.Problems
	switch {
	case a.Request.Display != nil:
		a.display = a.Request.Display
		problems = append(problems, exchange.Complete("display", a.display)...)
		a.typed = all.Display(a.display.ID) == nil
	default:
		if a.display = all.Display(a.DisplayID); a.display == nil {
			problems = append(problems, Missing("display", a.DisplayID))
		}
	}
	switch {
	case a.Request.Bracket != nil:
		a.bracket = a.Request.Bracket
		problems = append(problems, exchange.Complete("bracket", a.bracket)...)
	case a.BracketID == "" && a.display != nil && len(all.Brackets) > 0:
		a.bracket = a.rank(all.Brackets)[0].Bracket
	default:
		if a.bracket = all.Bracket(a.BracketID); a.bracket == nil {
			problems = append(problems, Missing("bracket", a.BracketID))
		}
	}
	if a.Site != nil {
		if !a.Accessories.Known {
			a.Accessories = quantity.Some(a.Site.Accessories)
		}
		if !a.Center.Known {
			a.Center = heightOf(a.Site)
		}
		job := *a.Site
		problems = append(problems, exchange.Complete("site", &job)...)
		a.job = &job
	}
	if problems != nil {
		return nil, problems
	}
	if a.job != nil {
		a.job.Display, a.job.Bracket, a.job.Turn, a.job.Accessories = a.display.ID, a.bracket.ID, catalog.Turn(a.Turn), a.extra().Accessories
	}
	return &a, nil
}

// OpenPairing is [Open] for what is judged without its wall too: if only the wall's figures are wrong, it is left out, and the
// answer says so.
func OpenPairing(ctx context.Context, all *exchange.Contents, q Request) (*Workspace, error) {
	q, err := q.ofJob(all)
	if err != nil {
		return nil, err
	}
	a, err := Open(ctx, all, q)
	var problems exchange.Problems
	ofSite := func(path string) bool { return strings.HasPrefix(path, "site.") }
	if q.Site == nil || !errors.As(err, &problems) || slices.ContainsFunc(problems, func(p exchange.Problem) bool { return !ofSite(p.Path) }) {
		return a, err
	}
	q.Site, q.Changes = nil, slices.DeleteFunc(slices.Clone(q.Changes), func(e exchange.Edit) bool { return ofSite(e.Path) })
	if a, err = Open(ctx, all, q); a != nil {
		a.unplaced = problems
	}
	return a, err
}

// Choice names a pairing of a document: a job, or a display and a bracket.
type Choice struct {
	Display, Bracket string
	Turn             catalog.Turn
	Job              string
	Wall             catalog.WallType // without a job
}

// OpenChoice finds what is named in a document. Its work has no limit.
func OpenChoice(all *exchange.Contents, c Choice) (*Workspace, error) {
	a := &Workspace{all: all, policy: all.PolicyOrDefault()}
	if c.Job != "" {
		if a.job = all.Job(c.Job); a.job == nil {
			return nil, fmt.Errorf("job %q is not in the documents", c.Job)
		}
		c.Display, c.Bracket, c.Turn, c.Wall = a.job.Display, a.job.Bracket, a.job.Turn, ""
		a.Accessories = quantity.Some(a.job.Accessories)
	}
	if c.Display == "" || c.Bracket == "" {
		return nil, errors.New("give --job, or --display and --bracket")
	}
	if a.display = all.Display(c.Display); a.display == nil {
		return nil, fmt.Errorf("display %q is not in the documents", c.Display)
	}
	if a.bracket = all.Bracket(c.Bracket); a.bracket == nil {
		return nil, fmt.Errorf("bracket %q is not in the documents", c.Bracket)
	}
	a.Turn, a.Request.Wall = int(c.Turn), c.Wall
	return a, nil
}

// Missing returns the error for a noun that is neither in the catalogue nor given.
func Missing(kind, id string) exchange.Problem {
	found := "is missing"
	if id != "" {
		found = fmt.Sprintf("%q is not in the catalogue", id)
	}
	return exchange.Problem{Path: kind + "_id", Found: found, Allowed: "the id of a " + kind + " in the catalogue, or a " + kind + " in full"}
}

// Save judges a pairing for the list of saved ones; a display that is not in the
// catalogue will be added to it.
func (a *Workspace) Save() (row store.Saved, toCatalogue *exchange.Contents, err error) {
	if a.all.Bracket(a.bracket.ID) == nil {
		return row, nil, exchange.Problems{{Path: "bracket.id", Found: strconv.Quote(a.bracket.ID) + " is not in the catalogue",
			Allowed: "a bracket of the catalogue"}}
	}
	p := a.Judge()
	request, err := a.frozen()
	if err != nil {
		return row, nil, err
	}
	result, err := json.Marshal(exchange.PairingOf(&p, quantity.Reader{Units: quantity.Metric}, false))
	if err != nil {
		return row, nil, err
	}
	toCatalogue = &exchange.Contents{}
	if a.typed {
		toCatalogue.Displays = []*catalog.Display{a.display}
	}
	return store.Saved{
		Display: a.display.ID, Bracket: a.bracket.ID, Title: a.display.Name() + " on " + a.bracket.Name,
		Verdict: string(place.Verdict(&p, a.Placed(&p))), Request: string(request), Result: string(result),
	}, toCatalogue, nil
}

// frozen returns the request with its nouns in full, to be saved.
func (a *Workspace) frozen() ([]byte, error) {
	q := a.Request
	policy := exchange.PolicyOf(a.policy)
	q.DisplayID, q.Display, q.BracketID, q.Bracket, q.Policy, q.Have = "", a.display, "", a.bracket, &policy, nil
	return json.Marshal(q)
}

// places places the displays on their site; nil without one.
func (a *Workspace) Placed(p *fit.Pairing) []place.Placement {
	if a.job == nil || a.job.Wall.Type == "" {
		return nil
	}
	return place.Place(p, a.job)
}

// Placements places the displays on the job's wall.
func (a *Workspace) Placements() []exchange.Placement {
	p := a.Judge()
	var out []exchange.Placement
	for _, one := range place.Place(&p, a.job) {
		out = append(out, exchange.PlacementOf(&one, a.reader()))
	}
	return out
}
