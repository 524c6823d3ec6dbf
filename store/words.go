package store

import (
	"database/sql/driver"
	"fmt"
	"strings"

	"modernc.org/sqlite"
)

// SQLite's own lower knows ASCII alone: "Änderung" would not be found by "änderung".
func init() {
	sqlite.MustRegisterDeterministicScalarFunction("folded", 1, func(_ *sqlite.FunctionContext, args []driver.Value) (driver.Value, error) {
		switch text := args[0].(type) {
		case nil:
			return nil, nil
		case string:
			return strings.ToLower(text), nil
		default:
			return nil, fmt.Errorf("folded: %T is no text", text)
		}
	})
}
