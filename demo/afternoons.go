package demo

import (
	"fmt"
	"math"
	"strings"

	"talloak/core/measure/antenna"
	"talloak/core/measure/battery"
	"talloak/core/measure/deviation"
	"talloak/core/measure/emissions"
	"talloak/core/measure/features"
	"talloak/core/measure/frequency"
	"talloak/core/measure/occupied"
	"talloak/core/measure/power"
	"talloak/core/measure/receiver"
	"talloak/core/measure/supply"
	"talloak/core/record"
	"talloak/core/units"
	"talloak/publish"
)

// drover is a mobile for 4 m and 2 m on a supply that is too small for it: power over volts,
// the voltage it refuses, over the band and beyond, and one level through two wirings.
func (l *loader) drover() error {
	by := rules
	by.RuleBook = "house-forty-down"
	err := l.beginBy(by, "drover", drover, record.Subject{
		Maker: "Drover", Model: "25", Serial: "D25-2207", DateCode: "2603", Firmware: "3.0", Variant: "Americas",
		ComeBy: "given-by-seller", ComeByNote: "to keep, with no word on the outcome", Interest: "none",
		SupplyMinV: p(11.5), SupplyV: p(13.8), SupplyMaxV: p(15.5), KeyS: p(20.0), RestS: p(40.0),
	}, []record.Claim{
		{Text: "4m 25/10/5", Source: "manual, page 4", ReadOn: "2026-10-20"},
		{Text: "2m 25/10/5", Source: "manual, page 4", ReadOn: "2026-10-20"},
		{Text: "current 6A", Source: "manual, page 4", ReadOn: "2026-10-20"},
		{Text: "says mutes on a busy channel", Source: "sales page", ReadOn: "2026-10-20"},
		{Text: "comes with microphone hook", Source: "sales page", ReadOn: "2026-10-20"},
		{Text: "says splash proof", Source: "sales page", ReadOn: "2026-10-20"},
		{Text: "2.5ppm", Source: "manual, page 4", ReadOn: "2026-10-20"},
		{Text: "deviation 5kHz", Source: "manual, page 4", ReadOn: "2026-10-20"},
		{Text: "coverage 66-88 136-174", Source: "sales page", ReadOn: "2026-10-20"},
	})
	if err != nil {
		return err
	}
	var s steps
	plain := power.Draft{Settings: "microphone gain 5"}
	for _, band := range []string{"4m", "2m"} {
		s.do(l.key(7, band, "High", usual(band), 13.6, 0.05, "h swr 1.1 13.6v 4.7a", plain))
		s.do(l.key(7, band, "Mid", usual(band), 13.7, 0.05, "m swr 1.1 13.7v 3.1a", plain))
		s.do(l.key(7, band, "Low", usual(band), 13.7, 0.05, "l swr 1.1 13.7v 2.2a", plain))
	}
	// The small supply limits: the power falls with its volts, which is no fault of the radio.
	s.do(l.key(7, "2m", "High", usual("2m"), 12.2, 0.05, "h swr 1.1 12.2v 4.9a ? the supply limits", plain))
	s.do(l.key(7, "2m", "High", usual("2m"), 11.6, 0.05, "h swr 1.1 11.6v 4.5a", plain))
	s.do(l.key(7, "2m", "High", usual("2m"), 10.9, 0.05, "h swr 1.1 10.9v 4.2a", plain))
	s.do(l.key(7, "2m", "High", usual("2m"), 15.4, 0, "15.4v ? shows an over-voltage warning", power.Draft{Refused: true}))
	// Over the band and beyond it, into a load: does it transmit there at all?
	for _, f := range []units.Hertz{138e6, 144.02e6, 147.98e6, 155e6, 170e6} {
		s.do(l.key(7, "2m", "High", f, droop(f), 0.05, "h 13.6v", plain))
	}
	// The same key-ups through another meter: it reads low where there is much, which no coax does.
	odd, err := l.key(10, "2m", "High", usual("2m"), 13.6, -0.95, "h swr 1.1 13.6v", plain)
	s.do(odd, err)
	if s.err == nil {
		s.err = l.say(odd, "explained", "the pocket meter reads low over 20 W: straight on the radio it does the same")
	}
	s.do(l.key(10, "2m", "Low", usual("2m"), 13.7, 0.03, "l swr 1.1 13.7v", plain))
	// Turned down to a class, and what its own display says.
	s.do(l.key(7, "2m", "Low", usual("2m"), 13.7, 0.05, "l 13.7v", power.Draft{TargetW: p(5.0), DisplayW: p(5.0)}))
	s.do(l.look(9, "2m", "High", "wide, bench analyzer", 30e6, 1.6e9, 15_701))
	s.do(l.look(9, "4m", "High", "wide, bench analyzer", 30e6, 1e9, 9_701))
	// Where a line comes from is found by switching; and what it hears of its own supply.
	s.do(l.typed(9, "2m", "High", "radio off", "30-1600 -94 451.2-86", emissions.Draft{Told: emissions.Told{State: "off"}}))
	s.do(l.typed(9, "2m", "High", "in standby", "30-1600 -94 451.2-86 518.4-85", emissions.Draft{Told: emissions.Told{State: "standby"}}))
	s.do(l.typed(9, "2m", "High", "on a battery", "30-1600 -94 h+3.9-40.2-46-53-57-60 451.2-86", emissions.Draft{Told: emissions.Told{State: "on a battery"}}))
	s.do(l.typed(9, "2m", "High", "heard on the bench supply", "145-145.3 -122 145.030-108 145.069-110 145.108-109 145.147-108 145.186-111", emissions.Draft{Told: emissions.Told{State: "bench supply", Heard: true}}))
	s.do(l.typed(9, "2m", "High", "heard on a battery", "145-145.3 -122", emissions.Draft{Told: emissions.Told{State: "battery", Heard: true}}))
	// Beside power and emissions: how far off its frequency it is cold and warm, and how far it swings.
	s.do(l.alone(frequency.Name, "2m", frequency.Draft{Text: "+96Hz +214Hz ? cold, and after a minute", ReferencePPM: p(0.1)}))
	s.do(l.alone(frequency.Name, "4m", frequency.Draft{Text: "+88Hz", ReferencePPM: p(0.1)}))
	for _, d := range []deviation.Draft{
		{Text: "+2.27 -2.16 ? spoken loudly", Width: "narrow", Signal: "voice-peak", WithinPct: p(5.0)},
		{Text: "+4.63 -4.31", Width: "wide", Signal: "voice-peak", WithinPct: p(5.0)},
		{Text: "0.55 ? 88.5 Hz", Width: "narrow", Signal: "sub-audible", WithinPct: p(5.0)},
	} {
		s.do(l.alone(deviation.Name, "2m", d))
	}
	for _, d := range []antenna.Draft{
		{Text: "140 2.9 142 2.1 144 1.5 145 1.3 146 1.4 148 1.9 150 2.6 ? a whip on the roof of the car", Setup: "ground-plane"},
		{Text: "140 4.2 142 3.4 144 2.8 146 2.2 148 1.7 150 1.6 152 1.9 ? the same, on a bare mast", Setup: "other"},
	} {
		s.do(l.alone(antenna.Name, "2m", d))
	}
	for _, text := range []string{"high 5.6a 13.6v", "mid 3.5a 13.7v", "low 2.3a 13.7v", "receiving 0.42 ? loud", "standby 0.31", "off 4mA ? its clock"} {
		s.do(l.alone(supply.Name, "2m", supply.Draft{Text: text, WithinPct: p(2.0)}))
	}
	for _, text := range []string{"s1 -119", "s5 -109", "s9 -97", "s9+20 -81", "squelch -121 -124", "image 71", "neighbour 25k -52 -121"} {
		s.do(l.alone(receiver.Name, "2m", receiver.Draft{Text: text, LossDB: p(0.4), WithinDB: p(1.5)}))
	}
	for _, e := range []struct {
		signal  string
		rbw, at float64
	}{{"voice", 300, 0.9}, {"bare", 300, 0}} {
		s.do(l.alone(occupied.Name, "2m", occupied.Draft{Text: "close, " + e.signal + ".csv", File: emission(usual("2m"), e.at), Signal: e.signal, RBWHz: p(e.rbw), Hold: "max"}))
	}
	for _, text := range []string{"yes mutes on a busy channel", "missing microphone hook ? a screw and no hook", "fits bracket of the older model"} {
		s.do(l.alone(features.Name, "", features.Draft{Text: text}))
	}
	return s.err
}

// saltmarsh is a marine handheld: one harmonic is too close to call.
func (l *loader) saltmarsh() error {
	by := rules
	by.RuleBook = "us-marine-vhf"
	err := l.beginBy(by, "saltmarsh", saltmarsh, record.Subject{
		Maker: "Saltmarsh", Model: "M6", Serial: "M6-10884", DateCode: "2611", ComeBy: "bought", ComeByNote: "second hand", Interest: "none",
		SupplyMinV: p(6.4), SupplyV: p(7.4), SupplyMaxV: p(8.4),
	}, []record.Claim{{Text: "marine 6/1", Source: "box", ReadOn: "2026-11-02"}, {Text: "battery 1500mAh", Source: "label", ReadOn: "2026-11-02"}})
	if err != nil {
		return err
	}
	var s steps
	s.do(l.key(0, "marine", "High", usual("marine"), 7.4, 0.05, "h swr 1.1 7.5v 1.6a", power.Draft{}))
	// Two digits were swapped as it was typed: seen only when the edition was out.
	slip, err := l.written(0, "marine", "Low", "0.39 l swr 1.1 7.8v .6a")
	s.do(slip, err)
	l.n++
	s.do(l.look(1, "marine", "High", "wide, bench analyzer", 30e6, 1.65e9, 16_201))
	s.do(l.look(1, "marine", "Low", "wide, bench analyzer", 30e6, 1.65e9, 16_201))
	s.do(l.alone(battery.Name, "", battery.Draft{Text: "0 8.2 1.4 10 8.0 1.4 20 7.8 1.4 30 7.6 1.4 40 7.3 1.4 50 6.9 1.4 58 6.4 1.4 ? keyed down into the load, a fan on it", CutoffV: p(6.4), WithinPct: p(2.0), Draw: "1.6/0.18/0.045"}))
	if s.err == nil {
		s.err = l.freeze()
	}
	if s.err == nil {
		s.err = l.say(slip, "struck", "its digits were swapped as it was typed: the note pad has 0.93")
	}
	l.n = 1
	s.do(l.key(0, "marine", "Low", usual("marine"), 7.4, 0.05, "l swr 1.1 7.8v .6a", power.Draft{}))
	if s.err != nil {
		return s.err
	}
	return l.follow(publish.Correction, "The power at Low was typed with its digits swapped, 0.39 W for 0.93 W, so that it failed its claim. It was read again, and makes it.")
}

// curlew is a shortwave portable with ten bands, read off a cross-needle meter: each level on
// the scale that suits it.
func (l *loader) curlew() error {
	claims := []record.Claim{}
	for _, band := range curlewBands {
		claims = append(claims, record.Claim{Text: band + " SSB pep 10/5/1", Source: "leaflet", ReadOn: "2026-11-05"})
	}
	err := l.begin("curlew", curlew, record.Subject{
		Maker: "Curlew", Model: "Ten", Serial: "0077", Firmware: "0.9", ComeBy: "lent", ComeByNote: "by its maker, for a month", Interest: "none",
		SupplyMinV: p(10.5), SupplyV: p(13.8), SupplyMaxV: p(15.0),
	}, claims)
	if err != nil {
		return err
	}
	var s steps
	for _, band := range curlewBands {
		for _, level := range []string{"High", "Mid", "Low"} {
			s.do(l.peak(8, band, level))
		}
	}
	return s.err
}

// droop is the voltage at which the simulated radio gives what it gives off its band: its
// tables know no frequency.
func droop(f units.Hertz) float64 {
	off := float64(f-146e6) / 1e6
	return 13.6 * (1 - 0.00025*off*off)
}

// emission is a sweep of 60 kHz over a carrier as an analyzer saves it, with the hump that speech
// makes beside it where there is some: 0 for a bare carrier.
func emission(f units.Hertz, speech float64) string {
	var out strings.Builder
	out.WriteString("MHz;dBm\n")
	for i := range 401 {
		off := float64(i-200) * 150
		level := -92 + 1.5*math.Sin(float64(i*i)) // of noise
		level = max(level, -8-3*math.Pow(off/300, 2))
		if speech > 0 {
			level = max(level, -14+2*math.Sin(float64(i)*1.7)-55*math.Pow(math.Abs(off)/(8500*speech), 2.4))
		}
		fmt.Fprintf(&out, "%.6f;%.2f\n", (float64(f)+off)/1e6, level)
	}
	return out.String()
}
