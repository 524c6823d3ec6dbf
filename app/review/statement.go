package review

import (
	"bytes"
	"compress/zlib"
	"context"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"regexp"
	"strconv"
	"strings"

	"nexufix/core/approval"
	"nexufix/exchange"
	"nexufix/seal"
	"nexufix/store"
	"nexufix/version"
)

// StatementFormat is the format of a [Statement].
const StatementFormat = "nexufix-release/1"

// Statement is what is signed of a document: what it is, from what it was made, and who stands behind it.
type Statement struct {
	Format      string     `json:"format"`
	Number      string     `json:"number"`
	Revision    string     `json:"revision"`
	What        string     `json:"what"`
	Code        string     `json:"code"`
	Title       string     `json:"title"`
	Verdict     string     `json:"verdict"`
	PreparedBy  string     `json:"prepared_by"`
	PreparedAt  string     `json:"prepared_at"`
	ApprovedBy  string     `json:"approved_by"`
	ApprovedAt  string     `json:"approved_at"`
	IssuedBy    string     `json:"issued_by"`
	IssuedAt    string     `json:"issued_at"`
	Receiver    string     `json:"receiver"`
	Fingerprint string     `json:"fingerprint"` // of the frozen document
	Result      string     `json:"result"`      // the SHA-256 of what came out, in the form of RFC 8785
	Policy      string     `json:"policy"`      // the SHA-256 of the policy in it
	Engine      int        `json:"engine"`      // by which it was judged when it was issued
	Program     string     `json:"program"`     // its version
	Catalogue   int64      `json:"catalogue"`   // the latest revision of the data
	Audit       store.Head `json:"audit"`       // its last entry
	Status      string     `json:"status"`      // the address that says whether it is current
	Key         string     `json:"key"`         // by which it is signed
}

// canonical is a statement as it is signed.
func (s *Statement) canonical() ([]byte, error) {
	raw, err := json.Marshal(s)
	if err != nil {
		return nil, err
	}
	return approval.Canonical(raw)
}

// auditLine is the last entry of the audit as sheets show it; "" where there is none.
func (s *Statement) auditLine() string {
	if s.Audit.Seq == 0 {
		return ""
	}
	return strconv.FormatInt(s.Audit.Seq, 10) + ":" + approval.Short(s.Audit.Hash)
}

// paper is what the signature on a sheet is of.
func (s *Statement) paper() []byte {
	return []byte(s.Code + "\n" + s.Number + "\n" + s.Revision + "\n" + s.Fingerprint + "\n")
}

// Sealed is a statement with its signatures, as it is kept: of the statement, on paper and of the file.
type Sealed struct {
	Statement Statement `json:"statement"`
	Signature string    `json:"signature"`
	Paper     string    `json:"paper_signature"`
}

// Release is a released document without its drawings: what a file of JSON has, and what is in a PDF.
type Release struct {
	Sealed
	Document json.RawMessage `json:"document"` // what was judged, whole, in canonical form
	Result   json.RawMessage `json:"result"`   // what came out
}

// releaseOf is the release of an issued document.
func releaseOf(a *store.Approval, s Sealed) *Release {
	return &Release{Sealed: s, Document: json.RawMessage(a.Document), Result: json.RawMessage(a.Result)}
}

// policyOf is the SHA-256 of the policy of a frozen document.
func policyOf(document string) (string, error) {
	var d struct {
		Policy json.RawMessage `json:"policy"`
	}
	if err := json.Unmarshal([]byte(document), &d); err != nil {
		return "", err
	}
	return approval.Fingerprint(d.Policy)
}

// state makes and signs the statement of a document that is about to be issued.
func state(ctx context.Context, st *store.Store, on Issuer, a *store.Approval, i *store.Issued,
	at store.CatalogueVersion) (s Sealed, err error) {
	key := on.Key
	head, err := st.AuditHead(ctx)
	if err != nil {
		return s, err
	}
	policy, err := policyOf(a.Document)
	if err != nil {
		return s, err
	}
	result, err := approval.Fingerprint([]byte(a.Result))
	if err != nil {
		return s, err
	}
	s.Statement = Statement{Format: StatementFormat, Number: i.Number, Revision: revisionName(i.Revision), What: i.What, Code: i.Code,
		Title: a.Title, Verdict: a.Verdict, PreparedBy: a.PreparedBy, PreparedAt: a.PreparedAt, ApprovedBy: a.ApprovedBy.String,
		ApprovedAt: a.ApprovedAt.String, IssuedBy: i.Who, IssuedAt: i.At, Receiver: i.Receiver, Fingerprint: a.Fingerprint, Result: result,
		Policy: policy, Engine: exchange.Engine, Program: version.Of(), Catalogue: at.Latest, Audit: head, Status: address(on.Base, i.Code),
		Key: key.Public().ID()}
	raw, err := s.Statement.canonical()
	if err != nil {
		return s, err
	}
	s.Signature, s.Paper = key.Sign(seal.Statement, raw), key.Sign(seal.Paper, s.Statement.paper())
	return s, nil
}

// printedAddress is the address in the code on paper: with the key's name, the fingerprint and the signature.
func (s *Sealed) printedAddress() (string, error) {
	fingerprint, err := hex.DecodeString(s.Statement.Fingerprint)
	return s.Statement.Status + "?r=" + s.Statement.Key + "." + base64.RawURLEncoding.EncodeToString(fingerprint) + "." + s.Paper, err
}

// The marks of lines in a PDF: parts of the release, before its table of objects, and the signature, after its end. They are comments.
const (
	releaseMark   = "%nexufix-release "
	signatureMark = "%nexufix-signature "
	maxLine       = 200
)

var signatureLine = regexp.MustCompile(`^` + signatureMark + `([0-9a-f]{8}) ([A-Za-z0-9_-]{86})\n$`)

var tableAt = regexp.MustCompile(`startxref\n(\d+)\n%%EOF\s*$`)

// withRelease puts a release into a PDF that this program wrote.
func withRelease(file []byte, r *Release) ([]byte, error) {
	raw, err := json.Marshal(r)
	if err != nil {
		return nil, err
	}
	var packed bytes.Buffer
	z := zlib.NewWriter(&packed)
	if _, err := z.Write(raw); err != nil {
		return nil, err
	}
	if err := z.Close(); err != nil {
		return nil, err
	}
	text := base64.StdEncoding.EncodeToString(packed.Bytes())
	var lines strings.Builder
	for len(text) > 0 {
		n := min(maxLine, len(text))
		lines.WriteString(releaseMark + text[:n] + "\n")
		text = text[n:]
	}
	found := tableAt.FindSubmatchIndex(file)
	if found == nil {
		return nil, errors.New("the PDF has no table of its objects")
	}
	table, err := strconv.Atoi(string(file[found[2]:found[3]]))
	if err != nil || table >= len(file) || !bytes.HasPrefix(file[table:], []byte("xref")) {
		return nil, errors.New("the PDF's table of objects is not where it says")
	}
	out := append([]byte(nil), file[:table]...)
	out = append(out, lines.String()...)
	out = append(out, file[table:found[2]]...)
	out = strconv.AppendInt(out, int64(table+lines.Len()), 10)
	return append(out, file[found[3]:]...), nil
}

// signed adds a signature to a PDF, as its last line.
func signed(file []byte, key, signature string) []byte {
	return append(bytes.Clone(file), signatureMark+key+" "+signature+"\n"...)
}

// fileSum is what the signature of a file is of.
func fileSum(file []byte) []byte {
	sum := sha256.Sum256(file)
	return []byte(hex.EncodeToString(sum[:]))
}

// ErrNotReleased is the error of a file that is no release of this program.
var ErrNotReleased = errors.New("it is no document that was released by this program: there is no statement in it")

// Verified is what can be said of a release without the server that issued it.
type Verified struct {
	Statement Statement             `json:"statement"`
	Signed    bool                  `json:"signed"`          // by a key that is trusted, and nothing of it was changed since
	Wrong     []string              `json:"wrong,omitempty"` // why not
	Engine    int                   `json:"engine"`          // of this program
	Verdict   string                `json:"verdict_now"`     // as this program judges the same figures
	Differs   []approval.Difference `json:"differs"`         // of what this program finds from what was approved
	Ask       string                `json:"ask"`             // whether it was superseded or withdrawn is said there alone
	Document  json.RawMessage       `json:"-"`
}

// Verify checks a released file, a PDF or JSON, by the public keys that are trusted. It is signed when no byte was changed since.
func Verify(ctx context.Context, file []byte, trusted []seal.Public) (*Verified, error) {
	r, sums, err := readRelease(file)
	if err != nil {
		return nil, err
	}
	v := &Verified{Statement: r.Statement, Engine: exchange.Engine, Document: r.Document, Wrong: []string{},
		Ask: "Whether it was superseded or withdrawn is said at " + r.Statement.Status}
	v.check(r, sums, trusted)
	if v.Signed = len(v.Wrong) == 0; !v.Signed {
		return v, nil
	}
	f, err := readFrozen(string(r.Document))
	if err != nil {
		v.Verdict = "this program cannot read it: " + err.Error()
		return v, nil
	}
	j, err := f.Judge(ctx)
	if err != nil {
		return nil, err
	}
	v.Verdict = string(j.Verdict)
	v.Differs, err = approval.Differences(r.Result, j.Result)
	return v, err
}

// signature is of a file: who signed it, and what of.
type fileSignature struct {
	key, signature string
	of             []byte
}

// readRelease finds the release in a file, and the signature of a PDF.
func readRelease(file []byte) (r *Release, of *fileSignature, err error) {
	r = &Release{}
	if !bytes.HasPrefix(file, []byte("%PDF-")) {
		if err := json.Unmarshal(file, r); err != nil || r.Statement.Format != StatementFormat {
			return nil, nil, ErrNotReleased
		}
		return r, nil, nil
	}
	at := bytes.LastIndex(file, []byte("\n"+signatureMark))
	if at < 0 {
		return nil, nil, ErrNotReleased
	}
	var text strings.Builder
	for line := range strings.Lines(string(file[:at+1])) {
		if part, ok := strings.CutPrefix(line, releaseMark); ok {
			text.WriteString(strings.TrimSuffix(part, "\n"))
		}
	}
	packed, err := base64.StdEncoding.DecodeString(text.String())
	if err != nil {
		return nil, nil, ErrNotReleased
	}
	z, err := zlib.NewReader(bytes.NewReader(packed))
	if err != nil {
		return nil, nil, ErrNotReleased
	}
	const most = 16 << 20
	raw, err := io.ReadAll(io.LimitReader(z, most))
	if err != nil || json.Unmarshal(raw, r) != nil || r.Statement.Format != StatementFormat {
		return nil, nil, ErrNotReleased
	}
	of = &fileSignature{of: fileSum(file[:at+1])}
	if found := signatureLine.FindSubmatch(file[at+1:]); found != nil { // and nothing after it
		of.key, of.signature = string(found[1]), string(found[2])
	}
	return r, of, nil
}

func (v *Verified) check(r *Release, of *fileSignature, trusted []seal.Public) {
	wrong := func(format string, args ...any) { v.Wrong = append(v.Wrong, fmt.Sprintf(format, args...)) }
	var key *seal.Public
	for i := range trusted {
		if trusted[i].ID() == r.Statement.Key {
			key = &trusted[i]
		}
	}
	if key == nil {
		wrong("it is signed with the key %q, which is not among those that are trusted", r.Statement.Key)
		return
	}
	raw, err := r.Statement.canonical()
	if err != nil || !key.Verifies(seal.Statement, raw, r.Signature) {
		wrong("the statement was changed, or its signature")
	}
	if !key.Verifies(seal.Paper, r.Statement.paper(), r.Paper) {
		wrong("the signature on its sheets is of another")
	}
	if of != nil && (of.key != r.Statement.Key || !key.Verifies(seal.File, of.of, of.signature)) {
		wrong("the file was changed since it was issued")
	}
	if sum, err := approval.Fingerprint(r.Document); err != nil || sum != r.Statement.Fingerprint {
		wrong("the figures in it are not those that were approved")
	}
	if sum, err := approval.Fingerprint(r.Result); err != nil || sum != r.Statement.Result {
		wrong("the result in it is not the one that was approved")
	}
}

// VerifyPaper checks what the code on a sheet says, as the status page gets it: "KEY.FINGERPRINT.SIGNATURE". It returns false where it is
// not signed by that key for that document.
func VerifyPaper(s *Statement, said string, key seal.Public) bool {
	parts := strings.Split(said, ".")
	if len(parts) != 3 || parts[0] != key.ID() || parts[0] != s.Key {
		return false
	}
	fingerprint, err := base64.RawURLEncoding.Strict().DecodeString(parts[1])
	return err == nil && hex.EncodeToString(fingerprint) == s.Fingerprint && key.Verifies(seal.Paper, s.paper(), parts[2])
}

// PaperIsOurs reports whether what a printed code says of its document is what was signed. A code that says nothing else, as older ones and
// typed ones do, says nothing wrong.
func PaperIsOurs(ctx context.Context, st *store.Store, code, said string) (bool, error) {
	if said == "" {
		return true, nil
	}
	i, err := st.IssuedByCode(ctx, strings.ToUpper(strings.TrimSpace(code)))
	if err != nil {
		return false, err
	}
	var o issueOptions
	if err := json.Unmarshal([]byte(i.Options), &o); err != nil || o.Signature == "" {
		return false, err
	}
	known, err := st.SigningKeys(ctx)
	if err != nil || known[o.Statement.Key] == "" {
		return false, err
	}
	keys, err := seal.ParsePublic(known[o.Statement.Key])
	return err == nil && VerifyPaper(&o.Statement, said, keys[0]), err
}

// KnowKey stores a server's public key in its database.
func KnowKey(ctx context.Context, st *store.Store, key *seal.Key) error {
	if st.OnlyReads() {
		return nil
	}
	p := key.Public()
	return st.AddSigningKey(ctx, p.ID(), p.PEM(), store.AuditEntry{Who: "Nexufix", What: "signing key", About: p.ID()})
}
