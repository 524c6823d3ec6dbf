package bench

import (
	"nexufix/core/fit"
	"nexufix/core/place"
	"nexufix/exchange"
)

// Said is the one answer about what is asked: the pairing, and its places on the wall where there is one. The worst counts.
// Every screen, sheet and page takes it.
type Said struct {
	Verdict string `json:"verdict" required:"true" enum:"fits,fits_with_conditions,missing_data,does_not_fit"`
	OnWall  bool   `json:"on_wall" required:"true"` // the wall was judged too
	Of      string `json:"of" required:"true" enum:"pairing,wall"`
	Why     string `json:"why" required:"true"` // of the finding that decides it; "" where everything passes
	// What it stands on though nobody has said it, and how far that may be off.
	StandsOn []string `json:"stands_on" required:"true"`
	// Why the wall of the request was not judged.
	Unplaced []exchange.Problem `json:"unplaced,omitempty"`
}

// said is the one answer about a pairing at its places.
func (a *Workspace) said(p *fit.Pairing, all []place.Placement) Said {
	decides, ofWall := place.Deciding(p, all)
	out := Said{Verdict: string(place.Verdict(p, all)), OnWall: len(all) > 0, Of: "pairing", Why: a.reader().Say(decides.Text),
		StandsOn: []string{}, Unplaced: a.unplaced.In(a.Language)}
	if ofWall {
		out.Of = "wall"
	}
	for _, text := range place.StandsOn(p, all) {
		out.StandsOn = append(out.StandsOn, a.reader().Say(text))
	}
	return out
}
