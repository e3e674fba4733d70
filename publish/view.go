package publish

import (
	"encoding/base64"
	"fmt"
	"html/template"
	"slices"
	"strings"
	"time"

	"talloak/core/claims"
	"talloak/core/judge"
	"talloak/core/measure"
	"talloak/core/measure/emissions"
	"talloak/core/measure/power"
	"talloak/core/record"
	"talloak/core/say"
)

// What the page asks of an edition's data, to show it: nothing is worked out here.

// levelView is a band and level with what is shown of it.
type levelView struct {
	level
	Shown *shown
}

func (d *Document) levelViews() []levelView {
	var out []levelView
	for i, l := range d.Board.Levels() {
		out = append(out, levelView{l, &d.Shown[i]})
	}
	return out
}

// unitWords tell the unit of the test apart from others of its model.
func unitWords(s record.Subject) string {
	var out []string
	for _, part := range []struct{ what, value string }{{"serial", s.Serial}, {"date code", s.DateCode}, {"firmware", s.Firmware}, {"made for", s.Variant}} {
		if part.value != "" {
			out = append(out, part.what+" "+part.value)
		}
	}
	if s.Changes != "" {
		out = append(out, "changed")
	}
	if len(out) == 0 {
		return "One unit; nothing tells it apart from others of the model"
	}
	return "One unit: " + strings.Join(out, ", ")
}

func kindWords(k Kind) string {
	switch k {
	case Correction, Retest:
		return "a " + string(k)
	case Addendum:
		return "an " + string(k)
	}
	return ""
}

func kindTitle(k Kind) string {
	if k == "" { // a preview: nobody has said yet
		return "Compared"
	}
	return strings.ToUpper(string(k)[:1]) + string(k)[1:]
}

// follows names the edition that this one corrects, re-tests or adds to.
func follows(d Document) string {
	switch {
	case len(d.Earlier) > 0:
		e := d.Earlier[len(d.Earlier)-1]
		return fmt.Sprintf("to edition %d, %s", e.Number, day(e.FrozenAt))
	case d.Follows != nil:
		return fmt.Sprintf("of %s, edition %d, %s", d.Follows.Title, d.Follows.Number, day(d.Follows.FrozenAt))
	}
	return ""
}

// measuredOn are the days on which anything was taken.
func measuredOn(d Document) string {
	var first, last time.Time
	see := func(t time.Time) {
		if first.IsZero() || t.Before(first) {
			first = t
		}
		if t.After(last) {
			last = t
		}
	}
	for _, r := range d.Readings {
		see(r.TakenAt)
	}
	for _, s := range d.allSweeps() {
		see(s.TakenAt)
	}
	if first.IsZero() {
		return ""
	}
	const form = "2 January 2006"
	if a, b := first.UTC().Format(form), last.UTC().Format(form); a != b {
		return a + " to " + b
	}
	return "on " + first.UTC().Format(form)
}

// bandLine is a band with what is claimed of its levels.
type bandLine struct {
	Band   string
	Levels []string
}

func bandLines(d Document) []bandLine {
	var out []bandLine
	for _, l := range d.Board.Levels() {
		words := l.Cell.Level
		if l.Cell.Claimed > 0 {
			words = strings.TrimSpace(words + " " + watts(&l.Cell.Claimed))
		}
		if n := len(out); n > 0 && out[n-1].Band == l.Cell.Band.Name {
			out[n-1].Levels = append(out[n-1].Levels, words)
		} else {
			out = append(out, bandLine{l.Cell.Band.Name, []string{words}})
		}
	}
	return out
}

// The unit is what a photograph is about that shows it.
const theUnit = "unit"

func photosOf(d Document, about string) []Photo {
	var out []Photo
	for _, p := range d.Photos {
		if p.About == about {
			out = append(out, p)
		}
	}
	return out
}

func otherPhotos(d Document) []Photo {
	var out []Photo
	for _, p := range d.Photos {
		if p.About != theUnit {
			out = append(out, p)
		}
	}
	return out
}

// photoAddress holds the picture itself: it was drawn by this program when it was added, PNG or JPEG.
func photoAddress(p Photo) template.URL {
	kind := "image/jpeg"
	if p.MediaType == "image/png" {
		kind = p.MediaType
	}
	return template.URL("data:" + kind + ";base64," + base64.StdEncoding.EncodeToString(p.Content))
}

// aboutPhoto says what a photograph is of.
func aboutPhoto(d Document, p Photo) string {
	for _, r := range d.Readings {
		if r.ID == p.About {
			return fmt.Sprintf("%s %s, reading %s, %s", r.Band, r.Level, r.Text, day(p.TakenAt))
		}
	}
	for _, s := range d.allSweeps() {
		if s.ID == p.About {
			return s.Name + ", " + day(p.TakenAt)
		}
	}
	if slices.ContainsFunc(d.Claims, func(c measure.ClaimLine) bool { return c.Text == p.About }) {
		return "The claim “" + p.About + "”, " + day(p.TakenAt)
	}
	if p.About == theUnit {
		return "The unit, " + day(p.TakenAt)
	}
	return p.Name + ", " + day(p.TakenAt)
}

// chapter is a part of the page.
type chapter struct{ Place, Title string }

func contents(d Document) []chapter {
	out := []chapter{{"not-tested", "What was not tested"}, {"rules", "By which rules"}, {"power", "Power at the antenna connector"}, {"emissions", "Emissions"}, {"readings", "Every reading"}}
	for _, o := range d.Others {
		if len(o.Sections) > 0 {
			out = append(out, chapter{sectionPlace(o), o.Sections[0].Title})
		}
	}
	if len(lettersOf(d, "")) > 0 {
		out = slices.Insert(out, 1, chapter{"letters", "What others say"})
	}
	out = append(out, chapter{"claims", "What was claimed"})
	if len(otherPhotos(d)) > 0 {
		out = append(out, chapter{"photographs", "Photographs"})
	}
	out = append(out, chapter{"kit", "Kit, as it was"}, chapter{"words", "Shapes and words"}, chapter{"editions", "Editions of this review"})
	if d.ID != "" {
		out = append(out, chapter{"check", "Check it yourself"}, chapter{"cite", "How to cite it"})
	}
	return out
}

// risksOf is what was keyed although the path was in danger, a sentence for each path.
func risksOf(d Document) []string {
	var out []string
	for _, t := range d.Facts.Paths {
		if t.Risk == nil {
			continue
		}
		if s := say.AtRisk(t.Name, t.Risk.Danger, t.Risk.KeyS, t.Risk.RestS).Detail + "."; !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	return out
}

// sectionPlace is where the sections of a kind begin.
func sectionPlace(o OtherKind) string {
	if o.Whole == nil {
		return placeIn(o.Kind, "further")
	}
	return placeIn(o.Kind)
}

// rowPlace is the place of a row of a section: its kind and what the row is of.
func rowPlace(o OtherKind, section, row int, cells []string) string {
	base := sectionPlace(o)
	of := func(s, r int, cells []string) string {
		if len(cells) > 0 {
			return placeIn(base, cells[0])
		}
		return placeIn(base, fmt.Sprint(s), fmt.Sprint(r))
	}
	mine := of(section, row, cells)
	for s := range o.Sections { // the first of a name has it alone
		for r := range o.Sections[s].Rows {
			if s == section && r == row {
				return mine
			}
			if of(s, r, o.Sections[s].Rows[r]) == mine {
				return placeIn(mine, fmt.Sprint(section), fmt.Sprint(row))
			}
		}
	}
	return mine
}

// inUse are the readings through an antenna.
func inUse(d Document) []power.Reading {
	var out []power.Reading
	for _, r := range d.Readings {
		if r.InUse && r.MeasuredW != nil {
			out = append(out, r)
		}
	}
	return out
}

// share is how much of its claim a reading is.
func share(r power.Reading) string {
	if r.AgainstClaim == nil {
		return "no claim"
	}
	return claims.Result.PercentWords(*r.AgainstClaim)
}

// readingGroup is what was read alike: the first few in full.
type readingGroup struct{ Full, More []power.Reading }

// inFull is how many readings that are alike are told in full on the page.
const inFull = 3

func readingGroups(d Document) []readingGroup {
	type key struct {
		of    record.Keyed
		path  string
		count bool
	}
	var out []readingGroup
	at := map[key]int{}
	for _, r := range d.Readings {
		k := key{r.Keyed, nameOf(r.Through), r.Counts}
		i, known := at[k]
		if !known {
			i = len(out)
			at[k], out = i, append(out, readingGroup{})
		}
		if g := &out[i]; len(g.Full) < inFull {
			g.Full = append(g.Full, r)
		} else {
			g.More = append(g.More, r)
		}
	}
	return out
}

// otherSights are the other sweeps that show a product, each with what it shows and its own loss and offset.
func otherSights(p judge.Product) string {
	if p.Opened == nil {
		return ""
	}
	var out []string
	for _, s := range p.Opened.Sights {
		if p.Sweep != nil && s.Sweep == *p.Sweep {
			continue
		}
		line := fmt.Sprintf("at %s in %s", dbm(&s.ShownDBm), s.Sweep)
		if s.LossDB != nil {
			line += fmt.Sprintf(", loss %s, offset %s", fine(s.LossDB), fine(&s.Applied))
		}
		out = append(out, line)
	}
	return strings.Join(out, "; ")
}

// takeWords is a loss part by part.
func takeWords(c *corrected) string {
	if c == nil {
		return ""
	}
	var out []string
	for _, t := range c.Takes {
		line := t.Name + ": " + fine(t.LossDB)
		if t.Measured {
			line += ", measured"
		}
		out = append(out, line)
	}
	if c.LossDB != nil && len(out) > 1 {
		return strings.Join(out, " + ") + " = " + fine(c.LossDB)
	}
	return strings.Join(out, " + ")
}

func offset(s emissions.SweepView) string { return fine(&s.AppliedDB) }

var kitColumns = []string{"Item", "Loss", "Tolerance", "Accuracy", "Takes", "SWR", "Checked"}

func kitColumn(i int) string { return kitColumns[i] }

// kitRows are the items with their figures, as the page shows them.
func kitRows(d Document) [][]string {
	var out [][]string
	figure := func(unit, cell string) string {
		if cell == "" {
			return ""
		}
		return cell + unit
	}
	for _, r := range d.kitTable().rows {
		name := r[1]
		if r[3] != "" {
			name += ", " + r[3]
		}
		out = append(out, []string{name, figure(" dB", r[4]), figure(" dB", plusMinus(r[5])), strings.Trim(figure(" dB", plusMinus(r[6]))+", "+r[9], ", "), figure(" W", r[7]), r[8], strings.Trim(r[12]+", "+r[11], ", ")})
	}
	return out
}

func plusMinus(cell string) string {
	if cell == "" {
		return ""
	}
	return "±" + cell
}

// cardAddress is that of the card to show beside a link; empty where the publication has no address.
func cardAddress(d Document) string {
	if d.ID == "" || d.Publication.Address == "" {
		return ""
	}
	return d.Publication.Address + "/api/v1/editions/" + d.ID + "/cards/result.png?size=1920x1080"
}

func isLink(address string) bool {
	return strings.HasPrefix(address, "https://") || strings.HasPrefix(address, "http://")
}

// citation is how an edition is named in a text.
func citation(d Document) string {
	out := d.Board.Title + fmt.Sprintf(", edition %d", d.Number)
	if d.Publication.Name != "" {
		out = d.Publication.Name + ": " + out
	}
	out += ", " + d.FrozenAt.UTC().Format("2 January 2006")
	if at := d.address(); isLink(at) {
		out += ", " + at
	}
	return out + "."
}

func figureW(f *Figures) string {
	if f.MeasuredW == nil {
		return "not read"
	}
	out := watts(f.MeasuredW)
	if f.LowW != nil && f.HighW != nil {
		out += " (" + watts(f.LowW) + " to " + watts(f.HighW) + ")"
	}
	return out
}

func figureDB(f *Figures) string {
	if f.RoomDB == nil {
		return f.Emissions.Spoken()
	}
	out := db(f.RoomDB)
	if !f.Seen {
		return "at least " + out
	}
	if f.ExpandedDB != nil {
		out += " ±" + strings.TrimPrefix(db(f.ExpandedDB), "+")
	}
	return out
}

// lettersOf are those about a band and level by its name; of an empty name, those about none that the page shows.
func lettersOf(d Document, name string) []Letter {
	var out []Letter
	for _, l := range d.Letters {
		of := l.About
		if !slices.ContainsFunc(d.Shown, func(s shown) bool { return s.Name == of && s.Emissions.CarrierHz > 0 }) {
			of = ""
		}
		if of == name {
			out = append(out, l)
		}
	}
	return out
}
