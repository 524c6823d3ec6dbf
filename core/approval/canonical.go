package approval

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"regexp"
	"slices"
	"strings"
)

// Canonical is a JSON document in canonical form, of which the fingerprint is taken. It is that of RFC 8785 for documents whose
// numbers are plain decimals: UTF-8, no space between tokens, members sorted by name, numbers without exponent, negative
// zero or trailing zeros, and strings with the fewest escapes.
func Canonical(document []byte) ([]byte, error) {
	in := json.NewDecoder(bytes.NewReader(document))
	in.UseNumber()
	var v any
	if err := in.Decode(&v); err != nil {
		return nil, err
	}
	if _, err := in.Token(); !errors.Is(err, io.EOF) {
		return nil, errors.New("there is more than one document")
	}
	var out bytes.Buffer
	err := write(&out, v)
	return out.Bytes(), err
}

// Fingerprint is the SHA-256 of a document in its canonical form, as 64 hexadecimal digits.
func Fingerprint(document []byte) (string, error) {
	raw, err := Canonical(document)
	if err != nil {
		return "", err
	}
	return Sum(string(raw)), nil
}

// Sum is the fingerprint of a document that is in its canonical form.
func Sum(canonical string) string {
	sum := sha256.Sum256([]byte(canonical))
	return hex.EncodeToString(sum[:])
}

// Short is the beginning of a fingerprint, as sheets show it.
func Short(fingerprint string) string {
	if len(fingerprint) < 12 {
		return fingerprint
	}
	return fingerprint[:4] + "-" + fingerprint[4:8] + "-" + fingerprint[8:12]
}

func write(out *bytes.Buffer, v any) error {
	switch v := v.(type) {
	case nil:
		out.WriteString("null")
	case bool:
		fmt.Fprint(out, v)
	case string:
		text(out, v)
	case json.Number:
		n, err := number(v.String())
		if err != nil {
			return err
		}
		out.WriteString(n)
	case []any:
		out.WriteByte('[')
		for i, x := range v {
			if i > 0 {
				out.WriteByte(',')
			}
			if err := write(out, x); err != nil {
				return err
			}
		}
		out.WriteByte(']')
	case map[string]any:
		out.WriteByte('{')
		for i, name := range slices.Sorted(maps.Keys(v)) {
			if i > 0 {
				out.WriteByte(',')
			}
			text(out, name)
			out.WriteByte(':')
			if err := write(out, v[name]); err != nil {
				return err
			}
		}
		out.WriteByte('}')
	}
	return nil
}

var plain = regexp.MustCompile(`^-?\d+(\.\d+)?$`)

func number(s string) (string, error) {
	if !plain.MatchString(s) {
		return "", fmt.Errorf("%s is no plain decimal", s)
	}
	if strings.Contains(s, ".") {
		s = strings.TrimSuffix(strings.TrimRight(s, "0"), ".")
	}
	if s == "-0" {
		s = "0"
	}
	return s, nil
}

var short = map[rune]string{'"': `\"`, '\\': `\\`, '\b': `\b`, '\f': `\f`, '\n': `\n`, '\r': `\r`, '\t': `\t`}

func text(out *bytes.Buffer, s string) {
	out.WriteByte('"')
	for _, r := range s {
		if e, ok := short[r]; ok {
			out.WriteString(e)
		} else if r < ' ' {
			fmt.Fprintf(out, `\u%04x`, r)
		} else {
			out.WriteRune(r)
		}
	}
	out.WriteByte('"')
}
