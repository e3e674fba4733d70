package wiring

import (
	"fmt"
	"slices"
	"strings"

	"talloak/core/advise"
	"talloak/core/bands"
	"talloak/core/dc"
	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/rf"
	"talloak/core/rulebook"
	"talloak/core/runsheet"
	"talloak/core/say"
	"talloak/core/units"
)

// Wiring is a path with what will be keyed into it. Levels are claimed, from the
// highest down, and a level of 0 W is none; MeasuredW counts where it is higher.
// Bench is what is owned, searched where something endangers the path.
type Wiring struct {
	Through   *record.Through
	Carrier   units.Hertz
	Channel   string // what the carrier is called in its service, where it has a name
	Levels    []dc.Level
	Slips     []dc.Level // of other modes that the radio can be set to: the highest of each
	MeasuredW float64
	Mode      rulebook.Mode
	Book      *rulebook.Book
	MostW     *float64 // where nothing is claimed, what a person says is the most
	KeyS      *float64 // how long the radio may be keyed, and must rest then
	RestS     *float64
	RadioMinV *float64
	RadioMaxV *float64
	Bench     []record.Item
}

// Staircase is a path with the levels along it at the carrier's multiples, what
// endangers it at the highest power that can be keyed and what would cure that,
// and what to dial in.
type Staircase struct {
	PathID     string           `json:"path_id"`
	Wiring     string           `json:"wiring"` // names the path with its kit as they are, for whoever keeps them
	Name       string           `json:"name"`
	Socket     string           `json:"socket"`
	Purpose    string           `json:"purpose"`
	SourceW    float64          `json:"source_w"`
	SourcePEPW float64          `json:"source_pep_w"`
	PeakDB     float64          `json:"peak_db"` // PEP above mean, at every point of the path
	SourceWhy  string           `json:"source_why"`
	Titles     []string         `json:"titles"`
	Typical    []string         `json:"typical"`   // parts that stand on typical values
	LidsDBm    []*float64       `json:"lids_dbm"`  // what each part takes at the carrier
	Runs       []MeasuredRun    `json:"runs"`      // parts whose loss was measured
	Multiples  path.Analysis    `json:"multiples"` // at 1 to 10 times the carrier
	LossDB     []*float64       `json:"loss_db"`   // that counts: to what reads, per multiple; nil where not known
	LossU      []*float64       `json:"loss_standard_uncertainty_db"`
	Problems   []path.Finding   `json:"problems"` // at the carrier alone
	Cures      []advise.Cure    `json:"cures"`
	More       *advise.Cure     `json:"more"` // about 10 dB more in front of the instrument, for a second look
	Safe       bool             `json:"safe"`
	HeadroomDB *float64         `json:"headroom_db"`   // to what the analyzer's input survives
	TightestDB *float64         `json:"tightest_db"`   // to the nearest rating of any part
	KeyAtMostS *float64         `json:"key_at_most_s"` // where only a short-time rating allows it
	KeyS       float64          `json:"key_s"`         // a key-up, and the rest after it
	RestS      float64          `json:"rest_s"`
	SpareDB    []*float64       `json:"spare_db"` // limit less lowest visible, per multiple
	Limits     []rulebook.Limit `json:"limits"`   // per multiple
	DialIn     []Dial           `json:"dial_in"`
	Settings   *Settings        `json:"settings"` // those of dial_in, where an analyzer is dialled in
	DC         *dc.Side         `json:"dc"`
	SupplyName string           `json:"supply_name"`
	Channel    string           `json:"channel"` // what the carrier is called, where it has a name
	SeesSecond bool             `json:"-"`       // the second harmonic comes through to something that shows it
}

// MeasuredRun is a run of parts whose measured loss stands for the printed ones.
// PrintedDB and MeasuredDB are at the carrier, nil where there is no such figure.
type MeasuredRun struct {
	First      int      `json:"first"`
	Last       int      `json:"last"`
	On         string   `json:"on"`
	FromHz     float64  `json:"from_hz"`
	ToHz       float64  `json:"to_hz"`
	Applies    bool     `json:"applies"` // at the carrier
	PrintedDB  *float64 `json:"printed_db"`
	MeasuredDB *float64 `json:"measured_db"`
	U          *float64 `json:"standard_uncertainty_db"`
}

// Multiples is how many multiples of the carrier are looked at, the carrier among them.
const Multiples = advise.Multiples

// Wire follows the highest power that can be keyed through a path: the highest
// claim plus 1 dB, or what was measured when that is higher. In AM the peak of
// full modulation is what an analyzer must survive. What is not known in front of
// something that can be damaged is a danger. Errors are *problem.Error.
func Wire(w Wiring) (Staircase, error) {
	t := w.Through
	out := Staircase{PathID: t.PathID, Name: t.Name, Channel: w.Channel, Socket: t.Socket, Purpose: Purpose(t), Titles: []string{}, Typical: []string{}, Cures: []advise.Cure{}}
	parts, err := prepare(t)
	if err != nil {
		return out, err
	}
	for _, p := range parts {
		out.Titles = append(out.Titles, p.Title())
	}
	p, err := path.Assemble(parts)
	if err != nil {
		return out, err
	}
	claimedW, stress := w.stress(&out)
	stress.Frequencies = []units.Hertz{w.Carrier}
	at, err := p.Analyze(stress)
	if err != nil {
		return out, err
	}
	out.Problems, out.Safe = at.Problems, at.Safe
	doubts := w.doubts(&out)
	out.Problems = append(out.Problems, doubts...)
	out.Safe = out.Safe && !slices.ContainsFunc(doubts, func(f path.Finding) bool { return f.Severity == say.Danger })
	slips, err := w.slips(p, stress, at)
	if err != nil {
		return out, err
	}
	out.Problems = append(out.Problems, slips...)
	if t.StackChanged {
		out.Problems = append(out.Problems, path.Finding{Severity: say.Caution, Said: say.StackChanged()})
	}
	all := stress
	all.Strict = false
	for n := 2; n <= Multiples; n++ {
		all.Frequencies = append(all.Frequencies, units.Hertz(n)*w.Carrier)
	}
	if out.Multiples, err = p.Analyze(all); err != nil {
		return out, err
	}
	out.losses(t, p, all.Frequencies)
	_, passes := p.LossAt(2 * w.Carrier)
	out.SeesSecond = passes && p.Reach().Contains(2*w.Carrier)
	out.LidsDBm, out.Runs = p.Lids(w.Carrier), runs(parts, w.Carrier)
	out.HeadroomDB, out.TightestDB, out.KeyAtMostS = at.HeadroomDB, at.TightestDB, at.KeyAtMostS
	out.KeyS, out.RestS = or(w.KeyS, runsheet.KeyS), or(w.RestS, runsheet.RestS)
	if at.KeyAtMostS != nil {
		out.KeyS = min(out.KeyS, *at.KeyAtMostS)
	}
	limits := w.Book.For(rulebook.Carrier{Frequency: w.Carrier, MeanW: claimedW, PEPW: claimedW, Mode: w.Mode, State: rulebook.Operating})
	for k, m := range all.Frequencies {
		limit := limits.At(m)
		out.Limits = append(out.Limits, limit)
		var lowest *float64
		if out.Multiples.LowestVisible != nil {
			lowest = out.Multiples.LowestVisible[k]
		}
		out.SpareDB = append(out.SpareDB, limit.Spare(lowest))
	}
	sick := advise.Sick{Parts: parts, Stress: stress, Carrier: w.Carrier, Limits: limits, Bench: Candidates(w.Bench, t)}
	if out.Safe {
		out.More = advise.More(sick)
	}
	if slices.ContainsFunc(out.Problems, advise.Curable) {
		out.Cures = append(out.Cures, advise.Cures(sick)...)
	}
	out.DialIn, out.Settings = dialIn(p, t, w.Carrier), settingsFor(p, t, w.Carrier)
	return out, w.dcSide(&out)
}

// losses are those that readings and sweeps are corrected by: in front of the meter where one
// reads, else of the whole path.
func (s *Staircase) losses(t *record.Through, whole *path.Path, at []units.Hertz) {
	counts := whole
	if HasMeter(t) {
		if before, _, err := MeterOf(t); err == nil {
			counts = before
		}
	}
	for _, f := range at {
		var loss, u *float64
		if db, ok := counts.LossAt(f); ok {
			loss, u = ptr(float64(db)), ptr(float64(counts.LossUncertainty(f)))
		}
		s.LossDB, s.LossU = append(s.LossDB, loss), append(s.LossU, u)
	}
}

// doubts are what one should know before keying beside the levels: a power that
// nobody claimed, typical values where a real one protects something, retired
// items, one item twice.
func (w *Wiring) doubts(out *Staircase) []path.Finding {
	var found []path.Finding
	doubt := func(i int, s say.Said) {
		found = append(found, path.Finding{Severity: say.Caution, Element: &i, Said: s})
	}
	if !slices.ContainsFunc(w.Levels, func(l dc.Level) bool { return l.W > 0 }) && w.MostW == nil {
		found = append(found, path.Finding{Severity: say.Caution, Said: say.AssumedPower(path.Unclaimed)})
	}
	if name, is := bands.Reserved(w.Carrier); is {
		found = append(found, path.Finding{Severity: say.Caution, Said: say.ReservedChannel(name)})
	}
	seen := map[string]bool{}
	for i, k := range w.Through.Kit {
		if len(k.Spec.Typical) > 0 {
			out.Typical = append(out.Typical, k.Name)
		}
		if slices.Contains(k.Spec.Typical, "element.ranges") {
			doubt(i, say.TypicalInput(k.Name))
		}
		if takesDown := k.Spec.KindOf(); (takesDown.Ladder() || takesDown.PathKind() == path.Tap) && slices.ContainsFunc(k.Spec.Typical, isLoss) {
			doubt(i, say.TypicalLoss(k.Name))
		}
		if k.Spec.KindOf().Sends() {
			found = append(found, path.Finding{Severity: say.Danger, Element: &i, Said: say.Generator(k.Name)})
		}
		if slices.ContainsFunc(w.Bench, func(b record.Item) bool { return b.ID == k.ID && b.RetiredAt != nil }) {
			doubt(i, say.Retired(k.Name))
		}
		if seen[k.ID] && !slices.Contains(pluralKinds, k.Spec.KindOf()) {
			doubt(i, say.Twice(k.Name))
		}
		seen[k.ID] = true
	}
	return found
}

// isLoss tells whether a field of a spec is what the item takes from the signal.
func isLoss(field string) bool {
	return slices.ContainsFunc([]string{"element.loss", "element.coupling_db", "positions"}, func(p string) bool { return strings.HasPrefix(field, p) })
}

// pluralKinds are those one owns several of without writing each down.
var pluralKinds = []kit.Kind{kit.Adapter, kit.Cable}

// stress is what is sent into the path, and the power its limits are for. Each level
// has the peaks of its own mode: four times the carrier in AM.
func (w *Wiring) stress(out *Staircase) (claimedW float64, s path.Stress) {
	peak := 0.0
	for _, l := range w.Levels {
		claimedW = max(claimedW, l.W)
		peak = max(peak, float64(path.HighestKeyed(units.Watts(w.peakOf(l)), 0)))
	}
	why := "the claimed maximum plus 1 dB"
	if claimedW == 0 && w.MostW != nil {
		claimedW, why = *w.MostW, fmt.Sprintf("nothing is claimed: the most it may put out, %s as typed, plus 1 dB", units.Watts(*w.MostW))
		peak = float64(path.HighestKeyed(units.Watts(w.peakOf(dc.Level{W: claimedW})), 0))
	}
	if claimedW == 0 {
		claimedW, why = float64(path.Unclaimed), "since nothing is claimed 10 W are assumed, plus 1 dB"
		peak = float64(path.HighestKeyed(units.Watts(w.peakOf(dc.Level{W: float64(path.Unclaimed)})), 0))
	}
	out.SourceW, out.SourceWhy = float64(path.HighestKeyed(units.Watts(claimedW), units.Watts(w.MeasuredW))), why
	if out.SourceW == w.MeasuredW {
		out.SourceWhy = "the highest power measured, above the claim"
	}
	out.SourcePEPW = max(out.SourceW, peak, w.peakOf(dc.Level{W: w.MeasuredW}))
	if out.SourcePEPW > out.SourceW {
		out.SourceWhy += ", with peaks of " + units.Watts(out.SourcePEPW).String()
	}
	out.PeakDB = float64(units.RatioDB(out.SourcePEPW / out.SourceW))
	return claimedW, path.Stress{SourceW: out.SourceW, SourcePEPW: out.SourcePEPW, Strict: true}
}

// slips warns of what only another mode would put in danger: it is not keyed here, but the radio can be
// set to it.
func (w *Wiring) slips(p *path.Path, meant path.Stress, at path.Analysis) ([]path.Finding, error) {
	danger := func(f path.Finding) bool { return f.Severity == say.Danger }
	if slices.ContainsFunc(at.Problems, danger) {
		return nil, nil
	}
	var out []path.Finding
	for _, l := range w.Slips {
		s := meant
		s.SourceW = max(s.SourceW, float64(path.HighestKeyed(units.Watts(l.W), 0)))
		s.SourcePEPW = max(s.SourceW, s.SourcePEPW, float64(path.HighestKeyed(units.Watts(w.peakOf(l)), 0)))
		hot, err := p.Analyze(s)
		if err != nil {
			return nil, err
		}
		if i := slices.IndexFunc(hot.Problems, danger); i >= 0 {
			f := hot.Problems[i]
			out = append(out, path.Finding{Severity: say.Caution, Element: f.Element, Said: say.BySlip(l.Name, f.Detail)})
		}
	}
	return out, nil
}

// peakOf is the peak envelope power of a level in its mode, that of the wiring where
// it has none.
func (w *Wiring) peakOf(l dc.Level) float64 {
	mode := rulebook.Mode(l.Mode)
	if mode == "" {
		mode = w.Mode
	}
	if mode == rulebook.AM && !l.PEP {
		return float64(rf.AMPeak(units.Watts(l.W), 1))
	}
	return l.W
}

// prepare checks each part of a path. Errors are on "parts[i]...".
func prepare(t *record.Through) ([]path.Part, error) {
	elements, err := Elements(t)
	if err != nil {
		return nil, err
	}
	var bad problem.List
	parts := make([]path.Part, len(elements))
	for i, e := range elements {
		parts[i], err = path.Prepare(e)
		bad.AddErr(fmt.Sprintf("parts[%d]", i), err)
	}
	return parts, bad.Err()
}

func runs(parts []path.Part, f units.Hertz) []MeasuredRun {
	out := []MeasuredRun{}
	for i, p := range parts {
		m := p.Measured()
		if m == nil {
			continue
		}
		span := m.Span()
		r := MeasuredRun{First: i - m.Spans + 1, Last: i, On: m.On, FromHz: float64(span.Lo), ToHz: float64(span.Hi)}
		sum, known := units.DB(0), true
		for k := r.First; k <= r.Last; k++ {
			db, ok := parts[k].LossAt(f)
			sum, known = sum+db, known && ok
		}
		if known {
			r.PrintedDB = ptr(float64(sum))
		}
		var db, u units.DB
		if db, u, r.Applies = p.MeasuredAt(f); r.Applies {
			r.MeasuredDB, r.U = ptr(float64(db)), ptr(float64(u))
		}
		out = append(out, r)
	}
	return out
}

// Candidates is the bench as it may be put on a path, at every setting, without
// what is retired, lies on the path already or cannot lie on one.
func Candidates(bench []record.Item, t *record.Through) []advise.Candidate {
	var out []advise.Candidate
	for i := range bench {
		k := &bench[i]
		if k.RetiredAt != nil || k.Spec.KindOf().PathKind() == "" || k.Spec.KindOf().InUse() || k.Spec.KindOf().Sends() || slices.ContainsFunc(t.Kit, func(c record.KitCopy) bool { return c.ID == k.ID }) {
			continue
		}
		settings := k.Spec.Settings()
		if len(settings) == 0 {
			settings = []string{""}
		}
		for _, s := range settings {
			e, meter, err := on(&record.KitCopy{ID: k.ID, Name: k.Name, Setting: s, Spec: k.Spec})
			if err != nil {
				continue
			}
			if meter != nil {
				m := *meter
				narrowTo(&m, &k.Spec.Element)
				meter = &m
			}
			if part, err := path.Prepare(e); err == nil {
				out = append(out, advise.Candidate{Item: k.ID, Setting: s, Name: e.Name, Part: part, Meter: meter})
			}
		}
	}
	return out
}

// MetersFor names the owned meters that read at f and stand w watts, so far as they say what
// they stand.
func MetersFor(bench []record.Item, f units.Hertz, w float64) []string {
	var out []string
	for i := range bench {
		if bench[i].Spec.Meter == nil {
			continue
		}
		m, rated := *bench[i].Spec.Meter, bench[i].Spec.Element.MaxW
		narrowTo(&m, &bench[i].Spec.Element)
		if (rated == nil || *rated >= w) && bench[i].RetiredAt == nil && (m.FromHz == nil || float64(f) >= *m.FromHz) && (m.ToHz == nil || float64(f) <= *m.ToHz) {
			out = append(out, bench[i].Name)
		}
	}
	return out
}

// dcSide works the supply out where the path has one.
func (w *Wiring) dcSide(out *Staircase) error {
	s := w.Through.Supply
	if s == nil {
		return nil
	}
	out.SupplyName = s.Name
	wiring := dc.Wiring{SetV: s.SetV, LimitA: s.Range.LimitA, RadioMinV: w.RadioMinV, RadioMaxV: w.RadioMaxV}
	if wiring.LeadOhm = s.LeadOhm; wiring.LeadOhm == nil {
		wiring.LeadOhm = s.Range.LeadOhm
	}
	levels := slices.DeleteFunc(slices.Clone(w.Levels), func(l dc.Level) bool { return l.W == 0 })
	if len(levels) == 0 {
		levels = []dc.Level{{Name: "assumed", W: float64(path.Unclaimed)}}
	}
	side, err := dc.Work(wiring, levels)
	if err != nil {
		return err
	}
	if s.SetV < s.Range.FromV || s.SetV > s.Range.ToV {
		side.Problems = append(side.Problems, dc.Finding{Severity: say.Caution, Said: say.SupplyRange(s.Name, s.Range.FromV, s.Range.ToV, s.SetV)})
	}
	out.DC, out.Safe = &side, out.Safe && side.Safe
	return nil
}

// PadAdvice asks the owned pads for a wiring that has its analyzer and what lies
// in front of the pads, but no pads yet.
func PadAdvice(w Wiring, most int) ([]advise.Choice, []advise.Candidate, error) {
	parts, err := prepare(w.Through)
	if err != nil {
		return nil, nil, err
	}
	var out Staircase
	claimedW, stress := w.stress(&out)
	pads := slices.DeleteFunc(Candidates(w.Bench, w.Through), func(c advise.Candidate) bool { return !isPad(w.Bench, c.Item) })
	q := advise.Question{
		Stress: stress, Carrier: w.Carrier, Pads: pads, Most: most,
		Limits: w.Book.For(rulebook.Carrier{Frequency: w.Carrier, MeanW: claimedW, PEPW: claimedW, Mode: w.Mode, State: rulebook.Operating}),
	}
	if n := len(parts); n > 0 {
		q.Before, q.Behind = parts[:n-1], parts[n-1:]
	}
	choices, err := advise.Pads(q)
	return choices, pads, err
}

func isPad(bench []record.Item, id string) bool {
	return slices.ContainsFunc(bench, func(k record.Item) bool { return k.ID == id && k.Spec.KindOf().Ladder() })
}

func or(v *float64, otherwise float64) float64 {
	if v == nil {
		return otherwise
	}
	return *v
}

func ptr[T any](v T) *T { return &v }
