package review

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base32"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"nexufix/app/bench"
	"nexufix/app/people"
	"nexufix/core/approval"
	"nexufix/core/rights"
	"nexufix/core/sheet"
	"nexufix/exchange"
	"nexufix/seal"
	"nexufix/store"
	"strings"
	"time"

	"rsc.io/qr"
)

// Issue is a document to be issued from an approval, and its recipient.
type Issue struct {
	What     string `json:"what" required:"true" enum:"pack,template,card"`
	Paper    string `json:"paper,omitempty" enum:"a4,letter"`
	Units    string `json:"units,omitempty" enum:"mm,in"`
	Lang     string `json:"lang,omitempty" pattern:"^[a-z]{2,3}$"`
	Receiver string `json:"receiver" required:"true" maxLength:"200"`
}

// address is the page that tells whether a document is current.
func address(base, code string) string { return strings.TrimRight(base, "/") + "/v/" + code }

// ErrNoAddress is the error of a document whose code would lead nowhere.
var ErrNoAddress = errors.New("the server does not know the address by which it is reached")

// newCode is a code that cannot be guessed, in letters that cannot be confused when read aloud.
func newCode() string {
	raw := make([]byte, 10)
	rand.Read(raw) // never fails
	return base32.NewEncoding("0123456789ABCDEFGHJKMNPQRSTVWXYZ").EncodeToString(raw)
}

// revisionName is A for the first of a kind, B for the next, and AA after Z.
func revisionName(n int) string {
	name := ""
	for ; n > 0; n = (n - 1) / 26 {
		name = string(rune('A'+(n-1)%26)) + name
	}
	return name
}

// number is that of the next document: NX-2026-00001, and NX-2026-K7QD-00001 in the series of a restore.
func number(year int, when store.IssuedSoFar) string {
	series := ""
	if when.Series != "" {
		series = when.Series + "-"
	}
	return fmt.Sprintf("NX-%d-%s%05d", year, series, when.All+1)
}

// Issuer is the server that issues: the address printed in codes, "" where nobody has said it, and the key that signs.
type Issuer struct {
	Base string
	Key  *seal.Key
}

// IssueDocument makes a document of an approval, numbers it, and stores it with its recipient. The approval is judged
// again before.
func IssueDocument(ctx context.Context, st *store.Store, by people.Person, id int64, o Issue, on Issuer) (out store.Issued, err error) {
	if err := by.May(rights.Issue, nil); err != nil {
		return out, err
	}
	who, err := recorded(by)
	if err != nil {
		return out, err
	}
	o.Receiver = store.OneLine(strings.TrimSpace(o.Receiver))
	if o.Receiver == "" {
		return out, exchange.Problems{{Path: "receiver", Found: "is missing", Allowed: "who gets it"}}
	}
	if st.OnlyReads() {
		return out, store.ErrReadOnly
	}
	if on.Base == "" || on.Key == nil {
		return out, ErrNoAddress
	}
	err = onCatalogue(ctx, st, func(all *exchange.Contents, at store.CatalogueVersion) error {
		a, err := holding(ctx, st, all, id, at)
		if err != nil {
			return err
		}
		when, err := st.IssuedSoFar(ctx, a.Subject, o.What)
		if err != nil {
			return err
		}
		now := time.Now().UTC()
		out = store.Issued{Approval: id, Number: number(now.Year(), when), Revision: when.Kind + 1, Code: newCode(),
			What: o.What, At: now.Format(time.RFC3339), Person: who.Person, Who: who.Name, Receiver: o.Receiver}
		options := issueOptions{Paper: o.Paper, Units: o.Units, Lang: o.Lang, Base: on.Base}
		if options.Sealed, err = state(ctx, st, on, &a, &out, at); err != nil {
			return err
		}
		var whole []byte
		if out.Name, whole, err = options.make(ctx, st, &a, &out); err != nil {
			return err
		}
		options.FileSignature = on.Key.Sign(seal.File, fileSum(whole))
		out.File = signed(whole, options.Statement.Key, options.FileSignature)
		raw, err := json.Marshal(options)
		if err != nil {
			return err
		}
		out.Options = string(raw)
		sum := sha256.Sum256(out.File)
		out.Sum = hex.EncodeToString(sum[:])
		out, err = st.Issue(ctx, out, a.Version, at, when)
		return err
	})
	return out, err
}

// holding finds an approval that holds, judged again on the catalogue of a moment.
func holding(ctx context.Context, st *store.Store, all *exchange.Contents, id int64, at store.CatalogueVersion) (a store.Approval,
	err error) {
	if a, err = st.Approval(ctx, id); err != nil {
		return a, err
	}
	if a.State != approval.Approved {
		return a, a.Holds()
	}
	again, changed, err := rejudge(ctx, all, &a, new(documents))
	if err != nil {
		return a, err
	}
	if changed {
		if err := st.Rejudge(ctx, []store.Rejudged{again}, at); err != nil {
			return a, err
		}
		a.Version, a.Stale = a.Version+1, again.Stale
	}
	if again.Broken {
		return a, store.ErrStale
	}
	if err := a.Holds(); err != nil {
		return a, err
	}
	return a, photographsOf(ctx, st, &a)
}

// issueOptions are how a document was made, with its statement and signatures.
type issueOptions struct {
	Paper string `json:"paper,omitempty"`
	Units string `json:"units,omitempty"`
	Lang  string `json:"lang,omitempty"`
	Base  string `json:"base"`
	Sealed
	FileSignature string `json:"file_signature,omitempty"`
}

// Reissue makes an issued document again, byte for byte, from the frozen inputs and its stored record alone.
func Reissue(ctx context.Context, st *store.Store, a *store.Approval, i *store.Issued) (name string, file []byte, err error) {
	var o issueOptions
	if err := json.Unmarshal([]byte(i.Options), &o); err != nil {
		return "", nil, err
	}
	name, file, err = o.make(ctx, st, a, i)
	if err == nil && o.FileSignature != "" {
		file = signed(file, o.Statement.Key, o.FileSignature)
	}
	return name, file, err
}

// ReleaseOf is the release of a document that was issued, as a file of JSON has it; [store.ErrNotFound] where it was issued before
// documents were signed.
func ReleaseOf(ctx context.Context, st *store.Store, id int64) (*Release, error) {
	i, err := st.IssuedFile(ctx, id)
	if err != nil {
		return nil, err
	}
	var o issueOptions
	if err := json.Unmarshal([]byte(i.Options), &o); err != nil {
		return nil, err
	}
	if o.Signature == "" {
		return nil, store.ErrNotFound
	}
	a, err := st.Approval(ctx, i.Approval)
	if err != nil {
		return nil, err
	}
	return releaseOf(&a, o.Sealed), nil
}

// modules are the dark modules of a code, row by row.
func modules(text string, mends qr.Level) (all [][]bool, err error) {
	code, err := qr.Encode(text, mends)
	if err != nil {
		return nil, err
	}
	for y := range code.Size {
		row := make([]bool, code.Size)
		for x := range row {
			row[x] = code.Black(x, y)
		}
		all = append(all, row)
	}
	return all, nil
}

// make draws a document, without its signature.
func (o *issueOptions) make(ctx context.Context, st *store.Store, a *store.Approval, i *store.Issued) (name string, file []byte,
	err error) {
	at, err := time.Parse(time.RFC3339, i.At)
	if err != nil {
		return "", nil, err
	}
	f, err := readFrozen(a.Document)
	if err != nil {
		return "", nil, err
	}
	language, err := bench.Language(o.Lang)
	if err != nil {
		return "", nil, err
	}
	where := address(o.Base, i.Code)
	inCode, mends := where, qr.M
	if o.Signature != "" { // older ones have none
		mends = qr.L // the signature takes the room of what mends spots
		if inCode, err = o.printedAddress(); err != nil {
			return "", nil, err
		}
	}
	release := &sheet.Release{Number: i.Number, Revision: revisionName(i.Revision), Date: at.Format(time.DateOnly),
		Approver: a.ApprovedBy.String, Address: where, Audit: o.Statement.auditLine()}
	if o.Signature != "" {
		release.Mark = approval.Short(a.Fingerprint)
	}
	if release.QR, err = modules(inCode, mends); err != nil {
		return "", nil, err
	}
	w := f.open(ctx)
	w.Request.Units = o.Units
	paper := o.Paper
	if paper == "" {
		paper = bench.Papers[0]
	}
	name = i.Number + "-" + release.Revision + "-" + i.What + ".pdf"
	if i.What == "pack" {
		pack, err := w.Install(bench.InstallOptions{Paper: paper, Units: bench.Units(o.Units), Now: at, Language: language, Release: release,
			Photos: func(id string) ([]byte, error) { return st.Photo(ctx, id) }})
		if err != nil {
			return "", nil, err
		}
		if file, err = pack.File("pdf"); err == nil && o.Signature != "" {
			file, err = withRelease(file, releaseOf(a, o.Sealed))
		}
		return name, file, err
	}
	s, err := w.Sheet(bench.SheetOptions{Card: i.What == "card", Paper: paper, Now: at, Language: language, Release: release})
	if err != nil {
		return "", nil, err
	}
	if file, err = s.File("pdf", paper); err == nil && o.Signature != "" {
		file, err = withRelease(file, releaseOf(a, o.Sealed))
	}
	return name, file, err
}

// DocumentStatus is the public answer about a document, by its code.
type DocumentStatus string

// The standings. A document whose approval has changed since is never said to be current.
const (
	Current    DocumentStatus = "current"
	InDoubt    DocumentStatus = "in doubt"
	Superseded DocumentStatus = "superseded"
	Withdrawn  DocumentStatus = "withdrawn"
)

// holdsNow works out whether an approval holds on the catalogue of this moment, whether or not it has been judged again yet; not where
// that cannot be done.
func holdsNow(ctx context.Context, st *store.Store, a *store.Approval) bool {
	all, _, err := st.CatalogueAt(ctx)
	if err != nil {
		return false
	}
	again, _, err := rejudge(ctx, all, a, new(documents))
	return err == nil && again.Stale == "" && !again.Broken
}

// StatusOf is how a document stands, and, where it is superseded, the number of the latest of its kind; "" where none was issued
// yet.
func StatusOf(ctx context.Context, st *store.Store, code string) (s DocumentStatus, number, by string, err error) {
	i, err := st.IssuedByCode(ctx, strings.ToUpper(strings.TrimSpace(code)))
	if err != nil {
		return "", "", "", err
	}
	a, err := st.Approval(ctx, i.Approval)
	if err != nil {
		return "", "", "", err
	}
	for a.State == approval.Superseded {
		if a, err = st.Approval(ctx, a.SupersededBy.Int64); err != nil {
			return "", "", "", err
		}
		s = Superseded
	}
	switch {
	case s == Superseded && a.State == approval.Approved:
		later, err := st.IssuedOf(ctx, a.ID, 100)
		if err != nil {
			return "", "", "", err
		}
		for _, l := range later {
			if l.What == i.What {
				return s, i.Number, l.Number, nil
			}
		}
	case s == Superseded:
	case a.State == approval.Withdrawn:
		s = Withdrawn
	case a.State == approval.Approved && a.Restored == "" && holdsNow(ctx, st, &a): // whatever was judged last: it may be put back
		s = Current
	case a.State == approval.Approved:
		s = InDoubt
	default:
		return "", "", "", errors.New("it was issued from what is not approved")
	}
	return s, i.Number, "", nil
}
