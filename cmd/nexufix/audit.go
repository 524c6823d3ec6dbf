package main

import (
	"context"
	"errors"
	"fmt"

	"nexufix/app/people"
	"nexufix/store"
)

type auditCommand struct {
	database
	Check   bool     `help:"Find an entry that is missing, changed or moved, by the hashes and what was printed of them."`
	Printed []string `placeholder:"N:HASH" help:"An entry as a document or a backup has printed it; may be repeated."`
	Kind    string   `enum:",sign_ins,people,policy,approvals,exports,restores" default:"" help:"Only one of ${enum}."`
	Format  string   `enum:"csv,jsonl" default:"jsonl" help:"csv or jsonl."`
}

// Run writes the audit, or checks it.
func (c *auditCommand) Run(s *streams) error {
	return c.with(func(ctx context.Context, st *store.Store) error {
		if !c.Check {
			return people.ExportAudit(ctx, st, atDesk, store.AuditAsk{Kind: c.Kind}, c.Format, s.out)
		}
		var printed []store.Head
		for _, text := range c.Printed {
			h, err := store.ParseHead(text)
			if err != nil {
				return badInput{fmt.Errorf("--printed %w", err)}
			}
			printed = append(printed, h)
		}
		head, why, err := st.CheckAudit(ctx, printed...)
		if err != nil {
			return err
		}
		if why != "" {
			return errors.New("the audit is not as it was written: " + why)
		}
		return writeJSON(s.out, map[string]any{"entries": head.Seq, "head": head.String()})
	})
}
