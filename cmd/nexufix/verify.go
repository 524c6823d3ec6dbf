package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"

	"nexufix/app/review"
	"nexufix/seal"
	"nexufix/store"
)

type verifyCommand struct {
	database
	File    string   `arg:"" placeholder:"FILE" help:"A document as it was issued: .pdf, or its release as .json; - for standard input."`
	Key     []string `placeholder:"FILE" help:"Trusted keys (PEM), as from /v/keys; may be repeated. Default: the database's."`
	Dist    string   `placeholder:"DIR" help:"Where make dist keeps the versions: the one that made the document judges it again, too."`
	Figures string   `placeholder:"FILE" help:"Write the figures that were approved there, as JSON."`
}

// Run says who approved what, when and on which figures, and what this program finds of them. The exit code is 1 where the file is not as
// it was issued.
func (c *verifyCommand) Run(s *streams) error {
	ctx := context.Background()
	raw, err := s.read(c.File)
	if err != nil {
		return badInput{err}
	}
	trusted, err := c.trusted(ctx)
	if err != nil {
		return err
	}
	v, err := review.Verify(ctx, raw, trusted)
	if errors.Is(err, review.ErrNotReleased) {
		return badInput{fmt.Errorf("%s: %w", c.File, err)}
	}
	if err != nil {
		return err
	}
	if c.Figures != "" && v.Signed {
		if err := writeFile(c.Figures, v.Document); err != nil {
			return badInput{err}
		}
	}
	out := struct {
		*review.Verified
		Then *byThen `json:"by_its_version,omitempty"`
	}{Verified: v}
	if c.Dist != "" && v.Signed {
		if out.Then, err = c.then(ctx, v.Statement.Program); err != nil {
			return err
		}
	}
	if err := writeJSON(s.out, out); err != nil {
		return err
	}
	if !v.Signed {
		return errors.New("not as it was issued: " + strings.Join(v.Wrong, "; "))
	}
	return nil
}

// byThen is what the version that made a document finds of its figures.
type byThen struct {
	Program string          `json:"program"`
	Verdict string          `json:"verdict_now"`
	Differs json.RawMessage `json:"differs"`
}

// then lets the version that made a document verify it, as it is kept by its commit.
func (c *verifyCommand) then(ctx context.Context, program string) (*byThen, error) {
	words := strings.Fields(program)
	file := filepath.Join(c.Dist, "nexufix-"+words[len(words)-1])
	if _, err := os.Stat(file); err != nil {
		return nil, badInput{fmt.Errorf("the version that made it, %s, is not kept there: %w", program, err)}
	}
	args := []string{"verify", c.File}
	for _, key := range c.Key {
		args = append(args, "--key", key)
	}
	if c.Data != "" {
		args = append(args, "--data", c.Data)
	}
	raw, err := exec.CommandContext(ctx, file, args...).Output()
	if err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	out := &byThen{}
	err = json.Unmarshal(raw, out)
	out.Program = program
	return out, err
}

// trusted are the keys that are given, or those of the database.
func (c *verifyCommand) trusted(ctx context.Context) (all []seal.Public, err error) {
	var texts []string
	for _, file := range c.Key {
		raw, err := os.ReadFile(file)
		if err != nil {
			return nil, badInput{err}
		}
		texts = append(texts, string(raw))
	}
	if c.Key == nil {
		err := c.with(func(ctx context.Context, st *store.Store) error {
			known, err := st.SigningKeys(ctx)
			texts = slices.Collect(maps.Values(known))
			return err
		})
		if err != nil {
			return nil, err
		}
	}
	for _, text := range texts {
		keys, err := seal.ParsePublic(text)
		if err != nil {
			return nil, badInput{fmt.Errorf("--key: %w", err)}
		}
		all = append(all, keys...)
	}
	return all, nil
}

type keyCommand struct {
	Show    keyShow    `cmd:"" help:"Write the public key, which is given to whoever checks documents."`
	Rotate  keyRotate  `cmd:"" help:"Make a new key; what the one before signed is checked with its public key as ever. Start the server again then."`
	Backup  keyBackup  `cmd:"" help:"Write the key into a file, encrypted under a password that is read from standard input."`
	Restore keyRestore `cmd:"" help:"Put a key from such a file in place."`
}

type keyFolder struct {
	database
	Keys string `placeholder:"DIR" help:"Folder of the key. Default: keys, in the folder of the database."`
}

func (k *keyFolder) dir() (string, error) {
	dir := k.Data
	if dir == "" {
		var err error
		if dir, err = userData(); err != nil {
			return "", err
		}
	}
	return (&listen{Keys: k.Keys}).keys(dir), nil
}

// know stores a public key in the database.
func (k *keyFolder) know(key *seal.Key) error {
	return k.with(func(ctx context.Context, st *store.Store) error { return review.KnowKey(ctx, st, key) })
}

type keyShow struct{ keyFolder }

// Run writes it.
func (k *keyShow) Run(s *streams) error {
	dir, err := k.dir()
	if err != nil {
		return err
	}
	key, err := seal.Load(dir)
	if err == nil {
		err = k.know(key)
	}
	if err == nil {
		_, err = fmt.Fprint(s.out, key.Public().PEM())
	}
	return err
}

type keyRotate struct{ keyFolder }

// Run makes it.
func (k *keyRotate) Run(s *streams) error {
	dir, err := k.dir()
	if err != nil {
		return err
	}
	key, err := seal.Rotate(dir)
	if err == nil {
		err = k.know(key)
	}
	if err == nil {
		_, err = fmt.Fprintln(s.err, "the key is", key.Public().ID()+"; start the server again")
	}
	return err
}

type keyBackup struct {
	keyFolder
	Out string `required:"" placeholder:"FILE" help:"The file."`
}

// Run writes it.
func (k *keyBackup) Run(s *streams) error {
	dir, err := k.dir()
	if err != nil {
		return err
	}
	key, err := seal.Load(dir)
	if err != nil {
		return err
	}
	password, err := s.password()
	if err != nil {
		return err
	}
	raw, err := key.Encrypted(password)
	if err != nil {
		return err
	}
	return os.WriteFile(k.Out, raw, 0o600)
}

type keyRestore struct {
	keyFolder
	In string `required:"" placeholder:"FILE" help:"The file."`
}

// Run puts it in place.
func (k *keyRestore) Run(s *streams) error {
	dir, err := k.dir()
	if err != nil {
		return err
	}
	raw, err := os.ReadFile(k.In)
	if err != nil {
		return badInput{err}
	}
	password, err := s.password()
	if err != nil {
		return err
	}
	key, err := seal.Restore(dir, raw, password)
	if err != nil {
		return badInput{err}
	}
	return k.know(key)
}
