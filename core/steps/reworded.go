package steps

import (
	"regexp"
	"slices"
)

// Reworded are sentences of the steps that are worded otherwise now and say the same, with the same figures in the same order: the earlier
// wording, and the present one. A saved change of an engineer on an earlier wording goes on to hold. A sentence that says something else
// now has no place here: what an engineer wrote for it has to be looked at again. TestSentencesKeepTheirChanges of package language fails
// until a sentence that is said no more is in one of the two states.
var Reworded = map[string]string{}

var (
	figureOfLine     = regexp.MustCompile(`\{[0-9]+\}`)
	figureOfSentence = regexp.MustCompile(`%(\[[0-9]+\])?[vq]`)
)

// message is which sentence a line of a template is, without the numbers of its figures, by its present wording.
func message(line string, reworded map[string]string) string {
	line = figureOfLine.ReplaceAllString(line, "%v")
	for range len(reworded) {
		now := ""
		for was, is := range reworded {
			if figureOfSentence.ReplaceAllString(was, "%v") == line {
				now = figureOfSentence.ReplaceAllString(is, "%v")
			}
		}
		if now == "" {
			break
		}
		line = now
	}
	return line
}

// sameMessages reports whether two templates say the same messages with as many figures.
func sameMessages(now, was []string, reworded map[string]string) bool {
	return slices.EqualFunc(now, was, func(a, b string) bool { return a == b || message(a, reworded) == message(b, reworded) })
}
