package review

import (
	"context"
	"fmt"
	"nexufix/app/people"
	"nexufix/core/rights"
	"nexufix/exchange"
	"nexufix/standins/maildesk"
	"nexufix/store"
	"strings"
	"time"
)

// Letter is a letter about a document, ready to be sent or sent.
type Letter struct {
	ID      int64  `json:"id,omitempty"` // of one that was sent
	Issued  int64  `json:"issued" required:"true"`
	Number  string `json:"number" required:"true"`
	Recall  bool   `json:"recall"` // it withdraws the document
	Mail    string `json:"mail" required:"true"`
	Subject string `json:"subject" required:"true"`
	Text    string `json:"text" required:"true"`
	At      string `json:"at,omitempty"`
	Who     string `json:"who,omitempty"`
}

func letterOf(l *store.Letter) Letter {
	return Letter{l.ID, l.Issued, l.Number, l.Recall, l.Mail, l.Subject, l.Text, l.At, l.Who}
}

// SendLetter is the recipient of a letter, and its text if that was changed.
type SendLetter struct {
	Mail   string `json:"mail" required:"true" maxLength:"200"`
	Text   string `json:"text,omitempty" maxLength:"5000" lines:"ok"`
	Recall bool   `json:"recall,omitempty"` // the kind of letter that was shown
}

// ready composes the letter about a document: it goes with a current document, and withdraws another.
func ready(ctx context.Context, st *store.Store, i *store.Issued, base string) (Letter, error) {
	standing, number, by, err := StatusOf(ctx, st, i.Code)
	if err != nil {
		return Letter{}, err
	}
	a, err := st.Approval(ctx, i.Approval)
	if err != nil {
		return Letter{}, err
	}
	out := Letter{Issued: i.ID, Number: number, Recall: standing != Current}
	before, err := st.LettersOf(ctx, i.Approval)
	if err != nil {
		return Letter{}, err
	}
	for n := range before {
		if out.Mail == "" && before[n].Issued == i.ID {
			out.Mail = before[n].Mail
		}
	}
	where := address(base, i.Code)
	switch standing {
	case Current:
		out.Subject = number + ": " + a.Title
		out.Text = fmt.Sprintf("Here is %s, revision %s, for %s.\n\nPrint it at 100 %%, and measure its bars before you work by it. "+
			"Whether it is still current is said at\n%s\n", number, revisionName(i.Revision), i.Receiver, where)
	case Superseded:
		out.Subject = "Do not work by " + number
		instead := "Another one takes its place: ask for it."
		if by != "" {
			instead = by + " takes its place: work by that one alone."
		}
		out.Text = fmt.Sprintf("%s is superseded. %s\n\nDestroy what is printed of it. Where it was worked by already, tell us before "+
			"anything is hung.\n%s\n", number, instead, where)
	case Withdrawn:
		out.Subject = "Do not work by " + number
		out.Text = fmt.Sprintf("%s is withdrawn. Do not work by it, and destroy what is printed of it. Where it was worked by already, tell "+
			"us, and let nobody stand below.\n%s\n", number, where)
	default:
		out.Subject = "Wait with " + number
		out.Text = fmt.Sprintf("Something that %s rests on has changed, or is being looked through again. Do not work by it until you hear "+
			"from us. Where it was worked by already, tell us, and let nobody stand below.\n%s\n", number, where)
	}
	return out, nil
}

// ReadyLetter returns the letter about a document, ready to be sent.
func ReadyLetter(ctx context.Context, st *store.Store, issued int64, base string) (Letter, error) {
	i, err := st.IssuedFile(ctx, issued)
	if err != nil {
		return Letter{}, err
	}
	return ready(ctx, st, &i, base)
}

// MailDesk is where letters go: the simulated desk's folder, and the address of this server that they name.
type MailDesk struct{ Base, Folder string }

// PostLetter sends the letter about a document to the mail desk's folder. A letter that was written for a current document
// is not sent once the document is no longer current.
func PostLetter(ctx context.Context, st *store.Store, by people.Person, issued int64, o SendLetter, to MailDesk) (Letter, error) {
	if err := by.May(rights.Write, nil); err != nil {
		return Letter{}, err
	}
	who, err := recorded(by)
	if err != nil {
		return Letter{}, err
	}
	address, err := maildesk.Address(o.Mail)
	if err != nil {
		return Letter{}, exchange.Problems{{Path: "mail", Found: "is no mail address", Allowed: "one address, as till@bakery.example"}}
	}
	i, err := st.IssuedFile(ctx, issued)
	if err != nil {
		return Letter{}, err
	}
	a, err := st.Approval(ctx, i.Approval)
	if err != nil {
		return Letter{}, err
	}
	l, err := ready(ctx, st, &i, to.Base)
	if err != nil {
		return Letter{}, err
	}
	if l.Recall != o.Recall {
		return Letter{}, store.ErrVersion
	}
	if strings.TrimSpace(o.Text) != "" {
		l.Text = o.Text
	}
	sent, err := st.Send(ctx, store.Letter{Issued: i.ID, Number: i.Number, Recall: l.Recall, Mail: address, Subject: l.Subject, Text: l.Text,
		Person: who.Person, Who: who.Name}, a.ID, a.Version, func(s *store.Letter) error {
		at, err := time.Parse(time.RFC3339Nano, s.At)
		if err != nil {
			return err
		}
		m := maildesk.Message{To: address, Subject: l.Subject, Text: l.Text}
		if !l.Recall {
			m.Name, m.File = i.Name, i.File
		}
		raw, err := m.Write(at)
		if err != nil {
			return err
		}
		return maildesk.Put(to.Folder, fmt.Sprintf("%s-%d", i.Number, s.ID), raw)
	})
	return letterOf(&sent), err
}

// LettersOf returns the letters about the documents of an approval.
func LettersOf(ctx context.Context, st *store.Store, approval int64) ([]Letter, error) {
	all, err := st.LettersOf(ctx, approval)
	out := []Letter{}
	for n := range all {
		out = append(out, letterOf(&all[n]))
	}
	return out, err
}
