package main

import (
	"bufio"
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"nexufix/app/imports"
	"nexufix/app/people"
	"nexufix/exchange"
	"nexufix/exchange/tabular"
	"nexufix/lease"
	"nexufix/store"
)

// database is the database that a command works on.
type database struct {
	Data string `placeholder:"DIR" env:"NEXUFIX_DATA" help:"Folder of the database. Default: a folder of this user's."`
}

func (d *database) open(ctx context.Context) (*store.Store, error) {
	dir := d.Data
	if dir == "" {
		var err error
		if dir, err = userData(); err != nil {
			return nil, err
		}
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("data folder: %w", err)
	}
	if err := lease.Beside(dir); err != nil {
		return nil, badInput{err}
	}
	st, err := store.Open(ctx, filepath.Join(dir, "nexufix.db"))
	if err == nil {
		st.May = func() error { return lease.Beside(dir) }
	}
	return st, err
}

type importCommand struct {
	database
	File   string `arg:"" help:"A document (.json), a workbook (.xlsx) or a table (.csv); - for standard input, with --format."`
	Kind   string `enum:"displays,brackets,kit," default:"" help:"What a row of the table is: displays, brackets or kit. Default: as its columns say."`
	DryRun bool   `help:"Say what would be done, and do nothing."`
	Who    string `help:"Who does it, for the history."`
	Format string `enum:"json,xlsx,csv," default:"" help:"What the file is. Default: as its name ends."`
	Quiet  bool   `short:"q" help:"Do not say how far it is."`
}

// Run puts a file into the catalogue: all of it, or nothing.
func (c *importCommand) Run(s *streams) (err error) {
	ctx := context.Background()
	raw, err := s.read(c.File)
	if err != nil {
		return badInput{err}
	}
	st, err := c.open(ctx)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, st.Close()) }()
	have, err := st.Catalogue(ctx)
	if err != nil {
		return err
	}
	meanings, err := st.Meanings(ctx)
	if err != nil {
		return err
	}
	f, err := imports.OpenFile(ctx, c.name(), raw, meanings)
	if err != nil {
		return badInput{err}
	}
	if !f.As(c.Kind, meanings) {
		notes, _ := f.Notes()
		return badInput{fmt.Errorf("%s: no columns of displays, brackets or kits were found; name them as in the format's description\n%s",
			c.File, strings.Join(notes, "\n"))}
	}
	f.Preview(have)
	if err := f.Problems(); err != nil {
		return err
	}
	n := f.Counts()
	out := importResult{DryRun: c.DryRun, Ignored: n.Ignored, Imported: store.Imported{New: n.New, Changed: n.Changed, Same: n.Same}}
	out.Notes, out.Unread = f.Notes()
	if f.Table() && n.New+n.Changed+n.Same == 0 {
		return badInput{fmt.Errorf("%s: nothing was taken; not read: %s\n%s", c.File, cmp.Or(strings.Join(out.Unread, ", "), "nothing"),
			strings.Join(out.Notes, "\n"))}
	}
	if !c.DryRun {
		done, err := f.Commit(ctx, st, store.Author{Who: c.Who, Policy: true}, c.progress(s, n.New+n.Changed), nil)
		if err != nil {
			return err
		}
		out.Batch = done.Batch
	}
	return writeJSON(s.out, out)
}

// name is what the file is called, with an ending that says what it is.
func (c *importCommand) name() string {
	if c.Format == "" {
		return filepath.Base(c.File)
	}
	return strings.TrimSuffix(filepath.Base(c.File), "."+c.Format) + "." + c.Format
}

// progress says how far a long import is.
func (c *importCommand) progress(s *streams, of int) func(int) {
	return func(n int) {
		if n > 0 && n%1000 == 0 && !c.Quiet {
			fmt.Fprintf(s.err, "%d of %d\n", n, of)
		}
	}
}

// importResult counts the rows of a file by what became of them.
type importResult struct {
	store.Imported
	Ignored int  `json:"ignored"`
	DryRun  bool `json:"dry_run,omitempty"`
	// What should be looked at, and why rows were left out; the heads of the columns that were not read.
	Notes  []string `json:"notes,omitempty"`
	Unread []string `json:"unread_columns,omitempty"`
}

type exportCommand struct {
	database
	output
	Kind string `enum:"displays,brackets,kit" default:"displays" help:"For .csv: displays, brackets or kit."`
}

// Run writes the catalogue into a file, whole or not at all.
func (c *exportCommand) Run(s *streams) (err error) {
	ctx := context.Background()
	kind, err := c.kind([]string{"json", "xlsx", "csv"})
	if err != nil {
		return err
	}
	st, err := c.open(ctx)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, st.Close()) }()
	all, err := st.Catalogue(ctx)
	if err != nil {
		return err
	}
	if err := people.RecordExport(ctx, st, atDesk, "the catalogue, to "+filepath.Base(c.Out)); err != nil {
		return err
	}
	write := func(f io.Writer) error {
		switch kind {
		case "xlsx":
			return tabular.WriteXLSX(f, all, time.Now())
		case "csv":
			return tabular.WriteCSV(f, c.Kind, all)
		}
		if all, err = st.Whole(ctx, all); err != nil {
			return err
		}
		out := bufio.NewWriter(f)
		if err := exchange.WriteTo(out, all); err != nil {
			return err
		}
		return errors.Join(out.WriteByte('\n'), out.Flush())
	}
	if c.Out == stdout {
		return write(s.out)
	}
	return writeWhole(c.Out, write)
}

// writeWhole writes a file beside its place and puts it there when it is whole.
func writeWhole(name string, write func(io.Writer) error) error {
	f, err := os.CreateTemp(filepath.Dir(name), ".nexufix-*")
	if err != nil {
		return badInput{err}
	}
	err = errors.Join(write(f), f.Sync(), f.Close())
	if err == nil {
		err = os.Chmod(f.Name(), 0o644)
	}
	if err == nil {
		err = os.Rename(f.Name(), name)
	}
	if err != nil {
		return errors.Join(err, os.Remove(f.Name()))
	}
	return nil
}

type backupCommand struct {
	database
	Out string `required:"" placeholder:"FILE" help:"The backup, a file that is not there yet."`
}

// Run writes a backup, while others go on working.
func (c *backupCommand) Run(s *streams) (err error) {
	ctx := context.Background()
	st, err := c.open(ctx)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, st.Close()) }()
	if _, err := os.Stat(c.Out); err == nil {
		return badInput{fmt.Errorf("%s is there already; choose another name", c.Out)}
	}
	if err := st.Backup(ctx, c.Out); err != nil {
		return err
	}
	head, err := st.AuditHead(ctx)
	if err != nil {
		return err
	}
	fmt.Fprintln(s.err, "written:", c.Out)
	if head.Seq > 0 {
		fmt.Fprintln(s.err, "the audit's last entry:", head, "(keep it elsewhere: nexufix audit --check --printed takes it)")
	}
	return nil
}

type thinCommand struct {
	database
	Days int `default:"730" help:"How old a revision is at least, in days; 90 or more."`
}

// Run thins the history.
func (c *thinCommand) Run(s *streams) error {
	age := time.Duration(c.Days) * 24 * time.Hour
	if age < store.YoungestThinned {
		return badInput{fmt.Errorf("--days %d: 90 or more", c.Days)}
	}
	before := time.Now().Add(-age)
	return c.with(func(ctx context.Context, st *store.Store) error {
		n, err := st.Thin(ctx, before, store.AuditEntry{Who: atDesk.Name, What: "history thinned",
			About: "before " + before.UTC().Format(time.DateOnly)})
		fmt.Fprintf(s.out, "%d revisions were emptied; backups are smaller by them, the file itself is used again.\n", n)
		return err
	})
}

type restoreCommand struct {
	database
	In string `required:"" placeholder:"FILE" help:"The backup."`
}

// Run puts a backup in place of everything. What was there is backed up
// first, beside the database.
func (c *restoreCommand) Run(s *streams) (err error) {
	ctx := context.Background()
	if err := store.Inspect(ctx, c.In); err != nil {
		return badInput{err}
	}
	st, err := c.open(ctx)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, st.Close()) }()
	dir := c.Data
	if dir == "" {
		if dir, err = userData(); err != nil {
			return err
		}
	}
	before := filepath.Join(dir, "before-restore-"+time.Now().UTC().Format("20060102T150405.000")+".db")
	if err := st.Backup(ctx, before); store.Damaged(err) {
		// There is no backup of it: it is saved as it is, and another takes its place.
		if err := errors.Join(st.Close(), store.SetAside(filepath.Join(dir, "nexufix.db"), before)); err != nil {
			return err
		}
		if st, err = c.open(ctx); err != nil {
			return err
		}
	} else if err != nil {
		return err
	}
	if err := st.RestoreFrom(ctx, c.In); err != nil {
		return badInput{err}
	}
	fmt.Fprintln(s.err, "restored; what was there before:", before)
	return c.shutOut(ctx, s, st)
}

// shutOut says who may not sign in after a restore onto a new machine, and what to do about it.
func (c *restoreCommand) shutOut(ctx context.Context, s *streams, st *store.Store) error {
	all, err := st.People(ctx)
	if err != nil || slices.ContainsFunc(all, func(p store.Person) bool { return !p.Disabled }) {
		return err
	}
	if len(all) == 0 {
		return nil
	}
	fmt.Fprintln(s.err, "Who was shut out after the backup is not known, so nobody may sign in. Let an administrator in again with\n"+
		"  nexufix user enable LOGIN\nand the others there or on the page People. Approvals are in doubt until an approver confirms them.")
	for _, p := range all {
		fmt.Fprintf(s.err, "  %s\t%s\t%s\n", p.Login, p.Role, p.Name)
	}
	return nil
}
