package line

import (
	"cmp"
	"errors"
	"regexp"
	"slices"
	"strings"

	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/rf"
	"talloak/core/units"
)

// Thing is an item as it was typed in a line. Says is what was understood, then what is typical of its
// kind because nobody said otherwise, as Typical of the spec marks it.
type Thing struct {
	Name    string   `json:"name"`
	Spec    kit.Spec `json:"spec"`
	Says    []string `json:"says"`
	Typical []string `json:"typical"`
}

// The words of a line that are figures. Frequencies are in MHz where neither end has a unit.
var (
	freqUnit   = `(hz|k|khz|m|mhz|g|ghz)?`
	number     = `([+-]?\d+(?:[.,]\d+)?)`
	stretchOf  = regexp.MustCompile(`^` + number + freqUnit + `-` + number + freqUnit + `$`)
	upTo       = regexp.MustCompile(`^` + number + `(khz|m|mhz|g|ghz)$`)
	voltsOf    = regexp.MustCompile(`^` + number + `v?(?:-` + number + `)?v$`)
	levelsOf   = regexp.MustCompile(`^` + number + `\.\.` + number + `dbm$`)
	wattsOf    = regexp.MustCompile(`^(\d[\d.,/w]*)w$`)
	shortOf    = regexp.MustCompile(`^` + number + `w?/` + number + `s$`)
	within     = regexp.MustCompile(`^(?:±|\+/-|\+-)?` + number + `(?:db)?$`)
	lossOf     = regexp.MustCompile(`^` + number + `db$`)
	positionOf = regexp.MustCompile(`^(\d[\d.,/]*)db$`)
	percentOf  = regexp.MustCompile(`^(?:±|\+/-|\+-)?` + number + `%(fs)?$`)
	ratioOf    = regexp.MustCompile(`^` + number + `:1$`)
	metresOf   = regexp.MustCompile(`^` + number + `m$`)
	ampsOf     = regexp.MustCompile(`^` + number + `a$`)
	ohmsOf     = regexp.MustCompile(`^` + number + `(m?)(?:ohm|ω|Ω)$`)

	spacedUnit = regexp.MustCompile(`(?i)(\d)\s+(hz|khz|mhz|ghz|db|dbm|w|v|a|ohm|%)(\s|$|/)`)
	spacedTo   = regexp.MustCompile(`(?i)(\S+)\s+to\s+(\S+)`)
	slashes    = regexp.MustCompile(`\s*/\s*`)
)

// Read reads a thing: what it is called, then its figures in any order, as far as they are known:
// `inline meter 100-500MHz 5% 15/60W`, `pad 40dB 10W 3GHz 0.5`, `load 50W 100W/30s 1GHz`,
// `coax rg-58 1.5m`, `analyzer 100k-960M/240M-960M max +10 floor -100 rbw 10k`, `supply 9-15V 10A`.
// What stands behind `called` is its name. What is not said is typical of the kind, and marked; a
// rating is never guessed, but that of a meter, which takes what its largest scale shows. The error
// is a *problem.Error on the field "text".
func Read(text string) (*Thing, error) {
	text, name := named(strings.TrimSpace(text))
	text = spacedUnit.ReplaceAllString(text, "$1$2$3")
	text = slashes.ReplaceAllString(spacedTo.ReplaceAllStringFunc(text, joinTo), "/")
	words := strings.Fields(text)
	as, kind, ok := called(words)
	if !ok {
		return nil, refuse("begin with what it is: %s", oneOf)
	}
	r := &reader{as: as, spec: kit.Typical(kind), words: words[len(strings.Fields(as)):]}
	if strings.Contains(as, "needle") {
		r.needle()
	}
	for len(r.words) > 0 {
		if err := r.next(); err != nil {
			return nil, err
		}
	}
	r.finish()
	if err := r.spec.Check(); err != nil {
		return nil, refuse("%s", plain(err))
	}
	out := &Thing{Name: cmp.Or(name, r.name()), Spec: r.spec}
	out.Says, out.Typical = describe(&r.spec)
	return out, nil
}

func joinTo(s string) string {
	m := spacedTo.FindStringSubmatch(s)
	if strings.HasPrefix(m[2], "-") || strings.HasPrefix(m[1], "-") {
		return m[1] + ".." + m[2]
	}
	return m[1] + "-" + m[2]
}

// named takes the name off a line: what stands behind `called`.
func named(text string) (rest, name string) {
	if i := strings.Index(strings.ToLower(text), " called "); i >= 0 {
		return text[:i], strings.TrimSpace(text[i+len(" called "):])
	}
	return text, ""
}

func refuse(format string, args ...any) error { return problem.New("text", format, args...) }

// plain is what is wrong with a spec, without the names of its fields.
func plain(err error) string {
	var p *problem.Error
	if !errors.As(err, &p) {
		return err.Error()
	}
	out := []string{}
	for _, f := range p.Fields {
		out = append(out, f.Detail)
	}
	return strings.Join(out, "; ")
}

// reader reads the figures of one thing.
type reader struct {
	as        string
	spec      kit.Spec
	words     []string
	lossSaid  bool
	withinAs  bool
	rangeSaid []path.Range
	maxDBm    []float64
	floorDBm  []float64
	rbwHz     *float64
}

// told takes the mark of what is typical off fields that were said.
func (r *reader) told(fields ...string) {
	r.spec.Typical = slices.DeleteFunc(r.spec.Typical, func(t string) bool {
		return slices.ContainsFunc(fields, func(f string) bool { return t == f || strings.HasPrefix(t, f+".") })
	})
}

func (r *reader) meter() *reading.Meter { return r.spec.Meter }

// needle makes a meter one with a needle: it has no last digit.
func (r *reader) needle() {
	if m := r.meter(); m != nil {
		m.Needle, m.DigitW = true, 0
		r.told("meter.digit_w")
	}
}

// take takes the next word; false where there is none.
func (r *reader) take() (string, bool) {
	if len(r.words) == 0 {
		return "", false
	}
	w := r.words[0]
	r.words = r.words[1:]
	return w, true
}

// next reads one word, and what belongs to it.
func (r *reader) next() error {
	word, _ := r.take()
	w := strings.ToLower(strings.ReplaceAll(word, "−", "-"))
	if read, ok := prefixes[w]; ok {
		value, has := r.take()
		if !has {
			return refuse("%s what? give its figure behind it", word)
		}
		if err := read(r, strings.ToLower(strings.ReplaceAll(value, "−", "-"))); err != nil {
			return refuse("“%s %s”: %s", word, value, plain(err))
		}
		return nil
	}
	for _, f := range figures {
		if m := f.words.FindStringSubmatch(w); m != nil {
			done, err := f.read(r, m)
			if err != nil {
				return refuse("“%s”: %s", word, plain(err))
			}
			if done {
				return nil
			}
		}
	}
	return refuse("“%s” is nothing that is known of a %s", word, r.as)
}

// figure is a shape of word with what it says of a thing; one that says nothing of its kind is left to
// the next.
type figure struct {
	words *regexp.Regexp
	read  func(r *reader, m []string) (bool, error)
}

var figures = []figure{
	{regexp.MustCompile(`^(needle|digital|none|fitted|off)$`), (*reader).word},
	{regexp.MustCompile(`^.*[/-].*$`), (*reader).stretches},
	{shortOf, (*reader).short},
	{metresOf, (*reader).metres},
	{upTo, (*reader).reach},
	{voltsOf, (*reader).volts},
	{levelsOf, (*reader).levels},
	{ampsOf, (*reader).amps},
	{ohmsOf, (*reader).ohms},
	{wattsOf, (*reader).watts},
	{percentOf, (*reader).percent},
	{ratioOf, func(r *reader, m []string) (bool, error) { return true, r.swr(m[1]) }},
	{positionOf, (*reader).positions},
	{lossOf, (*reader).loss},
	{within, (*reader).tolerance},
	{regexp.MustCompile(`^[a-z]+-?\d*[a-z]*$`), (*reader).cable},
}

// prefixes are words with their figure behind them.
var prefixes = map[string]func(r *reader, value string) error{
	"swr":     func(r *reader, v string) error { return r.swr(strings.TrimSuffix(v, ":1")) },
	"takes":   func(r *reader, v string) error { return r.rating(v) },
	"rated":   func(r *reader, v string) error { return r.rating(v) },
	"max":     func(r *reader, v string) error { return r.inputs(v, &r.maxDBm) },
	"floor":   func(r *reader, v string) error { return r.inputs(v, &r.floorDBm) },
	"rbw":     (*reader).bandwidth,
	"att":     (*reader).attenuation,
	"preamp":  (*reader).preamp,
	"shi":     func(r *reader, v string) error { return r.intercept(v, &r.spec.Element.SHIDBm) },
	"toi":     func(r *reader, v string) error { return r.intercept(v, &r.spec.Element.TOIDBm) },
	"digit":   (*reader).digit,
	"serial":  func(r *reader, v string) error { r.spec.Serial = v; return nil },
	"checked": func(r *reader, v string) error { r.spec.CheckedOn = v; return nil },
}

func num(s string) (float64, error) {
	v, err := units.ParseNumber(s)
	if err != nil {
		return 0, refuse("%v", err)
	}
	return v, nil
}

// hertz is a frequency with its unit, MHz where it has none.
func hertz(s, unit string) (float64, error) {
	s = strings.Replace(s, ",", ".", 1)
	exp := map[string]int{"hz": 0, "k": 3, "khz": 3, "": 6, "m": 6, "mhz": 6, "g": 9, "ghz": 9}[unit]
	v, err := units.ParseScaled(s, exp)
	if err != nil {
		return 0, refuse("%v", err)
	}
	return v, nil
}

func (r *reader) stretches(m []string) (bool, error) {
	if r.spec.Kind == kit.Supply {
		return false, nil
	}
	var out []path.Range
	for one := range strings.SplitSeq(m[0], "/") {
		s := stretchOf.FindStringSubmatch(one)
		if s == nil {
			return false, nil
		}
		if s[4] == "" {
			s[4] = s[2]
		} else if s[2] == "" {
			s[2] = s[4]
		}
		from, err := hertz(s[1], s[2])
		if err != nil {
			return false, err
		}
		to, err := hertz(s[3], s[4])
		if err != nil {
			return false, err
		}
		if !(from < to) {
			return false, refuse("a range goes from the lower frequency to the higher one")
		}
		out = append(out, path.Range{FromHz: from, ToHz: to})
	}
	switch {
	case r.spec.Kind == kit.Analyzer:
		r.rangeSaid = out
	case len(out) > 1:
		return false, refuse("one range; only an analyzer has several inputs")
	case r.meter() != nil:
		r.meter().FromHz, r.meter().ToHz = &out[0].FromHz, &out[0].ToHz
	default:
		r.spec.Element.FromHz, r.spec.Element.ToHz = &out[0].FromHz, &out[0].ToHz
		r.told("element.from_hz", "element.to_hz")
	}
	return true, nil
}

// reach is the highest frequency alone.
func (r *reader) reach(m []string) (bool, error) {
	hz, err := hertz(m[1], m[2])
	switch {
	case err != nil:
		return false, err
	case r.spec.Kind == kit.Supply:
		return false, nil
	case r.spec.Kind == kit.Analyzer:
		r.rangeSaid = []path.Range{{FromHz: kit.Typical(kit.Analyzer).Element.Ranges[0].FromHz, ToHz: hz}}
	case r.meter() != nil:
		r.meter().ToHz = &hz
	default:
		r.spec.Element.ToHz = &hz
		r.told("element.to_hz")
	}
	return true, nil
}

func (r *reader) word(m []string) (bool, error) {
	switch {
	case m[1] == "needle" && r.meter() != nil:
		r.needle()
	case m[1] == "digital" && r.meter() != nil:
		r.meter().Needle = false
	default:
		return false, nil
	}
	return true, nil
}

// metres is a length of coax; of anything else it is megahertz.
func (r *reader) metres(m []string) (bool, error) {
	if r.spec.Kind != kit.Cable {
		return false, nil
	}
	v, err := num(m[1])
	r.spec.Element.LengthM = &v
	r.told("element.length_m")
	return true, err
}

func (r *reader) cable(m []string) (bool, error) {
	if r.spec.Kind != kit.Cable {
		return false, nil
	}
	bare := strings.ReplaceAll(m[0], "-", "")
	for _, id := range rf.CableTypes() {
		if strings.ReplaceAll(strings.ToLower(id), "-", "") == bare {
			r.spec.Element.Cable = &id
			r.told("element.cable")
			return true, nil
		}
	}
	return false, refuse("coax is one of %s; of another type give its data on its card", strings.Join(rf.CableTypes(), ", "))
}

func (r *reader) list(text string) ([]float64, error) {
	var out []float64
	for one := range strings.SplitSeq(text, "/") {
		v, err := num(strings.TrimSuffix(one, "w"))
		if err != nil {
			return nil, err
		}
		out = append(out, v)
	}
	return out, nil
}

// watts are the scales of a meter, the rating of anything else.
func (r *reader) watts(m []string) (bool, error) {
	all, err := r.list(m[1])
	if err != nil {
		return false, err
	}
	e := &r.spec.Element
	switch {
	case r.spec.Kind.PathKind() == "" || r.spec.Kind == kit.Analyzer:
		return false, nil
	case r.meter() != nil:
		slices.Sort(all)
		r.spec.ScalesW = all
		if len(all) == 1 {
			r.spec.ScalesW, r.meter().ScaleW = nil, &all[0]
		}
	case len(all) > 1:
		return false, refuse("one rating in W; only a meter has scales. For a short time it is 100W/30s")
	default:
		e.MaxW = &all[0]
	}
	return true, nil
}

func (r *reader) rating(value string) error {
	v, err := num(strings.TrimSuffix(value, "w"))
	r.spec.Element.MaxW = &v
	return err
}

// short is a power that is taken for some seconds.
func (r *reader) short(m []string) (bool, error) {
	w, err := num(m[1])
	if err != nil {
		return false, err
	}
	s, err := num(m[2])
	r.spec.Element.ShortMaxW, r.spec.Element.ShortS = &w, &s
	return true, err
}

func (r *reader) percent(m []string) (bool, error) {
	if r.meter() == nil {
		return false, nil
	}
	v, err := num(m[1])
	if m[2] != "" {
		r.meter().PctFullScale = v
		if slices.Contains(r.spec.Typical, "meter.pct_reading") { // of full scale instead
			r.meter().PctReading = 0
		}
	} else {
		r.meter().PctReading = v
	}
	r.told("meter.pct_reading")
	return true, err
}

func (r *reader) swr(value string) error {
	v, err := num(value)
	r.spec.Element.SWR = &v
	r.told("element.swr")
	return err
}

// positions are those of a switched pad: 0/10/20/30dB.
func (r *reader) positions(m []string) (bool, error) {
	if r.spec.Kind != kit.SwitchedAttenuator {
		return false, nil
	}
	all, err := r.list(m[1])
	if err != nil {
		return false, err
	}
	r.spec.Positions = nil
	for _, db := range all {
		r.spec.Positions = append(r.spec.Positions, kit.PositionOf(db))
	}
	r.told("positions")
	return true, nil
}

// loss is the loss or coupling, once; then how well it is known.
func (r *reader) loss(m []string) (bool, error) {
	e := &r.spec.Element
	v, err := num(m[1])
	if err != nil {
		return false, err
	}
	switch {
	case r.lossSaid:
		return false, nil
	case slices.Contains([]kit.Kind{kit.Tap, kit.Coupler}, r.spec.Kind):
		e.CouplingDB = &v
		r.told("element.coupling_db")
	case r.spec.Kind == kit.Cable:
		e.Loss, e.Cable, e.LengthM = &path.Loss{FlatDB: &v}, nil, nil
		r.told("element.cable", "element.length_m")
	case slices.Contains([]kit.Kind{kit.Attenuator, kit.Adapter, kit.ThroughMeter}, r.spec.Kind):
		e.Loss = &path.Loss{FlatDB: &v}
		r.told("element.loss.flat_db")
	default:
		return false, nil
	}
	r.lossSaid = true
	return true, nil
}

func (r *reader) tolerance(m []string) (bool, error) {
	v, err := num(m[1])
	switch {
	case err != nil:
		return false, err
	case r.withinAs:
		return false, nil
	case r.spec.Kind == kit.Analyzer || r.spec.Kind == kit.SignalGenerator || r.spec.Kind == kit.AntennaAnalyzer:
		r.spec.AccuracyDB = v
		r.told("accuracy_db")
	case r.meter() != nil && strings.HasSuffix(m[0], "db"):
		r.meter().DB = v
	case slices.Contains([]kit.Kind{kit.Attenuator, kit.SwitchedAttenuator, kit.Cable, kit.Adapter, kit.Tap, kit.Coupler, kit.Sampler}, r.spec.Kind):
		r.spec.Element.ToleranceDB = &v
		r.told("element.tolerance_db")
	default:
		return false, nil
	}
	r.withinAs = true
	return true, nil
}

func (r *reader) digit(value string) error {
	v, err := num(strings.TrimSuffix(value, "w"))
	if r.meter() == nil {
		return refuse("only a meter has a last digit")
	}
	r.meter().DigitW = v
	r.told("meter.digit_w")
	return err
}

// inputs are figures of an analyzer's inputs, one for all of them or one each.
func (r *reader) inputs(value string, to *[]float64) error {
	if r.spec.Kind != kit.Analyzer {
		return refuse("only an analyzer has inputs")
	}
	all, err := r.list(strings.TrimSuffix(value, "dbm"))
	*to = all
	return err
}

func (r *reader) bandwidth(value string) error {
	m := regexp.MustCompile(`^` + number + freqUnit + `$`).FindStringSubmatch(value)
	if m == nil || r.spec.Kind != kit.Analyzer {
		return refuse("give the resolution bandwidth that an analyzer's floor was read at, such as 10k")
	}
	if m[2] == "" {
		m[2] = "k"
	}
	hz, err := hertz(m[1], m[2])
	r.rbwHz = &hz
	return err
}

func (r *reader) attenuation(value string) error {
	v, err := num(strings.TrimSuffix(value, "db"))
	r.spec.Element.InputAttenuationDB = &v
	r.told("element.input_attenuation_db")
	return err
}

func (r *reader) preamp(value string) error {
	switch value {
	case "none":
		r.spec.PreAmplifier = "none"
	case "off", "fitted":
		r.spec.PreAmplifier = "fitted"
	default:
		return refuse("give none, or off where one is fitted")
	}
	return nil
}

func (r *reader) intercept(value string, to **float64) error {
	v, err := num(strings.TrimSuffix(value, "dbm"))
	*to = &v
	return err
}

func (r *reader) volts(m []string) (bool, error) {
	if r.spec.Kind != kit.Supply {
		return false, nil
	}
	from, err := num(m[1])
	if err != nil {
		return false, err
	}
	to := from
	if m[2] != "" {
		to, err = num(m[2])
	}
	r.spec.Supply.FromV, r.spec.Supply.ToV = from, to
	r.told("supply.from_v", "supply.to_v")
	return true, err
}

func (r *reader) amps(m []string) (bool, error) {
	if r.spec.Kind != kit.Supply {
		return false, nil
	}
	v, err := num(m[1])
	r.spec.Supply.LimitA = &v
	return true, err
}

func (r *reader) ohms(m []string) (bool, error) {
	if r.spec.Kind != kit.Supply {
		return false, nil
	}
	v, err := num(m[1])
	if m[2] == "m" {
		v /= 1000
	}
	r.spec.Supply.LeadOhm = &v
	r.told("supply.lead_ohm")
	return true, err
}

func (r *reader) levels(m []string) (bool, error) {
	if r.spec.Kind != kit.SignalGenerator {
		return false, nil
	}
	from, err := num(m[1])
	if err != nil {
		return false, err
	}
	to, err := num(m[2])
	r.spec.Levels = &kit.LevelRange{FromDBm: from, ToDBm: to}
	r.told("levels")
	return true, err
}

// finish puts together what was said in several words.
func (r *reader) finish() {
	e := &r.spec.Element
	if r.spec.Kind == kit.Analyzer && (r.rangeSaid != nil || r.maxDBm != nil || r.floorDBm != nil || r.rbwHz != nil) {
		usual := e.Ranges[0]
		said := r.rangeSaid
		if said == nil {
			said = []path.Range{{FromHz: usual.FromHz, ToHz: usual.ToHz}}
		}
		one := func(of []float64, i int, usual *float64) *float64 {
			if len(of) == 0 {
				return usual
			}
			return &of[min(i, len(of)-1)]
		}
		for i := range said {
			said[i].MaxInputDBm, said[i].NoiseFloorDBm = one(r.maxDBm, i, usual.MaxInputDBm), one(r.floorDBm, i, usual.NoiseFloorDBm)
			said[i].FloorRBWHz, said[i].RBWHz = cmp.Or(r.rbwHz, usual.FloorRBWHz), usual.RBWHz
			if len(said) > 1 {
				said[i].Name = inputName(i, len(said))
			}
		}
		e.Ranges = said
		if r.rangeSaid != nil && r.maxDBm != nil && r.floorDBm != nil && r.rbwHz != nil {
			r.told("element.ranges")
		}
	}
	// A meter takes what its largest scale shows (common practice, no source).
	if m := r.meter(); m != nil && e.MaxW == nil {
		switch {
		case len(r.spec.ScalesW) > 0:
			e.MaxW = &r.spec.ScalesW[len(r.spec.ScalesW)-1]
		case m.ScaleW != nil:
			e.MaxW = m.ScaleW
		}
		if e.MaxW != nil {
			r.spec.Typical = append(r.spec.Typical, "element.max_w")
		}
	}
	// What was said of a meter's range is what the whole is made for.
	if m := r.meter(); m != nil {
		if m.FromHz != nil {
			e.FromHz = m.FromHz
		}
		if m.ToHz != nil {
			e.ToHz = m.ToHz
		}
	}
}

// inputName is how one of several inputs is called: two are low and high.
func inputName(i, n int) string {
	if n == 2 {
		return []string{"low", "high"}[i]
	}
	return "input " + string(rune('1'+i))
}
