package people

import (
	"encoding/base32"
	"testing"
	"time"
)

// TestCodes: the codes of RFC 6238, appendix B (SHA-1; the last six of its eight digits), at their times, with a space in them, and as
// long as the period before and the one after last; a hair later or earlier they are refused.
func TestCodes(t *testing.T) {
	secret := base32.StdEncoding.WithPadding(base32.NoPadding).EncodeToString([]byte("12345678901234567890"))
	for at, want := range map[int64]string{59: "287082", 1111111109: "081804", 1111111111: "050471", 1234567890: "005924",
		2000000000: "279037", 20000000000: "353130"} {
		begins := at / 30 * 30
		for _, is := range []struct {
			at   int64
			want bool
		}{{at, true}, {begins - 30, true}, {begins + 59, true}, {begins - 31, false}, {begins + 60, false}} {
			for _, code := range []string{want, want[:3] + " " + want[3:]} {
				if got := CodeIs(secret, code, time.Unix(is.at, 0)); got != is.want {
					t.Errorf("%s at %d (of %d): %v", code, is.at, at, got)
				}
			}
		}
	}
	for _, code := range []string{"", "28708", "2870821", "287083", "94287082"} {
		if CodeIs(secret, code, time.Unix(59, 0)) {
			t.Errorf("%q is taken", code)
		}
	}
	if CodeIs("no base32!", "287082", time.Unix(59, 0)) {
		t.Error("a damaged secret has codes")
	}
}
