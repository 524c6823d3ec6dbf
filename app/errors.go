package app

import "fmt"

// NoTemplate says why a pairing has no drilling template.
type NoTemplate struct{ Why string }

// Error says that there is none, and why.
func (e *NoTemplate) Error() string { return "no template: " + e.Why }

// BadFile says why a file cannot be read as a table or document.
type BadFile struct{ Why error }

// Error says why.
func (e *BadFile) Error() string { return e.Why.Error() }

// Unwrap is why.
func (e *BadFile) Unwrap() error { return e.Why }

// AlreadyImported says that a file is in the catalogue already.
type AlreadyImported struct{}

// Error says so.
func (*AlreadyImported) Error() string { return "the file is in the catalogue already" }

// WrongRows says how many rows keep a file out of the catalogue.
type WrongRows struct{ Count int }

// Error says how many.
func (e *WrongRows) Error() string { return fmt.Sprintf("%d rows are wrong", e.Count) }
