package kinds_test

import (
	"fmt"
	"strings"
	"testing"

	"talloak/core/kinds"
	"talloak/core/measure"
	"talloak/core/measure/antenna"
	"talloak/core/measure/battery"
	"talloak/core/measure/deviation"
	"talloak/core/measure/frequency"
	"talloak/core/measure/occupied"
	"talloak/core/measure/receiver"
	"talloak/core/measure/supply"
	"talloak/core/record"
	"talloak/measuretest"
)

func p(v float64) *float64 { return &v }

// TestEveryCellOfATable: what was told of a figure stands in its row with its unit, and what was not is not
// made up.
func TestEveryCellOfATable(t *testing.T) {
	two := record.Keyed{Band: "2m", Mode: "FM", FrequencyHz: 146.52e6}
	claims := []string{"2m 5/1", "2m deviation 5kHz", "2.5ppm", "current 1.5A", "battery 2000mAh"}
	var emission strings.Builder
	emission.WriteString("Hz;dBm\n")
	for i := range 1001 {
		fmt.Fprintf(&emission, "%d;%d\n", 146470000+i*100, map[bool]int{true: -20, false: -110}[i > 400 && i < 600])
	}
	for _, c := range []struct {
		kind   string
		at     record.Keyed
		claims []string
		facts  record.Facts
		want   string
	}{
		{supply.Name, two, claims, measuretest.Facts(t, supply.Name, two, supply.Draft{Text: "high 1.40a 13.8v 5w", WithinPct: p(2)}), "Band 2m | Frequency 146.52 MHz | Typed high 1.40a 13.8v 5w | Of High | Current 1.4 A | ±, k = 2 ± 32.8 mA | Volts 13.8 V | From the supply 19.3 W | Power 5.00 W | Efficiency 26 % | Heat 14.3 W | Claimed 1.5 A | Ruling passes"},
		{supply.Name, two, nil, measuretest.Facts(t, supply.Name, two, supply.Draft{Text: "receiving 0.14a"}), "Band 2m | Frequency 146.52 MHz | Typed receiving 0.14a | Of receiving | Current 0.14 A | ±, k = 2 ± 5.77 mA | Volts  | From the supply  | Power  | Efficiency  | Heat  | Claimed no claim | Ruling no claim"},
		{battery.Name, record.Keyed{}, claims, measuretest.Facts(t, battery.Name, record.Keyed{}, battery.Draft{Text: "0 8.3 1 60 7.4 1 120 6 1", CutoffV: p(6.5), WithinPct: p(2), Draw: "1.4/0.2/0.06", Share: "5/5/90"}), "Log 0 8.3 1 60 7.4 1 120 6 1 | Points 3 | Charge 1643 mAh | Energy 12.32 Wh | Ended at 6.5 V | After 99 min | Counted within 2 % | Label 2000 mAh | Of the label 82 % | Hours at the duty 12.3 h at 5/5/90 | Ruling too close to call"},
		{battery.Name, record.Keyed{}, nil, measuretest.Facts(t, battery.Name, record.Keyed{}, battery.Draft{Text: "0 8.3 1 60 7.4 1"}), "Log 0 8.3 1 60 7.4 1 | Points 2 | Charge 1000 mAh | Energy 7.85 Wh | Ended with the log | After 60 min | Counted within not told | Label no claim | Of the label  | Hours at the duty  | Ruling no claim"},
		{antenna.Name, two, nil, measuretest.Facts(t, antenna.Name, two, antenna.Draft{Text: "144 2.1 146 1.4 148 1.9", Setup: "stock", CableDB: p(0.3)}), "Band 2m | Frequency 146.52 MHz | Measured 144 2.1 146 1.4 148 1.9 | Of the antenna it comes with, by itself | Cable taken off 0.30 dB | Lowest SWR 1.43 | At 146 MHz | From the middle +0.00 MHz, +0.0 % | Worst in the band 2.23 | At 144 MHz | Of the band at SWR 2 or less 88 %, straight between markers | Ruling no claim"},
		{antenna.Name, two, nil, measuretest.Facts(t, antenna.Name, two, antenna.Draft{Text: "swr 1.3", Setup: "load"}), "Band 2m | Frequency 146.52 MHz | Measured swr 1.3 | Of a load | Cable taken off none | Lowest SWR 1.30 | At 146.52 MHz | From the middle  | Worst in the band  | At  | Of the band at SWR 2 or less  | Ruling no claim"},
		{receiver.Name, two, nil, measuretest.Facts(t, receiver.Name, two, receiver.Draft{Text: "s9 -95", LossDB: p(20), WithinDB: p(1)}), "Band 2m | Frequency 146.52 MHz | Typed s9 -95 | Of S9 | Level -115.0 dBm | Stands for -93.0 dBm | Closes at  | Difference -22.0 dB | ±, k = 2 ± 1.2 dB | Loss taken off 20.0 dB | Ruling no claim"},
		{receiver.Name, two, nil, measuretest.Facts(t, receiver.Name, two, receiver.Draft{Text: "squelch -120 -123"}), "Band 2m | Frequency 146.52 MHz | Typed squelch -120 -123 | Of squelch | Level -120.0 dBm | Stands for  | Closes at -123.0 dBm | Difference +3.0 dB | ±, k = 2  | Loss taken off none | Ruling no claim"},
		{frequency.Name, two, claims, measuretest.Facts(t, frequency.Name, two, frequency.Draft{Text: "+96Hz +214Hz", ReferencePPM: p(0.1)}), "Band 2m | Frequency 146.52 MHz | Typed +96Hz +214Hz | Measured 146.520214 MHz | Error +214 Hz | Error +1.46 ppm | ±, k = 2 ± 0.12 ppm | Drift +118 Hz | Reference 0.1 ppm | Claimed 2.5 ppm | Ruling passes"},
		{frequency.Name, two, nil, measuretest.Facts(t, frequency.Name, two, frequency.Draft{Text: "146.520096"}), "Band 2m | Frequency 146.52 MHz | Typed 146.520096 | Measured 146.520096 MHz | Error +96 Hz | Error +0.66 ppm | ±, k = 2 not known | Drift  | Reference not told | Claimed no claim | Ruling no claim"},
		{occupied.Name, two, nil, measuretest.Facts(t, occupied.Name, two, occupied.Draft{Text: "a.csv", File: emission.String(), Signal: "voice", RBWHz: p(100), BelowDB: p(20)}), "Band 2m | Frequency 146.52 MHz | Sweep a.csv | Of voice | 99 % of the power 19.70 kHz | ± ± 0.25 kHz | Middle from nominal +0.00 kHz | Width 19.84 kHz | Below 20 dB | Resolution bandwidth 100 Hz | Noise in it 5e-07 % | Authorised no limit | Ruling no claim"},
		{deviation.Name, two, claims, measuretest.Facts(t, deviation.Name, two, deviation.Draft{Text: "+4.6 -4.3", Width: "wide", Signal: "tone", WithinPct: p(5)}), "Band 2m | Frequency 146.52 MHz | Typed +4.6 -4.3 | Of wide, tone | Deviation 4.60 kHz | ±, k = 2 ± 0.27 kHz | Plus less minus +0.30 kHz | Tone  | Bandwidth 15.2 kHz | Read within 5 % | Claimed 5 kHz | Ruling too close to call"},
		{deviation.Name, two, nil, measuretest.Facts(t, deviation.Name, two, deviation.Draft{Text: "lines 1000 -5.81 -5.07 -12.69 -24.29", Width: "narrow", Signal: "tone", LineDB: p(0.5)}), "Band 2m | Frequency 146.52 MHz | Typed lines 1000 -5.81 -5.07 -12.69 -24.29 | Of narrow, tone | Deviation 1.50 kHz | ±, k = 2 ± 0.05 kHz | Plus less minus  | Tone 1000 Hz | Bandwidth 5.0 kHz | Read within 0.5 dB a line | Claimed no claim | Ruling no claim"},
		{deviation.Name, two, nil, measuretest.Facts(t, deviation.Name, two, deviation.Draft{Text: "2.4", Width: "narrow", Signal: "voice-peak"}), "Band 2m | Frequency 146.52 MHz | Typed 2.4 | Of narrow, voice peak | Deviation 2.40 kHz | ±, k = 2 ± 0.06 kHz | Plus less minus  | Tone  | Bandwidth 10.8 kHz | Read within not told | Claimed no claim | Ruling no claim"},
	} {
		if c.claims == nil {
			c.claims = []string{"2m 5/1"}
		}
		r := measuretest.Open(t, measuretest.Review(c.claims...), c.facts)
		for _, k := range kinds.All() {
			if k.About().Name != c.kind {
				continue
			}
			var got []string
			for _, s := range r.Room(k).Sections([]measure.Named{}) {
				for i, cell := range s.Rows[0] {
					got = append(got, s.Columns[i]+" "+cell)
				}
			}
			if all := strings.Join(got, " | "); all != c.want {
				t.Errorf("%s: %q", c.kind, all)
			}
		}
	}
}
