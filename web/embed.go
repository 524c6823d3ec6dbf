// Package web holds the built front end. Before the first front-end build it
// holds nothing, and the server says how to build it.
package web

import "embed"

// Dist is the folder dist as the front-end build leaves it.
//
//go:embed all:dist
var Dist embed.FS
