package app

import "fmt"

// NoTemplate is the error for a pairing without a drilling template: the reason.
type NoTemplate struct{ Why string }

// Error gives the reason.
func (e *NoTemplate) Error() string { return "no template: " + e.Why }

// BadFile is the error for a file that cannot be read as a table or document.
type BadFile struct{ Why error }

// Error gives the reason.
func (e *BadFile) Error() string { return e.Why.Error() }

// Unwrap returns the reason.
func (e *BadFile) Unwrap() error { return e.Why }

// AlreadyImported is the error for a file that was imported before.
type AlreadyImported struct{}

// Error describes it.
func (*AlreadyImported) Error() string { return "the file is in the catalogue already" }

// WrongRows is the error for a file with wrong rows: their number.
type WrongRows struct{ Count int }

// Error gives their number.
func (e *WrongRows) Error() string { return fmt.Sprintf("%d rows are wrong", e.Count) }
