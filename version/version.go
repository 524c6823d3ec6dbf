// Package version says which program this is.
package version

import (
	"cmp"
	"runtime/debug"
)

// release is the version in CHANGELOG.md that is handed out; set by the linker, "" where it was built otherwise.
var release string

// Of is the program's version, and the commit that it was built from, as its last word.
func Of() string {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return cmp.Or(release, "unknown")
	}
	out := cmp.Or(release, info.Main.Version)
	for _, s := range info.Settings {
		if s.Key == "vcs.revision" && len(s.Value) >= 12 {
			out += " " + s.Value[:12]
		}
	}
	return out
}
