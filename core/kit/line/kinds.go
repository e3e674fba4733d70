package line

import (
	"strings"

	"talloak/core/kit"
)

// calls are the words that a thing is called by, those of several words before those of one.
var calls = []struct {
	words string
	kind  kit.Kind
}{
	{"antenna analyzer", kit.AntennaAnalyzer}, {"antenna analyser", kit.AntennaAnalyzer},
	{"spectrum analyzer", kit.Analyzer}, {"spectrum analyser", kit.Analyzer},
	{"signal generator", kit.SignalGenerator}, {"service monitor", kit.ServiceMonitor},
	{"terminating meter", kit.TerminatingMeter}, {"cross-needle meter", kit.ThroughMeter}, {"needle meter", kit.ThroughMeter},
	{"inline meter", kit.ThroughMeter}, {"through meter", kit.ThroughMeter}, {"power meter", kit.ThroughMeter}, {"swr meter", kit.ThroughMeter},
	{"switched pad", kit.SwitchedAttenuator}, {"step pad", kit.SwitchedAttenuator}, {"switched attenuator", kit.SwitchedAttenuator},
	{"dummy load", kit.Load}, {"power supply", kit.Supply}, {"line sampler", kit.Sampler}, {"line tap", kit.Tap},
	{"inline", kit.ThroughMeter}, {"through-meter", kit.ThroughMeter}, {"meter", kit.ThroughMeter}, {"termination", kit.TerminatingMeter},
	{"load", kit.Load}, {"dummy", kit.Load}, {"pad", kit.Attenuator}, {"attenuator", kit.Attenuator},
	{"coax", kit.Cable}, {"cable", kit.Cable}, {"jumper", kit.Cable}, {"lead", kit.Cable}, {"adapter", kit.Adapter}, {"adaptor", kit.Adapter},
	{"tap", kit.Tap}, {"coupler", kit.Coupler}, {"sampler", kit.Sampler}, {"analyzer", kit.Analyzer}, {"analyser", kit.Analyzer}, {"monitor", kit.ServiceMonitor},
	{"supply", kit.Supply}, {"generator", kit.SignalGenerator}, {"counter", kit.Counter}, {"antenna", kit.Antenna},
}

// called finds what a line begins by calling its thing; false where it is nothing known.
func called(words []string) (as string, kind kit.Kind, ok bool) {
	begins := strings.ToLower(strings.Join(words[:min(2, len(words))], " "))
	for _, c := range calls {
		if begins == c.words || strings.HasPrefix(begins, c.words+" ") {
			return c.words, c.kind, true
		}
	}
	return "", "", false
}

// oneOf lists the words that there are, for a refusal.
const oneOf = "inline meter, terminating meter, load, pad, switched pad, coax, adapter, tap, coupler, sampler, analyzer, service monitor, supply, signal generator, antenna analyzer, counter or antenna"

// isCalled tells whether a kind goes by a word.
func isCalled(kind kit.Kind, word string) bool {
	for _, c := range calls {
		if c.kind != kind {
			continue
		}
		for w := range strings.FieldsSeq(c.words) {
			if strings.HasPrefix(w, word) {
				return true
			}
		}
	}
	return false
}
