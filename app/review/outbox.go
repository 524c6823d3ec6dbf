package review

import (
	"context"
	"errors"
	"fmt"
	"time"

	"nexufix/standins/maildesk"
	"nexufix/store"
)

// SendOut sends the mails about accounts to the mail desk's folder. One that cannot be sent is sent the next time; one that was sent when
// the process ended before it was noted gets the same name, and is there once.
func SendOut(ctx context.Context, st *store.Store, folder string) error {
	if st.OnlyReads() {
		return nil // who writes sends them
	}
	all, err := st.Outbox(ctx)
	for i := range all {
		err = errors.Join(err, sendOut(ctx, st, folder, &all[i]))
	}
	return err
}

func sendOut(ctx context.Context, st *store.Store, folder string, mail *store.Mail) error {
	at, err := time.Parse(time.RFC3339Nano, mail.At)
	if err != nil {
		return err
	}
	m := maildesk.Message{To: mail.To, Subject: mail.Subject, Text: mail.Text}
	raw, err := m.Write(at)
	if err != nil {
		return err
	}
	if err := maildesk.Put(folder, fmt.Sprintf("account-%d", mail.ID), raw); err != nil {
		return err
	}
	return st.Mailed(ctx, mail.ID)
}
