package publish

import (
	"bytes"
	_ "embed"
	"html/template"
	"time"

	"talloak/core/record"
)

//go:embed compare.html
var compareText string

var comparePage = template.Must(template.New("compare").Funcs(template.FuncMap{
	"fonts": fonts, "day": day, "watts": watts, "db": db, "shape": shapeOf, "spoken": spoken, "powerWords": func(c Compared) string { return c.powerWords() }, "roomWords": func(c Compared) string { return c.roomWords() },
	"picture": func(rows []CompareRow, margins bool) (template.HTML, error) {
		p := ComparePicture(rows, margins)
		text, err := p.Inline()
		return template.HTML(text), err // words in it are escaped where they are drawn
	},
}).Parse(compareText))

// FreezeComparison is a page that compares reviews, in one file: pictures of power and margins, and every figure in a
// table, with what was measured on other kit and what is somebody else's.
func FreezeComparison(title string, at time.Time, who record.Publication, rows []CompareRow) ([]byte, error) {
	var out bytes.Buffer
	err := comparePage.Execute(&out, struct {
		Title string
		At    time.Time
		Who   record.Publication
		Rows  []CompareRow
	}{title, at, who, rows})
	return out.Bytes(), err
}
