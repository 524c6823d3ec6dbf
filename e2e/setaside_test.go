package e2e

import (
	"database/sql"
	"path/filepath"
	"testing"

	_ "modernc.org/sqlite" // the driver "sqlite"

	"nexufix/e2e/drive"
)

// TestSetAside: a document that cannot be read is pointed out, opened for its
// text, and taken out; everything else is there all the while.
func TestSetAside(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	app, err := drive.Start(program, "demo", data)
	running(t, app, err)
	db, err := sql.Open("sqlite", filepath.Join(data, "nexufix.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	if _, err := db.Exec(`INSERT INTO item VALUES ('display', 'old-one', '', '{"id":"old-one","colour":"red"}', 4)`); err != nil {
		t.Fatal(err)
	}
	d := sitAt(t, app, "/catalogue")
	d.Wait(`document.querySelector('[role="alert"]')?.innerText.includes('One document of the catalogue cannot be read')`)
	d.Wait(`document.querySelectorAll('[role="row"]').length > 10`)
	d.Click(`[role="alert"] a`)
	d.Wait(`document.querySelector('main')?.innerText.includes('colour: is not a field of the format')`)
	d.Click(`.MuiAccordionSummary-root`)
	d.Wait(`document.querySelector('textarea')?.value === '{"id":"old-one","colour":"red"}'`)
	d.Click(`.MuiAccordionDetails-root button:last-of-type`)
	d.Wait(`document.querySelector('main').innerText.includes('Everything in the database can be read.')`)
}
