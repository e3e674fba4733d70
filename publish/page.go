package publish

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"embed"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"html/template"
	"regexp"
	"strings"
	"sync"

	"talloak/core/decision"
	"talloak/core/judge"
)

//go:embed page.html
var pageText string

//go:embed fonts/*.woff2
var fontFiles embed.FS

// fonts are the faces of the page as style rules, so that it needs no other file.
var fonts = sync.OnceValue(func() template.CSS {
	var b strings.Builder
	for _, f := range []struct {
		family, file string
		weight       int
	}{{"IBM Plex Sans", "plex-400", 400}, {"IBM Plex Sans", "plex-600", 600}, {"Fraunces", "fraunces-600", 600}} {
		data, err := fontFiles.ReadFile("fonts/" + f.file + ".woff2")
		if err != nil {
			panic(err) // embedded above
		}
		fmt.Fprintf(&b, "@font-face{font-family:%q;font-weight:%d;src:url(data:font/woff2;base64,%s)}\n", f.family, f.weight, base64.StdEncoding.EncodeToString(data))
	}
	return template.CSS(b.String())
})

// shapes are the rulings as shapes, so that none is told by colour alone. The
// web front end draws the same.
var shapes = map[decision.Verdict]template.HTML{
	decision.Pass:         `<svg class="shape pass" viewBox="0 0 24 24" aria-hidden="true"><circle cx="12" cy="12" r="11"/><path d="M6.5 12.5l4 4 7-8"/></svg>`,
	decision.Fail:         `<svg class="shape fail" viewBox="0 0 24 24" aria-hidden="true"><rect x="1" y="1" width="22" height="22" rx="2"/><path d="M7 7l10 10M17 7L7 17"/></svg>`,
	decision.Inconclusive: `<svg class="shape inconclusive" viewBox="0 0 24 24" aria-hidden="true"><path class="body" d="M12 .8L23.2 12 12 23.2.8 12z"/><path d="M6.5 13c1.8-3.6 3.7-3.6 5.5 0s3.7 3.6 5.5 0"/></svg>`,
	decision.NotCovered:   `<svg class="shape not-covered" viewBox="0 0 24 24" aria-hidden="true"><circle cx="12" cy="12" r="10"/></svg>`,
	decision.NotExamined:  `<svg class="shape not-examined" viewBox="0 0 24 24" aria-hidden="true"><path d="M5 5h3M16 5h3M5 19h3M16 19h3M5 5v3M19 5v3M5 19v-3M19 19v-3"/></svg>`,
	decision.SoFar:        `<svg class="shape so-far" viewBox="0 0 24 24" aria-hidden="true"><circle cx="12" cy="12" r="10"/><path class="half" d="M12 2a10 10 0 0 0 0 20z"/><path d="M15.5 9v6"/></svg>`,
	decision.NotGoverned:  `<svg class="shape not-governed" viewBox="0 0 24 24" aria-hidden="true"><path d="M4 9h16M4 15h16M17 4L7 20"/></svg>`,
	decision.NoClaim:      `<svg class="shape no-claim" viewBox="0 0 24 24" aria-hidden="true"><circle class="dot" cx="12" cy="12" r="3"/></svg>`,
	decision.NoLimit:      `<svg class="shape no-limit" viewBox="0 0 24 24" aria-hidden="true"><path d="M4 12h16"/></svg>`,
	decision.Void:         `<svg class="shape void" viewBox="0 0 24 24" aria-hidden="true"><path class="body" d="M12 .8l9.7 5.6v11.2L12 23.2 2.3 17.6V6.400z"/><path d="M6.5 12h11"/></svg>`,
}

func shapeOf(v decision.Verdict) template.HTML { return shapes[v] }

var page = template.Must(template.New("page").Funcs(template.FuncMap{
	"watts": watts, "db": db, "dbm": dbm, "dbc": dbc, "hertz": hertz, "hertzOf": hertzOf, "span": span, "day": day,
	"spoken": spoken, "spokenOfMany": spokenOfMany, "comeBy": comeBy, "interest": interest, "productName": productName, "by": sinceDecided, "typeset": typeset, "fonts": fonts, "ordinal": func(n *int) string { return judge.Ordinal(*n) },
	"picture": inline, "kindWords": kindWords, "lettersOf": lettersOf, "kindTitle": kindTitle, "follows": follows, "unit": unitWords, "measuredOn": measuredOn, "bandLines": bandLines, "photosOf": photosOf, "otherPhotos": otherPhotos,
	"photo": photoAddress, "aboutPhoto": aboutPhoto, "contents": contents, "sectionPlace": sectionPlace, "rowPlace": rowPlace, "inUse": inUse, "share": share, "readingGroups": readingGroups, "otherSights": otherSights,
	"takeWords": takeWords, "offset": offset, "kitRows": kitRows, "kitColumn": kitColumn, "card": cardAddress, "link": isLink, "cite": citation, "figureW": figureW, "figureDB": figureDB, "linked": linked,
	"address": func(d Document) string { return d.address() },
	"hidden":  hidden, "rung": rung, "levelBudgets": levelBudgets, "together": together, "fine": fine, "typedOut": typedOut, "way": way, "carrierWords": carrierWords, "terms": terms, "risksOf": risksOf,
	"legend": func() any { return shapesLegend }, "percent": func(v float64) string { return fmt.Sprintf("%.2f %%", 100*v) },
	"shape": shapeOf,
}).Parse(pageText))

// Page is the edition as one web page that needs nothing else. Behind what is read stand its data, as frozen, and
// the sum of all before: by them anybody can check the page alone. Without data it is the preview of an edition not
// frozen yet.
func Page(d Document, doc []byte) ([]byte, error) {
	var b bytes.Buffer
	sum := ""
	if doc != nil {
		of := sha256.Sum256(doc)
		sum = hex.EncodeToString(of[:])
	}
	if err := page.Execute(&b, struct {
		Document
		Sum    string
		Levels []levelView
	}{d, sum, d.levelViews()}); err != nil || doc == nil {
		return b.Bytes(), err
	}
	b.WriteString(dataMark)
	text := base64.NewEncoder(base64.StdEncoding, &b)
	packed, err := gzip.NewWriterLevel(text, gzip.BestSpeed) // a review of 60 sweeps is not to wait for it
	if err != nil {
		return nil, err
	}
	_, err = packed.Write(doc)
	if err := errors.Join(err, packed.Close(), text.Close()); err != nil {
		return nil, err
	}
	b.WriteString(dataEnd)
	fmt.Fprintf(&b, "<!-- %s -->\n", sealOf(b.Bytes()))
	return b.Bytes(), nil
}

// The data of an edition in its page: a comment, which no browser shows and no script has to read.
const (
	dataMark = "<!-- talloak-edition-data gzip base64\n"
	dataEnd  = "\n-->\n"
)

// pageMark stands in the head of every page of this format.
const pageMark = `content="talloak-edition-3"`

// olderSum finds the sum of its data in a page of an older format.
var olderSum = regexp.MustCompile(`[0-9a-f]{64}`)
