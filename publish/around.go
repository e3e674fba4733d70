package publish

import (
	"bytes"
	_ "embed"
	"html/template"
)

// Around is what is served round the page of an edition, which itself never changes: what has followed it, what was
// written since, and its lineage.
type Around struct {
	ID       string
	Followed []Earlier
	Letters  []Letter
	Lines    []Line
}

// Line is a unit's editions in time.
type Line struct {
	Title    string
	Mine     bool // the edition that is read is one of them
	Editions []Earlier
}

// Newest is the last edition that takes the place of this one, a correction or a re-test; nil where none does.
func (a *Around) Newest() *Earlier {
	for i := len(a.Followed) - 1; i >= 0; i-- {
		if k := a.Followed[i].Kind; k == Correction || k == Retest {
			return &a.Followed[i]
		}
	}
	return nil
}

// Added are the editions that add to this one.
func (a *Around) Added() []Earlier {
	var out []Earlier
	for _, e := range a.Followed {
		if e.Kind != Correction && e.Kind != Retest {
			out = append(out, e)
		}
	}
	return out
}

//go:embed around.html
var aroundText string

var around = template.Must(template.New("around").Funcs(template.FuncMap{"day": day, "kindWords": kindWords}).Parse(aroundText))

// Round is the page with what is round it: a strip above it where something has followed, its lineage and what else
// can be had below.
func (a *Around) Round(page []byte) ([]byte, error) {
	var above, below bytes.Buffer
	if err := around.ExecuteTemplate(&above, "above", a); err != nil {
		return nil, err
	}
	if err := around.ExecuteTemplate(&below, "below", a); err != nil {
		return nil, err
	}
	if at := bytes.LastIndex(page, []byte(dataMark)); at >= 0 {
		page = page[:at] // the data are for the copy in one file
	}
	out := bytes.Replace(page, []byte("<body>"), append([]byte("<body>"), above.Bytes()...), 1)
	if at := bytes.LastIndex(out, []byte("</main>")); at >= 0 {
		out = append(out[:at:at], append(below.Bytes(), out[at:]...)...)
	}
	return out, nil
}
