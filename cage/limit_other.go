//go:build !linux

package cage

import (
	"os"
	"os/exec"
)

// limit has nothing to call on other systems: there the job's time and the runtime's memory limit hold.
func limit(*Job) error { return nil }

func itself() (string, error) { return os.Executable() }

func alone(*exec.Cmd) {}
