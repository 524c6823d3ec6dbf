package catalog

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
)

// StepChange is an engineer's change of a job's step sequence. The sequence is generated again
// each time, and the changes are applied to it. If the text that a change was made on has changed, it is a
// conflict, and is not applied.
type StepChange struct {
	Step string `json:"step" required:"true" pattern:"^[a-z][a-z0-9_-]{0,39}$"`
	What string `json:"what" required:"true" enum:"reword,add,hide,move,figure,photo"`
	// Reword: the generated sentences that it was made on, their figures as {1}, {2} …
	Was []string `json:"was,omitempty" minItems:"1" maxItems:"100" maxLength:"1000"`
	// Reword, add: sentences; figures of the generated ones as {1}, {2} …
	Text []string `json:"text,omitempty" minItems:"1" maxItems:"100" maxLength:"1000"`
	// add; photo: what it shows
	Title string `json:"title,omitempty" maxLength:"80"`
	// photo: of the document's photos
	Photo string `json:"photo,omitempty" pattern:"^[0-9a-f]{32}$"`
	// add
	Stage Stage `json:"stage,omitempty"`
	// add, move: right after this step
	After string `json:"after,omitempty" maxLength:"40"`
	// hide: printed with the steps
	Why string `json:"why,omitempty" maxLength:"500"`
	// figure: its name
	Shows string `json:"figure,omitempty" enum:"bags,back,try,stack,arms,hook,wall,prove,marks,drill,plate,cables,lift,lock,level,tension"`
}

var reference = regexp.MustCompile(`\{([0-9]+)\}`)

// References returns the numbers of the generated figures that a text refers to.
func References(texts ...string) []int {
	var out []int
	for _, m := range reference.FindAllStringSubmatch(strings.Join(texts, " "), -1) {
		if n, err := strconv.Atoi(m[1]); err == nil {
			out = append(out, n)
		}
	}
	return out
}

// validateChanges reports what changes lack, and references to figures that their texts do not have.
func validateChanges(out *problems, changes []StepChange) {
	for n := range changes {
		c := &changes[n]
		at := fmt.Sprintf("step_changes[%d]", n)
		need := func(field string, there bool) {
			if !there {
				out.add(at+"."+field, "what it takes to "+c.What+" a step", "is missing")
			}
		}
		switch c.What {
		case "reword":
			need("text", len(c.Text) > 0)
			need("was", len(c.Was) > 0)
			has := map[int]bool{}
			for _, n := range References(c.Was...) {
				has[n] = true
			}
			for _, n := range References(c.Text...) {
				if !has[n] {
					out.add(at+".text", "the figures of the generated text", "{%d}", n)
				}
			}
		case "add":
			need("title", c.Title != "")
			need("text", len(c.Text) > 0)
			need("stage", c.Stage != "")
			if len(References(c.Text...)) > 0 {
				out.add(at+".text", "no figures: a step that is added has none of its own", "%q", c.Text[0])
			}
		case "move":
			need("after", c.After != "")
		case "figure":
			need("figure", c.Shows != "")
		case "photo":
			need("photo", c.Photo != "")
		}
	}
}
