//go:build unix

package main

import (
	"os"
	"syscall"
)

// lock takes a file for this process alone, until it is closed; an error if another one has it.
func lock(f *os.File) error { return syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB) }
