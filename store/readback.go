package store

import (
	"database/sql"
	"errors"
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"

	"nexufix/exchange"
)

// The largest numbers of letters of names and reasons.
const (
	maxWho = 80
	maxWhy = 400
)

// check refuses an author whose name or reason cannot be shown or saved.
func (a Author) check() error {
	var out exchange.Problems
	for _, x := range []struct {
		path, text string
		most       int
	}{{"who", a.Who, maxWho}, {"why", a.Why, maxWhy}} {
		switch {
		case !utf8.ValidString(x.text):
			out = append(out, exchange.Problem{Path: x.path, Found: "no UTF-8 text", Allowed: "text"})
		case utf8.RuneCountInString(x.text) > x.most:
			out = append(out, exchange.Problem{Path: x.path, Found: fmt.Sprintf("%d characters", utf8.RuneCountInString(x.text)),
				Allowed: fmt.Sprintf("at most %d characters", x.most)})
		default:
			for _, r := range x.text {
				if unicode.IsControl(r) {
					out = append(out, exchange.Problem{Path: x.path, Found: fmt.Sprintf("the control character %q", r),
						Allowed: "text without control characters"})
					break
				}
			}
		}
	}
	if out != nil {
		return out
	}
	return nil
}

// OneLine makes a text, such as a file's name, fit to be saved: on one line, without
// letters that cannot be shown, and no longer than a name may be.
func OneLine(s string) string {
	const most = 200
	line := strings.Map(func(r rune) rune {
		if unicode.IsControl(r) || r == utf8.RuneError {
			return ' '
		}
		return r
	}, strings.ToValidUTF8(s, " "))
	if r := []rune(line); len(r) > most {
		line = string(r[:most-1]) + "…"
	}
	return line
}

// readBack reads everything that a transaction has saved from the
// database, as every later reader will: what cannot be read is not committed.
func (w *writing) readBack() error {
	var items []Item
	seen := map[itemKey]bool{}
	for _, key := range w.written {
		if seen[key] {
			continue
		}
		seen[key] = true
		i := Item{Kind: key.kind, ID: key.id}
		switch err := w.have.GetContext(w.ctx, &i, key.kind, key.id); {
		case errors.Is(err, sql.ErrNoRows):
			continue // it was deleted again
		case err != nil:
			return err
		}
		if !w.documents.has(&i) {
			items = append(items, i)
		}
	}
	return w.documents.all(w.ctx, items)
}
