package imports

import (
	"bytes"
	"context"
	"encoding/gob"
	"errors"
	"time"

	"nexufix/cage"
	"nexufix/exchange/tabular"
)

// What opens strangers' workbooks and pictures, in a child process; see package cage. Documents are read here: their reader counts what is
// in them before it makes anything.
var (
	tableJob = &cage.Job{Name: "table", Do: readTables, Memory: 1 << 30, CPU: 40 * time.Second, Answer: 400 << 20}
	photoJob = &cage.Job{Name: "photograph", Do: remake, Memory: 640 << 20, CPU: 20 * time.Second, Answer: 1 << 20}
)

// A program that uses this package does its jobs before anything else, tests too.
func init() { cage.Inside(tableJob, photoJob) }

// readTables reads a workbook or table and writes it with gob.
func readTables(raw []byte) ([]byte, error) {
	tables, err := tabular.Open("", raw)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	err = gob.NewEncoder(&out).Encode(tables)
	return out.Bytes(), err
}

// openTables reads a workbook or table; a table that has no name of its own gets the file's.
func openTables(ctx context.Context, name string, raw []byte) (out []tabular.Table, err error) {
	made, err := tableJob.Run(ctx, raw)
	if errors.Is(err, cage.ErrTooMuch) {
		err = errors.New("the file takes more memory or time to read than is given to one; split it, or take out what is not needed")
	}
	if err != nil {
		return nil, err
	}
	if err := gob.NewDecoder(bytes.NewReader(made)).Decode(&out); err != nil {
		return nil, err
	}
	for i := range out {
		if out[i].Name == "" {
			out[i].Name = name
		}
	}
	return out, nil
}
