// Package app has the product's use cases, each once, for the server and the command line:
// the bench, the wall, sheets, steps, import and merge, the matrix, review and release.
//
// A use case is a function that takes its data and returns a value or an error. It knows
// neither HTTP nor flags, and keeps no state between calls. Its data is one of two:
//
//   - [exchange.Contents], a catalogue in memory, and a [Request]: [Open] finds the nouns
//     that the request names and returns a [Workspace], whose methods judge, draw and rank.
//   - a [store.Store] and the [Person] who asks, if something is saved: [SubmitReview],
//     [DecideReview], [IssueDocument]. Permissions are checked here, and again in the
//     transaction.
//
// Errors that the caller can correct are [exchange.Problems], each with a path, what was found and what
// is allowed; others are types of this package ([Forbidden], [NoTemplate], [VerdictChange]). Package
// server/api converts them to HTTP answers, package main to exit codes.
//
// Rules are judged in core/fit (a pairing) and core/place (a job).
package app
