package imports

import (
	"archive/zip"
	"bytes"
	"errors"
	"os"
	"strings"
	"syscall"
	"testing"
)

// book is a workbook of one sheet, with parts of it replaced or added.
func book(t *testing.T, parts map[string]string) []byte {
	t.Helper()
	const ns = `xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"`
	const rel = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
	all := map[string]string{
		"[Content_Types].xml": `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>`,
		"_rels/.rels": `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="` + rel +
			`/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
		"xl/workbook.xml": `<workbook ` + ns + ` xmlns:r="` + rel + `"><sheets><sheet name="A" sheetId="1" r:id="r1"/></sheets></workbook>`,
		"xl/_rels/workbook.xml.rels": `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">` +
			`<Relationship Id="r1" Type="` + rel + `/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="r2" Type="` + rel +
			`/sharedStrings" Target="worksheets/sharedstrings1.xml"/></Relationships>`,
		"xl/worksheets/sheet1.xml": `<worksheet ` + ns + `><sheetData><row r="1"><c r="A1" t="inlineStr"><is><t>Model</t></is></c></row>` +
			`</sheetData></worksheet>`,
	}
	for name, text := range parts {
		all[name] = text
	}
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for name, text := range all {
		w, err := z.Create(name)
		if err == nil {
			_, err = w.Write([]byte(text))
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// TestBombs: workbooks that are small as files and large inside, in every part that there is: each is read or refused, in a child that
// takes no more than it may.
func TestBombs(t *testing.T) {
	const sheet = "xl/worksheets/sheet1.xml"
	n := 200_000
	if os.Getenv("NEXUFIX_ALL") != "" {
		n = 2_400_000 // 50 s
	}
	const begin, end = `<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">`, `</worksheet>`
	many := func(before, each, after string) string { return before + strings.Repeat(each, n) + after }
	for name, parts := range map[string]map[string]string{
		"prefix": {sheet: many(`<x:worksheet xmlns:x="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><x:sheetData><x:row>`, `<x:c/>`,
			`</x:row></x:sheetData></x:worksheet>`)},
		"another name":  {"xl/worksheets/sharedstrings1.xml": many(`<sst>`, `<si><t/></si>`, `</sst>`)},
		"rich runs":     {"xl/sharedStrings.xml": many(`<sst><si>`, `<r><t/></r>`, `</si></sst>`)},
		"prefixed text": {"xl/sharedStrings.xml": many(`<x:sst xmlns:x="a">`, `<x:si/>`, `</x:sst>`)},
		"breaks":        {sheet: many(begin+`<sheetData/><rowBreaks>`, `<brk/>`, `</rowBreaks>`+end)},
		"links":         {sheet: many(begin+`<sheetData/><hyperlinks>`, `<hyperlink ref="A1"/>`, `</hyperlinks>`+end)},
		"merged":        {sheet: many(begin+`<sheetData/><mergeCells>`, `<mergeCell ref="A1:B1"/>`, `</mergeCells>`+end)},
		"checked":       {sheet: many(begin+`<sheetData/><dataValidations>`, `<dataValidation sqref="A1"/>`, `</dataValidations>`+end)},
		"coloured":      {sheet: many(begin+`<sheetData/>`, `<conditionalFormatting sqref="A1"/>`, end)},
		"styles":        {"xl/styles.xml": many(`<styleSheet><cellXfs>`, `<xf/>`, `</cellXfs></styleSheet>`)},
		"names": {"xl/workbook.xml": many(`<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><definedNames>`,
			`<definedName/>`, `</definedNames></workbook>`)},
	} {
		raw := book(t, parts)
		if len(raw) > 1<<20 {
			t.Errorf("%s has %d kB", name, len(raw)>>10)
		}
		_, err := OpenFile(t.Context(), name+".xlsx", raw, nil)
		var bad *BadFile
		if err != nil && !errors.As(err, &bad) {
			t.Errorf("%s: %v", name, err)
		}
	}
	var used syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_CHILDREN, &used); err != nil || used.Maxrss > (tableJob.Memory+200<<20)>>10 {
		t.Errorf("a child took %d MB, %v", used.Maxrss>>10, err)
	}
	if f, err := OpenFile(t.Context(), "small.xlsx", book(t, nil), nil); err != nil || f.tables[0].Rows[0][0] != "Model" {
		t.Errorf("a workbook with nothing odd: %v, %v", f, err)
	}
}
