package tabular

import "strings"

// Signs with which a formula begins, in full width too; and separators at which a
// spreadsheet program may split a cell that was written between commas.
const (
	signs      = "=+-@\t\r＝＋－＠"
	separators = ";\t"
)

// Safe keeps a spreadsheet program from taking a text in a CSV file for a formula:
// it writes a quote before each sign that could begin one. [Unsafe] takes them
// away.
func Safe(s string) string { return atSigns(s, func(quotes string) string { return quotes + "'" }) }

// Unsafe is the text that [Safe] has written.
func Unsafe(s string) string {
	return atSigns(s, func(quotes string) string { return strings.TrimPrefix(quotes, "'") })
}

// atSigns changes the quotes that stand before each sign with which a cell could
// begin: at the start of the text, and after a separator.
func atSigns(s string, change func(quotes string) string) string {
	var out strings.Builder
	begins, quotes := true, 0
	for _, r := range s {
		if begins && r == '\'' {
			quotes++
			continue
		}
		before := strings.Repeat("'", quotes)
		if begins && strings.ContainsRune(signs, r) {
			before = change(before)
		}
		out.WriteString(before)
		out.WriteRune(r)
		begins = strings.ContainsRune(separators, r) || begins && quotes == 0 && (r == ' ' || r == '"' || r == '\u00a0')
		quotes = 0
	}
	out.WriteString(strings.Repeat("'", quotes))
	return out.String()
}
