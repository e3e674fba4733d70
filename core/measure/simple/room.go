package simple

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/say"
	"talloak/core/units"
)

// Figure is what every measurement of one figure has. A kind's view embeds it.
type Figure struct {
	record.Keyed
	ID       string            `json:"id"`
	TakenAt  time.Time         `json:"taken_at"`
	Text     string            `json:"text"`
	Remark   string            `json:"remark"`
	Counts   bool              `json:"counts"`
	WhyNot   string            `json:"why_not"`
	Void     bool              `json:"void"`
	Outside  bool              `json:"outside"` // of the band claimed
	Standing string            `json:"standing"`
	Reason   string            `json:"standing_reason"`
	Verdict  *decision.Verdict `json:"verdict"` // nil where nothing is claimed
	Through  *record.Through   `json:"through"`

	// Contradicts is another figure of the same that it differs from by more than both uncertainties,
	// as it was typed, while nobody explained why; empty where there is none.
	Contradicts string `json:"contradicts"`
}

// Of gives the figure of a view.
func (f *Figure) Of() *Figure { return f }

// Keep implements measure.Shown.
func (f *Figure) Keep(m *record.Measurement) { f.ID, f.TakenAt = m.ID, m.TakenAt }

// View is a kind's own account of a measurement, with a Figure in it.
type View[V any] interface {
	measure.Shown[V]
	Of() *Figure
}

// Spec is what a kind brings. D is its draft, V its view.
type Spec[D, V any] struct {
	About measure.About
	// Offered is what it offers before anything is measured; the zero value is nothing.
	Offered measure.Offered
	// Text is the line of a draft.
	Text func(*D) string
	// Work works a draft out; errors are *problem.Error on the fields of the draft. The figure of
	// the view is filled in already, but for its verdict.
	Work func(r *measure.Review, in D, v *V) error
	// Quantity names what is not to be compared with anything else of the kind.
	Quantity func(*V) string
	// Further tells that a lies further on the wrong side than b, of one quantity.
	Further func(a, b *V) bool
	// Value is the figure with its expanded uncertainty where it is one that comes out the same each time,
	// in any unit; nil for kinds that have none. Two that differ by more than both contradict each other.
	Value func(*V) (v, u float64, ok bool)
	// Words are the figure with its unit and uncertainty, and what it is beside its claim.
	Words func(*V) string
	// Says begin the sentence of the headline, by what the whole comes to.
	Says map[decision.Verdict]string
	// None says that nothing was measured.
	None string
	// Missing names what is claimed of a band and was not measured: without it what passes does so
	// only so far. Nil where a figure is all there is.
	Missing func(r *measure.Review, k record.Keyed, standing []V) []string
	// Asks are the claims that ask for it in a box, in words; nil where none does.
	Asks func(r *measure.Review, c claims.Cell) []string
	// Claim reads a line of claims that are the kind's own; nil where it has none.
	Claim func(text string, region bands.Region) (said string, is bool, err error)
	// Way says a line of an edition of how a figure came; nil where there is nothing to say. Each is said once.
	Way func(*V) string
	// Section is its table in an edition, with its rows left to Row: of all but band, frequency
	// and ruling, which stand around them.
	Section measure.Section
	Row     func(*V) []string
}

// Ruling is what stands for a band: of each quantity the figure furthest on the wrong side; order
// never decides.
type Ruling[V any] struct {
	Verdict     decision.Verdict `json:"verdict"`
	Why         string           `json:"why"`
	Standing    []V              `json:"standing"`
	Of          int              `json:"of"`
	Frequencies []float64        `json:"frequencies_hz"`
	LeftOut     []string         `json:"left_out"` // figures in force that are not to be believed, with why
	Missing     []string         `json:"missing"`  // what is claimed and was not measured
}

// Kind is a kind of one figure. It needs a path where it has a purpose of one.
type Kind[D, V any, P View[V]] struct{ Spec[D, V] }

// Room is such a kind in a review.
type Room[D, V any, P View[V]] struct {
	Spec[D, V]
	review *measure.Review
	taken  []V
}

// About implements measure.Kind.
func (k Kind[D, V, P]) About() measure.About {
	about := k.Spec.About
	about.Types, about.Explains = measure.TypesOf[D, V, Ruling[V]](), k.Value != nil
	return about
}

// Offers implements measure.Offerer.
func (k Kind[D, V, P]) Offers() measure.Offered { return k.Offered }

// Asked implements measure.Asker.
func (k Kind[D, V, P]) Asked(r *measure.Review, c claims.Cell) (claimed []string, done bool) {
	if k.Asks == nil {
		return nil, false
	}
	of := measure.Inside[*Room[D, V, P]](r, k).RulingAt(record.Keyed{Band: c.Band.Name, Mode: c.Mode})
	return k.Asks(r, c), len(of.Standing) > 0 && len(of.Missing) == 0
}

// Claimed asks by claims of a kind.
func Claimed(of claims.OtherKind) func(*measure.Review, claims.Cell) []string {
	return func(r *measure.Review, c claims.Cell) []string { return r.Said(of, c.Band.Name) }
}

// ReadClaim implements measure.ClaimReader.
func (k Kind[D, V, P]) ReadClaim(text string, region bands.Region) (said string, is bool, err error) {
	if k.Spec.Claim == nil {
		return "", false, nil
	}
	return k.Spec.Claim(text, region)
}

// WithoutPath implements measure.Pathless.
func (k Kind[D, V, P]) WithoutPath(json.RawMessage) bool { return k.Spec.About.Purpose == "" }

// Open implements measure.Kind.
func (k Kind[D, V, P]) Open(r *measure.Review) measure.Room {
	d := &Room[D, V, P]{Spec: k.Spec, review: r}
	for _, m := range r.Of(k.Spec.About.Name) {
		d.taken = append(d.taken, d.kept(m))
	}
	for i := range d.taken {
		for j := range d.taken[:i] {
			if a, b := P(&d.taken[i]).Of(), P(&d.taken[j]).Of(); d.contradict(&d.taken[i], &d.taken[j]) {
				a.Contradicts, b.Contradicts = b.Text, a.Text
			}
		}
	}
	return measure.RoomOf[D, V, Ruling[V], P](r, k.Spec.About.Name, d)
}

// contradict tells whether two figures of one band, quantity and frequency differ by more than both
// uncertainties, and nobody explained why.
func (d *Room[D, V, P]) contradict(a, b *V) bool {
	f, g := P(a).Of(), P(b).Of()
	if d.Value == nil || !f.Counts || !g.Counts || f.Outside || g.Outside || f.Band != g.Band || f.Mode != g.Mode || f.Standing == record.Explained || g.Standing == record.Explained ||
		!claims.SameFrequency(units.Hertz(f.FrequencyHz), units.Hertz(g.FrequencyHz)) || d.Quantity(a) != d.Quantity(b) {
		return false
	}
	x, u, ok := d.Value(a)
	y, v, other := d.Value(b)
	return ok && other && math.Abs(x-y) > math.Hypot(u, v)
}

func (d *Room[D, V, P]) kept(m *record.Measurement) V {
	var in D
	err := json.Unmarshal(m.Payload, &in)
	var out V
	if err == nil {
		out, err = measure.Worked(func() (V, error) { return d.work(m.Keyed, in, m.Through) })
	}
	f := P(&out).Of()
	if err != nil { // it was read when it was taken: only newer rules can refuse it
		*f = Figure{Keyed: m.Keyed, Text: d.Text(&in), Through: m.Through, Void: true, WhyNot: "it cannot be worked out any more: " + err.Error()}
	}
	f.ID, f.TakenAt = m.ID, m.TakenAt
	if f.Standing, f.Reason = d.review.Standing(m.ID); !d.review.Stands(m.ID) {
		f.Counts, f.Void, f.WhyNot = false, false, f.Standing+": "+f.Reason
	}
	return out
}

func (d *Room[D, V, P]) work(k record.Keyed, in D, t *record.Through) (V, error) {
	var out V
	text, remark, _ := strings.Cut(d.Text(&in), "?")
	f := P(&out).Of()
	*f = Figure{Keyed: k, Text: strings.TrimSpace(text), Remark: strings.TrimSpace(remark), Counts: true, Standing: record.InForce, Through: t}
	if band, ok := bands.Find(k.Band, d.review.Subject.Region); ok && !band.Contains(units.Hertz(k.FrequencyHz)) {
		f.Outside = true
	}
	return out, d.Work(d.review, in, &out)
}

// Read implements measure.Works.
func (d *Room[D, V, P]) Read(t measure.Taking, in D) (measure.Worth[V], error) {
	if len(d.Text(&in)) > mostText {
		return measure.Worth[V]{}, problem.New("text", "give at most %d characters", mostText)
	}
	out, err := measure.Worked(func() (V, error) { return d.work(t.Keyed, in, t.Through) })
	if err != nil {
		return measure.Worth[V]{}, err
	}
	for i := range d.taken {
		if d.contradict(&out, &d.taken[i]) {
			P(&out).Of().Contradicts = P(&d.taken[i]).Of().Text
		}
	}
	return measure.Worth[V]{Keyed: t.Keyed, Payload: in, View: out}, nil
}

// mostText is the longest line, in bytes.
const mostText = 2000

// Taken implements measure.Works.
func (d *Room[D, V, P]) Taken(i int) *V { return &d.taken[i] }

// RulingAt implements measure.Works: what stands for a band and mode.
func (d *Room[D, V, P]) RulingAt(k record.Keyed) Ruling[V] {
	out := Ruling[V]{Standing: []V{}, Frequencies: []float64{}, LeftOut: []string{}, Missing: []string{}}
	why, void := "", false
	for i := range d.taken {
		v := &d.taken[i]
		f := P(v).Of()
		if f.Band != k.Band || f.Mode != k.Mode {
			continue
		}
		out.Of++
		switch {
		case f.Void:
			void, why = true, f.WhyNot
		case !f.Counts:
			why = f.WhyNot
			if d.review.Stands(f.ID) {
				out.LeftOut = append(out.LeftOut, f.Text+": "+f.WhyNot)
			}
		case f.Outside:
			why = "measured outside the band claimed only"
		default:
			at := slices.IndexFunc(out.Standing, func(o V) bool { return d.Quantity(&o) == d.Quantity(v) })
			switch {
			case at < 0:
				out.Standing = append(out.Standing, *v)
			case d.Further(v, &out.Standing[at]):
				out.Standing[at] = *v
			}
			if !d.Spec.About.Whole && !slices.ContainsFunc(out.Frequencies, func(hz float64) bool { return claims.SameFrequency(units.Hertz(hz), units.Hertz(f.FrequencyHz)) }) {
				out.Frequencies = append(out.Frequencies, f.FrequencyHz)
			}
		}
	}
	out.Verdict, out.Why = d.said(&out, why, void)
	if d.Missing != nil {
		out.Missing = append(out.Missing, d.Missing(d.review, k, out.Standing)...)
	}
	if len(out.Missing) > 0 && len(out.Standing) > 0 {
		out.Why += "; not tested: " + strings.Join(out.Missing, ", ")
		if out.Verdict == decision.Pass {
			out.Verdict = decision.SoFar
		}
	}
	return out
}

// said is the worst of what stands.
func (d *Room[D, V, P]) said(r *Ruling[V], why string, void bool) (decision.Verdict, string) {
	switch {
	case r.Of == 0:
		return decision.NotExamined, d.None
	case void:
		return decision.Void, why
	case len(r.Standing) == 0:
		return decision.NotCovered, why
	}
	verdict, words := decision.NoClaim, []string{}
	order := []decision.Verdict{decision.NoClaim, decision.Pass, decision.Inconclusive, decision.Fail}
	for i := range r.Standing {
		of, text := d.held(&r.Standing[i])
		words = append(words, text)
		if slices.Index(order, of) > slices.Index(order, verdict) {
			verdict = of
		}
	}
	return verdict, strings.Join(words, "; ")
}

// held is what a figure that stands comes to, and its words.
func (d *Room[D, V, P]) held(v *V) (decision.Verdict, string) {
	f := P(v).Of()
	text, of := d.Words(v), decision.NoClaim
	if f.Verdict != nil {
		of = *f.Verdict
	}
	if f.Contradicts != "" {
		text += fmt.Sprintf("; %s and %s differ by more than both uncertainties: strike one, or explain it", f.Text, f.Contradicts)
		if of == decision.Fail && d.holdsElse(v) {
			of = decision.Inconclusive // which of them is so is not known
		}
	}
	return of, text
}

// holdsElse tells whether a figure that contradicts this one does not fail.
func (d *Room[D, V, P]) holdsElse(v *V) bool {
	for i := range d.taken {
		if o := P(&d.taken[i]).Of().Verdict; o != nil && *o != decision.Fail && d.contradict(v, &d.taken[i]) {
			return true
		}
	}
	return false
}

// Box implements measure.Tells: one for the whole band, or for the whole radio.
func (d *Room[D, V, P]) Box(c claims.Cell, _ bool) measure.Box {
	r := d.RulingAt(record.Keyed{Band: c.Band.Name, Mode: c.Mode})
	notes := []measure.Note{}
	for _, l := range r.LeftOut { // the others rule without it, and that is said
		notes = append(notes, measure.Note{Short: "a figure not to be believed was left out", Detail: l})
	}
	for i := range r.Standing {
		if f := P(&r.Standing[i]).Of(); f.Contradicts != "" {
			notes = append(notes, measure.Note{Short: "figures contradict each other", Detail: fmt.Sprintf("%s and %s differ by more than both uncertainties: strike one, or explain it", f.Text, f.Contradicts)})
		}
	}
	return measure.Box{Kind: d.Spec.About.Name, Verdict: r.Verdict, Why: r.Why, Notes: notes, Frequencies: r.Frequencies, Taken: r.Of, Of: measure.Answers(r)}
}

// Sentence implements measure.Tells. Of what does not pass it tells that alone.
func (d *Room[D, V, P]) Sentence(boxes []measure.Named, whole decision.Whole) string {
	boxes = slices.Clone(boxes)
	for i := range boxes {
		b := &boxes[i]
		if b.Verdict != decision.Fail && b.Verdict != decision.Inconclusive {
			continue
		}
		var said []string
		r := measure.Own[Ruling[V]](b.Of)
		for k := range r.Standing {
			if of, words := d.held(&r.Standing[k]); of == b.Verdict {
				said = append(said, words)
			}
		}
		b.Why = strings.Join(said, "; ")
	}
	return Sentence(d.Spec.About.Said(), d.Says, boxes, whole)
}

// Sentence is the part of a headline of a kind that has a box for each band: it begins with what
// says has for the whole, or says that no such thing was measured.
func Sentence(title string, says map[decision.Verdict]string, boxes []measure.Named, whole decision.Whole) string {
	verdict := whole.Verdict
	if says[verdict] == "" && slices.ContainsFunc(boxes, func(b measure.Named) bool { return b.Verdict == decision.NoClaim }) {
		verdict = decision.NoClaim // of some bands: the whole is open for the others alone
	}
	start := says[verdict]
	if start == "" {
		return "No " + title + " that counts was measured."
	}
	var said []string
	for _, b := range boxes {
		if b.Verdict == verdict {
			said = append(said, b.Name+": "+b.Why)
		}
	}
	if len(said) == 0 {
		return fmt.Sprintf("%s: %s.", start, whole.Words)
	}
	return fmt.Sprintf("%s (%s); %s.", start, strings.Join(said, "; "), whole.Words)
}

// Obstacles implements measure.Tells.
func (d *Room[D, V, P]) Obstacles(boxes []measure.Named) []measure.Obstacle {
	var out []measure.Obstacle
	name := d.Spec.About.Name
	for _, b := range boxes {
		if b.Verdict == decision.Void || b.Verdict == decision.NotCovered {
			out = append(out, measure.Obstacle{Said: say.That(say.Code("no-"+name), "%s has no %s that counts: %s", b.Name, d.Spec.About.Said(), b.Why), Stage: name, Of: b.Name, Each: fmt.Sprintf("no %s that counts: %s", d.Spec.About.Said(), b.Why)})
		}
	}
	return out
}

// NotTested implements measure.Tells.
func (d *Room[D, V, P]) NotTested(b measure.Named) []string {
	if b.Verdict == decision.NotExamined {
		return []string{b.Name + ": " + d.None}
	}
	if missing := measure.Own[Ruling[V]](b.Of).Missing; len(missing) > 0 {
		return []string{fmt.Sprintf("%s, %s: not tested: %s", b.Name, d.Spec.About.Said(), strings.Join(missing, ", "))}
	}
	return nil
}

// Ways implements measure.Tells.
func (d *Room[D, V, P]) Ways([]measure.Named) []*record.Through {
	var out []*record.Through
	if d.Spec.About.Purpose != "" {
		for i := range d.taken {
			out = append(out, P(&d.taken[i]).Of().Through)
		}
	}
	return out
}

// Kept implements measure.Tells.
func (d *Room[D, V, P]) Kept(b measure.Box) []measure.Field {
	return []measure.Field{{Name: d.Spec.About.Name, Value: b.Of}}
}

// WithoutAdvice implements measure.Tells: there is none in it.
func (d *Room[D, V, P]) WithoutAdvice(b measure.Box) measure.Box { return b }

// Sections implements measure.Tells: every figure, with all that it is worked out from.
func (d *Room[D, V, P]) Sections([]measure.Named) []measure.Section {
	if len(d.taken) == 0 {
		return nil
	}
	out := d.Section
	own := len(out.Columns)
	before := []string{"Band", "Frequency"}
	if d.Spec.About.Whole {
		before = nil
	}
	out.Columns = slices.Concat(before, out.Columns, []string{"Ruling"})
	out.Numbers, out.Lines = slices.Clone(out.Numbers), slices.Clone(out.Lines)
	for i := range out.Numbers {
		out.Numbers[i] += len(before)
	}
	for i := range d.taken {
		v := &d.taken[i]
		f := P(v).Of()
		var row []string
		if before != nil {
			row = []string{f.Band, units.Hertz(f.FrequencyHz).String()}
		}
		if f.Void {
			row = append(row, append([]string{"typed " + f.Text}, make([]string, own-1)...)...)
		} else {
			row = append(row, d.Row(v)...)
		}
		if d.Way != nil && !f.Void {
			if line := d.Way(v); !slices.Contains(out.Lines, line) {
				out.Lines = append(out.Lines, line)
			}
		}
		out.Rows = append(out.Rows, append(row, f.ruling()))
	}
	return []measure.Section{out}
}

// ruling is what a measurement comes to, in the words of a table.
func (f *Figure) ruling() string {
	out := "no claim"
	switch {
	case f.Void:
		out = f.WhyNot
	case !f.Counts:
		out = "does not count: " + f.WhyNot
	case f.Outside:
		out = "outside the band claimed"
	case f.Verdict != nil:
		out = f.Verdict.Spoken()
	}
	if f.Remark != "" {
		out += "; " + f.Remark
	}
	return out
}
