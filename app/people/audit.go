package people

import (
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"io"
	"strconv"

	"nexufix/core/rights"
	"nexufix/exchange/tabular"
	"nexufix/store"
)

// AuditEntry is an entry of the audit.
type AuditEntry struct {
	Seq   int64  `json:"seq" required:"true"`
	At    string `json:"at" required:"true"`
	Who   string `json:"who" required:"true" empty:"ok"`
	What  string `json:"what" required:"true"`
	About string `json:"about" required:"true" empty:"ok"`
	Hash  string `json:"hash,omitempty"`
}

// AuditPage is a part of the audit, the latest first.
type AuditPage struct {
	Entries []AuditEntry `json:"entries" required:"true"`
	More    bool         `json:"more"` // there are earlier ones
}

// auditPage is how many entries are read at a time.
const auditPage = 200

// AuditOf is a page of the audit. It takes an administrator.
func AuditOf(ctx context.Context, st *store.Store, by Person, ask store.AuditAsk) (out AuditPage, err error) {
	if err := by.May(rights.Audit, nil); err != nil {
		return out, err
	}
	ask.Most = auditPage + 1
	out.Entries = []AuditEntry{}
	all, err := st.Audit(ctx, ask)
	for i := range all {
		out.Entries = append(out.Entries, entryOf(&all[i]))
	}
	if out.More = len(out.Entries) > auditPage; out.More {
		out.Entries = out.Entries[:auditPage]
	}
	return out, err
}

func entryOf(h *store.AuditEntry) AuditEntry {
	return AuditEntry{h.Seq, h.At, h.Who, h.What, h.About, h.Hash}
}

// ExportAudit writes what is asked for of the audit, the latest first, as CSV or as lines of JSON. That it was taken away is in it.
func ExportAudit(ctx context.Context, st *store.Store, by Person, ask store.AuditAsk, format string, to io.Writer) error {
	if err := by.May(rights.Audit, nil); err != nil {
		return err
	}
	if err := RecordExport(ctx, st, by, "the audit"); err != nil && !errors.Is(err, store.ErrReadOnly) {
		return err
	}
	lines, table := json.NewEncoder(to), csv.NewWriter(to)
	if format == "csv" {
		if _, err := io.WriteString(to, tabular.Mark); err != nil {
			return err
		}
		if err := table.Write([]string{"seq", "at", "who", "what", "about", "hash"}); err != nil {
			return err
		}
	}
	for ask.Most = 1000; ; { // read in parts, so that a slow reader holds no transaction
		all, err := st.Audit(ctx, ask)
		if err != nil {
			return err
		}
		for i := range all {
			e := entryOf(&all[i])
			if format == "csv" {
				err = table.Write([]string{strconv.FormatInt(e.Seq, 10), e.At, tabular.Safe(e.Who), tabular.Safe(e.What),
					tabular.Safe(e.About), e.Hash})
			} else {
				err = lines.Encode(e)
			}
			if err != nil {
				return err
			}
		}
		if len(all) < ask.Most {
			table.Flush()
			return table.Error()
		}
		ask.Before = all[len(all)-1].Seq
	}
}

// RecordExport writes to the audit that somebody exported the catalogue, the audit or a part of them. A desk of one has no audit.
func RecordExport(ctx context.Context, st *store.Store, by Person, what string) error {
	if by.ID == 0 {
		if has, err := st.HasPeople(ctx); err != nil || !has {
			return err
		}
	}
	return st.Note(ctx, by.auditEntry("exported", what))
}
