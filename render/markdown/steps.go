// Package markdown writes step sequences as Markdown.
package markdown

import (
	"bytes"
	"fmt"
	"strings"

	"nexufix/core/quantity"
	"nexufix/core/steps"
)

// Steps writes a sequence in the given units.
func Steps(s *steps.Sequence, units quantity.Units) []byte {
	var b bytes.Buffer
	fmt.Fprintf(&b, "# %s\n\n", escape(s.Title))
	fmt.Fprintf(&b, "Wall: %s.", s.Wall.Name())
	if len(s.Blocked) > 0 {
		b.WriteString("\n\n**Do not install.**\n\n")
		for _, c := range s.Blocked {
			fmt.Fprintf(&b, "- %s %s\n", escape(c.Text.In(units)), escape(c.Remedy.In(units)))
		}
	}
	if len(s.Steps) == 0 {
		b.WriteString("\nThere are no steps until that is settled.\n")
		return b.Bytes()
	}
	fmt.Fprintf(&b, " People: %d. About %d minutes. %s\n\n## Cautions\n\n", s.People, s.Minutes, escape(s.Lift.Text().In(units)))
	for _, c := range s.Cautions {
		fmt.Fprintf(&b, "- %s\n", escape(c.In(units)))
	}
	parts(&b, "Parts", s.Parts)
	parts(&b, "To be supplied", s.Supply)
	b.WriteString("\n## Tools\n\n")
	for _, t := range s.Tools {
		fmt.Fprintf(&b, "- %s\n", escape(t))
	}
	b.WriteString("\n## Steps\n")
	for i := range s.Steps {
		if len(s.Blocked) > 0 {
			b.WriteString("\n*Do not install: see above.*\n")
		}
		step(&b, i+1, &s.Steps[i], units)
	}
	for _, h := range s.Hidden {
		fmt.Fprintf(&b, "\n**%s**\n", escape(h.Text()))
	}
	parts(&b, "Left over", s.Leftovers)
	symptoms(&b, s.Symptoms, units)
	return b.Bytes()
}

func symptoms(b *bytes.Buffer, list []steps.Symptom, units quantity.Units) {
	if len(list) > 0 {
		b.WriteString("\n## When something is wrong\n")
	}
	for _, s := range list {
		fmt.Fprintf(b, "\n### %s\n\n", escape(s.Name))
		if !s.Stop.Empty() {
			fmt.Fprintf(b, "**%s**\n\n", escape(s.Stop.In(units)))
		}
		for i, c := range s.Causes {
			fmt.Fprintf(b, "%d. %s *Look:* %s *Do:* %s\n", i+1, escape(c.What.In(units)), escape(c.Look.In(units)), escape(c.Do.In(units)))
		}
	}
}

func step(b *bytes.Buffer, n int, s *steps.Step, units quantity.Units) {
	fmt.Fprintf(b, "\n### %d. %s\n\n", n, escape(s.Title))
	for _, t := range s.Text {
		fmt.Fprintf(b, "%s\n", escape(t.In(units)))
	}
	for _, t := range s.Mind {
		fmt.Fprintf(b, "\n**Mind:** %s\n", escape(t.In(units)))
	}
	if len(s.Parts) > 0 {
		b.WriteString("\n")
		for _, p := range s.Parts {
			fmt.Fprintf(b, "- %s\n", escape(p.Line()))
		}
	}
	if len(s.Tools) > 0 {
		fmt.Fprintf(b, "\nTools: %s\n", escape(strings.Join(s.Tools, ", ")))
	}
	if !s.Caution.Empty() {
		fmt.Fprintf(b, "\n**Caution:** %s\n", escape(s.Caution.In(units)))
	}
	if !s.Check.Empty() {
		fmt.Fprintf(b, "\n*Check:* %s\n", escape(s.Check.In(units)))
	}
	if !s.Wrong.Empty() {
		fmt.Fprintf(b, "\n*If it goes wrong:* %s\n", escape(s.Wrong.In(units)))
	}
	if s.People > 1 {
		fmt.Fprintf(b, "\n%d people.\n", s.People)
	}
}

func parts(b *bytes.Buffer, title string, list []steps.Part) {
	if len(list) == 0 {
		return
	}
	fmt.Fprintf(b, "\n## %s\n\n", title)
	for _, p := range list {
		fmt.Fprintf(b, "- %s\n", escape(p.Line()))
	}
}

var special = strings.NewReplacer(`\`, `\\`, "`", "\\`", "*", `\*`, "_", `\_`, "[", `\[`, "]", `\]`, "<", "&lt;", ">", "&gt;", "#", `\#`,
	"|", `\|`)

// escape keeps names from being read as markup.
func escape(s string) string { return special.Replace(s) }
