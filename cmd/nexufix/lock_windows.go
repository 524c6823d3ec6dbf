package main

import (
	"os"

	"golang.org/x/sys/windows"
)

// lock takes a file for this process alone, until it is closed; an error if another one has it.
func lock(f *os.File) error {
	return windows.LockFileEx(windows.Handle(f.Fd()), windows.LOCKFILE_EXCLUSIVE_LOCK|windows.LOCKFILE_FAIL_IMMEDIATELY, 0, 1, 0,
		new(windows.Overlapped))
}
