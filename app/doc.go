// Package app is what the product does, each use case once, for the server and for the command line
// alike: the bench, the wall, sheets, steps, import and merge, the matrix, review and release.
//
// A use case is a function that takes what it works on and returns a value or an error. It knows
// neither HTTP nor flags, and holds nothing between two calls. What it works on is one of two:
//
//   - [exchange.Contents], a catalogue in memory, and a [Request] of somebody: [Open] finds the nouns
//     that the request names and gives a [Workspace], whose methods judge, draw and rank.
//   - a [store.Store] and the [Person] who asks, where something is saved: [SubmitReview],
//     [DecideReview], [IssueDocument]. What a person may do is asked here, and once more in the
//     transaction.
//
// Errors that the caller can correct are [exchange.Problems], each with a path, what was found and what
// is allowed; others are types of this package ([Forbidden], [NoTemplate], [VerdictChange]). Package
// server/api says what they are in HTTP, package main what they are as exit codes.
//
// Rules are not judged here: that is core/fit (a pairing) and core/place (a job).
package app
