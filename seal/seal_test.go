package seal

import (
	"bytes"
	"encoding/base64"
	"encoding/pem"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

func TestSeal(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "keys")
	k, err := Load(dir)
	if err != nil {
		t.Fatal(err)
	}
	again, err := Load(dir)
	if err != nil || again.Public().ID() != k.Public().ID() || len(k.Public().ID()) != 8 {
		t.Fatalf("another key: %v", err)
	}
	for file, want := range map[string]os.FileMode{dir: 0o700, filepath.Join(dir, fileName): 0o600} {
		if i, err := os.Stat(file); err != nil || i.Mode().Perm() != want {
			t.Errorf("%s has %v, %v", file, i.Mode(), err)
		}
	}
	text := []byte("what is signed")
	sig := k.Sign(Statement, text)
	all, err := ParsePublic("words before\n" + k.Public().PEM())
	if err != nil || len(all) != 1 || !all[0].Verifies(Statement, text, sig) {
		t.Fatal(all, err)
	}
	p := all[0]
	for i := range text { // every bit
		for bit := range 8 {
			other := []byte(string(text))
			other[i] ^= 1 << bit
			if p.Verifies(Statement, other, sig) {
				t.Errorf("changed at %d, it passes", i)
			}
		}
	}
	for i := range sig {
		other := sig[:i] + string(sig[i]^1) + sig[i+1:]
		if p.Verifies(Statement, text, other) {
			t.Errorf("a signature that is changed at %d passes", i)
		}
	}
	if p.Verifies(Paper, text, sig) || p.Verifies(Statement, text, "") {
		t.Error("a signature of another kind passes, or none")
	}
	if _, err := ParsePublic("none"); err == nil {
		t.Error("what is no key is read")
	}
	next, err := Rotate(dir)
	if now, loaded := Load(dir); err != nil || loaded != nil || now.Public().ID() != next.Public().ID() || next.Public().ID() == p.ID() {
		t.Error("it is not rotated", err, loaded)
	}
	if next.Public().Verifies(Statement, text, sig) {
		t.Error("another key's signature passes")
	}
}

// TestEncryptedKey: in a backup a key is under a password alone.
func TestEncryptedKey(t *testing.T) {
	dir := t.TempDir()
	k, err := Load(dir)
	if err != nil {
		t.Fatal(err)
	}
	raw, err := k.Encrypted("seven loaves on a rail")
	if err != nil {
		t.Fatal(err)
	}
	plain, err := k.pem()
	if err != nil {
		t.Fatal(err)
	}
	if strings.Contains(string(raw), string(plain[30:60])) {
		t.Error("it is not encrypted")
	}
	other := t.TempDir()
	if _, err := Restore(other, raw, "six loaves on a rail"); err == nil {
		t.Error("with another password it opens")
	}
	changed := slices.Clone(raw) // one letter of it, whichever it is
	if at := bytes.IndexByte(changed, '\n') + 20; changed[at] == 'A' {
		changed[at] = 'B'
	} else {
		changed[at] = 'A'
	}
	for _, text := range []string{"", "x", string(changed), string(plain)} {
		if _, err := Restore(other, []byte(text), "seven loaves on a rail"); err == nil {
			t.Errorf("%.40q opens", text)
		}
	}
	if back, err := Restore(other, raw, "seven loaves on a rail"); err != nil || back.Public().ID() != k.Public().ID() {
		t.Error(err)
	}
	if back, err := Load(other); err != nil || back.Public().ID() != k.Public().ID() {
		t.Error(err)
	}
}

// TestOpenSSL: openssl, which knows nothing of ours, checks a signature by the public key.
func TestOpenSSL(t *testing.T) {
	dir := t.TempDir()
	k, err := Load(dir)
	if err != nil {
		t.Fatal(err)
	}
	text := []byte(`{"number":"NX-2026-00001"}`)
	sig, err := base64.RawURLEncoding.DecodeString(k.Sign(Statement, text))
	if err != nil {
		t.Fatal(err)
	}
	file := func(name string, raw []byte) string {
		t.Helper()
		name = filepath.Join(dir, name)
		if err := os.WriteFile(name, raw, 0o600); err != nil {
			t.Fatal(err)
		}
		return name
	}
	verify := func(signed []byte) ([]byte, error) {
		return exec.Command("openssl", "pkeyutl", "-verify", "-rawin", "-pubin", "-inkey", file("key.pem", []byte(k.Public().PEM())),
			"-in", file("text", signed), "-sigfile", file("sig", sig)).CombinedOutput()
	}
	if out, err := verify(append([]byte("nexufix statement\n"), text...)); err != nil {
		t.Errorf("%s %v", out, err)
	}
	if out, err := verify(append([]byte("nexufix statement\n "), text...)); err == nil {
		t.Errorf("with a space more: %s", out)
	}
}

// TestEarlierEncryptedKey: a backup of a key that was made in December 2026 still opens, so how it is encrypted has not changed; a byte
// less of it does not.
func TestEarlierEncryptedKey(t *testing.T) {
	raw, err := os.ReadFile("testdata/earlier.pem")
	if err != nil {
		t.Fatal(err)
	}
	public, err := os.ReadFile("testdata/earlier.pub")
	if err != nil {
		t.Fatal(err)
	}
	if k, err := Restore(t.TempDir(), raw, "seven loaves on a rail"); err != nil || k.Public().PEM() != string(public) {
		t.Errorf("%v", err)
	}
	block, _ := pem.Decode(raw)
	short := pem.EncodeToMemory(&pem.Block{Type: block.Type, Bytes: block.Bytes[:len(block.Bytes)-1]})
	if _, err := Restore(t.TempDir(), short, "seven loaves on a rail"); err == nil {
		t.Error("a byte less opens")
	}
	for _, less := range []int{0, saltLength, saltLength + 23} {
		short := pem.EncodeToMemory(&pem.Block{Type: block.Type, Bytes: block.Bytes[:less]})
		if _, err := Restore(t.TempDir(), short, "seven loaves on a rail"); err == nil {
			t.Errorf("%d bytes open", less)
		}
	}
	other := pem.EncodeToMemory(&pem.Block{Type: "ANOTHER", Bytes: block.Bytes})
	if _, err := Restore(t.TempDir(), other, "seven loaves on a rail"); err == nil {
		t.Error("another kind opens")
	}
}
