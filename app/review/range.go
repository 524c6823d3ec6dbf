package review

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"nexufix/app/people"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/rights"
	"nexufix/core/workers"
	"nexufix/exchange"
	"nexufix/store"
	"slices"
	"strings"
)

// Range is a request for what may be sent together of a bracket: displays by their names, on a kind of wall.
type Range struct {
	Bracket string
	Wall    catalog.WallType
	Turn    int
	Words   string // with which words of the displays' names begin; "": all
}

// named are the displays whose names have the range's words, by id.
func (r *Range) named(all *exchange.Contents) map[string]bool {
	out, words := map[string]bool{}, strings.Fields(strings.ToLower(r.Words))
	for _, d := range all.Displays {
		name := " " + strings.ToLower(d.Name())
		out[d.ID] = !slices.ContainsFunc(words, func(w string) bool { return !strings.Contains(name, " "+w) })
	}
	return out
}

// RangeOf judges the displays of a range on a bracket, and the stale approvals with that bracket, and groups what may be sent into
// families, the largest first. What does not fit is left out.
func RangeOf(ctx context.Context, st *store.Store, r Range) ([]Family, error) {
	all, err := st.Catalogue(ctx)
	if err != nil {
		return nil, err
	}
	if all.Bracket(r.Bracket) == nil {
		return nil, exchange.Problems{notThere("bracket", r.Bracket)}
	}
	inForce, subjects, err := standing(ctx, st, all, r.Bracket)
	if err != nil {
		return nil, err
	}
	if subjects, err = r.subjects(all, subjects); err != nil {
		return nil, err
	}
	families, err := inFamilies(ctx, all, subjects, inForce)
	if err != nil {
		return nil, err
	}
	out := []Family{}
	for _, f := range families {
		f.compare()
		out = append(out, *f)
	}
	slices.SortFunc(out, func(a, b Family) int {
		return cmp.Or(len(b.Members)-len(a.Members), strings.Compare(a.Key, b.Key))
	})
	return out, nil
}

// subjects are the displays that the range names, on its bracket, and those of the stale ones it names.
func (r *Range) subjects(all *exchange.Contents, stale []Subject) ([]Subject, error) {
	named, displays := r.named(all), make(map[string]string, len(all.Jobs))
	for _, j := range all.Jobs {
		displays[j.ID] = j.Display
	}
	subjects := slices.DeleteFunc(stale, func(s Subject) bool {
		if of, ok := displays[s.Job]; ok {
			return !named[of]
		}
		return !named[s.Display]
	})
	have := make(map[Subject]bool, len(subjects))
	for _, s := range subjects {
		have[s] = true
	}
	for _, d := range all.Displays {
		s := Subject{Display: d.ID, Bracket: r.Bracket, Turn: r.Turn, Wall: r.Wall}
		if named[d.ID] && !have[s] {
			subjects = append(subjects, s)
		}
	}
	if len(subjects) > maxRange {
		return nil, exchange.Problems{{Path: "words", Found: fmt.Sprintf("are in the names of %d displays", len(subjects)),
			Allowed: fmt.Sprintf("words of at most %d", maxRange)}}
	}
	return subjects, nil
}

// inFamilies judges subjects, on all cores, and puts those that fit together by the keys of their
// families. inForce says which of them wait for a review, and which are approved.
func inFamilies(ctx context.Context, all *exchange.Contents, subjects []Subject, inForce map[string]string) (map[string]*Family, error) {
	found, titles, faults := make([]*judged, len(subjects)), make([]Member, len(subjects)), make([]error, len(subjects))
	var w documents
	w.job(all, "") // the index is made once
	workers.Each(len(subjects), func(n int) {
		state := inForce[subjects[n].key()]
		if state == "waits" || ctx.Err() != nil {
			return
		}
		f, err := w.source(all, subjects[n])
		if err != nil {
			return // it is no more
		}
		l, j, err := f.familyKey(ctx)
		if gone := (exchange.Problems{}); err != nil && !errors.As(err, &gone) {
			faults[n] = err
		} else if l != nil {
			found[n], titles[n] = l, Member{Title: j.Title, Verdict: string(j.Verdict), Approved: state == "holds", Subject: subjects[n]}
		}
	})
	if err := errors.Join(append(faults, ctx.Err())...); err != nil {
		return nil, err
	}
	families := map[string]*Family{}
	for n, l := range found {
		if l != nil {
			if families[l.key] == nil {
				families[l.key] = &Family{}
			}
			families[l.key].take(titles[n], l)
		}
	}
	return families, nil
}

// standing says which subjects wait for a review, and which are approved; and gives those that are stale with a bracket.
func standing(ctx context.Context, st *store.Store, all *exchange.Contents, bracket string) (is map[string]string,
	stale []Subject, err error) {
	list, err := st.Approvals(ctx, approval.InReview, approval.Approved)
	if err != nil {
		return nil, nil, err
	}
	is = map[string]string{}
	for i := range list {
		a := &list[i]
		var s Subject
		if err := exchange.ReadInto([]byte(a.Subject), &s); err != nil {
			continue // judging it again withdraws it
		}
		switch {
		case a.State == approval.InReview:
			is[s.key()] = "waits"
		case a.Holds() == nil && is[s.key()] == "":
			is[s.key()] = "holds"
		case a.Stale != "":
			on := s.Bracket
			if i := slices.IndexFunc(all.Jobs, func(j *catalog.Job) bool { return j.ID == s.Job }); i >= 0 {
				on = all.Jobs[i].Bracket
			}
			if on == bracket {
				stale = append(stale, s)
			}
		}
	}
	return is, stale, nil
}

// SubmitFamily judges subjects of one family and sends them for review, all or none.
func SubmitFamily(ctx context.Context, st *store.Store, by people.Person, subjects []Subject,
	text string) (out []store.Approval, err error) {
	if err := by.May(rights.Submit, nil); err != nil {
		return nil, err
	}
	who, err := recorded(by)
	if err != nil {
		return nil, err
	}
	if len(subjects) == 0 || len(subjects) > maxFamily {
		return nil, exchange.Problems{{Path: "subjects", Found: fmt.Sprintf("are %d", len(subjects)),
			Allowed: fmt.Sprintf("1 to %d", maxFamily)}}
	}
	for i, s := range subjects {
		if slices.Contains(subjects[:i], s) {
			return nil, exchange.Problems{{Path: fmt.Sprintf("subjects[%d]", i), Found: "is there twice", Allowed: "each once"}}
		}
	}
	err = onCatalogue(ctx, st, func(all *exchange.Contents, at store.CatalogueVersion) error {
		ready, err := prepared(ctx, st, all, subjects)
		if err != nil {
			return err
		}
		out, err = st.Submit(ctx, ready, who, at, text)
		return err
	})
	return out, err
}

// prepared judges subjects of one family as they are sent.
func prepared(ctx context.Context, st *store.Store, all *exchange.Contents, subjects []Subject) (out []store.Approval, err error) {
	var w documents
	var wrong exchange.Problems
	first := ""
	for i, s := range subjects {
		at := fmt.Sprintf("subjects[%d]", i)
		f, err := w.source(all, s)
		if problems := (exchange.Problems{}); errors.As(err, &problems) {
			wrong = append(wrong, prefixed(at, problems)...)
			continue
		} else if err != nil {
			return nil, err
		}
		l, j, err := f.familyKey(ctx)
		if err == nil {
			err = j.against()
		}
		if err == nil {
			err = f.photographs(ctx, st)
		}
		if problems := (exchange.Problems{}); errors.As(err, &problems) {
			wrong = append(wrong, prefixed(at, problems)...)
			continue
		} else if err != nil {
			return nil, err
		}
		if i == 0 {
			first = l.key
		}
		if first != "" && l.key != first {
			wrong = append(wrong, exchange.Problem{Path: at, Found: "has other bolts, steps or findings than the first",
				Allowed: "members of one family"})
			continue
		}
		a, err := w.approval(f, j)
		if err != nil {
			return nil, err
		}
		a.Family = l.key
		out = append(out, a)
	}
	if wrong != nil {
		return nil, wrong
	}
	return out, nil
}

// prefixed puts the problems of one of several subjects under its path.
func prefixed(path string, all exchange.Problems) (out exchange.Problems) {
	for _, p := range all {
		p.Path = path + "." + p.Path
		out = append(out, p)
	}
	return out
}
