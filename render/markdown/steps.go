// Package markdown writes step sequences as Markdown.
package markdown

import (
	"bytes"
	"fmt"
	"strings"

	"nexufix/core/quantity"
	"nexufix/core/steps"
)

// Steps writes a sequence in its language and the given units.
func Steps(s *steps.Sequence, units quantity.Units) []byte {
	w := writer{units: units, language: s.Language}
	w.put("# %s\n\n**%s**\n\n%s", w.say("%v", s.Title), w.say("Draft, not approved"), w.say("Wall: %v.", s.Wall.Name()))
	if len(s.Blocked) > 0 {
		w.put("\n\n**%s**\n\n", w.say("Do not install."))
		for _, c := range s.Blocked {
			w.put("- %s\n", w.say("%v", c.Sentences()))
		}
	}
	if len(s.Steps) == 0 {
		w.put("\n%s\n", w.say("There are no steps until that is settled."))
		return w.Bytes()
	}
	if len(s.Blocked) > 0 {
		w.put("\n")
	} else {
		w.put(" ")
	}
	w.put("%s\n\n## %s\n\n", w.say("People: %v. About %v minutes. %v", s.People, s.Minutes, s.Lift.Text()), w.say("Cautions"))
	for _, c := range s.Cautions {
		w.put("- %s\n", w.say("%v", c))
	}
	w.parts("Parts", s.Parts)
	w.parts("To be supplied", s.Supply)
	w.put("\n## %s\n\n", w.say("Tools"))
	for _, t := range s.Tools {
		w.put("- %s\n", w.say("%v", t))
	}
	w.put("\n## %s\n", w.say("Steps"))
	for i := range s.Steps {
		if len(s.Blocked) > 0 {
			w.put("\n*%s*\n", w.say("Do not install: see above."))
		}
		w.step(i+1, &s.Steps[i])
	}
	for i := range s.Hidden {
		w.put("\n**%s**\n", w.say("%v", s.Hidden[i].Text()))
	}
	w.parts("What is left over", s.Leftovers)
	w.symptoms(s.Symptoms)
	return w.Bytes()
}

type writer struct {
	bytes.Buffer
	units    quantity.Units
	language *quantity.Language
}

func (w *writer) put(format string, args ...any) { fmt.Fprintf(w, format, args...) }

// say writes a sentence in the page's language, escaped.
func (w *writer) say(format string, args ...any) string {
	return escape(quantity.Say(format, args...).For(w.language).In(w.units))
}

func (w *writer) symptoms(list []steps.Symptom) {
	if len(list) > 0 {
		w.put("\n## %s\n", w.say("When something is wrong"))
	}
	for _, s := range list {
		w.put("\n### %s\n\n", w.say("%v", s.Name))
		if !s.Stop.Empty() {
			w.put("**%s**\n\n", w.say("%v", s.Stop))
		}
		for i, c := range s.Causes {
			w.put("%d. %s *%s* %s *%s* %s\n", i+1, w.say("%v", c.What), w.say("Right is:"), w.say("%v", c.Look), w.say("Else:"), w.say("%v", c.Do))
		}
	}
}

func (w *writer) step(n int, s *steps.Step) {
	w.put("\n### %d. %s\n\n", n, w.say("%v", s.Title))
	for _, t := range s.Text {
		w.put("%s\n", w.say("%v", t))
	}
	for _, p := range s.Photos {
		w.put("\n![%s](photos/%s.jpg)\n", w.say("%v", or(p.Shows, "Photograph")), p.ID)
	}
	for _, t := range s.Mind {
		w.put("\n**%s**\n", w.say("Mind: %v", t))
	}
	if len(s.Parts) > 0 {
		w.put("\n")
		for i := range s.Parts {
			w.put("- %s\n", w.say("%v", s.Parts[i].Line()))
		}
	}
	if !s.Caution.Empty() {
		w.put("\n**%s**\n", w.say("Caution: %v", s.Caution))
	}
	if !s.Check.Empty() {
		w.put("\n*%s* %s\n", w.say("Right when:"), w.say("%v", s.Check))
	}
	if !s.Wrong.Empty() {
		w.put("\n*%s* %s\n", w.say("If it goes wrong:"), w.say("%v", s.Wrong))
	}
	w.put("\n%s\n", w.say("%v", s.Effort()))
}

func or(a, b string) string {
	if a == "" {
		return b
	}
	return a
}

func (w *writer) parts(title string, list []steps.Part) {
	if len(list) == 0 {
		return
	}
	w.put("\n## %s\n\n", w.say(title))
	for i := range list {
		w.put("- %s\n", w.say("%v", list[i].Line()))
	}
}

var special = strings.NewReplacer(`\`, `\\`, "`", "\\`", "*", `\*`, "_", `\_`, "[", `\[`, "]", `\]`, "<", "&lt;", ">", "&gt;", "#", `\#`,
	"|", `\|`)

// escape escapes a name, so that it is not read as markup.
func escape(s string) string { return special.Replace(s) }
