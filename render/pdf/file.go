package pdf

import (
	"bytes"
	"crypto/sha256"
	"encoding/xml"
	"errors"
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"nexufix/render"
	"nexufix/version"
)

// producer is the program that wrote a file, as its readers show it.
func producer() string { return "Nexufix " + version.Of() }

// file ends a document and returns it: with its title, language and maker where readers and archives look for them (XMP, ISO 16684-1).
func (w *writer) file(title, language string) ([]byte, error) {
	if language == "" {
		language = "en"
	}
	w.SetTitle(render.Letters(title), true)
	w.SetCreator("Nexufix", true)
	w.SetProducer(producer(), true)
	w.SetLang(language)
	var said strings.Builder
	if err := xml.EscapeText(&said, []byte(render.Letters(title))); err != nil {
		return nil, err
	}
	w.SetXmpMetadata(fmt.Appendf(nil, xmp, said.String(), language, producer(),
		w.GetCreationDate().UTC().Format("2006-01-02T15:04:05Z")))
	var out bytes.Buffer
	if err := w.Output(&out); err != nil {
		return nil, err
	}
	return asIs(out.Bytes())
}

const xmp = `<?xpacket begin="` + "\ufeff" + `" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about=""
 xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmlns:pdf="http://ns.adobe.com/pdf/1.3/">
<dc:title><rdf:Alt><rdf:li xml:lang="x-default">%s</rdf:li></rdf:Alt></dc:title>
<dc:language><rdf:Bag><rdf:li>%s</rdf:li></rdf:Bag></dc:language>
<xmp:CreatorTool>Nexufix</xmp:CreatorTool><pdf:Producer>%s</pdf:Producer><xmp:CreateDate>%s</xmp:CreateDate>
</rdf:Description></rdf:RDF></x:xmpmeta>
<?xpacket end="r"?>`

// begins is how a PDF begins, before the second part of its version.
var begins = []byte{'%', 'P', 'D', 'F', '-', '1', '.'}

// lastObject is the catalog, which the library writes last, and what comes after it.
var lastObject = regexp.MustCompile(`(?s)/Type /Catalog\n(.*endobj\nxref\n.*\ntrailer\n<<\n)(.*startxref\n)(\d+)(\n%%EOF\s*)$`)

// asIs asks readers to print a file at its size, which a sheet at 1:1 stands on, and to show its title (ISO 32000-1, 12.2); the library
// cannot. The catalog is the last object, so that only the table after it moves. The file gets its identifier as well (14.4), of what is in
// it.
func asIs(file []byte) ([]byte, error) {
	const print = "/ViewerPreferences << /PrintScaling /None /DisplayDocTitle true >>\n"
	at := lastObject.FindSubmatchIndex(file)
	if at == nil || !bytes.HasPrefix(file, begins) {
		return nil, errors.New("the PDF does not end as the library writes it")
	}
	table, err := strconv.Atoi(string(file[at[6]:at[7]]))
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(file)
	out := make([]byte, 0, len(file)+256)
	out = append(append(out, begins...), '6') // the first version that has them
	out = append(out, file[len(begins)+1:at[2]]...)
	out = append(out, print...)
	out = append(out, file[at[2]:at[3]]...)
	out = fmt.Appendf(out, "/ID [<%[1]x> <%[1]x>]\n", sum[:16])
	out = append(out, file[at[4]:at[5]]...)
	out = strconv.AppendInt(out, int64(table+len(print)), 10)
	return append(out, file[at[8]:]...), nil
}
