package review

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"nexufix/app/bench"
	"nexufix/app/people"
	"nexufix/core/approval"
	"nexufix/core/catalog"
	"nexufix/core/quantity"
	"nexufix/demo/demotest"
	"nexufix/exchange"
	"nexufix/seal"
	"nexufix/store"

	"github.com/jmoiron/sqlx"
)

const base = "https://desk.example"

func (o *office) issue(by people.Person, a store.Approval, what string) (store.Issued, error) {
	return IssueDocument(o.Context(), o.st, by, a.ID, Issue{What: what, Receiver: "Mill Lane bakery"}, Issuer{base, testKey(o)})
}

// testKey is a key of this test.
func testKey(t testing.TB) *seal.Key {
	key, err := seal.Load(t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	return key
}

// pictures are the pages of a PDF by poppler, and its text.
func pictures(t *testing.T, file []byte) (pages []string, text string) {
	t.Helper()
	dir := t.TempDir()
	name := filepath.Join(dir, "file.pdf")
	if err := os.WriteFile(name, file, 0o600); err != nil {
		t.Fatal(err)
	}
	if out, err := exec.Command("pdftoppm", "-gray", "-r", "130", "-l", "4", name, filepath.Join(dir, "page")).CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	pages, err := filepath.Glob(filepath.Join(dir, "page*.pgm"))
	if err != nil {
		t.Fatal(err)
	}
	raw, err := exec.Command("pdftotext", "-raw", name, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	return pages, string(raw)
}

// TestIssuedDocuments: each is made from what is approved alone; it says number, revision and approver and not
// that it is a draft, is made again byte for byte, and its code is read by zbar, which knows nothing of ours.
func TestIssuedDocuments(t *testing.T) {
	o := openOffice(t)
	a := o.submit(o.mira, counter)
	if _, err := o.issue(o.mira, a, "pack"); !isNotNow(err) {
		t.Errorf("issued from what is in review: %v", err)
	}
	a = o.must(o.approver, a, approval.Approve)
	if _, err := o.issue(o.us, a, "pack"); err == nil {
		t.Error("issued by nobody with an account")
	}
	var first store.Issued
	for n, what := range []string{"pack", "template", "card"} {
		i, err := o.issue(o.mira, a, what)
		if err != nil {
			t.Fatal(what, err)
		}
		if n == 0 {
			first = i
		}
		if !strings.HasSuffix(i.Number, fmt.Sprintf("-%05d", n+1)) || i.Revision != 1 || len(i.Code) != 16 {
			t.Errorf("%+v", i)
		}
		kept, err := o.st.IssuedFile(t.Context(), i.ID)
		if err != nil {
			t.Fatal(err)
		}
		if _, again, err := Reissue(t.Context(), o.st, &a, &kept); err != nil || !bytes.Equal(again, kept.File) || !bytes.Equal(again, i.File) {
			t.Errorf("%s made again is another: %v", what, err)
		}
		pages, text := pictures(t, i.File)
		for _, want := range []string{i.Number, "TOMAS"} {
			if !strings.Contains(text, want) {
				t.Errorf("the %s does not say %q", what, want)
			}
		}
		if strings.Contains(text, "not approved") || strings.Contains(text, "Not approved") {
			t.Errorf("the %s is issued and says that it is not approved", what)
		}
		read, err := exec.Command("zbarimg", append([]string{"--quiet", "--raw"}, pages...)...).Output()
		var some *exec.ExitError // a page without a code
		if want := base + "/v/" + i.Code; err != nil && !errors.As(err, &some) || !strings.Contains(string(read), want) {
			t.Errorf("zbar reads %q from the %s, not %s: %v", read, what, want, err)
		}
	}
	second, err := o.issue(o.ivor, a, "pack")
	if err != nil || second.Revision != 2 || revisionName(second.Revision) != "B" {
		t.Errorf("%+v, %v", second.Revision, err)
	}
	o.standing(first, Current, "")

	// A figure changes, and with it the result: nothing more is issued, and nobody is told that it is current.
	o.weigh("velmora-pane-49", func(d *catalog.Display) { d.Mass = quantity.Some(exchange.KG(17 * quantity.Kilogram)) })
	if _, err := o.issue(o.mira, a, "pack"); !errors.Is(err, store.ErrStale) {
		t.Errorf("issued from what is stale: %v", err)
	}
	o.standing(first, InDoubt, "")
	later := o.must(o.approver, o.submit(o.mira, counter), approval.Approve)
	o.standing(first, Superseded, "")
	third, err := o.issue(o.mira, later, "pack")
	if err != nil || third.Revision != 3 {
		t.Fatal(third.Revision, err)
	}
	o.standing(first, Superseded, third.Number)
	o.standing(third, Current, "")
	o.must(o.approver, store.Approval{ID: later.ID, Version: later.Version}, approval.Withdraw)
	o.standing(third, Withdrawn, "")
	o.standing(first, Superseded, "")
	if _, _, _, err := StatusOf(t.Context(), o.st, "0000000000000000"); !errors.Is(err, store.ErrNotFound) {
		t.Error(err)
	}
}

func isNotNow(err error) bool {
	var no *approval.NotNow
	return errors.As(err, &no)
}

func (o *office) standing(i store.Issued, want DocumentStatus, by string) {
	o.Helper()
	s, number, later, err := StatusOf(o.Context(), o.st, strings.ToLower(i.Code))
	if err != nil || s != want || number != i.Number || later != by {
		o.Errorf("%s is %s by %q, %v; wanted %s by %q", number, s, later, err, want, by)
	}
}

// TestLetters: a document is sent to one address while it is current; one that is not any more is taken back, and not sent.
func TestLetters(t *testing.T) {
	o := openOffice(t)
	a := o.must(o.approver, o.submit(o.mira, counter), approval.Approve)
	i, err := o.issue(o.mira, a, "card")
	if err != nil {
		t.Fatal(err)
	}
	dir := filepath.Join(t.TempDir(), "mail")
	post := func(by people.Person, l SendLetter) error {
		_, err := PostLetter(t.Context(), o.st, by, i.ID, l, MailDesk{base, dir})
		return err
	}
	sent := func() int {
		all, err := filepath.Glob(filepath.Join(dir, "*.eml"))
		if err != nil {
			t.Fatal(err)
		}
		return len(all)
	}
	for _, bad := range []SendLetter{{}, {Mail: "nobody"}, {Mail: "a@b.example, c@d.example"}, {Mail: "a@b.example", Recall: true}} {
		if err := post(o.mira, bad); err == nil || sent() > 0 {
			t.Errorf("%+v is sent", bad)
		}
	}
	if err := post(o.us, SendLetter{Mail: "a@b.example"}); err == nil || sent() > 0 {
		t.Error("sent by nobody with an account")
	}
	if err := post(o.mira, SendLetter{Mail: "till@bakery.example"}); err != nil || sent() != 1 {
		t.Fatal(err)
	}
	o.must(o.admin, a, approval.Withdraw)
	if err := post(o.mira, SendLetter{Mail: "till@bakery.example"}); err == nil || sent() != 1 {
		t.Error("what is withdrawn is sent")
	}
	l, err := ReadyLetter(t.Context(), o.st, i.ID, base)
	if err != nil || !l.Recall || l.Mail != "till@bakery.example" || !strings.Contains(l.Text, "Do not work by it") {
		t.Errorf("%+v, %v", l, err)
	}
	if err := post(o.mira, SendLetter{Mail: l.Mail, Text: l.Text, Recall: true}); err != nil || sent() != 2 {
		t.Error(err)
	}
	// What cannot be handed over was not sent.
	if err := os.WriteFile(dir+"-file", nil, 0o600); err != nil {
		t.Fatal(err)
	}
	dir += "-file"
	if err := post(o.mira, SendLetter{Mail: l.Mail, Recall: true}); err == nil {
		t.Error("handed over to a folder that is none")
	}
	if all, err := o.st.LettersOf(t.Context(), a.ID); err != nil || len(all) != 2 {
		t.Errorf("%d letters are kept, %v", len(all), err)
	}
}

// TestDraftsSaySo: what is not issued says across each page that it is a draft.
func TestDraftsSaySo(t *testing.T) {
	all := demotest.Contents(t)
	w, err := bench.Open(t.Context(), all, bench.Request{DisplayID: "velmora-pane-49", BracketID: "sill-40",
		Site: all.Job("mill-lane-counter")})
	if err != nil {
		t.Fatal(err)
	}
	check := func(what string, file []byte) {
		t.Helper()
		_, text := pictures(t, file)
		pages := strings.Split(strings.TrimSuffix(text, "\f"), "\f")
		text = strings.Join(strings.Fields(text), "") // poppler breaks lines that are turned
		if n := strings.Count(text, "Draft,notapproved"); n < len(pages) {
			t.Errorf("the %s of %d pages says it %d times", what, len(pages), n)
		}
	}
	for _, o := range []bench.SheetOptions{{Paper: "a4"}, {Paper: "sheet"}, {Card: true, Paper: "a4"}} {
		s, err := w.Sheet(o)
		if err != nil {
			t.Fatal(err)
		}
		file, err := s.File("pdf", o.Paper)
		if err != nil {
			t.Fatal(err)
		}
		check(fmt.Sprintf("%+v", o), file)
		for _, format := range []string{"svg", "dxf"} {
			if raw, err := s.File(format, ""); err != nil || !bytes.Contains(raw, []byte("Draft, not approved")) {
				t.Errorf("%s: %v", format, err)
			}
		}
	}
	i, err := w.Install(bench.InstallOptions{})
	if err != nil {
		t.Fatal(err)
	}
	for _, format := range []string{"pdf", "md", "html"} {
		raw, err := i.File(format)
		if err != nil {
			t.Fatal(err)
		}
		if format == "pdf" {
			check("pack", raw)
		} else if !bytes.Contains(raw, []byte("Draft, not approved")) {
			t.Errorf("%s does not say so", format)
		}
	}
}

// TestRestoredApprovals: on a new machine a backup brings approvals and documents, in doubt; one whose document somebody has changed
// in the backup is withdrawn. Where there are approvals already, a restore makes none and takes none.
func TestRestoredApprovals(t *testing.T) {
	o := openOffice(t)
	ctx := t.Context()
	a := o.must(o.approver, o.submit(o.mira, counter), approval.Approve)
	i, err := o.issue(o.mira, a, "card")
	if err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "backup.db")
	if err := o.st.Backup(ctx, file); err != nil {
		t.Fatal(err)
	}
	fresh := func(from string) *store.Store {
		st, err := store.Open(ctx, filepath.Join(t.TempDir(), "nexufix.db"))
		if err == nil {
			t.Cleanup(func() { st.Close() })
			err = st.RestoreFrom(ctx, from)
		}
		if err != nil {
			t.Fatal(err)
		}
		return st
	}
	other := fresh(file)
	if n, err := RejudgeAll(ctx, other); err != nil || n != 0 {
		t.Errorf("%d are judged otherwise, %v", n, err)
	}
	if s, number, _, err := StatusOf(ctx, other, i.Code); err != nil || s != InDoubt || number != i.Number {
		t.Errorf("%s is %s, %v", number, s, err)
	}

	// What was withdrawn here stays so, whatever an older backup says.
	o.must(o.admin, a, approval.Withdraw)
	if err := o.st.RestoreFrom(ctx, file); err != nil {
		t.Fatal(err)
	}
	o.standing(i, Withdrawn, "")

	// Somebody who can write files has made the display lighter in the backup.
	db, err := sqlx.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	for _, sql := range []string{`DROP TRIGGER approval_is_frozen`,
		`UPDATE approval SET document = replace(document, '"mass_kg":14.2', '"mass_kg":4.2')`} {
		if _, err := db.Exec(sql); err != nil {
			t.Fatal(err)
		}
	}
	if err := db.Close(); err != nil {
		t.Fatal(err)
	}
	forged := fresh(file)
	if _, err := RejudgeAll(ctx, forged); err != nil {
		t.Fatal(err)
	}
	if s, _, _, err := StatusOf(ctx, forged, i.Code); err != nil || s != Withdrawn {
		t.Errorf("a forged approval is %s, %v", s, err)
	}
	made := store.Approval{Subject: "x", State: approval.Approved}
	if _, err := forged.Submit(ctx, []store.Approval{made}, store.By{Person: 99}, store.CatalogueVersion{}, ""); err == nil {
		t.Error("somebody without an account sends")
	}
}

// BenchmarkStatusOf is what a code's page costs: unchanged, and while a change of what it rests on has not been judged yet.
func BenchmarkStatusOf(b *testing.B) {
	o := openOffice(b)
	i, err := o.issue(o.mira, o.must(o.approver, o.submit(o.mira, onConcrete), approval.Approve), "card")
	if err != nil {
		b.Fatal(err)
	}
	for _, name := range []string{"unchanged", "changed"} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				o.standing(i, map[string]DocumentStatus{"unchanged": Current, "changed": InDoubt}[name], "")
			}
		})
		o.write(people.Person{}, "crumb-15", func(b *catalog.Bracket) { b.WallPlate.Holes[0].X += quantity.Millimetre }, "", nil)
	}
}
