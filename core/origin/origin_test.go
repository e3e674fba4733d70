package origin

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"talloak/core/span"
	"talloak/core/units"
)

func scene(lines ...units.Hertz) Scene {
	return Scene{Carrier: 146.5e6, Others: []Named{{"70cm", 433.5e6}}, Lines: lines, Examined: span.Set{span.Of(30e6, 1500e6)}, Within: 100e3}
}

func kinds(o []Origin) string {
	var out []string
	for _, x := range o {
		out = append(out, string(x.Kind))
	}
	return strings.Join(out, " ")
}

// TestWhatALineCouldComeFrom: each family at its place, and not a window beside it.
func TestWhatALineCouldComeFrom(t *testing.T) {
	for _, c := range []struct {
		f    units.Hertz
		kind Cause
		says string
	}{
		{433.5e6, OtherBand, "once the carrier of 70cm"}, {867.05e6, OtherBand, "2 times"}, {2*146.5e6 - 3*12.8e6, Mixing, "2 times the carrier less 3 times a clock of 12.8 MHz"},
		{38.4e6, Clock, "3 times a clock of 12.8 MHz"}, {146.5e6 + 42.8e6, Image, "intermediate frequency of 21.4 MHz"},
	} {
		s := scene(c.f)
		found := s.Explain(c.f)
		if !strings.Contains(kinds(found), string(c.kind)) || !strings.Contains(found[0].Detail+found[len(found)-1].Detail, c.says) {
			t.Errorf("%s: %+v", c.f, found)
		}
		if beside := s.Explain(c.f + 210e3); strings.Contains(kinds(beside), string(c.kind)) {
			t.Errorf("%s and 210 kHz: %+v", c.f, beside)
		}
	}
	// Two lines as far on both sides of the second harmonic: whatever mixes is 31 MHz.
	pair := scene(293e6-31e6, 293e6+31.05e6)
	if found := pair.Explain(293e6 - 31e6); !strings.Contains(kinds(found), "twin") || !strings.Contains(found[0].Detail, "31.025 MHz") {
		t.Errorf("twins: %+v", found)
	}
	if alone := scene(293e6 - 31e6); strings.Contains(kinds(alone.Explain(293e6-31e6)), "twin") {
		t.Error("a line is its own twin")
	}
}

// TestItsOwnClock: a clock that is known explains what no usual one does, further out, and is
// less often chance than the usual ones together.
func TestItsOwnClock(t *testing.T) {
	s := scene(2*146.5e6+7*15.36e6, 12*15.36e6)
	if found := s.Explain(12 * 15.36e6); strings.Contains(kinds(found), "own") {
		t.Fatalf("a clock nobody told of: %+v", found)
	}
	s = scene(s.Lines...)
	s.Clocks = []units.Hertz{15.36e6}
	if found := s.Explain(12 * 15.36e6); len(found) == 0 || found[0].Kind != OwnClock || found[0].Detail != "12 times its own clock of 15.36 MHz" {
		t.Errorf("a multiple: %+v", found)
	}
	if found := s.Explain(2*146.5e6 + 7*15.36e6); len(found) == 0 || found[0].Kind != OwnMixing || found[0].Detail != "2 times the carrier and 7 times its own clock of 15.36 MHz" {
		t.Errorf("a mixing: %+v", found)
	}
	if s.Clocks[0] = 12.8e6; strings.Contains(kinds((&Scene{Carrier: s.Carrier, Clocks: s.Clocks, Lines: s.Lines, Examined: s.Examined, Within: s.Within}).Explain(11*12.8e6)), " clock") {
		t.Error("its own clock explains twice")
	}
	places := s.families()
	if own, usual := len(places[OwnClock])+len(places[OwnMixing]), len(places[Clock])+len(places[Mixing]); own == 0 || own > usual/2 {
		t.Errorf("%d places of its own clock, %d of the usual", own, usual)
	}
}

// TestChanceIsWhatItIsSaidToBe: of lines anywhere as many are explained as is told.
func TestChanceIsWhatItIsSaidToBe(t *testing.T) {
	const n = 4000
	s := scene(make([]units.Hertz, 1)...)
	r := rand.New(rand.NewPCG(7, 7))
	hits, told := map[Cause]float64{}, map[Cause]float64{}
	for range n {
		for _, o := range s.Explain(units.Hertz(30e6 + r.Float64()*1470e6)) {
			hits[o.Kind]++
			told[o.Kind] = o.ByChance
		}
	}
	for _, k := range []Cause{Clock, Mixing} {
		want := n * told[k]
		if want < 50 || math.Abs(hits[k]-want) > 4*math.Sqrt(want) {
			t.Errorf("%s: %g of %d lines fit, %.0f were told", k, hits[k], n, want)
		}
	}
}
