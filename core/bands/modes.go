package bands

import (
	"strings"

	"talloak/core/units"
)

// Usual frequencies by mode, where that of the band is one of FM or of speech: nobody keys SSB on
// an FM channel. Common practice after the band plans of the regions, from memory; under 0 those of
// every region.
var byMode = map[string]map[string]map[Region]usualAt{
	"SSB": {
		"CB":    {0: {27.385e6, "channel 38"}},
		"10m":   {0: {28.4e6, "speech"}},
		"6m":    {1: {50.15e6, "SSB calling"}, 2: {50.125e6, "SSB calling"}, 3: {50.11e6, "SSB calling"}},
		"4m":    {0: {70.2e6, "SSB calling"}},
		"2m":    {1: {144.3e6, "SSB calling"}, 2: {144.2e6, "SSB calling"}, 3: {144.1e6, "SSB calling"}},
		"1.25m": {0: {222.1e6, "SSB calling"}},
		"70cm":  {1: {432.2e6, "SSB calling"}, 2: {432.1e6, "SSB calling"}, 3: {432.1e6, "SSB calling"}},
		"33cm":  {0: {903.1e6, "SSB calling"}},
		"23cm":  {1: {1296.2e6, "SSB calling"}, 2: {1296.1e6, "SSB calling"}, 3: {1296.1e6, "SSB calling"}},
	},
	"CW": {
		"160m": {0: {1.83e6, "CW"}}, "80m": {0: {3.56e6, "CW"}}, "40m": {0: {7.03e6, "CW"}}, "30m": {0: {10.116e6, "CW"}}, "20m": {0: {14.06e6, "CW"}},
		"17m": {0: {18.086e6, "CW"}}, "15m": {0: {21.06e6, "CW"}}, "12m": {0: {24.906e6, "CW"}}, "10m": {0: {28.06e6, "CW"}},
		"6m": {0: {50.09e6, "CW"}}, "2m": {0: {144.05e6, "CW"}}, "1.25m": {0: {222.06e6, "CW"}}, "70cm": {0: {432.05e6, "CW"}},
		"33cm": {0: {903.05e6, "CW"}}, "23cm": {0: {1296.05e6, "CW"}},
	},
	"AM": {
		"160m": {0: {1.885e6, "AM"}}, "80m": {2: {3.885e6, "AM"}}, "40m": {2: {7.29e6, "AM"}},
		"20m": {0: {14.286e6, "AM"}}, "15m": {0: {21.285e6, "AM"}}, "10m": {0: {29e6, "AM"}}, "6m": {2: {50.4e6, "AM"}}, "4m": {0: {70.26e6, "AM calling"}},
	},
}

type usualAt struct {
	hz   units.Hertz
	name string
}

// In is the band with the frequency that is usual in a mode, where that is another one.
func (b Band) In(mode string, r Region) Band {
	at, ok := byMode[strings.ToUpper(mode)][b.Name]
	if !ok {
		return b
	}
	usual, ok := at[0]
	if !ok {
		usual, ok = at[r.orDefault()]
	}
	if ok && b.Contains(usual.hz) {
		b.UsualHz, b.Channel = usual.hz, usual.name
	}
	return b
}
