package review

import (
	"bytes"
	"context"
	"fmt"
	"maps"
	"nexufix/app/bench"
	"nexufix/core/approval"
	"nexufix/core/drawing"
	"nexufix/core/quantity"
	"nexufix/exchange"
	"nexufix/language"
	"nexufix/render/markdown"
	"nexufix/render/svg"
	"regexp"
	"slices"
	"strings"
)

// printed is what the documents of a judgement print, each (pack, template, card) as one sum: every sentence in every language and both
// systems of units, and every line of their drawings, made by what makes the documents; without date, number and fingerprint of the
// input. It is compared between two inputs by one program, and never stored: another wording of the program's own is no change.
func (f *source) printed(ctx context.Context) (map[string]string, error) {
	i, err := f.open(ctx).Install(bench.InstallOptions{})
	if err != nil {
		return nil, err
	}
	i.Fingerprint = ""
	var pack bytes.Buffer
	languages := []*quantity.Language{nil}
	for _, code := range language.Codes() {
		l, err := bench.Language(code)
		if err != nil {
			return nil, err
		}
		if l != nil {
			languages = append(languages, l.With(i.Pairing.Bracket.Translated(code)))
		}
	}
	whole := i.Pack()
	for _, l := range languages {
		for _, units := range []quantity.Units{quantity.Metric, quantity.Imperial} {
			said := func(all ...quantity.Phrase) {
				for _, p := range all {
					pack.WriteString(p.For(l).In(units))
					pack.WriteByte(0)
				}
			}
			i.Sequence.Language = l
			pack.Write(markdown.Steps(i.Sequence, units))
			said(quantity.Say("%v", whole.Verdict))
			said(whole.Conditions...)
			said(whole.StandsOn...)
		}
	}
	for _, name := range slices.Sorted(maps.Keys(whole.Figures)) {
		pack.WriteString(name)
		writeDrawn(&pack, whole.Figures[name], languages)
	}
	out := map[string]string{"pack": approval.Sum(pack.String())}
	for name, d := range map[string]*drawing.Drawing{"template": whole.Template, "card": whole.Card} {
		var b bytes.Buffer
		writeDrawn(&b, d, languages)
		out[name] = approval.Sum(b.String())
	}
	return out, ctx.Err()
}

// writeDrawn writes a drawing, and its lettering in each language: where that stands follows from what it says.
func writeDrawn(out *bytes.Buffer, d *drawing.Drawing, languages []*quantity.Language) {
	if d == nil {
		return
	}
	out.Write(svg.Write(d, svg.Options{Both: true}))
	for _, l := range languages[1:] {
		for i := range d.Items {
			t, ok := d.Items[i].Shape.(drawing.Text)
			if !ok {
				continue
			}
			for _, units := range []quantity.Units{quantity.Metric, quantity.Imperial} {
				out.WriteString(t.Text.For(l).In(units))
				out.WriteByte(0)
			}
		}
	}
}

// differs lists how what is printed now differs from what was approved, by the canonical documents of both; nil where everything
// prints the same. The result that was stored says in what; of another engine also whether that comes to another result by what was
// approved.
func (f *source) differs(ctx context.Context, approved, result, present string) (differ []approval.Difference, err error) {
	now, err := f.Judge(ctx)
	if err != nil {
		return nil, err
	}
	if result != string(now.Result) {
		if differ, err = approval.Differences([]byte(result), now.Result); err != nil {
			return nil, err
		}
	}
	sameEngine := strings.Contains(approved, fmt.Sprintf(`,"engine":%d,`, exchange.Engine))
	if len(differ) == 0 && sameEngine && withoutPolicy.ReplaceAllString(approved, "") == withoutPolicy.ReplaceAllString(present, "") {
		return nil, nil // another policy, by which everything comes out the same
	}
	if sameEngine && slices.ContainsFunc(differ, isPrinted) {
		return differ, nil
	}
	was, err := readFrozen(approved)
	if err != nil {
		return nil, err
	}
	if !sameEngine {
		again, err := was.Judge(ctx)
		if err != nil {
			return nil, err
		}
		if byEngine, err := approval.Differences([]byte(result), again.Result); err != nil || len(byEngine) > 0 {
			return differ, err
		}
	}
	before, err := was.printed(ctx)
	if err != nil {
		return nil, err
	}
	after, err := f.printed(ctx)
	if err != nil || maps.Equal(before, after) {
		return nil, err
	}
	if len(differ) > 0 {
		return differ, nil
	}
	// No finding and no part is another: what was typed otherwise says it.
	figures, err := approval.Differences([]byte(approved), []byte(present))
	for _, d := range figures {
		if !strings.HasPrefix(d.Path, "policy.") && d.Path != "engine" {
			differ = append(differ, d)
		}
	}
	for _, name := range slices.Sorted(maps.Keys(after)) {
		if before[name] != after[name] {
			differ = append(differ, approval.Difference{Path: "printed." + name, Was: "as it was sent", Now: "prints otherwise"})
		}
	}
	return differ, err
}

// isPrinted reports whether a difference of results is printed for sure: another verdict, a condition that comes or goes, other people,
// minutes, figures or words of a step that both have: its name nobody sees. Of others the documents decide.
func isPrinted(d approval.Difference) bool {
	condition := func(status string) bool { return status != "" && status != "pass" && status != "note" }
	of := func(end string) bool { return strings.HasSuffix(d.Path, end) }
	step := strings.HasPrefix(d.Path, "steps[") && d.Was != "" && d.Now != ""
	return d.Path == "pairing.verdict" || of(".status") && (condition(d.Was) || condition(d.Now)) ||
		step && (of(".people") || of(".minutes") || strings.Contains(d.Path, ".values[") || strings.Contains(d.Path, ".words["))
}

// withoutPolicy finds the policy in a canonical document: settings are numbers, words and lists.
var withoutPolicy = regexp.MustCompile(`,"policy":\{[^{}]*\}`)
