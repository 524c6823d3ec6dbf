package exchange

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"

	"nexufix/core/catalog"
)

// Engine is the version of the computation. It is increased when the same documents
// give another result.
const Engine = 1

// Fingerprint identifies what sheets were computed from: the display, the
// bracket with its kit, the policy, the job (nil for none; as far as it is judged)
// and the engine. Twelve letters of a SHA-256, in groups of four.
func Fingerprint(d *catalog.Display, b *catalog.Bracket, p catalog.Policy, turn catalog.Turn, j *catalog.Job) string {
	from := struct {
		Engine  int
		Display *catalog.Display
		Bracket *catalog.Bracket
		Policy  catalog.Policy
		Turn    int
		Job     *catalog.Job
	}{Engine, d, b, p, int(turn), nil}
	if j != nil {
		from.Job = j.Judged()
	}
	raw, err := json.Marshal(from)
	if err != nil {
		return "" // documents of the format always encode
	}
	sum := sha256.Sum256(raw)
	h := hex.EncodeToString(sum[:6])
	return h[:4] + "-" + h[4:8] + "-" + h[8:]
}
