package demo

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"talloak/bench"
	"talloak/core/bands"
	"talloak/core/calibrate"
	"talloak/core/path"
	"talloak/core/sweep"
	"talloak/core/touchstone"
	"talloak/core/units"
	"talloak/dossier"
	"talloak/publish"
	"talloak/rulebooks"
	"talloak/store"
)

var space = uuid.MustParse("6f0a1a5e-93a7-4c68-9c53-0d1c8f5a2a11")

// id is the same for the same name in every demo.
func id(parts ...any) string { return uuid.NewSHA1(space, []byte(fmt.Sprint(parts...))).String() }

// loader writes one review after the other.
type loader struct {
	ctx    context.Context
	store  *store.Store
	review string
	radio  bench.Radio
	n      int // measurements so far: each has its own seed and id
}

// Load fills an empty database with the scenario.
func Load(ctx context.Context, s *store.Store) error {
	if err := putBench(ctx, s); err != nil {
		return fmt.Errorf("demo bench: %w", err)
	}
	l := &loader{ctx: ctx, store: s}
	for _, write := range []func() error{l.metersCompared, l.larkrise, l.quillon, l.quillonFiltered} {
		if err := write(); err != nil {
			return fmt.Errorf("demo review: %w", err)
		}
	}
	return nil
}

func putBench(ctx context.Context, s *store.Store) error {
	b := &store.Bench{}
	for i, k := range owned {
		row := store.KitItem{ID: id("kit", i), Name: k.name, Spec: k.spec}
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
	for i, w := range wirings {
		row := store.Path{ID: id("path", i), Name: w.name, Socket: "antenna", Parts: []store.PathPart{}}
		for n, part := range w.parts {
			on := store.PathPart{KitID: id("kit", part), Setting: w.settings[part]}
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
			b.Stacks = append(b.Stacks, store.Stack{ID: id("stack", i), RequestHash: "demo", MeasuredOn: "2026-02-11", Parts: row.Parts[1 : len(row.Parts)-1], Found: found, Evidence: file})
		}
		if w.supply > 0 {
			row.Supply = &store.PathSupply{KitID: id("kit", supplyAt), SetV: w.supply}
		}
		b.Paths = append(b.Paths, row)
	}
	return s.PutBench(ctx, b)
}

// evidence is the two-port file the stack was measured to, and what it says.
func evidence() (store.StackEvidence, []path.MeasuredPoint, error) {
	text := touchstone.WriteLoss(stackFile, "the two pads and what joins them, by a borrowed network analyzer")
	network, err := touchstone.Parse(text, 2)
	if err != nil {
		return store.StackEvidence{}, nil, err
	}
	tolerance := 0.2
	found, err := calibrate.StackFromFile(network, units.DB(tolerance))
	return store.StackEvidence{Touchstone: text, ToleranceDB: &tolerance}, found, err
}

func (l *loader) begin(name string, radio bench.Radio, subject store.Subject, claims []store.Claim) error {
	l.review, l.radio, l.n = id("review", name), radio, 0
	_, err := l.store.AddReview(l.ctx, &store.Review{ID: l.review, RequestHash: "demo", Subject: subject, Claims: claims, Rules: rules})
	return err
}

var rules = store.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance", ToleranceDB: 1.5, PassPercent: 90, BandwidthHz: 16000}

func (l *loader) next() (key string, seed uint64) {
	l.n++
	return id(l.review, l.n), uint64(l.n) * 7919
}

func usual(band string) units.Hertz {
	b, _ := bands.Find(band)
	return b.UsualHz
}

// through is the copy of a path and the part of it in front of its end.
func (l *loader) through(wire int) (*store.Through, *path.Path, error) {
	t, err := l.store.Through(l.ctx, id("path", wire))
	if err != nil {
		return nil, nil, err
	}
	compiled, err := dossier.Compile(*t)
	return t, compiled, err
}

// inline is the inline meter behind the jumper that t begins with.
func inline(t *store.Through, seed uint64) (bench.Meter, error) {
	first := *t
	first.Kit = t.Kit[:1]
	jumper, err := dossier.Compile(first)
	return bench.Meter{Path: jumper, ErrorDB: 0.06, ScatterP: 0.9, Decimals: 2, Seed: seed}, err
}

// metersCompared keys one radio, at three powers, into the two meters for VHF
// in turn. What comes of it is offered and not taken.
func (l *loader) metersCompared() error {
	t, _, err := l.through(0)
	if err != nil {
		return err
	}
	b := &store.Baseline{ID: id("baseline"), RequestHash: "demo", MeasuredOn: "2026-02-11"}
	for _, at := range []int{inlineAt, terminatingAt} {
		b.Meters = append(b.Meters, store.KitCopy{ID: id("kit", at), Name: owned[at].name, Spec: owned[at].spec})
	}
	for i, level := range []string{"High", "Mid", "Low"} {
		one, err := inline(t, uint64(2*i+1))
		if err != nil {
			return err
		}
		other := bench.Meter{Path: one.Path, ErrorDB: -0.13, ScatterP: 0.6, Decimals: 2, Seed: uint64(2*i + 2)}
		lines := larkrise.Transmit("2m", level, usual("2m"), 0)
		b.Rows = append(b.Rows, store.BaselineRow{Transmitter: "a handheld, " + strings.ToLower(level), FrequencyHz: float64(usual("2m")), Readings: []string{one.Read(lines, 2), other.Read(lines, 2)}})
	}
	_, err = l.store.AddBaseline(l.ctx, b)
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
	_, err = l.store.AddReading(l.ctx, &store.Reading{
		ID: key, RequestHash: "demo", ReviewID: l.review, Text: text, Through: *t,
		Keyed: store.Keyed{Band: band, Level: level, Mode: "FM", FrequencyHz: float64(usual(band))},
	})
	return key, err
}

// look sweeps a keyed radio and loads the CSV as a person would.
func (l *loader) look(wire int, band, level, name string, start, stop units.Hertz, points int) (string, error) {
	key, seed := l.next()
	t, p, err := l.through(wire)
	if err != nil {
		return "", err
	}
	s := bench.Sweeper{Path: p, RBW: 100e3, Seed: seed}
	csv := []byte(bench.CSV(s.Sweep(l.radio.Transmit(band, level, usual(band), 0), start, stop, points)))
	read, err := sweep.ParseCSV(csv)
	if err != nil {
		return "", err
	}
	_, err = l.store.AddSweep(l.ctx, &store.Sweep{
		ID: key, RequestHash: "demo", ReviewID: l.review, Name: name, Detector: "peak", Hold: "max", Modulated: "bare", Through: *t,
		Keyed:   store.Keyed{Band: band, Level: level, Mode: "FM", FrequencyHz: float64(usual(band))},
		StartHz: float64(read.Trace.Start), StopHz: float64(read.Trace.Stop), RBWHz: float64(read.Trace.RBW), Points: points,
		Taken: read.Taken, Levels: store.PackLevels(read.Trace.Levels), Original: csv,
	})
	return key, err
}

func (l *loader) say(target, targetID, standing, reason string) error {
	_, err := l.store.AddStanding(l.ctx, &store.Standing{
		ID: id(targetID, standing), RequestHash: "demo", ReviewID: l.review, Target: target, TargetID: targetID, Standing: standing, Reason: reason,
	})
	return err
}

func (l *loader) freeze() error {
	r, err := l.store.Review(l.ctx, l.review)
	if err != nil {
		return err
	}
	facts, err := l.store.Facts(l.ctx, l.review, store.WithTraces)
	if err != nil {
		return err
	}
	d, err := dossier.Open(r, facts, r.Rules, rulebooks.Find)
	if err != nil {
		return err
	}
	_, err = l.store.Freeze(l.ctx, &store.Edition{ID: id(l.review, "edition"), RequestHash: "demo", ReviewID: l.review},
		func(e *store.Edition) error { return publish.Freeze(d, e) })
	return err
}
