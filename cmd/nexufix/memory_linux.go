package main

import "syscall"

// machineMemory is how much memory the machine has, in bytes; 0 if it does not say.
func machineMemory() int64 {
	var machine syscall.Sysinfo_t
	if syscall.Sysinfo(&machine) != nil {
		return 0
	}
	return int64(uint64(machine.Totalram) * uint64(machine.Unit))
}
