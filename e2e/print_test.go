package e2e

import (
	"bytes"
	"os/exec"
	"strings"
	"testing"
)

// TestBenchAndWallArePrinted: a print has what is on the screen, title, verdict, drawing with its name, findings and figures, and nothing
// that is pressed. Read by poppler's pdftotext.
func TestBenchAndWallArePrinted(t *testing.T) {
	d := sit(t, paneOnSill)
	d.Ready()
	said := func() string {
		c := exec.Command("pdftotext", "-layout", "-", "-")
		c.Stdin = bytes.NewReader(d.Printed())
		out, err := c.Output()
		if err != nil {
			t.Fatalf("pdftotext (Debian package poppler-utils): %v", err)
		}
		return string(out)
	}
	is := func(text string, there, not []string) {
		t.Helper()
		for _, want := range there {
			if !strings.Contains(text, want) {
				t.Errorf("a print has no %q: %.2000s", want, text)
			}
		}
		for _, no := range not {
			if strings.Contains(text, no) {
				t.Errorf("a print has %q: %.2000s", no, text)
			}
		}
	}
	is(said(), []string{"Velmora Pane 49 on Sill 40", "Fits with conditions", "Send 2 × M6×30", "Back, from behind", "M6×12",
		"Bolt stack caution",
		"Slot width", "Thread depth"}, []string{"Undo", "Template PDF", "Phone", "Trouble", "Show inches", "From above", "Larger"})
	d.Open(d.app.URL + "/wall?job=mill-lane-counter")
	d.Wait(wallReady)
	is(said(), []string{"Velmora Pane 49 on Sill 40", "Fits with conditions", "The wall", "Level line 1588 mm", "above the floor", "Strength",
		"Floor to ceiling"}, []string{"Undo", "Save job", "Drag what is", "Show inches", "From the side", "Add a stud"})
}
