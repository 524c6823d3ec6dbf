package maildesk

import (
	"bytes"
	"encoding/base64"
	"io"
	"mime"
	"mime/multipart"
	"net/mail"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

// TestMessage: a message is read by Go's own mail reader, which knows nothing of who wrote it: who, what, when,
// the text and the file.
func TestMessage(t *testing.T) {
	at := time.Date(2026, 11, 27, 6, 0, 0, 0, time.UTC)
	file := []byte("%PDF-1.4 not much of one")
	m := Message{To: "Bäckerei <till@bakery.example>", Subject: "NX-2026-00001: für die Theke", Text: "Grüße.\n", Name: "pack.pdf", File: file}
	raw, err := m.Write(at)
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	if err := Put(dir, "NX-2026-00001-1", raw); err != nil {
		t.Fatal(err)
	}
	raw, err = os.ReadFile(filepath.Join(dir, "NX-2026-00001-1.eml"))
	if err != nil {
		t.Fatal(err)
	}
	got, err := mail.ReadMessage(bytes.NewReader(raw))
	if err != nil {
		t.Fatal(err)
	}
	subject, err := new(mime.WordDecoder).DecodeHeader(got.Header.Get("Subject"))
	to, err2 := got.Header.AddressList("To")
	when, err3 := got.Header.Date()
	if err != nil || err2 != nil || err3 != nil || subject != m.Subject || to[0].Address != "till@bakery.example" || !when.Equal(at) {
		t.Errorf("%q to %v at %v; %v, %v, %v", subject, to, when, err, err2, err3)
	}
	host, err := os.Hostname()
	if err != nil || bytes.Contains(raw, []byte(host)) || got.Header.Get("X-Mailer")+got.Header.Get("User-Agent") != "" {
		t.Errorf("it says by what it was written: %v, %v", got.Header, err)
	}
	kind, with, err := mime.ParseMediaType(got.Header.Get("Content-Type"))
	if err != nil || !strings.HasPrefix(kind, "multipart/") {
		t.Fatal(kind, err)
	}
	parts, text, attached := multipart.NewReader(got.Body, with["boundary"]), "", []byte(nil)
	for {
		p, err := parts.NextPart() // quoted-printable is undone by it
		if err == io.EOF {
			break
		}
		if err != nil {
			t.Fatal(err)
		}
		body, err := io.ReadAll(p)
		if err != nil {
			t.Fatal(err)
		}
		if p.FileName() == "pack.pdf" {
			if attached, err = base64.StdEncoding.DecodeString(strings.ReplaceAll(string(body), "\r\n", "")); err != nil {
				t.Fatal(err)
			}
		} else {
			text = string(body)
		}
	}
	if strings.TrimSpace(text) != "Grüße." || !bytes.Equal(attached, file) {
		t.Errorf("it says %q, with %q", text, attached)
	}
}

// TestBadMessages: what is no address, and a name that leads elsewhere, are refused.
func TestBadMessages(t *testing.T) {
	for _, to := range []string{"", "nobody", "a@b, c@d", "a@b\r\nBcc: c@d", "@", strings.Repeat("a", 5000)} {
		if a, err := Address(to); err == nil {
			t.Errorf("%q is taken as %q", to, a)
		}
	}
	for _, name := range []string{"", "../up", "a/b", ".hidden", "a b"} {
		if err := Put(t.TempDir(), name, nil); err == nil {
			t.Errorf("%q is taken as a name", name)
		}
	}
}
