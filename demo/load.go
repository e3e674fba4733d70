package demo

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"talloak/app"
	"talloak/core/bands"
	"talloak/core/calibrate"
	"talloak/core/measure/emissions"
	"talloak/core/measure/power"
	"talloak/core/path"
	"talloak/core/record"
	"talloak/core/touchstone"
	"talloak/core/units"
	"talloak/core/wiring"
	"talloak/instruments/simulated"
	"talloak/publish"
	"talloak/store"
)

var space = uuid.MustParse("6f0a1a5e-93a7-4c68-9c53-0d1c8f5a2a11")

// id is the same for the same name in every demo.
func id(parts ...any) string { return uuid.NewSHA1(space, []byte(fmt.Sprint(parts...))).String() }

// First is the review that is opened first: its radio gives less than it claims and sends a harmonic over the limit,
// and its re-test passes.
func First() string { return id("review", "quillon") }

// loader writes one review after the other.
type loader struct {
	ctx    context.Context
	app    *app.App
	review string
	radio  simulated.Radio
	n      int // measurements so far: each has its own seed and id

	follows string // the review that the next one re-tests; empty for none
}

// Load fills an empty database with the scenario.
func Load(ctx context.Context, a *app.App) error {
	if err := putBench(ctx, a.Store); err != nil {
		return fmt.Errorf("demo bench: %w", err)
	}
	if err := a.SetRegion(ctx, bands.Region2); err != nil {
		return fmt.Errorf("demo region: %w", err)
	}
	if err := a.SetPublication(ctx, record.Publication{Name: "Fellside Radio Notes", People: "two hill walkers with a bench", Contact: "notes@fellside.example", Licence: "CC BY 4.0"}); err != nil {
		return fmt.Errorf("demo publication: %w", err)
	}
	l := &loader{ctx: ctx, app: a}
	for _, write := range []func() error{l.metersCompared, l.larkrise, l.quillon, l.quillonFiltered, l.saltmarsh, l.curlew, l.drover} {
		if err := write(); err != nil {
			return fmt.Errorf("demo review: %w", err)
		}
	}
	return nil
}

func putBench(ctx context.Context, s *store.Store) error {
	b := &store.Bench{}
	for i, k := range owned {
		row := record.Item{ID: id("kit", i), Name: k.name, Spec: k.spec}
		row.Spec.Element.Kind = k.spec.Kind.PathKind()
		if i == retired {
			june := time.Date(2026, 6, 14, 9, 0, 0, 0, time.UTC)
			row.RetiredAt = &june
		}
		if err := row.Spec.Check(); err != nil {
			return fmt.Errorf("%s: %w", k.name, err)
		}
		b.Kit = append(b.Kit, row)
	}
	for i, w := range wired {
		row := record.Path{ID: id("path", i), Name: w.name, Socket: "antenna", Parts: []record.PathPart{}}
		for n, part := range w.parts {
			on := record.PathPart{KitID: id("kit", part), Setting: w.settings[part]}
			if w.stack && n > 0 && n < len(w.parts)-1 {
				on.StackID = id("stack", i)
			}
			row.Parts = append(row.Parts, on)
		}
		if w.stack {
			file, found, err := evidence()
			if err != nil {
				return err
			}
			b.Stacks = append(b.Stacks, record.Stack{ID: id("stack", i), MeasuredOn: "2026-02-11", Parts: row.Parts[1 : len(row.Parts)-1], Found: found, Evidence: file})
		}
		if w.supply > 0 {
			row.Supply = &record.PathSupply{KitID: id("kit", supplyAt), SetV: w.supply}
		}
		b.Paths = append(b.Paths, row)
	}
	return s.PutBench(ctx, b)
}

// evidence is the two-port file the stack was measured to, and what it says.
func evidence() (record.StackEvidence, []path.MeasuredPoint, error) {
	text := touchstone.WriteLoss(stackFile, "the two pads and what joins them, by a borrowed network analyzer")
	network, err := touchstone.Parse(text, 2)
	if err != nil {
		return record.StackEvidence{}, nil, err
	}
	tolerance := 0.2
	found, err := calibrate.StackFromFile(network, units.DB(tolerance))
	return record.StackEvidence{Touchstone: text, ToleranceDB: &tolerance}, found, err
}

func (l *loader) begin(name string, radio simulated.Radio, subject record.Subject, claims []record.Claim) error {
	return l.beginBy(rules, name, radio, subject, claims)
}

func (l *loader) beginBy(rules record.Rules, name string, radio simulated.Radio, subject record.Subject, claims []record.Claim) error {
	l.review, l.radio, l.n = id("review", name), radio, 0
	return l.app.AddReview(l.ctx, &record.Review{ID: l.review, Subject: subject, Claims: claims, Rules: rules, Follows: l.follows})
}

var rules = record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16000}

func (l *loader) next() (key string, seed uint64) {
	l.n++
	return id(l.review, l.n), uint64(l.n) * 7919
}

func usual(band string) units.Hertz {
	b, _ := bands.Find(band, 0)
	return b.UsualHz
}

// through is the copy of a path and the part of it in front of its end.
func (l *loader) through(wire int) (*record.Through, *path.Path, error) {
	t, _, err := l.app.Store.Through(l.ctx, id("path", wire))
	if err != nil {
		return nil, nil, err
	}
	compiled, err := wiring.Compile(t)
	return t, compiled, err
}

// inline is the inline meter behind the jumper that t begins with.
func inline(t *record.Through, seed uint64) (simulated.Meter, error) {
	first := *t
	first.Kit = t.Kit[:1]
	jumper, err := wiring.Compile(&first)
	return simulated.Meter{Path: jumper, ErrorDB: 0.06, ScatterP: 0.9, Decimals: 2, Seed: seed}, err
}

// metersCompared keys one radio, at three powers, into the two meters for VHF
// in turn. What comes of it is offered and not taken.
func (l *loader) metersCompared() error {
	t, _, err := l.through(0)
	if err != nil {
		return err
	}
	b := &record.Baseline{ID: id("baseline"), MeasuredOn: "2026-02-11"}
	for _, at := range []int{inlineAt, terminatingAt} {
		b.Meters = append(b.Meters, record.KitCopy{ID: id("kit", at), Name: owned[at].name, Spec: owned[at].spec})
	}
	for i, level := range []string{"High", "Mid", "Low"} {
		one, err := inline(t, uint64(2*i+1))
		if err != nil {
			return err
		}
		other := simulated.Meter{Path: one.Path, ErrorDB: -0.13, ScatterP: 0.6, Decimals: 2, Seed: uint64(2*i + 2)}
		lines := larkrise.Transmit("2m", level, usual("2m"), 0)
		b.Rows = append(b.Rows, record.BaselineRow{Transmitter: "a handheld, " + strings.ToLower(level), FrequencyHz: float64(usual("2m")), Readings: []string{one.Read(lines, 2), other.Read(lines, 2)}})
	}
	_, err = l.app.Store.AddBaseline(l.ctx, b, "demo")
	return err
}

// read keys the radio and logs what the inline meter showed, with what else
// was noted; as is the level the radio was really on.
func (l *loader) read(wire int, band, level, as, noted string) (string, error) {
	key, seed := l.next()
	t, _, err := l.through(wire)
	if err != nil {
		return "", err
	}
	text := noted
	if wire == 0 {
		m, err := inline(t, seed)
		if err != nil {
			return "", err
		}
		text = m.Read(l.radio.Transmit(band, as, usual(band), 0), 3) + " " + noted
	}
	_, err = l.app.Measure(l.ctx, app.Take{
		ID: key, Kind: power.Name, ReviewID: l.review, Keyed: keyed(band, level), PathID: id("path", wire), Draft: draft(power.Draft{Text: text}),
	})
	return key, err
}

// key keys the radio somewhere, at some volts (0 for its own), into a path with a meter that
// errs by so many dB, and logs what that showed with what else was noted.
func (l *loader) key(wire int, band, level string, f units.Hertz, volts, errs float64, noted string, beside power.Draft) (string, error) {
	key, seed := l.next()
	t, _, err := l.through(wire)
	if err != nil {
		return "", err
	}
	before, _, err := wiring.MeterOf(t)
	if err != nil {
		return "", err
	}
	text := noted
	if !beside.Refused {
		m := simulated.Meter{Path: before, ErrorDB: errs, ScatterP: 0.7, Decimals: 2, Seed: seed}
		text = strings.TrimSpace(m.Read(l.radio.Transmit(band, level, f, volts), 2) + " " + noted)
	}
	beside.Text = text
	k := keyed(band, level)
	k.FrequencyHz = float64(f)
	_, err = l.app.Measure(l.ctx, app.Take{ID: key, Kind: power.Name, ReviewID: l.review, Keyed: k, PathID: id("path", wire), Draft: draft(beside)})
	return key, err
}

// peak keys a radio that is spoken into and logs the peak the meter held, on the scale that
// suits it.
func (l *loader) peak(wire int, band, level string) (string, error) {
	key, seed := l.next()
	t, _, err := l.through(wire)
	if err != nil {
		return "", err
	}
	before, _, err := wiring.MeterOf(t)
	if err != nil {
		return "", err
	}
	m := simulated.Meter{Path: before, ErrorDB: 0.08, ScatterP: 0.7, Decimals: 2, Seed: seed}
	scale := map[string]float64{"High": 15, "Mid": 15, "Low": 3}[level]
	k := keyed(band, level)
	k.Mode = "SSB"
	_, err = l.app.Measure(l.ctx, app.Take{
		ID: key, Kind: power.Name, ReviewID: l.review, Keyed: k, PathID: id("path", wire),
		Draft: draft(power.Draft{Text: "pk " + m.Read(l.radio.Transmit(band, level, usual(band), 0), 1) + " swr 1.1", ScaleW: &scale, Settings: "microphone gain 6"}),
	})
	return key, err
}

func keyed(band, level string) record.Keyed {
	return record.Keyed{Band: band, Level: level, Mode: "FM", FrequencyHz: float64(usual(band))}
}

func draft(v any) json.RawMessage {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err) // drafts are plain structs
	}
	return text
}

// look sweeps a keyed radio and loads the CSV as a person would.
func (l *loader) look(wire int, band, level, name string, start, stop units.Hertz, points int) (string, error) {
	key, seed := l.next()
	_, p, err := l.through(wire)
	if err != nil {
		return "", err
	}
	s := simulated.Sweeper{Path: p, RBW: 100e3, Seed: seed}
	csv := simulated.CSV(s.Sweep(l.radio.Transmit(band, level, usual(band), 0), start, stop, points))
	_, err = l.app.Measure(l.ctx, app.Take{
		ID: key, Kind: emissions.Name, ReviewID: l.review, Keyed: keyed(band, level), PathID: id("path", wire),
		Draft: draft(emissions.Draft{Name: name, Detector: "peak", Hold: "max", Modulated: "bare"}),
		File:  &record.File{Name: name + ".csv", MediaType: "text/csv", Content: []byte(csv)},
	})
	return key, err
}

// typed takes a look as a person reads it off a screen, or hears it, in some state of the radio.
func (l *loader) typed(wire int, band, level, name, text string, d emissions.Draft) (string, error) {
	key, _ := l.next()
	d.Name, d.Look, d.Detector, d.Hold, d.RBWHz, d.Modulated = name, true, "peak", "max", 100e3, "bare"
	_, err := l.app.Measure(l.ctx, app.Take{
		ID: key, Kind: emissions.Name, ReviewID: l.review, Keyed: keyed(band, level), PathID: id("path", wire),
		Draft: draft(d), File: &record.File{Name: name + ".txt", MediaType: "text/csv", Content: []byte(text)},
	})
	return key, err
}

// alone takes a figure of a whole band, or of the whole radio where there is none, that comes through no path.
func (l *loader) alone(kind, band string, d any) (string, error) {
	key, _ := l.next()
	of := record.Keyed{}
	if band != "" {
		of = keyed(band, "")
	}
	_, err := l.app.Measure(l.ctx, app.Take{ID: key, Kind: kind, ReviewID: l.review, Keyed: of, Draft: draft(d)})
	return key, err
}

func (l *loader) say(targetID, standing, reason string) error {
	return l.app.Say(l.ctx, record.Standing{ID: id(targetID, standing), ReviewID: l.review, TargetID: targetID, Standing: standing, Reason: reason})
}

// written logs a line just as it was typed.
func (l *loader) written(wire int, band, level, text string) (string, error) {
	key := id(l.review, text)
	_, err := l.app.Measure(l.ctx, app.Take{ID: key, Kind: power.Name, ReviewID: l.review, Keyed: keyed(band, level), PathID: id("path", wire), Draft: draft(power.Draft{Text: text})})
	return key, err
}

// follow freezes an edition that follows another.
func (l *loader) follow(kind publish.Kind, changed string) error {
	_, err := l.app.Freeze(l.ctx, app.Freezing{ReviewID: l.review, EditionID: id(l.review, string(kind)), Kind: kind, Changed: changed})
	return err
}

// letter keeps what somebody wrote.
func (l *loader) letter(of record.Letter) error {
	of.ID, of.ReviewID = id(l.review, of.Kind, of.Text), l.review
	return l.app.AddLetter(l.ctx, &of)
}

func (l *loader) freeze() error {
	_, err := l.app.Freeze(l.ctx, app.Freezing{ReviewID: l.review, EditionID: id(l.review, "edition"), Kind: publish.First})
	return err
}
