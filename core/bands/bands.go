package bands

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"talloak/core/units"
)

// Region is one of the three of the ITU, which have amateur bands of their own; 0 is taken
// for the second.
type Region int

// The regions: Europe, Africa and the north of Asia; the Americas; the rest.
const (
	Region1 Region = 1
	Region2 Region = 2
	Region3 Region = 3
)

func (r Region) orDefault() Region {
	if r < Region1 || r > Region3 {
		return Region2
	}
	return r
}

// Service is whose band it is.
type Service string

// The services. Receive is for listening: nobody is to transmit there with what is reviewed.
const (
	Amateur    Service = "amateur"
	Personal   Service = "personal"
	Marine     Service = "marine"
	LandMobile Service = "land-mobile"
	Receive    Service = "receive"
	Nowhere    Service = "" // a frequency of its own, outside every band
)

// Band is a stretch of spectrum with the name people use for it. Usual is where
// a first measurement is made: a calling or simplex frequency, never an
// emergency channel.
type Band struct {
	Name    string      `json:"name"`
	FromHz  units.Hertz `json:"from_hz"`
	ToHz    units.Hertz `json:"to_hz"`
	UsualHz units.Hertz `json:"usual_hz"`
	Channel string      `json:"channel"` // what the usual frequency is called
	Service Service     `json:"-"`
	Source  string      `json:"-"` // where its edges are from
}

// Contains tells whether f lies within the band's edges; of a group of channels, whether
// it is one of them.
func (b Band) Contains(f units.Hertz) bool {
	if f < b.FromHz || f > b.ToHz {
		return false
	}
	if _, _, group := groupOf(b.Name); group {
		return slices.ContainsFunc(b.Channels(), func(c Channel) bool { return f > c.Hz-halfStep && f < c.Hz+halfStep })
	}
	return true
}

// IsGroup tells that it is a group of channels that share a rule on power.
func (b Band) IsGroup() bool {
	_, _, group := groupOf(b.Name)
	return group
}

// Middle is where the middle of the band is measured: on the channel nearest to it, where
// it has channels.
func (b Band) Middle() units.Hertz { return b.nearest((b.FromHz + b.ToHz) / 2) }

// Inside is where the edges of the band are measured, a share of its width inside them, on
// the channels nearest to them where it has channels.
func (b Band) Inside(share float64) (low, high units.Hertz) {
	in := units.Hertz(share) * (b.ToHz - b.FromHz)
	return b.nearest(b.FromHz + in), b.nearest(b.ToHz - in)
}

// nearest is f to a round 10 kHz (1 kHz below 30 MHz), or the channel nearest to it that
// may be spoken on.
func (b Band) nearest(f units.Hertz) units.Hertz {
	best, off := units.Hertz(0), units.Hertz(math.Inf(1))
	for _, c := range b.Channels() {
		if d := units.Hertz(math.Abs(float64(c.Hz - f))); c.Mark != Emergency && c.Mark != Data && d < off {
			best, off = c.Hz, d
		}
	}
	if best > 0 {
		return best
	}
	step := units.Hertz(10e3)
	if f < 30e6 {
		step = 1e3
	}
	return min(b.ToHz, max(b.FromHz, units.Hertz(math.Round(float64(f/step)))*step))
}

// halfStep is how far from a channel a carrier is still on it, in Hz: half the least step
// between the channels of groups that lie between each other.
const halfStep = 6250

// IsPlace tells that the band is one frequency outside every band: no claim of a power can
// be held against what is read there.
func (b Band) IsPlace() bool { return b.Service == Nowhere && b.FromHz > 0 && b.FromHz == b.ToHz }

// Names lists the names of the bands that are known, in rising order, each once.
func Names() []string {
	var names []string
	for _, b := range all {
		if !slices.Contains(names, b.name) {
			names = append(names, b.name)
		}
	}
	return names
}

// Find is the band of that name in a region, whatever its case: a band, a group of its
// channels ("GMRS main"), or a frequency in MHz outside every band ("350.5").
func Find(name string, r Region) (Band, bool) {
	name = strings.Join(strings.Fields(name), " ")
	for _, b := range all {
		if strings.EqualFold(b.name, name) || slices.ContainsFunc(b.also, func(o string) bool { return strings.EqualFold(o, name) }) {
			if at, ok := b.in(r); ok {
				return at, true
			}
		}
	}
	if parent, g, ok := groupOf(name); ok {
		b, _ := parent.in(r)
		return g.band(b), true
	}
	if b, ok := stretchNamed(name); ok {
		return b, true
	}
	return place(name, r)
}

// place reads a frequency outside every band, as typed or as it is called afterwards.
func place(text string, r Region) (Band, bool) {
	f, ok := megahertz(text)
	if !ok || len(At(f, r)) > 0 {
		return Band{}, false
	}
	return Place(f), true
}

// Place is one frequency as a band of its own.
func Place(f units.Hertz) Band {
	return Band{Name: f.String(), FromHz: f, ToHz: f, UsualHz: f, Channel: "a frequency of its own"}
}

// Stretch is a range of frequencies as a band of its own, under the name that Find knows it by.
func Stretch(from, to units.Hertz) Band {
	b := Band{Name: fmt.Sprintf("%.10g-%.10g MHz", float64(from)/1e6, float64(to)/1e6), FromHz: from, ToHz: to, Channel: "middle"}
	b.UsualHz = b.Middle()
	return b
}

// stretchNamed is the range of that name: 136-174 MHz.
func stretchNamed(name string) (Band, bool) {
	low, high, two := strings.Cut(strings.TrimSuffix(name, " MHz"), "-")
	if !two || !strings.HasSuffix(name, " MHz") {
		return Band{}, false
	}
	from, err1 := strconv.ParseFloat(low, 64)
	to, err2 := strconv.ParseFloat(high, 64)
	if err1 != nil || err2 != nil || !(from >= 1e-3) || !(to > from) || to > 1e6 {
		return Band{}, false
	}
	return Stretch(units.Hertz(from*1e6), units.Hertz(to*1e6)), true
}

// megahertz reads a frequency in MHz with a decimal or its unit: 350.5, 25 MHz.
func megahertz(text string) (units.Hertz, bool) {
	number := strings.TrimSpace(text)
	scale := 0.0
	for unit, s := range map[string]float64{"mhz": 1e6, "ghz": 1e9, "khz": 1e3} {
		if cut, is := strings.CutSuffix(strings.ToLower(number), unit); is {
			number, scale = strings.TrimSpace(cut), s
			break
		}
	}
	if scale == 0 {
		if !strings.ContainsAny(number, ".") {
			return 0, false
		}
		scale = 1e6
	}
	v, err := strconv.ParseFloat(number, 64)
	if err != nil || !(v*scale >= 1e3) || v*scale > 1e12 {
		return 0, false
	}
	return units.Hertz(v * scale), true
}

// At lists the bands that a frequency lies in, in a region; land mobile, which lies around
// others, last.
func At(f units.Hertz, r Region) []Band {
	var out, wide []Band
	for _, b := range all {
		at, ok := b.in(r)
		if !ok || !at.Contains(f) {
			continue
		}
		if at.Service == LandMobile {
			wide = append(wide, at)
		} else {
			out = append(out, at)
		}
	}
	return append(out, wide...)
}

// stretch is a band in one region.
type stretch struct {
	from, to, usual units.Hertz
	channel         string
}

// entry is a band with its stretch in each region; under 0 that of every region.
type entry struct {
	name    string
	service Service
	source  string
	also    []string
	regions map[Region]stretch
}

func (e entry) in(r Region) (Band, bool) {
	s, ok := e.regions[0]
	if !ok {
		s, ok = e.regions[r.orDefault()]
	}
	return Band{e.name, s.from, s.to, s.usual, s.channel, e.service, e.source}, ok
}

func everywhere(from, to, usual units.Hertz, channel string) map[Region]stretch {
	return map[Region]stretch{0: {from, to, usual, channel}}
}

const rr5 = "ITU Radio Regulations, Article 5, from memory; a country may allow less"

// all are the bands in rising order. Usual frequencies are common practice, no source.
var all = []entry{
	{"160m", Amateur, rr5, nil, map[Region]stretch{1: {1.81e6, 2e6, 1.9e6, "middle"}, 2: {1.8e6, 2e6, 1.9e6, "middle"}, 3: {1.8e6, 2e6, 1.9e6, "middle"}}},
	{"80m", Amateur, rr5, nil, map[Region]stretch{1: {3.5e6, 3.8e6, 3.7e6, "speech"}, 2: {3.5e6, 4e6, 3.8e6, "speech"}, 3: {3.5e6, 3.9e6, 3.7e6, "speech"}}},
	{"60m", Amateur, rr5 + " (5.133B)", nil, everywhere(5.3515e6, 5.3665e6, 5.359e6, "middle")},
	{"40m", Amateur, rr5, nil, map[Region]stretch{1: {7e6, 7.2e6, 7.1e6, "middle"}, 2: {7e6, 7.3e6, 7.2e6, "speech"}, 3: {7e6, 7.2e6, 7.1e6, "middle"}}},
	{"30m", Amateur, rr5, nil, everywhere(10.1e6, 10.15e6, 10.125e6, "middle")},
	{"20m", Amateur, rr5, nil, everywhere(14e6, 14.35e6, 14.2e6, "speech")},
	{"17m", Amateur, rr5, nil, everywhere(18.068e6, 18.168e6, 18.13e6, "speech")},
	{"15m", Amateur, rr5, nil, everywhere(21e6, 21.45e6, 21.3e6, "speech")},
	{"12m", Amateur, rr5, nil, everywhere(24.89e6, 24.99e6, 24.95e6, "speech")},
	{"CB", Personal, "47 CFR 95.963, from memory", []string{"11m"}, everywhere(26.965e6, 27.405e6, 27.185e6, "channel 19")},
	{"10m", Amateur, rr5, nil, everywhere(28e6, 29.7e6, 29.6e6, "FM calling")},
	{"8m", Amateur, "allowed in some countries of ITU region 1 around 40.68 MHz, from memory", nil, map[Region]stretch{1: {40.66e6, 40.7e6, 40.68e6, "middle"}}},
	{"6m", Amateur, rr5, nil, map[Region]stretch{1: {50e6, 52e6, 51.51e6, "FM calling"}, 2: {50e6, 54e6, 52.525e6, "FM simplex"}, 3: {50e6, 54e6, 52.525e6, "FM simplex"}}},
	{"4m", Amateur, "allowed in some countries, from memory: CEPT European Common Allocation", nil, everywhere(70e6, 70.5e6, 70.45e6, "FM calling")},
	{"airband", Receive, "ITU Radio Regulations, Appendix 27 and Article 5, from memory", []string{"air"}, everywhere(118e6, 137e6, 127.5e6, "middle")},
	{"VHF", LandMobile, "what land mobile radios for the high VHF band cover; common practice, no source", nil, everywhere(136e6, 174e6, 155e6, "middle")},
	{"2m", Amateur, rr5, nil, map[Region]stretch{1: {144e6, 146e6, 145.5e6, "FM calling"}, 2: {144e6, 148e6, 146.52e6, "simplex"}, 3: {144e6, 148e6, 146.5e6, "simplex"}}},
	{"MURS", Personal, "47 CFR 95.2763, from memory", nil, everywhere(151.82e6, 154.6e6, 151.88e6, "channel 2")},
	{"marine", Marine, "ITU Radio Regulations, Appendix 18, from memory", nil, everywhere(156e6, 157.425e6, 156.625e6, "channel 72")},
	{"1.25m", Amateur, rr5 + "; 47 CFR 97.301", []string{"125cm"}, map[Region]stretch{2: {222e6, 225e6, 223.5e6, "simplex"}}},
	{"UHF", LandMobile, "what land mobile radios for UHF cover; common practice, no source", nil, everywhere(400e6, 512e6, 455e6, "middle")},
	{"70cm", Amateur, rr5, nil, map[Region]stretch{1: {430e6, 440e6, 433.5e6, "FM calling"}, 2: {420e6, 450e6, 446e6, "simplex"}, 3: {430e6, 440e6, 433e6, "simplex"}}},
	{"PMR446", Personal, "ECC Decision (15)05, from memory", []string{"PMR"}, everywhere(446e6, 446.2e6, 446.05625e6, "channel 5")},
	{"GMRS", Personal, "47 CFR 95.1763, from memory", nil, everywhere(462.55e6, 467.725e6, 462.6e6, "channel 17")},
	{"FRS", Personal, "47 CFR 95.563, from memory", nil, everywhere(462.55e6, 467.7125e6, 462.6e6, "channel 17")},
	{"33cm", Amateur, rr5, nil, map[Region]stretch{2: {902e6, 928e6, 927.5e6, "simplex"}}},
	{"23cm", Amateur, rr5, nil, map[Region]stretch{1: {1240e6, 1300e6, 1297.5e6, "FM calling"}, 2: {1240e6, 1300e6, 1294.5e6, "FM simplex"}, 3: {1240e6, 1300e6, 1294.5e6, "FM simplex"}}},
}
