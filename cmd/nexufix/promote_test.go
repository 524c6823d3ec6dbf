package main

import (
	"fmt"
	"net/http"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"nexufix/store"
)

// TestPromotion: a server that hangs is taken over from by one command, and so is one that was killed. Everything that it acknowledged
// is there, numbers go on in a series of its own, and what it was asked to change afterwards it refuses, as do its commands and its next
// start: nobody writes in two places.
func TestPromotion(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	folder, first, second, third := filepath.Join(dir, "lease"), filepath.Join(dir, "first"), filepath.Join(dir, "second"),
		filepath.Join(dir, "third")
	n := 0
	writes := func(url string) {
		t.Helper()
		for range 20 {
			if !keepNumber(url, "display-0", n+1) {
				t.Fatalf("%d was refused", n+1)
			}
			n++
		}
	}
	// get stands for the copy's last state: the lost server's files, as they are.
	get := func(from string) string {
		return fmt.Sprintf("cp %[1]s/nexufix.db $FILE && cp %[1]s/nexufix.db-wal $FILE-wal", from)
	}
	end := func(c *exec.Cmd) {
		t.Helper()
		if err := c.Process.Kill(); err != nil {
			t.Fatal(err)
		}
		_ = c.Wait() // it was killed
	}

	hangs, at := serving(t, first, 0, "--lease", folder)
	writes(at)
	code, _, said := call("serve", "--addr", "127.0.0.1:0", "--data", second, "--lease", folder)
	if code != 2 || !strings.Contains(said, "writes now") {
		t.Errorf("a second one begins: %d %s", code, said)
	}
	code, _, said = call("promote", "--data", second, "--lease", folder+"2", "--get", "true")
	if code != 2 || !strings.Contains(said, "--gone") {
		t.Errorf("where none has a lease: %d %s", code, said)
	}
	if err := hangs.Process.Signal(syscall.SIGSTOP); err != nil {
		t.Fatal(err)
	}
	code, _, said = call("promote", "--data", second, "--lease", folder, "--get", "false")
	if code == 0 || !strings.Contains(said, "say it again") {
		t.Errorf("without a copy: %d %s", code, said)
	}
	if code, _, said := call("serve", "--addr", "127.0.0.1:0", "--data", second); code != 2 || !strings.Contains(said, "promote again") {
		t.Errorf("without a copy it begins: %d %s", code, said)
	}
	if said := must(t, "promote", "--data", second, "--lease", folder, "--get", get(first)); !strings.Contains(said, "written from now on") {
		t.Error(said)
	}
	if code, _, said := call("promote", "--data", second, "--lease", folder); code != 2 {
		t.Errorf("a second time: %d %s", code, said)
	}
	if err := hangs.Process.Signal(syscall.SIGCONT); err != nil {
		t.Fatal(err)
	}
	if keepNumber(at, "display-0", n+1000) {
		t.Error("the server that hung goes on writing")
	}
	a, err := http.Get(at + "/api/items/displays/display-0")
	if err != nil {
		t.Fatal(err)
	}
	if a.Body.Close(); a.StatusCode != http.StatusOK {
		t.Errorf("the server that hung reads no more: %d", a.StatusCode)
	}
	end(hangs)
	for _, args := range [][]string{{"serve", "--addr", "127.0.0.1:0"}, {"user", "add", "ada", "--name", "Ada", "--sso"}} {
		if code, _, said := call(append(args, "--data", first)...); code != 2 || !strings.Contains(said, "writes now") {
			t.Errorf("%v in the folder of before: %d %s", args, code, said)
		}
	}

	second1, at := serving(t, second, 0) // which remembers the lease
	writes(at)
	end(second1)
	must(t, "promote", "--data", third, "--lease", folder, "--get", get(second))
	third1, at := serving(t, third, 0)
	writes(at)
	end(third1)
	check(t, third, map[string]int{"display-0": n})
	st, err := store.Open(t.Context(), filepath.Join(third, "nexufix.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	if at, err := st.LastRestored(t.Context()); at == "" || err != nil {
		t.Errorf("restored %q, %v", at, err)
	}
	if _, why, err := st.CheckAudit(t.Context()); why != "" || err != nil {
		t.Errorf("the audit: %s, %v", why, err)
	}
}
