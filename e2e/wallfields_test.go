package e2e

import (
	"fmt"
	"testing"
)

// wallSays waits until a rule says something on the wall's page.
func (d *desk) wallSays(rule, text string) {
	d.Wait(fmt.Sprintf(`%s && document.querySelector('[data-rule=%q]')?.innerText.includes(%q)`, wallReady, rule, text))
}

// tick goes to a box of the wall by the keyboard and ticks it, or takes the tick away.
func (d *desk) tick(name string) {
	d.tabTo(fmt.Sprintf(`[data-wall=%q] input`, name))
	d.Type(" ")
	d.Wait(wallReady)
}

// TestWhatTheWallIsMadeOf: everything that is asked of a wall by its kind is typed, ticked by the space bar or chosen, and said of.
func TestWhatTheWallIsMadeOf(t *testing.T) {
	d := sit(t, "/wall?display=corvane-loaf-40&bracket=gantry-25") // an arm
	d.Click(`[data-begin="metal_stud"]`)
	d.Wait(wallReady)
	d.wallSays("fastener", "0.46 mm sheet bends them")
	d.Fill(`[aria-label="Sheet"]`, "0.7")
	d.wallSays("fastener", "0.7 mm sheet bends them")
	d.tick("backing")
	d.Wait(wallReady + ` && !document.querySelector('[data-rule="fastener"]')?.innerText.includes('bends them')`)
	d.Fill(`[aria-label="Backing"]`, "17")
	d.wallSays("fastener", "bends them")
	d.Fill(`[aria-label="Backing"]`, "3/4 in")
	d.Wait(wallReady + ` && !document.querySelector('[data-rule="fastener"]')?.innerText.includes('bends them')`)
	d.Fill(`[aria-label="Stud depth"]`, "92")
	d.choose(`[aria-label="Wall"]`, "block or brick", "block")
	d.Wait(wallReady + ` && document.querySelector('[aria-label="Wall thickness"]')?.value === ''`) // a stud's depth is not a wall's
	d.Fill(`[aria-label="Wall thickness"]`, "200")
	d.wallSays("depth", "leaves enough of the wall behind")
	d.choose(`[aria-label="Blocks"]`, "aerated blocks", "aerated")
	d.wallSays("strength", "aerated")
	d.choose(`[aria-label="Wall"]`, "concrete", "concrete")
	d.Wait(wallReady + ` && document.querySelector('[aria-label="Wall thickness"]')?.value === '200'` +
		` && !document.querySelector('[aria-label="Blocks"]')`)
	// Where it goes, by an edge; and who goes below it.
	d.choose(`[aria-label="Height by"]`, "height by its bottom edge", "bottom")
	d.Fill(`[aria-label="Bottom edge"]`, "2100")
	d.See(`.bench.wall[data-ready="yes"] [data-rule="tether"][data-status="caution"]`)
	d.tick("people_below")
	d.Wait(wallReady + ` && !document.querySelector('[data-rule="tether"]')`)
	d.choose(`[aria-label="Height by"]`, "height by its top edge", "top")
	d.Fill(`[aria-label="Top edge"]`, "70 in")
	d.Wait(wallReady + ` && document.querySelector('[data-rule="place"]') === null`)
	d.tick("open_left")
	d.tick("open_right")
	d.Wait(wallReady + ` && !document.querySelector('[data-rule="swept"]')?.innerText.includes('end')`)
	d.Fill(`[aria-label="Swivel wanted"]`, "85")
	d.wallSays("swivel", "85° is wanted")
	d.Fill(`[aria-label="Tilt wanted"]`, "20")
	d.wallSays("tilt", "20° is wanted")
	d.Fill(`[aria-label="Tilt wanted"]`, "5")
	d.Wait(wallReady + ` && !document.querySelector('[data-rule="tilt"]')`)
	d.Click(`[data-add="furniture"]`)
	d.Wait(wallReady)
	d.Fill(`[aria-label="Height"]`, "1800")
	d.wallSays("swept", "furniture") // of a depth that nobody has said: 600
	before := d.Text(`[data-rule="swept"]`)
	d.Fill(`[aria-label="Depth"]`, "2 in")
	d.Wait(wallReady + fmt.Sprintf(` && document.querySelector('[data-rule="swept"]')?.innerText !== %q`, before))
	d.Fill(`[aria-label="Swivel wanted"]`, "10")
	d.Wait(wallReady + ` && !document.querySelector('[data-rule="swivel"]')`)
}

// TestWhatTheBoardIsMadeOf: what a board is made of, and whether it is wet or treated, is chosen and ticked: less of its strength counts.
func TestWhatTheBoardIsMadeOf(t *testing.T) {
	d := sit(t, "/wall?job=guard-van-screen")
	d.Wait(wallReady)
	d.wallSays("strength", ": 44 % of")
	d.choose(`[aria-label="Board"]`, "plywood", "ply")
	d.wallSays("strength", ": 24 % of")
	d.tick("treated")
	d.wallSays("strength", ": 34 % of")
	d.tick("wet") // one of both is enough
	d.wallSays("strength", ": 34 % of")
}

// TestSpacersAreUsedOnTheWall: what would help the pairing stands among the wall's findings, and one press there takes it; the job that is
// saved has it.
func TestSpacersAreUsedOnTheWall(t *testing.T) {
	d := sit(t, "/wall?display=velmora-pane-55&bracket=ledge-20")
	d.Click(`[data-begin="concrete"]`)
	d.Wait(wallReady)
	d.See(`.against`)
	d.Click(`.helps[data-help=spacers] .press`)
	d.Wait(wallReady + ` && !document.querySelector('.against')`)
	d.Fill(`[aria-label="Job"]`, "over-a-box")
	d.PressButton("button", "Save job")
	d.Wait(`document.body.innerText.includes('Saved: job over-a-box')`)
	const saved = `fetch('/api/export').then((r) => r.json()).then((x) => x.jobs.find((j) => j.id === 'over-a-box').arm_clearance_mm ?? 0)`
	if got := value[float64](d, saved); got != 11 { // what stands out
		t.Errorf("the job has spacers for %g mm", got)
	}
	// Opened again, the bench says of it what the wall does.
	d.Run(`sessionStorage.clear()`)
	d.Open(d.app.URL + "/wall?job=over-a-box")
	d.Wait(wallReady + ` && !document.querySelector('.against')`)
	says := d.Text(`.wall-head .stamp`)
	d.Open(d.app.URL + "/?job=over-a-box")
	d.Ready()
	d.Wait(fmt.Sprintf(`document.querySelector('.verdict .stamp').innerText === %q`, says))
}

// TestAnotherKindOfWall: what was measured of one kind of wall is not said of another, on whichever page it is chosen; one press brings it
// back.
func TestAnotherKindOfWall(t *testing.T) {
	d := sit(t, "/wall?job=mill-lane-counter")
	thick := func(name, value string) {
		d.Wait(fmt.Sprintf(`document.querySelector('[aria-label="%s"]')?.value === %q`, name, value) + ` && ` + wallReady)
	}
	thick("Stud depth", "89")
	d.choose(`[aria-label="Wall"]`, "block or brick", "block")
	thick("Wall thickness", "")
	d.PressButton("button", "Undo")
	thick("Stud depth", "89")
	d.Click(`nav a[href^="/steps"]`)
	d.See(`.steps, [aria-label="Wall"]`)
	d.choose(`[aria-label="Wall"]`, "on concrete", "concrete")
	d.Click(`nav a[href^="/wall"]`)
	thick("Wall thickness", "")
	d.Fill(`[aria-label="Wall thickness"]`, "7 in")
	d.wallSays("depth", "leaves enough of the wall behind")
	d.choose(`[aria-label="Wall"]`, "block or brick", "block")
	thick("Wall thickness", "7 in") // that is the same thickness, as it was typed
}
