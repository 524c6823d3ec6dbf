package api

import (
	"compress/gzip"
	"encoding/json"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/labstack/echo/v5"
)

// TestKept: what is the same for everybody is made once for each state, with and without compression, and not sent to who has it.
func TestKept(t *testing.T) {
	var k Kept
	made := 0
	ask := func(of any, head ...string) *httptest.ResponseRecorder {
		t.Helper()
		r := httptest.NewRequest(http.MethodGet, "/", nil)
		for i := 0; i+1 < len(head); i += 2 {
			r.Header.Set(head[i], head[i+1])
		}
		w := httptest.NewRecorder()
		if err := k.Answer(echo.New().NewContext(r, w), of, func() any {
			made++
			return []any{of, strings.Repeat("a", 5000)}
		}); err != nil {
			t.Fatal(err)
		}
		return w
	}
	plain := ask("one")
	packed := ask("one", "Accept-Encoding", "br, gzip")
	unpacked, err := gzip.NewReader(packed.Body)
	if err != nil {
		t.Fatal(err)
	}
	raw, err := io.ReadAll(unpacked)
	if err != nil || string(raw) != plain.Body.String() || packed.Header().Get("Content-Encoding") != "gzip" {
		t.Errorf("%d and %d letters, %v", len(raw), plain.Body.Len(), err)
	}
	var got []string
	if err := json.Unmarshal(raw, &got); err != nil || got[0] != "one" {
		t.Errorf("%v", err)
	}
	tag := plain.Header().Get("ETag")
	for have, want := range map[string]int{tag: 304, `"x", W/` + tag: 304, `"x"`: 200, "": 200} {
		if w := ask("one", "If-None-Match", have); w.Code != want || want == 304 && w.Body.Len() > 0 {
			t.Errorf("who has %s gets %d", have, w.Code)
		}
	}
	if made != 1 {
		t.Errorf("it was made %d times", made)
	}
	if w := ask("two", "If-None-Match", tag); w.Code != 200 || w.Header().Get("ETag") == tag || made != 2 {
		t.Errorf("of another state %d, made %d times", w.Code, made)
	}
}
