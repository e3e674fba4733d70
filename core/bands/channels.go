package bands

import (
	"fmt"
	"slices"
	"strings"

	"talloak/core/units"
)

// Mark says what a channel is kept for.
type Mark string

// The marks. Nobody tests on an Emergency channel, not even into a load that may leak; a
// Data channel is not spoken on.
const (
	Calling   Mark = "calling"
	Emergency Mark = "emergency"
	Data      Mark = "data"
)

// Channel is a frequency with the name it has in its service. Group is the one that shares
// a rule on power with it, empty where the band has none.
type Channel struct {
	Name  string      `json:"name"`
	Hz    units.Hertz `json:"frequency_hz"`
	Group string      `json:"group"`
	Mark  Mark        `json:"mark"`
}

// group is the channels of a band that share a rule on power.
type group struct {
	name, usual, why string
}

// groups are those of a band: their names, the channel usually measured, and the rule.
var groups = map[string][]group{
	"GMRS": {
		{"main", "17", "47 CFR 95.1767: 50 W on the 462 MHz main channels and the 467 MHz repeater inputs, from memory"},
		{"interstitial", "3", "47 CFR 95.1767: 5 W ERP on the 462 MHz interstitial channels, from memory"},
		{"467", "10", "47 CFR 95.1767: 0.5 W ERP on the 467 MHz interstitial channels, from memory"},
	},
	"FRS": {
		{"2W", "17", "47 CFR 95.567: 2 W ERP, from memory"},
		{"467", "10", "47 CFR 95.567: 0.5 W ERP on channels 8 to 14, from memory"},
	},
	"marine": {
		{"low", "15", "ITU Radio Regulations, Appendix 18: 1 W on channels 15 and 17; 47 CFR 80.331 and 80.1011 on 13 and 67, from memory"},
	},
}

func groupOf(name string) (entry, group, bool) {
	parent, rest, two := strings.Cut(name, " ")
	if !two {
		return entry{}, group{}, false
	}
	for _, b := range all {
		if !strings.EqualFold(b.name, parent) {
			continue
		}
		for _, g := range groups[b.name] {
			if strings.EqualFold(g.name, rest) {
				return b, g, true
			}
		}
	}
	return entry{}, group{}, false
}

// Groups names the groups of a band that share a rule on power, as they are typed.
func Groups(band string) []string {
	var out []string
	for name, all := range groups {
		if strings.EqualFold(name, band) {
			for _, g := range all {
				out = append(out, g.name)
			}
		}
	}
	return out
}

// band is the group as a band of its own.
func (g group) band(of Band) Band {
	out := Band{Name: of.Name + " " + g.name, Service: of.Service, Source: g.why}
	for _, c := range channelsOf(of.Name) {
		if c.Group != g.name {
			continue
		}
		if out.FromHz == 0 {
			out.FromHz = c.Hz
		}
		out.FromHz, out.ToHz = min(out.FromHz, c.Hz), max(out.ToHz, c.Hz)
		if c.Name == g.usual {
			out.UsualHz, out.Channel = c.Hz, "channel "+c.Name
		}
	}
	return out
}

// Channels lists the channels of a band or group by their names; none where the service has
// none.
func (b Band) Channels() []Channel {
	if parent, g, ok := groupOf(b.Name); ok {
		return slices.DeleteFunc(channelsOf(parent.name), func(c Channel) bool { return c.Group != g.name })
	}
	return channelsOf(b.Name)
}

// ChannelAt is the channel of a band at a frequency; false where there is none.
func (b Band) ChannelAt(f units.Hertz) (Channel, bool) {
	all := b.Channels()
	i := slices.IndexFunc(all, func(c Channel) bool { return f > c.Hz-100 && f < c.Hz+100 })
	if i < 0 {
		return Channel{}, false
	}
	return all[i], true
}

// Reserved tells whether a frequency is kept for emergencies, distress or calls of them,
// and what it is called (ITU Radio Regulations, Appendix 15; 47 CFR 95.931 for CB channel
// 9, from memory): nobody tests there, not even into a load that may leak.
func Reserved(f units.Hertz) (string, bool) {
	for _, r := range reserved {
		if f > r.Hz-5e3 && f < r.Hz+5e3 {
			return r.Name, true
		}
	}
	return "", false
}

var reserved = []Channel{
	{Name: "CB channel 9, emergencies", Hz: 27.065e6, Mark: Emergency},
	{Name: "121.5 MHz, aircraft distress", Hz: 121.5e6, Mark: Emergency},
	{Name: "marine channel 70, digital distress calls", Hz: 156.525e6, Mark: Emergency},
	{Name: "marine channel 16, distress", Hz: 156.8e6, Mark: Emergency},
	{Name: "243 MHz, military distress", Hz: 243e6, Mark: Emergency},
	{Name: "406 MHz, distress beacons", Hz: 406.05e6, Mark: Emergency},
}

func steps(from, step units.Hertz, n, first int, group string) []Channel {
	out := make([]Channel, n)
	for i := range out {
		out[i] = Channel{Name: fmt.Sprint(first + i), Hz: from + units.Hertz(i)*step, Group: group}
	}
	return out
}

// channelsOf makes the channels of a service from the rule they follow, from memory of the
// sources its band names.
func channelsOf(band string) []Channel {
	var out []Channel
	switch band {
	case "CB":
		for i, khz := range []units.Hertz{
			26965, 26975, 26985, 27005, 27015, 27025, 27035, 27055, 27065, 27075, 27085, 27105, 27115, 27125, 27135, 27155, 27165, 27175, 27185, 27205,
			27215, 27225, 27255, 27235, 27245, 27265, 27275, 27285, 27295, 27305, 27315, 27325, 27335, 27345, 27355, 27365, 27375, 27385, 27395, 27405,
		} {
			out = append(out, Channel{Name: fmt.Sprint(i + 1), Hz: khz * 1e3})
		}
		out[8].Mark, out[18].Mark = Emergency, Calling
	case "MURS":
		for i, khz := range []units.Hertz{151820, 151880, 151940, 154570, 154600} {
			out = append(out, Channel{Name: fmt.Sprint(i + 1), Hz: khz * 1e3})
		}
	case "PMR446":
		out = steps(446.00625e6, 12.5e3, 16, 1, "")
	case "GMRS", "FRS":
		low, main := "interstitial", "main"
		if band == "FRS" {
			low, main = "2W", "2W"
		}
		out = append(steps(462.5625e6, 25e3, 7, 1, low), steps(467.5625e6, 25e3, 7, 8, "467")...)
		out = append(out, steps(462.55e6, 25e3, 8, 15, main)...)
		if band == "GMRS" {
			for _, c := range steps(467.55e6, 25e3, 8, 15, main) {
				c.Name += " input"
				out = append(out, c)
			}
		}
	case "marine":
		out = append(steps(156.05e6, 50e3, 28, 1, ""), steps(156.025e6, 50e3, 29, 60, "")...)
		for i := range out {
			switch c := &out[i]; c.Name {
			case "16":
				c.Mark = Emergency
			case "70":
				c.Mark = Data
			case "9":
				c.Mark = Calling
			case "13", "15", "17", "67":
				c.Group = "low"
			}
		}
	}
	return out
}
