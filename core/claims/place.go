package claims

import (
	"strings"

	"talloak/core/bands"
	"talloak/core/units"
)

// band reads a band, a group of its channels, a service or a frequency; false where none
// stands here.
func (p *lineParser) band() (bool, error) {
	all, names, n, err := p.bandsHere()
	if err != nil || len(all) == 0 {
		return false, err
	}
	s := p.now()
	w := p.words[p.at].text
	behind := p.at > 0 && (p.comma || p.words[p.at-1].and)
	switch {
	case len(s.bands) > 0 && len(s.groups) == 0 && s.pending == "" && p.last == aBand: // bands in a row share their powers
		s.joined = s.joined || behind
	case len(s.bands) == 0 && len(s.groups) > 0 && !p.comma && p.ownPower(s) && s.pending == "":
		s.before = true
	case len(s.bands) == 0 && len(s.groups) == 0 && s.pending == "":
	default:
		if err := p.settlePEP(nil); err != nil {
			return false, err
		}
		if s.pending != "" && len(s.groups) > 0 || s.pending != "" && len(s.bands) == 0 {
			return false, refuse(w, "%s stands before %s: type a mode beside its power", s.pending, w)
		}
		s = &segment{}
		p.segments = append(p.segments, s)
	}
	s.joined = s.joined || len(all) > 1 && strings.Contains(w, "/")
	for i, b := range all {
		for _, o := range s.bands {
			if o.Name == b.Name {
				return false, refuse(names[i], "%s is said twice", names[i])
			}
		}
		s.bands, s.names = append(s.bands, b), append(s.names, names[i])
	}
	if len(all) == 1 {
		p.parent = strings.Fields(all[0].Name)[0]
	}
	p.took(n, aBand)
	return true, nil
}

// ownPower tells whether what was said before a band is its own power: one group, with a unit.
func (p *lineParser) ownPower(s *segment) bool {
	return len(s.groups) == 1 && s.groups[0].unit && (p.last == aPower || p.last == aMode || p.last == aPEP)
}

// bandsHere are the bands that stand at this place, and how many words they take.
func (p *lineParser) bandsHere() (all []bands.Band, names []string, n int, err error) {
	w := p.words[p.at]
	one := func(b bands.Band, name string, n int) ([]bands.Band, []string, int, error) {
		return []bands.Band{b}, []string{name}, n, nil
	}
	if p.at+1 < len(p.words) && !w.comma && !w.and {
		next := p.words[p.at+1].text
		if b, ok := bands.Find(w.text+" "+next, p.region); ok && len(bands.Groups(w.text)) > 0 && !powersIn(next) || ok && strings.EqualFold(w.text, "gmrs") && next == "467" || ok && strings.EqualFold(w.text, "frs") && next == "467" {
			return one(b, w.text+" "+next, 2)
		}
		if m := number.FindStringSubmatch(w.text); m != nil && m[2] == "" && (strings.EqualFold(next, "m") || strings.EqualFold(next, "cm")) {
			if b, ok := bands.Find(w.text+next, p.region); ok {
				return one(b, w.text+" "+next, 2)
			}
			if known(w.text + next) {
				return nil, nil, 0, p.unknown(w.text + next)
			}
		}
		for _, pair := range [][2]string{{w.text, next}, {next, w.text}} {
			if b, ok := bands.Find(pair[0], p.region); ok && (b.Service == bands.Marine || b.Service == bands.Personal) && (strings.EqualFold(pair[1], "vhf") || strings.EqualFold(pair[1], "uhf")) {
				return one(b, w.text+" "+next, 2)
			}
		}
	}
	if (p.comma || p.at == 0) && p.parent != "" {
		if b, ok := bands.Find(p.parent+" "+w.text, p.region); ok && !strings.HasSuffix(strings.ToLower(w.text), "w") {
			return one(b, w.text, 1)
		}
	}
	for part := range strings.SplitSeq(w.text, "/") {
		found := p.named(part)
		if len(found) == 0 {
			return p.frequency()
		}
		for _, b := range found {
			all, names = append(all, b), append(names, part)
		}
	}
	return all, names, 1, nil
}

// named are the bands of a name in any writing.
func (p *lineParser) named(name string) []bands.Band {
	if strings.EqualFold(name, "hf") {
		var out []bands.Band
		for _, n := range bands.Names() {
			if b, ok := bands.Find(n, p.region); ok && b.Service == bands.Amateur && b.ToHz < 30e6 {
				out = append(out, b)
			}
		}
		return out
	}
	if b, ok := bands.Find(name, p.region); ok && !b.IsPlace() && !number.MatchString(name) || ok && !b.IsPlace() && strings.HasSuffix(strings.ToLower(name), "m") {
		return []bands.Band{b}
	}
	return nil
}

// frequency reads a frequency or a stretch of them: with its unit, or a number that can be no
// power and has one behind it.
func (p *lineParser) frequency() ([]bands.Band, []string, int, error) {
	w := p.words[p.at]
	power := func(at int) bool {
		if at >= len(p.words) {
			return false
		}
		t := p.words[at].text
		if f, ok := figureIn(t); ok {
			return f.isPower()
		}
		return strings.Contains(t, "/") && powersIn(t)
	}
	if m := span2.FindStringSubmatch(w.text); m != nil {
		unit := strings.ToLower(m[3])
		low, _ := units.ParseNumber(m[1])
		high, _ := units.ParseNumber(m[2])
		s := p.now()
		bare := unit == "" && power(p.at+1) && !w.comma && low >= 30
		switch {
		case frequencyUnits[unit] == 0 && !bare:
			return nil, nil, 0, nil // a knob, or refused
		case len(s.bands) > 0 && len(s.groups) == 0 && bare:
			return nil, nil, 0, refuse(w.text, "%s behind %s may be its frequencies or a power set by a knob: type MHz or W behind it", w.text, s.names[0])
		case high <= low:
			return nil, nil, 0, refuse(w.text, "%s is upside down", w.text)
		}
		b := bands.Stretch(hertz(low, unit), hertz(high, unit))
		return []bands.Band{b}, []string{w.text}, 1, nil
	}
	f, ok := figureIn(w.text)
	if !ok || f.spoilt != nil || !noPower(f) && !(frequencyUnits[f.unit] > 0) {
		return nil, nil, 0, nil
	}
	if f.unit == "" { // a bare number: only with a power behind it, or alone
		s := p.now()
		switch {
		case len(p.words) == 1 && len(bands.At(hertz(f.value, ""), p.region)) == 0:
		case !power(p.at+1) || w.comma:
			return nil, nil, 0, nil
		case len(s.bands) > 0 && len(s.groups) == 0:
			return nil, nil, 0, refuse(w.text, "%s may be a frequency in MHz or a power in W: type its unit", w.text)
		}
	}
	hz := hertz(f.value, f.unit)
	if !(hz >= 1e3 && hz <= 1e12) {
		return nil, nil, 0, refuse(f.text, "%s is no radio frequency", f.text)
	}
	return []bands.Band{bands.Place(hz)}, []string{f.text}, 1, nil
}

func regionOf(r bands.Region) int {
	if r == 0 {
		return int(bands.Region2)
	}
	return int(r)
}

// known tells whether the word is a band anywhere.
func known(w string) bool {
	for _, r := range []bands.Region{bands.Region1, bands.Region2, bands.Region3} {
		if b, ok := bands.Find(w, r); ok && !b.IsPlace() {
			return true
		}
	}
	return false
}
