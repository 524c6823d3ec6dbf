package sheet

import (
	"nexufix/core/drawing"
	"nexufix/core/quantity"
)

// Release is the release data on a sheet that is issued from an approval.
type Release struct {
	Number   string // of the document
	Revision string // of it, A for the first
	Date     string
	Approver string
	Address  string   // of the page that tells whether it is current
	Mark     string   // the beginning of the approval's fingerprint; "" on older ones
	Audit    string   // the last entry of the audit, and the beginning of its hash; "" on older ones
	QR       [][]bool // the same as dark modules, row by row; its quiet zone is left around it
}

// Draft is the watermark of a sheet without a release.
func Draft() quantity.Phrase { return quantity.Say("Draft, not approved") }

// Standing describes whether a sheet is released, and as what.
func (r *Release) Standing() quantity.Phrase {
	if r == nil {
		return quantity.Say("Not approved.")
	}
	if r.Audit != "" {
		return quantity.Say("Approved by %v. Document %v, revision %v, issued %v, audit %v. Is it current? %v",
			drawing.ClipName(r.Approver, 40), r.Number, r.Revision, r.Date, r.Audit, r.Address)
	}
	return quantity.Say("Approved by %v. Document %v, revision %v, issued %v. Is it current? %v",
		drawing.ClipName(r.Approver, 40), r.Number, r.Revision, r.Date, r.Address)
}

// The least width of a code on paper, and of one of its modules, in millimetres, at which a telephone reads it from a hand's breadth.
const (
	minCode   = 26.0
	minModule = 0.65
)

// CodeSize is how wide the code is printed, in millimetres; 0 without a release.
func (r *Release) CodeSize() float64 {
	if r == nil {
		return 0
	}
	return max(minCode, minModule*float64(len(r.QR)+2*quiet))
}

// quiet is the width of the quiet zone around a code, in modules (ISO/IEC 18004: four; from memory).
const quiet = 4

// Code draws the release's QR code into a square with its upper left corner at x, y; nothing without a release.
func (r *Release) Code(d *drawing.Drawing, x, y, size float64) {
	if r == nil || len(r.QR) == 0 {
		return
	}
	module := size / float64(len(r.QR)+2*quiet)
	for row, line := range r.QR {
		for from := 0; from < len(line); from++ {
			to := from
			for to < len(line) && line[to] {
				to++
			}
			if to > from {
				left, top := x+module*float64(quiet+from), y-module*float64(quiet+row)
				d.Add("release.code", drawing.Solid, drawing.Rect(left, top-module, x+module*float64(quiet+to), top))
				from = to
			}
		}
	}
}
