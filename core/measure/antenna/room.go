package antenna

import (
	"fmt"
	"strings"

	"talloak/core/bands"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/measure/simple"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/touchstone"
	"talloak/core/units"
)

// Name is the kind's name.
const Name = "antenna"

// Draft is an antenna as it was measured: markers as typed (see ReadMarkers), or a one-port file
// whose name the text is; how it stood; and the loss of the cable in between, one way, in dB, nil
// where there is none.
type Draft struct {
	Text    string   `json:"text"`
	File    string   `json:"file,omitempty"`
	Setup   string   `json:"setup" enum:"stock,in-hand,ground-plane,other,load"`
	CableDB *float64 `json:"cable_db,omitempty"`
}

// Measured is an antenna over frequency. Result is nil where it cannot be worked out any more.
// Curve is what is drawn of it: at most mostDrawn points, the SWR nil where it cannot be had.
type Measured struct {
	simple.Figure
	Setup   string   `json:"setup"`
	CableDB *float64 `json:"cable_db"`
	Typed   bool     `json:"typed"` // markers: between them nothing was measured
	FromHz  *float64 `json:"from_hz"`
	ToHz    *float64 `json:"to_hz"` // of the band
	Curve   []At     `json:"curve"`
	Result  *Result  `json:"result"`
}

const (
	mostDrawn = 300
	mostFile  = 2 << 20 // bytes
	// served is the SWR that an antenna is called good under (common practice, no source).
	served = 2.0
)

// setups are what may be measured, in words.
var setups = map[string]string{"stock": "the antenna it comes with, by itself", "in-hand": "in the hand", "ground-plane": "on a ground plane", "other": "another antenna", "load": "a load"}

// Ruling is what stands for a band.
type Ruling = simple.Ruling[Measured]

// New is the kind.
func New() measure.Kind {
	return simple.Kind[Draft, Measured, *Measured]{Spec: simple.Spec[Draft, Measured]{
		About:    measure.About{Name: Name, Title: "Antenna", More: true, Receives: true, Minutes: 3},
		Text:     func(in *Draft) string { return in.Text },
		Work:     work,
		Quantity: func(m *Measured) string { return m.Setup },
		Further:  func(a, b *Measured) bool { return height(a) > height(b) },
		Words:    words,
		Says:     map[decision.Verdict]string{decision.NoClaim: "Its antenna was measured, with no claim to be held against"},
		None:     "the antenna was not measured",
		Section: measure.Section{
			Title: "Antenna",
			Lines: []string{
				"SWR against the reference of the instrument, 50 ohm where markers were typed. A cable in between is taken off: its loss counts there and back. The share of the band is straight between points; of typed markers nothing is known between them.",
				"A low SWR says that power goes in, not that it is radiated. On a handheld the body of the radio is half of the antenna: on an instrument it is another one. Of several the worse stands, of each setup.",
			},
			Columns: []string{"Measured", "Of", "Cable taken off", "Lowest SWR", "At", "From the middle", "Worst in the band", "At", "Of the band at SWR 2 or less"},
			Numbers: []int{2, 3, 4, 5, 6, 7, 8},
		},
		Row: row,
	}}
}

// height is by what of two the worse is told: the worst in the band where that is known.
func height(m *Measured) float64 {
	if w := m.Result.WorstInBand; w != nil {
		return *w.SWR
	}
	return m.Result.Best.SWR
}

func work(r *measure.Review, in Draft, m *Measured) error {
	var bad problem.List
	if setups[in.Setup] == "" {
		bad.Add("setup", "give stock, in-hand, ground-plane, other or load")
	}
	if v := in.CableDB; v != nil && !(*v >= 0 && *v <= 20) {
		bad.Add("cable_db", "give the loss of the cable, 0 to 20 dB one way")
	}
	network, err := read(in, m)
	if err != nil {
		bad.AddErr("", err)
	}
	if err := bad.Err(); err != nil {
		return err
	}
	m.Setup, m.CableDB, m.Typed = in.Setup, in.CableDB, in.File == ""
	ask := Input{Network: network, SWR: served, AtHz: drawn(network)}
	if in.CableDB != nil && *in.CableDB > 0 {
		ask.Cable = path.FlatLoss(units.DB(*in.CableDB)).LossAt
	}
	if band, ok := bands.Find(m.Band, r.Subject.Region); ok {
		ask.Band = &[2]float64{float64(band.FromHz), float64(band.ToHz)}
		m.FromHz, m.ToHz = &ask.Band[0], &ask.Band[1]
	}
	out, err := Measure(ask)
	if err != nil {
		return err
	}
	if network.Points() == 1 { // where it is lowest nobody looked
		out.OffsetHz, out.OffsetPct = nil, nil
	}
	m.Result, m.Curve = &out, out.At
	out.At = []At{}
	if m.Typed { // the phase of a marker is not known
		out.ResonancesHz = []float64{}
		for i := range out.Minima {
			out.Minima[i].ROhm, out.Minima[i].XOhm = nil, nil
		}
		if out.Best != nil {
			out.Best.ROhm, out.Best.XOhm = nil, nil
		}
	}
	if out.Best == nil {
		m.Counts, m.WhyNot = false, "nothing goes in at any frequency: is it connected, and is the cable's loss right?"
	}
	return nil
}

func read(in Draft, m *Measured) (*touchstone.Network, error) {
	if in.File == "" {
		if err := simple.FileGone(m.Text); err != nil {
			return nil, err
		}
		return ReadMarkers(m.Text, units.Hertz(m.FrequencyHz))
	}
	if len(in.File) > mostFile {
		return nil, problem.New("file", "give a file of at most 2 MB")
	}
	n, err := touchstone.Parse(in.File, 1)
	if err != nil {
		return nil, problem.New("file", "%s", strings.TrimPrefix(err.Error(), "text: "))
	}
	if n.Ports != 1 || n.Points() == 0 {
		return nil, problem.New("file", "the file has %d ports and %d frequencies; an antenna is a one-port", n.Ports, n.Points())
	}
	return n, nil
}

// drawn are frequencies of the file that are drawn, both ends among them.
func drawn(n *touchstone.Network) []float64 {
	step := (n.Points()-1)/mostDrawn + 1
	var out []float64
	for i := 0; i < n.Points(); i += step {
		out = append(out, float64(n.Frequency[i]))
	}
	if last := float64(n.Frequency[n.Points()-1]); out[len(out)-1] != last {
		out = append(out, last)
	}
	return out
}

func words(m *Measured) string {
	r := m.Result
	best := "at best, at"
	if len(m.Curve) == 1 {
		best = "at"
	}
	out := fmt.Sprintf("%s: SWR %.2f %s %s", setups[m.Setup], r.Best.SWR, best, units.Hertz(r.Best.FrequencyHz))
	if w := r.WorstInBand; w != nil {
		out += fmt.Sprintf(", at worst %.2f in the band", *w.SWR)
	}
	if r.BandPct != nil && !m.Typed {
		out += fmt.Sprintf(", %.0f %% of it at 2 or less", *r.BandPct)
	}
	for _, f := range r.Findings {
		out += "; " + f.Detail
	}
	return out
}

func row(m *Measured) []string {
	r := m.Result
	out := []string{m.Text, setups[m.Setup], "none", "", "", "", "", "", ""}
	if m.CableDB != nil {
		out[2] = fmt.Sprintf("%.2f dB", *m.CableDB)
	}
	if r.Best != nil {
		out[3], out[4] = fmt.Sprintf("%.2f", r.Best.SWR), units.Hertz(r.Best.FrequencyHz).String()
	}
	if r.OffsetHz != nil {
		out[5] = fmt.Sprintf("%+.2f MHz, %+.1f %%", *r.OffsetHz/1e6, *r.OffsetPct)
	}
	if w := r.WorstInBand; w != nil {
		out[6], out[7] = fmt.Sprintf("%.2f", *w.SWR), units.Hertz(w.FrequencyHz).String()
	}
	if r.BandPct != nil {
		out[8] = fmt.Sprintf("%.0f %%", *r.BandPct)
		if m.Typed {
			out[8] += ", straight between markers"
		}
	}
	return out
}
