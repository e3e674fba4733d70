package claims

import (
	"strings"

	"talloak/core/bands"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// Said is what a text claims: powers in the order said, the channels of the services it
// names, and what else it claims.
type Said struct {
	Powers   []SaidPower     `json:"powers"`
	Channels []bands.Channel `json:"channels"`
	Other    []SaidOther     `json:"other"`
	Remark   *string         `json:"remark"` // what was read over
}

// SaidPower is one power: of a band, nil where it is claimed of every one, and its
// frequencies; a level, nil where it is the only one; a mode, nil where it is not said. W is nil
// where a level is named without a power.
type SaidPower struct {
	Band       *string        `json:"band"`
	FromHz     *float64       `json:"from_hz"`
	ToHz       *float64       `json:"to_hz"`
	Level      *string        `json:"level"`
	Mode       *rulebook.Mode `json:"mode"`
	W          *float64       `json:"w"`
	PEP        bool           `json:"pep"`
	Adjustable bool           `json:"adjustable"` // set by a knob, up to w
}

// SaidOther is a claim beside power, in the unit of its kind; a stretch of coverage is two
// figures in Hz, of which Value is the lower.
type SaidOther struct {
	Kind  OtherKind `json:"kind"`
	Band  *string   `json:"band"`
	Value float64   `json:"value"`
	To    *float64  `json:"to,omitempty"`
	Unit  string    `json:"unit"`
}

// Read reads a text of claims as a person says them. The error is as that of ParseLine.
func Read(text string, r bands.Region) (Said, error) {
	out := Said{Powers: []SaidPower{}, Channels: []bands.Channel{}, Other: []SaidOther{}}
	power, err := out.readOther(text, r)
	if err != nil {
		return Said{}, err
	}
	if strings.TrimSpace(power) == "" {
		if len(out.Other) == 0 {
			return Said{}, problem.New("text", "type a band and its powers, such as 2m 25/10/5")
		}
		return out, nil
	}
	l, err := readLine(power, r)
	if err != nil {
		return Said{}, err
	}
	if l.remark != "" {
		out.Remark = &l.remark
	}
	for _, s := range l.segments {
		for _, b := range s.claimedOf() {
			if b.Service == bands.Personal || b.Service == bands.Marine {
				out.Channels = append(out.Channels, b.Channels()...)
			}
			for _, g := range s.groups {
				out.Powers = append(out.Powers, g.said(b, l.modeOf(g, b))...)
			}
		}
	}
	return out, nil
}

// readOther takes the claims beside power out of a text: parts between commas or lines.
func (s *Said) readOther(text string, r bands.Region) (power string, err error) {
	var rest []string
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == '\n' || r == ';' }) {
		var kept []string
		for _, piece := range strings.Split(part, ", ") {
			o, is, err := ParseOther(piece, r)
			switch {
			case is && err != nil:
				return "", err
			case is:
				s.Other = append(s.Other, o.said()...)
			default:
				kept = append(kept, piece)
			}
		}
		rest = append(rest, strings.Join(kept, ", "))
	}
	return strings.Join(rest, ", "), nil
}

func (o Other) said() []SaidOther {
	unit := map[OtherKind]string{Current: "A", Deviation: "Hz", Coverage: "Hz", FrequencyError: "ppm", Battery: "mAh"}[o.Kind]
	out := SaidOther{Kind: o.Kind, Value: o.Value, Unit: unit}
	if o.Band != "" {
		out.Band = &o.Band
	}
	if o.Kind != Coverage {
		return []SaidOther{out}
	}
	var all []SaidOther
	for _, s := range o.Spans {
		to := float64(s.Hi)
		out.Value, out.To = float64(s.Lo), &to
		all = append(all, out)
	}
	return all
}

// said gives the powers of a group on a band.
func (g *group) said(b bands.Band, mode rulebook.Mode) []SaidPower {
	of := SaidPower{PEP: g.pep, Adjustable: g.adjustable}
	if b.Name != "" {
		of.Band, of.FromHz, of.ToHz = &b.Name, hz(b.FromHz), hz(b.ToHz)
	}
	if mode != "" {
		of.Mode = &mode
	}
	if g.adjustable {
		of.W = &g.watts[0]
		return []SaidPower{of}
	}
	var out []SaidPower
	for i, w := range g.watts {
		if g.absent[i] {
			continue
		}
		p := of
		if level := g.level(i); level != "" {
			p.Level = &level
		}
		if w > 0 {
			p.W = &w
		}
		out = append(out, p)
	}
	return out
}

func hz(f units.Hertz) *float64 {
	v := float64(f)
	return &v
}

// letters are the levels of a radio that has so many of them, as a line writes them.
var letters = map[int][]string{1: {""}, 2: {"h", "l"}, 3: {"h", "m", "l"}}

// level is what level i of a group is called: h, m, l, from four on p1, p2 from the highest
// down; empty where it is the only one.
func (g *group) level(i int) string {
	if len(g.names) > 0 {
		switch name := g.names[i]; name {
		case "High", "Mid", "Low":
			return strings.ToLower(name[:1])
		default:
			return strings.ToLower(name)
		}
	}
	if names := letters[len(g.watts)]; names != nil {
		return names[i]
	}
	return "p" + string(rune('1'+i))
}
