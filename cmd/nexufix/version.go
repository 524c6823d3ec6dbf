package main

import (
	"fmt"
	"runtime"
	"runtime/debug"
)

// built is the version that the build says: of the sources' last tag or commit.
var built = ""

// version is what a support case asks for: which program this is, and what it runs on.
func version() string {
	name := built
	if info, ok := debug.ReadBuildInfo(); name == "" && ok {
		name = info.Main.Version
		for _, s := range info.Settings {
			if s.Key == "vcs.revision" {
				name = s.Value[:min(12, len(s.Value))]
			}
		}
	}
	return fmt.Sprintf("nexufix %s %s/%s %s", name, runtime.GOOS, runtime.GOARCH, runtime.Version())
}
