package exchange

import (
	"errors"
	"fmt"
	"strings"
	"testing"
)

// TestWallPlateErrors: a plate that cannot be made is refused, by the path of
// what is wrong, all of it at once, before anything is drawn of it.
func TestWallPlateErrors(t *testing.T) {
	doc := func(plate string) []byte {
		return []byte(`{"format":"nexufix/1","brackets":[{"id":"b","kind":"fixed","threads":["M6"],"plate_thickness_mm":2,
			"interface":{"type":"plate","patterns_mm":[[200,200]],"center_below_hook_mm":100},"wall_plate":{"hook_above_datum_mm":50,` + plate + `}}]}`)
	}
	hole := func(id string, x int, more string) string {
		return fmt.Sprintf(`{"id":%q,"row":"top","x_mm":%d,"y_mm":0%s}`, id, x, more)
	}
	var many []string
	for i := range 10_000 {
		many = append(many, hole(fmt.Sprint("h", i), i%5000, ""))
	}
	const at = "brackets[0].wall_plate"
	for name, c := range map[string]struct {
		plate string
		paths []string
	}{
		"names that repeat":         {`"holes":[` + hole("T1", 0, "") + "," + hole("T1", 10, "") + `]`, []string{at + ".holes[1].id"}},
		"places that repeat":        {`"holes":[` + hole("T1", 0, "") + "," + hole("T2", 0, "") + `]`, []string{at + ".holes[1]"}},
		"a slot of negative length": {`"holes":[` + hole("T1", 0, `,"shape":"slot_h","length_mm":-5`) + `]`, []string{at + ".holes[0].length_mm"}},
		"a round hole with travel":  {`"holes":[` + hole("T1", 0, `,"shape":"round","length_mm":5`) + `]`, []string{at + ".holes[0].length_mm"}},
		"a shape of its own":        {`"holes":[` + hole("T1", 0, `,"shape":"star"`) + `]`, []string{at + ".holes[0].shape"}},
		"10,000 holes":              {`"holes":[` + strings.Join(many, ",") + `]`, []string{at + ".holes"}},
		"3 km wide":                 {`"width_mm":3000000`, []string{at + ".width_mm"}},
		"a hole in the next street": {`"holes":[` + hole("T1", 99_999, "") + `]`, []string{at + ".holes[0].x_mm"}},
		"the wrong way round":       {`"count":2,"separation_mm":[500,300]`, []string{at + ".separation_mm"}},
		"both ways apart":           {`"count":2,"separation":"pattern_width","separation_mm":[300,500]`, []string{at + ".separation"}},
		"three plates":              {`"count":3`, []string{at + ".count"}},
		"several at once": {`"width_mm":0,"height_mm":-1,"studs_required":99`,
			[]string{at + ".width_mm", at + ".height_mm", at + ".studs_required"}},
	} {
		_, err := Read(doc(c.plate))
		var problems Problems
		errors.As(err, &problems)
		for _, path := range c.paths {
			found := false
			for _, p := range problems {
				found = found || p.Path == path && p.Found != ""
			}
			if !found {
				t.Errorf("%s: no error at %s: %.300v", name, path, err)
			}
		}
		if len(problems) > len(c.paths)+1 {
			t.Errorf("%s: %d errors", name, len(problems))
		}
	}
	if _, err := Read(doc(`"count":2,"separation_mm":[300,500],"holes":[` + hole("T1", 0, `,"shape":"slot_h","length_mm":0`) + `]`)); err != nil {
		t.Error(err)
	}
}
