package store

import "golang.org/x/sys/windows"

// freeIn is how many bytes the disk of a folder has left for this program.
func freeIn(dir string) (free uint64, err error) {
	path, err := windows.UTF16PtrFromString(dir)
	if err == nil {
		err = windows.GetDiskFreeSpaceEx(path, &free, nil, nil)
	}
	return free, err
}
