package review

import (
	"bytes"
	"encoding/json"
	"errors"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"nexufix/core/approval"
	"nexufix/seal"
	"nexufix/store"
)

// released is a document of each kind, with the key that signed them.
func released(t *testing.T) (o *office, all []store.Issued, key *seal.Key) {
	t.Helper()
	o, key = openOffice(t), testKey(t)
	if err := KnowKey(t.Context(), o.st, key); err != nil {
		t.Fatal(err)
	}
	a := o.must(o.approver, o.submit(o.mira, counter), approval.Approve)
	for _, what := range []string{"pack", "template", "card"} {
		i, err := IssueDocument(t.Context(), o.st, o.mira, a.ID, Issue{What: what, Receiver: "Mill Lane bakery"}, Issuer{base, key})
		if err != nil {
			t.Fatal(err)
		}
		all = append(all, i)
	}
	return o, all, key
}

// TestVerify: who has a released file and the public key is told who approved what, when and on which figures, and what this program finds
// of them; a file of which any byte was changed is none, nor one that was signed by another.
func TestVerify(t *testing.T) {
	o, all, key := released(t)
	trusted := []seal.Public{testKey(t).Public(), key.Public()}
	for _, i := range all {
		v, err := Verify(t.Context(), i.File, trusted)
		if err != nil || !v.Signed {
			t.Fatalf("%s: %+v, %v", i.What, v, err)
		}
		s := v.Statement
		if s.Number != i.Number || s.ApprovedBy != "TOMAS" || s.PreparedBy != "MIRA" || s.Receiver != "Mill Lane bakery" || s.What != i.What ||
			s.Verdict != v.Verdict || len(v.Differs) > 0 || s.Status != base+"/v/"+i.Code || s.Audit.Seq == 0 || s.Catalogue == 0 {
			t.Errorf("%+v", v)
		}
		if f, err := readFrozen(string(v.Document)); err != nil || f.display.ID != "velmora-pane-49" {
			t.Errorf("the figures are of %v, %v", f, err)
		}
		name := filepath.Join(t.TempDir(), "file.pdf")
		if err := os.WriteFile(name, i.File, 0o600); err != nil {
			t.Fatal(err)
		}
		if out, err := exec.Command("qpdf", "--check", name).CombinedOutput(); err != nil {
			t.Errorf("qpdf says of the %s: %s", i.What, out)
		}
		for at := 0; at < len(i.File); at++ {
			if at < len(i.File)-200 && at%4999 > 0 {
				continue
			}
			other := bytes.Clone(i.File)
			other[at] ^= 1
			if v, err := Verify(t.Context(), other, trusted); err == nil && v.Signed {
				t.Fatalf("the %s with another byte at %d of %d is signed", i.What, at, len(i.File))
			}
		}
		for what, other := range map[string][]byte{"something after it": append(bytes.Clone(i.File), '\n'),
			"a line after it":       append(bytes.Clone(i.File), signatureMark+key.Public().ID()+" x\n"...),
			"without its signature": i.File[:bytes.LastIndex(i.File, []byte(signatureMark))]} {
			if v, err := Verify(t.Context(), other, trusted); err == nil && v.Signed {
				t.Errorf("%s: signed", what)
			}
		}
		if v, err := Verify(t.Context(), i.File, trusted[:1]); err != nil || v.Signed || !strings.Contains(v.Wrong[0], "not among those") {
			t.Errorf("by another key: %+v, %v", v, err)
		}
	}
	if head, why, err := o.st.CheckAudit(t.Context()); err != nil || why != "" || head.Seq == 0 {
		t.Errorf("the audit's printed entries: %v %q %v", head, why, err)
	}
	if _, err := Verify(t.Context(), []byte("%PDF-1.4 of anybody's"), trusted); !errors.Is(err, ErrNotReleased) {
		t.Error(err)
	}
}

// TestVerifyRelease: the release as JSON is checked as the PDF is, every value of it.
func TestVerifyRelease(t *testing.T) {
	o, all, key := released(t)
	r, err := ReleaseOf(t.Context(), o.st, all[0].ID)
	if err != nil {
		t.Fatal(err)
	}
	raw, err := json.MarshalIndent(r, "", "  ")
	if err != nil {
		t.Fatal(err)
	}
	trusted := []seal.Public{key.Public()}
	if v, err := Verify(t.Context(), raw, trusted); err != nil || !v.Signed {
		t.Fatalf("%+v, %v", v, err)
	}
	for what, change := range map[string]func(r *Release){
		"approver": func(r *Release) { r.Statement.ApprovedBy = "MIRA" }, "number": func(r *Release) { r.Statement.Number += "1" },
		"program": func(r *Release) { r.Statement.Program = "" }, "audit": func(r *Release) { r.Statement.Audit.Seq++ },
		"signature": func(r *Release) { r.Signature = r.Paper }, "paper": func(r *Release) { r.Paper = r.Signature },
		"figures": func(r *Release) {
			r.Document = bytes.Replace(r.Document, []byte(`"mass_kg":14.2`), []byte(`"mass_kg":4.2`), 1)
		},
		"result": func(r *Release) { r.Result = bytes.Replace(r.Result, []byte(`"pass"`), []byte(`"fail"`), 1) },
		"no key": func(r *Release) { r.Statement.Key = "" },
	} {
		other := *r
		change(&other)
		raw, err := json.Marshal(other)
		if err != nil {
			t.Fatal(err)
		}
		if v, err := Verify(t.Context(), raw, trusted); err != nil || v.Signed || len(v.Wrong) == 0 {
			t.Errorf("with another %s: %+v, %v", what, v, err)
		}
	}
}

// TestVerifyPaper: the code on a sheet, as zbar reads it from its picture, is checked without the server too; with a letter of another,
// or of another document, it is not ours.
func TestVerifyPaper(t *testing.T) {
	o, all, key := released(t)
	approved, err := o.st.Approval(t.Context(), all[0].Approval)
	if err != nil {
		t.Fatal(err)
	}
	var said []string
	for _, i := range all {
		pages, text := pictures(t, i.File)
		read, err := exec.Command("zbarimg", append([]string{"--quiet", "--raw"}, pages...)...).Output()
		var some *exec.ExitError
		if err != nil && !errors.As(err, &some) {
			t.Fatal(err)
		}
		code, ok := strings.CutPrefix(strings.TrimSpace(string(read)), base+"/v/"+i.Code+"?r=")
		if !ok || !strings.Contains(text, "audit") ||
			!strings.Contains(text, approval.Short(approved.Fingerprint)) {
			t.Fatalf("the code of the %s says %q", i.What, read)
		}
		said = append(said, code)
	}
	for n, i := range all {
		r, err := ReleaseOf(t.Context(), o.st, i.ID)
		if err != nil || !VerifyPaper(&r.Statement, said[n], key.Public()) {
			t.Errorf("the code of the %s is not ours: %v", i.What, err)
		}
		other := said[(n+1)%len(said)]
		forged := said[n][:20] + "A" + said[n][21:]
		for what, text := range map[string]string{"": said[n], "another's": other, "forged": forged, "cut": said[n][:100], "words": "a.b.c"} {
			if ours, err := PaperIsOurs(t.Context(), o.st, i.Code, text); err != nil || ours != (what == "") && text != said[n] {
				t.Errorf("%s %s: %v, %v", i.What, what, ours, err)
			}
		}
	}
}
