//go:build unix

package store

import "syscall"

// freeIn is how many bytes the disk of a folder has left for this program.
func freeIn(dir string) (uint64, error) {
	var fs syscall.Statfs_t
	err := syscall.Statfs(dir, &fs)
	return fs.Bavail * uint64(fs.Bsize), err
}
