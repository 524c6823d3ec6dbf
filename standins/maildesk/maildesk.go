// Package maildesk is a small stand-in for a mail server: each message lands as a file in a folder, as mail
// programs read it (.eml, RFC 5322 with MIME parts).
package maildesk

import (
	"bytes"
	"crypto/rand"
	"errors"
	"fmt"
	"net/mail"
	"os"
	"path/filepath"
	"regexp"
	"time"

	gomail "github.com/wneessen/go-mail"
)

// From is who all messages are from. The domain is one that never exists (RFC 2606).
const From = "Support desk <desk@nexufix.invalid>"

// Message is a letter, with a file or without.
type Message struct {
	To, Subject, Text string
	Name              string // of the file; "": none
	File              []byte // a PDF
}

// Address reads who a message goes to.
func Address(to string) (string, error) {
	a, err := mail.ParseAddress(to)
	if err != nil {
		return "", fmt.Errorf("%q is no mail address", to)
	}
	if a.Name == "" {
		return a.Address, nil
	}
	return a.String(), nil
}

// Write is a message as a mail program reads it.
func (m *Message) Write(at time.Time) ([]byte, error) {
	msg := gomail.NewMsg(gomail.WithNoDefaultUserAgent()) // which program and machine wrote it is nobody's business
	msg.SetMessageIDWithValue(rand.Text() + "@nexufix.invalid")
	if err := msg.From(From); err != nil {
		return nil, err
	}
	if err := msg.To(m.To); err != nil {
		return nil, err
	}
	msg.Subject(m.Subject)
	msg.SetDateWithValue(at)
	msg.SetBodyString(gomail.TypeTextPlain, m.Text)
	if m.Name != "" {
		if err := msg.AttachReader(m.Name, bytes.NewReader(m.File), gomail.WithFileContentType("application/pdf")); err != nil {
			return nil, err
		}
	}
	var out bytes.Buffer
	if _, err := msg.WriteTo(&out); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

var plain = regexp.MustCompile(`^[A-Za-z0-9-]{1,80}$`)

// Put lays a message into the folder of those that were sent, under a name.
func Put(folder, name string, message []byte) error {
	if !plain.MatchString(name) {
		return fmt.Errorf("%q is no name for a message", name)
	}
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return err
	}
	part := filepath.Join(folder, "."+name+".part") // so that nobody reads half of one
	if err := os.WriteFile(part, message, 0o600); err != nil {
		return errors.Join(err, os.Remove(part))
	}
	return os.Rename(part, filepath.Join(folder, name+".eml"))
}
