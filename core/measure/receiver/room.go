package receiver

import (
	"fmt"
	"math"

	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/simple"
	"talloak/core/problem"
	"talloak/core/rf"
	"talloak/core/units"
)

// Name is the kind's name.
const Name = "receiver"

// Draft is what the receiver showed or did, as it is typed (see read); the loss between generator and
// radio in dB, nil for none; and how well the generator's level is known, in dB, nil where it is not
// told. Differences need neither.
type Draft struct {
	Text     string   `json:"text"`
	LossDB   *float64 `json:"loss_db,omitempty"`
	WithinDB *float64 `json:"within_db,omitempty"`
}

// Measured is one of them. Levels are at the radio's connector, in dBm.
type Measured struct {
	simple.Figure
	What          string   `json:"what"` // s-meter, squelch, image, neighbour
	Mark          string   `json:"mark"` // S9+20
	ApartHz       float64  `json:"apart_hz"`
	LossDB        *float64 `json:"loss_db"`
	WithinDB      *float64 `json:"within_db"`
	LevelDBm      *float64 `json:"level_dbm"`     // of the mark; where the squelch opens
	ClosesDBm     *float64 `json:"closes_dbm"`    // the squelch
	UsualDBm      *float64 `json:"usual_dbm"`     // what the mark stands for
	DifferenceDB  *float64 `json:"difference_db"` // level less usual; opening less closing; unwanted less wanted
	UncertaintyDB *float64 `json:"expanded_uncertainty_db"`
}

// Ruling is what stands for a band.
type Ruling = simple.Ruling[Measured]

// New is the kind.
func New() measure.Kind {
	return simple.Kind[Draft, Measured, *Measured]{Spec: simple.Spec[Draft, Measured]{
		About:    measure.About{Name: Name, Title: "Receiver", More: true, Receives: true, Minutes: 6},
		Text:     func(in *Draft) string { return in.Text },
		Work:     work,
		Quantity: func(m *Measured) string { return fmt.Sprint(m.What, m.Mark, m.ApartHz) },
		Further:  further,
		Value: func(m *Measured) (v, u float64, ok bool) {
			if m.UncertaintyDB == nil {
				return 0, 0, false
			}
			return *m.DifferenceDB, *m.UncertaintyDB, true
		},
		Words: said,
		Says:  map[decision.Verdict]string{decision.NoClaim: "What its receiver does beside hearing was measured, with no claim to be held against"},
		None:  "the receiver's S-meter, squelch and selectivity were not measured",
		Section: measure.Section{
			Title: "Receiver: S-meter, squelch, image and neighbours",
			Lines: []string{
				"Levels at the radio's own connector. S9 stands for -93 dBm from 30 MHz on and for -73 dBm below, each S-unit for 6 dB; a meter is off by the level less what its mark stands for.",
				"Of image and neighbour: by how much more the unwanted signal must be given to be heard as well as the wanted one. Of several the worse stands, of each mark and spacing.",
			},
			Columns: []string{"Typed", "Of", "Level", "Stands for", "Closes at", "Difference", "±, k = 2", "Loss taken off"},
			Numbers: []int{2, 3, 4, 5, 6, 7},
		},
		Row: row,
	}}
}

// further tells the worse of two: the mark that is further off, the wider squelch, the less difference.
func further(a, b *Measured) bool {
	switch {
	case a.DifferenceDB == nil || b.DifferenceDB == nil:
		return b.DifferenceDB == nil && a.DifferenceDB != nil
	case a.What == "image" || a.What == "neighbour":
		return *a.DifferenceDB < *b.DifferenceDB
	}
	return math.Abs(*a.DifferenceDB) > math.Abs(*b.DifferenceDB)
}

func work(_ *measure.Review, in Draft, m *Measured) error {
	var bad problem.List
	if v := in.LossDB; v != nil && !(*v >= 0 && *v <= 150) {
		bad.Add("loss_db", "give the loss between generator and radio, 0 to 150 dB")
	}
	if v := in.WithinDB; v != nil && !(*v >= 0 && *v <= 20) {
		bad.Add("within_db", "give how well the generator's level is known, 0 to 20 dB")
	}
	got, err := read(m.Text)
	bad.AddErr("", err)
	if err := bad.Err(); err != nil {
		return err
	}
	m.What, m.ApartHz, m.LossDB, m.WithinDB = got.of, float64(got.apart), in.LossDB, in.WithinDB
	loss := 0.0
	if in.LossDB != nil {
		loss = *in.LossDB
	}
	at := func(i int) *float64 { v := got.levels[i] - loss; return &v }
	differ := func(a, b float64) { v := a - b; m.DifferenceDB = &v }
	switch {
	case got.db != nil:
		m.DifferenceDB = got.db
	case got.of == "s-meter":
		m.Mark = fmt.Sprintf("S%d", got.s)
		if got.over > 0 {
			m.Mark += fmt.Sprintf("+%g", got.over)
		}
		usual := float64(rf.S9(units.Hertz(m.FrequencyHz))) - rf.SUnitDB*float64(9-got.s) + got.over
		m.LevelDBm, m.UsualDBm = at(0), &usual
		differ(*m.LevelDBm, usual)
		if in.WithinDB != nil {
			u := 2 * *in.WithinDB / math.Sqrt(3)
			m.UncertaintyDB = &u
		}
	case got.of == "squelch":
		if m.LevelDBm = at(0); len(got.levels) == 2 {
			m.ClosesDBm = at(1)
			differ(*m.LevelDBm, *m.ClosesDBm)
		}
	default:
		differ(got.levels[0], got.levels[1])
	}
	if d := m.DifferenceDB; d != nil && *d < 0 && got.of != "s-meter" {
		m.Counts, m.WhyNot = false, map[string]string{
			"squelch": "a squelch that closes above where it opens would chatter: which is which?",
			"image":   "it heard the image better than what it was set to: was the generator on the image first?", "neighbour": "it heard the neighbour better than its own channel: which level is which?",
		}[got.of]
	}
	if m.LevelDBm != nil && *m.LevelDBm > hottest {
		m.Counts, m.WhyNot = false, fmt.Sprintf("%+.0f dBm into a receiver is more than a generator is turned up to: is the level in dBm, and is the loss told?", *m.LevelDBm)
	}
	return nil
}

// hottest is more than any reading of a receiver is taken at, in dBm (common practice, no source).
const hottest = 0.0

func name(m *Measured) string {
	switch m.What {
	case "s-meter":
		return m.Mark
	case "neighbour":
		return "neighbour at " + units.Hertz(m.ApartHz).String()
	}
	return m.What
}

func said(m *Measured) string {
	switch {
	case m.What == "s-meter":
		return fmt.Sprintf("%s at %.0f dBm, %+.0f dB from what it stands for", m.Mark, *m.LevelDBm, *m.DifferenceDB)
	case m.What == "squelch" && m.ClosesDBm == nil:
		return fmt.Sprintf("squelch opens at %.0f dBm", *m.LevelDBm)
	case m.What == "squelch":
		return fmt.Sprintf("squelch opens at %.0f dBm and closes at %.0f dBm", *m.LevelDBm, *m.ClosesDBm)
	}
	return fmt.Sprintf("%s %.0f dB down", name(m), *m.DifferenceDB)
}

func row(m *Measured) []string {
	dbm := func(v *float64) string {
		if v == nil {
			return ""
		}
		return fmt.Sprintf("%.1f dBm", *v)
	}
	out := []string{m.Text, name(m), dbm(m.LevelDBm), dbm(m.UsualDBm), dbm(m.ClosesDBm), "", "", "none"}
	if m.DifferenceDB != nil {
		out[5] = fmt.Sprintf("%+.1f dB", *m.DifferenceDB)
	}
	if m.UncertaintyDB != nil {
		out[6] = fmt.Sprintf("± %.1f dB", *m.UncertaintyDB)
	}
	if m.LossDB != nil {
		out[7] = fmt.Sprintf("%.1f dB", *m.LossDB)
	}
	return out
}
