// Package cage opens strangers' files in a child process of this program: whatever a decoder does with them, it takes no more memory,
// processor time, files or time than a job may, it ends with the client that asked, and nothing of the server is in its reach.
//
// A job is registered under a name by the package that knows the format. The child gets the file on its standard input and answers on
// its standard output: one byte, [made] or [refused], and what was made or why it was refused.
package cage

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"runtime/debug"
	"sync"
	"time"
)

// Job is something that opens a file, and what it may take. One child does it at a time.
type Job struct {
	Name   string
	Do     func(raw []byte) ([]byte, error)
	Memory int64         // bytes
	CPU    time.Duration // of the processor
	Answer int64         // bytes

	once sync.Once
	one  chan struct{} // held by who has a child
}

// Refused is the error of a job that says what is wrong with a file.
type Refused struct{ Why string }

func (r *Refused) Error() string { return r.Why }

// ErrTooMuch is the error of a file that took more than its job may.
var ErrTooMuch = errors.New("it takes more memory or time to open than a file may")

// The first byte of an answer.
const (
	made    = 'm'
	refused = 'r'
)

// jobEnv names the job in the child's environment. It has no other variable.
const jobEnv = "NEXUFIX_CAGE"

// longest is how long a job may take by the clock, which runs on while others have the processor.
const longest = time.Minute

// Inside does the job and exits, in a child process; elsewhere it does nothing. It is called when a program starts, before anything else
// is done.
func Inside(jobs ...*Job) {
	name, is := os.LookupEnv(jobEnv)
	if !is {
		return
	}
	for _, j := range jobs {
		if j.Name == name {
			if err := j.inside(); err != nil {
				fmt.Fprintln(os.Stderr, err)
				os.Exit(1)
			}
			os.Exit(0)
		}
	}
	fmt.Fprintf(os.Stderr, "no job %q\n", name)
	os.Exit(2)
}

func (j *Job) inside() error {
	if err := limit(j); err != nil {
		return err
	}
	debug.SetMemoryLimit(j.Memory / 2)
	raw, err := io.ReadAll(os.Stdin)
	if err != nil {
		return err
	}
	out, err := j.Do(raw)
	kind := byte(made)
	if err != nil {
		kind, out = refused, []byte(err.Error())
	}
	_, err = os.Stdout.Write(append([]byte{kind}, out...))
	return err
}

// Run opens a file in a child process. The error is a [Refused] where the job said what is wrong, and [ErrTooMuch] where it was ended.
func (j *Job) Run(ctx context.Context, raw []byte) ([]byte, error) {
	program, err := itself()
	if err != nil {
		return nil, err
	}
	j.once.Do(func() { j.one = make(chan struct{}, 1) })
	select {
	case j.one <- struct{}{}:
		defer func() { <-j.one }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	within, cancel := context.WithTimeout(ctx, longest)
	defer cancel()
	c := exec.CommandContext(within, program)
	c.Env, c.Dir = []string{jobEnv + "=" + j.Name, "GOMAXPROCS=1"}, os.TempDir()
	c.Stdin = bytes.NewReader(raw)
	var said bytes.Buffer
	answer := &atMost{left: j.Answer + 1}
	c.Stdout, c.Stderr = answer, &atMost{to: &said, left: 4096}
	c.WaitDelay = time.Second
	alone(c)
	err = c.Run()
	got := answer.own.Bytes()
	switch {
	case ctx.Err() != nil:
		return nil, ctx.Err()
	case errors.As(err, new(*exec.ExitError)), errors.Is(err, exec.ErrWaitDelay), errors.Is(err, io.ErrShortWrite), within.Err() != nil:
		return nil, ErrTooMuch
	case err != nil:
		return nil, err // it was not begun
	case len(got) == 0:
		return nil, ErrTooMuch
	case got[0] == refused:
		return nil, &Refused{string(got[1:])}
	case got[0] != made || answer.left < 0:
		return nil, ErrTooMuch
	}
	return got[1:], nil
}

// atMost keeps the beginning of what is written to it, in own where there is no other.
type atMost struct {
	own  bytes.Buffer
	to   *bytes.Buffer
	left int64 // below 0: there was more
}

func (a *atMost) Write(raw []byte) (int, error) {
	to := a.to
	if to == nil {
		to = &a.own
	}
	if a.left -= int64(len(raw)); a.left < 0 {
		return 0, io.ErrShortWrite // the child is told that nobody listens
	}
	return to.Write(raw)
}
