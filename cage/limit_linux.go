package cage

import (
	"os/exec"
	"syscall"
)

// limit takes from this process what its job does not need: memory, processor time, files that are opened or written.
func limit(j *Job) error {
	seconds := uint64(j.CPU.Seconds())
	for kind, most := range map[int]uint64{syscall.RLIMIT_DATA: uint64(j.Memory), syscall.RLIMIT_CPU: seconds, syscall.RLIMIT_FSIZE: 0,
		syscall.RLIMIT_NOFILE: 16, syscall.RLIMIT_CORE: 0} {
		if err := syscall.Setrlimit(kind, &syscall.Rlimit{Cur: most, Max: most}); err != nil {
			return err
		}
	}
	return nil
}

// itself is this program, also where another version has been put in its place since it was started.
func itself() (string, error) { return "/proc/self/exe", nil }

// alone puts the child in a group of its own, which ends with this process.
func alone(c *exec.Cmd) {
	c.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Pdeathsig: syscall.SIGKILL}
}
