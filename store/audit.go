package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"strings"

	"github.com/jmoiron/sqlx"

	"nexufix/core/approval"
)

// AuditEntry is an entry of the audit. Each has the hash of the one before in its own, so that none can be changed, moved or taken out
// without the hashes of all later ones, of which some are printed on documents.
type AuditEntry struct {
	Seq    int64         `db:"seq"`
	At     string        `db:"at"`
	Person sql.NullInt64 `db:"person"`
	Who    string        `db:"who"`
	What   string        `db:"what"`
	About  string        `db:"about"`
	Hash   string        `db:"hash"` // "": it was written before there were any
}

// hashAfter is the hash of an entry after one with that hash: the SHA-256 of its members and prev in the form of RFC 8785, as 64
// hexadecimal digits.
func (h *AuditEntry) hashAfter(prev string) (string, error) {
	var person any
	if h.Person.Valid {
		person = h.Person.Int64
	}
	raw, err := json.Marshal(map[string]any{"seq": h.Seq, "at": h.At, "person": person, "who": h.Who, "what": h.What, "about": h.About,
		"prev": prev})
	if err != nil {
		return "", err
	}
	return approval.Fingerprint(raw)
}

// Head is an entry of the audit by its number and hash.
type Head struct {
	Seq  int64  `json:"seq"`
	Hash string `json:"hash"`
}

func (h Head) String() string { return strconv.FormatInt(h.Seq, 10) + ":" + h.Hash }

// ParseHead reads what [Head.String] writes.
func ParseHead(text string) (h Head, err error) {
	seq, hash, ok := strings.Cut(text, ":")
	h.Seq, err = strconv.ParseInt(seq, 10, 64)
	if h.Hash = hash; !ok || err != nil || len(hash) != 64 {
		return h, fmt.Errorf("%q: a number, a colon and 64 digits are expected", text)
	}
	return h, nil
}

// Note writes an entry to the audit.
func (s *Store) Note(ctx context.Context, h AuditEntry) error {
	return s.change(ctx, func(tx *sqlx.Tx) error { return addAudit(ctx, tx, h) })
}

func addAudit(ctx context.Context, tx *sqlx.Tx, h AuditEntry) error {
	head, err := auditHead(ctx, tx)
	if err != nil {
		return err
	}
	h.Seq, h.At, h.Who, h.About = head.Seq+1, now(), OneLine(h.Who), OneLine(strings.TrimSpace(h.About))
	if h.Hash, err = h.hashAfter(head.Hash); err != nil {
		return err
	}
	_, err = tx.NamedExecContext(ctx, `INSERT INTO audit (seq, at, person, who, what, about, hash)
		VALUES (:seq, :at, :person, :who, :what, :about, :hash)`, h)
	return err
}

// noteWithPeople writes an entry where there are accounts: a desk of one has no audit.
func noteWithPeople(ctx context.Context, tx *sqlx.Tx, h AuditEntry) error {
	var anybody bool
	if err := tx.GetContext(ctx, &anybody, `SELECT EXISTS (SELECT 1 FROM person)`); err != nil || !anybody {
		return err
	}
	return addAudit(ctx, tx, h)
}

// auditHead is the last entry; the zero Head where there is none. The hash of one that has none is that of all before and it.
func auditHead(ctx context.Context, q sqlx.QueryerContext) (head Head, err error) {
	err = sqlx.GetContext(ctx, q, &head, `SELECT seq, hash FROM audit ORDER BY seq DESC LIMIT 1`)
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return Head{}, nil
	case err != nil || head.Hash != "":
		return head, err
	}
	head, _, err = walkAudit(ctx, q, nil)
	return head, err
}

// AuditHead is the last entry of the audit.
func (s *Store) AuditHead(ctx context.Context) (Head, error) { return auditHead(ctx, s.db) }

// walkAudit computes the hashes of all entries in order. It returns the last; and why an entry is not as it was written, "" where all are.
// Seen are entries as others know them, by number.
func walkAudit(ctx context.Context, q sqlx.QueryerContext, seen map[int64]string) (head Head, why string, err error) {
	rows, err := q.QueryxContext(ctx, `SELECT seq, at, person, who, what, about, hash FROM audit ORDER BY seq`)
	if err != nil {
		return head, "", err
	}
	defer rows.Close()
	for rows.Next() {
		var h AuditEntry
		if err := rows.StructScan(&h); err != nil {
			return head, "", err
		}
		hash, err := h.hashAfter(head.Hash)
		switch {
		case err != nil:
			return head, "", err
		case h.Seq != head.Seq+1:
			return head, fmt.Sprintf("after entry %d comes %d: what was between is missing", head.Seq, h.Seq), nil
		case h.Hash != "" && h.Hash != hash:
			return head, fmt.Sprintf("entry %d, or one before it, is not as it was written", h.Seq), nil
		case seen[h.Seq] != "" && seen[h.Seq] != hash:
			return head, fmt.Sprintf("entry %d is not the one that a document or backup has printed", h.Seq), nil
		}
		head = Head{h.Seq, hash}
	}
	if err := rows.Err(); err != nil {
		return head, "", err
	}
	for seq := range seen {
		if seq > head.Seq {
			return head, fmt.Sprintf("it ends with entry %d; a document or backup has printed entry %d", head.Seq, seq), nil
		}
	}
	return head, "", nil
}

// CheckAudit walks the audit, and compares it with what was printed of it: the heads that are given, and those of issued documents. It
// returns its last entry; and what is wrong, "" for nothing.
func (s *Store) CheckAudit(ctx context.Context, printed ...Head) (head Head, why string, err error) {
	var options []string
	const seq, hash = `json_extract(options, '$.statement.audit.seq')`, `json_extract(options, '$.statement.audit.hash')`
	if err := s.db.SelectContext(ctx, &options, `SELECT `+seq+` || ':' || `+hash+` FROM issued WHERE `+seq+` > 0`); err != nil {
		return head, "", err
	}
	for _, text := range options {
		h, err := ParseHead(text)
		if err != nil {
			return head, "", err
		}
		printed = append(printed, h)
	}
	seen := map[int64]string{}
	for _, h := range printed {
		if seen[h.Seq] != "" && seen[h.Seq] != h.Hash {
			return head, fmt.Sprintf("entry %d was printed with two hashes", h.Seq), nil
		}
		seen[h.Seq] = h.Hash
	}
	return walkAudit(ctx, s.db, seen)
}

// AuditKinds are the kinds of entries that can be asked for, with what they are called in the audit.
var AuditKinds = map[string][]string{
	"sign_ins":  {"signed in", "sign-in refused", "sessions ended"},
	"people":    {"person added", "person changed", "token given", "token ended", "signing key"},
	"policy":    {"policy set", "policy in use"},
	"approvals": {"approval: %"},
	"exports":   {"exported"},
	"restores":  {"backup restored", "taken over", "history thinned"},
}

// AuditAsk says which entries of the audit are wanted.
type AuditAsk struct {
	Before int64  // of a lower number; 0: the latest
	Kind   string // of [AuditKinds]; "": all
	Words  string // in who or what about; "": any
	From   string // not before that day or time, in UTC; ""
	Till   string // before that time; ""
	Most   int
}

// Audit lists entries, the latest first.
func (s *Store) Audit(ctx context.Context, ask AuditAsk) (out []AuditEntry, err error) {
	err = s.EachAudit(ctx, ask, func(h *AuditEntry) error { out = append(out, *h); return nil })
	return out, err
}

// EachAudit gives entries one by one, the latest first.
func (s *Store) EachAudit(ctx context.Context, ask AuditAsk, do func(*AuditEntry) error) error {
	query, args := `SELECT seq, at, person, who, what, about, hash FROM audit WHERE (? = 0 OR seq < ?)`, []any{ask.Before, ask.Before}
	if like := AuditKinds[ask.Kind]; like != nil {
		var any []string
		for _, l := range like {
			any, args = append(any, `what LIKE ?`), append(args, l)
		}
		query += ` AND (` + strings.Join(any, ` OR `) + `)`
	}
	if ask.Words != "" {
		query, args = query+` AND (instr(lower(who), lower(?)) OR instr(lower(about), lower(?)))`, append(args, ask.Words, ask.Words)
	}
	if ask.From != "" {
		query, args = query+` AND at >= ?`, append(args, ask.From)
	}
	if ask.Till != "" {
		query, args = query+` AND at < ?`, append(args, ask.Till)
	}
	rows, err := s.db.QueryxContext(ctx, query+` ORDER BY seq DESC LIMIT ?`, append(args, ask.Most)...)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		var h AuditEntry
		if err := rows.StructScan(&h); err != nil {
			return err
		}
		if err := do(&h); err != nil {
			return err
		}
	}
	return rows.Err()
}
