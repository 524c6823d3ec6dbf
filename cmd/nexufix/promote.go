package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"

	"nexufix/lease"
	"nexufix/store"
)

type promoteCommand struct {
	Data  string `required:"" placeholder:"DIR" help:"Folder of the database that is written from now on."`
	Lease string `required:"" placeholder:"DIR" help:"The folder of the right to write, see nexufix serve --lease."`
	Gone  bool   `help:"The server that wrote had no lease, and is gone for good."`
	Get   string `placeholder:"COMMAND" help:"What fetches the copy's last state to $FILE. Default: the database that is there."`
}

// promoting marks a data folder whose server may write, but has not got the copy yet.
const promoting = "promoting"

// Run takes over from the server that wrote: it makes the next term, waits until that server has stopped, fetches the last state, and marks
// it as written from here on.
func (c *promoteCommand) Run(s *streams) (err error) {
	ctx := context.Background()
	if err := os.MkdirAll(c.Data, 0o700); err != nil {
		return err
	}
	leave, err := alone(c.Data)
	if err != nil {
		return err
	}
	defer leave()
	owner, err := lease.OwnerOf(c.Data)
	if err != nil {
		return err
	}
	file := filepath.Join(c.Data, "nexufix.db")
	if _, err := os.Stat(file); err != nil && c.Get == "" {
		return badInput{fmt.Errorf("%w; give what fetches the copy with --get", err)}
	}
	mark := filepath.Join(c.Data, promoting)
	_, again := os.Stat(mark)
	switch t, err := lease.Latest(c.Lease); {
	case err == nil && t.Owner == owner && again != nil:
		return badInput{errors.New("this folder's server is the one that writes")}
	case !c.Gone && (errors.Is(err, os.ErrNotExist) || err == nil && t.Number == 0):
		return badInput{fmt.Errorf("no server writes under a lease in %s, so none can be told to stop; if the one that wrote is gone for good, "+
			"say --gone", c.Lease)}
	}
	if err := errors.Join(os.WriteFile(mark, nil, 0o600), lease.Remember(c.Data, c.Lease)); err != nil {
		return err
	}
	fmt.Fprintf(s.err, "Taking over; the other server stops writing within %v.\n", lease.Lasts)
	if err := lease.TakeOver(ctx, c.Lease, owner); err != nil {
		return err
	}
	from := file
	if c.Get != "" {
		from = filepath.Join(c.Data, "fetched.db")
		if err := fetch(ctx, s, c.Get, from); err != nil {
			return fmt.Errorf("the copy was not fetched; nobody writes now, so say it again: %w", err)
		}
	}
	last, err := writeOn(ctx, from)
	if err == nil && from != file {
		err = errors.Join(removeDatabase(file), os.Rename(from, file))
	}
	if err != nil {
		return err
	}
	if err := os.Remove(mark); err != nil {
		return err
	}
	fmt.Fprintf(s.out, "This folder is written from now on: nexufix serve --data %s --lease %s\n"+
		"The copy's last change is of %s. What was done after it is lost: approvals are in doubt until an approver confirms them on the desk;\n"+
		"disable again whom you disabled after it; number no document by hand.\n", c.Data, c.Lease, last)
	return nil
}

// fetch lets a command write the last state of a copy.
func fetch(ctx context.Context, s *streams, command, file string) error {
	if err := removeDatabase(file); err != nil {
		return err
	}
	run := exec.CommandContext(ctx, "/bin/sh", "-c", command)
	run.Env = append(os.Environ(), "FILE="+file)
	run.Stdout, run.Stderr = s.err, s.err
	if err := run.Run(); err != nil {
		return err
	}
	return store.Inspect(ctx, file)
}

// writeOn marks a copy as the one that is written, once it is seen to be whole, and returns the time of its last change.
func writeOn(ctx context.Context, file string) (last string, err error) {
	st, err := store.Open(ctx, file)
	if err != nil {
		return "", err
	}
	if err = st.Check(ctx); err == nil {
		last, err = st.Promote(ctx, store.AuditEntry{Who: atDesk.Name, What: "taken over", About: "from another server"})
	}
	return last, errors.Join(err, st.Close())
}

// removeDatabase removes a database with its log.
func removeDatabase(file string) (err error) {
	for _, end := range []string{"", "-wal", "-shm"} {
		if e := os.Remove(file + end); !errors.Is(e, os.ErrNotExist) {
			err = errors.Join(err, e)
		}
	}
	return err
}
