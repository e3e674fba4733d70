package claims

import (
	"slices"
	"strings"

	"talloak/core/units"
)

// powersIn tells whether a word is powers: 25/10/5, 5W/2W, ?/?, 5/-/1.
func powersIn(w string) bool {
	for part := range strings.SplitSeq(w, "/") {
		if part == noClaim || part == absent {
			continue
		}
		if f, ok := figureIn(part); !ok || !f.isPower() {
			return false
		}
	}
	return true
}

// series reads powers in one word, from the highest down; a unit may stand behind the last.
func (p *lineParser) series(w string) error {
	var figures []figure
	parts := strings.Split(w, "/")
	for _, part := range parts {
		switch part {
		case noClaim, absent:
			figures = append(figures, figure{text: part})
		default:
			f, _ := figureIn(part)
			figures = append(figures, f)
		}
	}
	// 250/100 mW: one unit for all of them, where the last alone has one and they fall by it.
	if last := figures[len(figures)-1]; last.unit != "" && last.unit != "w" && powerUnits[last.unit] > 0 && len(figures) > 1 {
		plain := !slices.ContainsFunc(figures[:len(figures)-1], func(f figure) bool { return f.unit != "" || f.text == noClaim || f.text == absent })
		if before := figures[len(figures)-2]; plain && before.value > last.value {
			return refuse(w, "%s may be %g %s or %g W: type the unit behind each", w, before.value, last.unit, before.value)
		}
	}
	return p.power(w, figures)
}

// power takes powers, all of them in one word.
func (p *lineParser) power(text string, figures []figure) error {
	s := p.now()
	if s.before {
		if !p.comma {
			return refuse(text, "%s may be of the band before it, which has its power already, or of the one behind: part them by a comma", text)
		}
		s = &segment{}
		p.segments = append(p.segments, s)
	}
	g, fresh := p.groupFor(s, len(figures))
	if fresh {
		g.text = figures[0].text
	}
	for _, f := range figures {
		w := 0.0
		if f.text != noClaim && f.text != absent {
			var err error
			if w, err = f.watts(); err != nil {
				return err
			}
			g.unit = g.unit || f.unit != ""
		}
		if p.name != "" {
			if len(figures) > 1 {
				return refuse(text, "%q is one level; give it one power", p.nameAt)
			}
			if slices.Contains(g.names, p.name) {
				return refuse(p.nameAt, "%s is said twice", p.nameAt)
			}
			g.addNamed(p.name, w)
			continue
		}
		for i := len(g.watts) - 1; i >= 0; i-- {
			if above := g.watts[i]; above > 0 {
				if w > above {
					return refuse(f.text, "%g W follows %g W; type the levels from the highest down", w, above)
				}
				break
			}
		}
		g.watts, g.absent = append(g.watts, w), append(g.absent, f.text == absent)
		if len(g.watts) > mostLevels {
			return refuse(text, "%d levels; without names of their own at most %d are known", len(g.watts), mostLevels)
		}
	}
	if fresh {
		g.mode, s.pending = s.pending, ""
		s.groups = append(s.groups, g)
		if err := p.settlePEP(g); err != nil {
			return err
		}
	}
	s.comma = p.comma && len(s.bands) > 0
	p.name = ""
	p.took(1, aPower)
	return nil
}

// groupFor is the group that a power goes on with, or a new one.
func (p *lineParser) groupFor(s *segment, n int) (g *group, fresh bool) {
	if len(s.groups) > 0 {
		last := s.groups[len(s.groups)-1]
		named := len(last.names) > 0
		if !last.adjustable && !p.pep && s.pending == "" && (p.name != "") == named && (named || p.last == aPower && n == 1) {
			return last, false
		}
	}
	return &group{}, true
}

// addNamed puts a named level among those before it, from the highest down.
func (g *group) addNamed(name string, w float64) {
	at := len(g.watts)
	for at > 0 && g.watts[at-1] < w && w > 0 {
		at--
	}
	g.names = slices.Insert(g.names, at, name)
	g.watts, g.absent = slices.Insert(g.watts, at, w), slices.Insert(g.absent, at, false)
}

// knob reads a power that is set between two ends.
func (p *lineParser) knob(w string) error {
	m := span2.FindStringSubmatch(w)
	unit := m[3]
	end := func(number string) (float64, error) {
		f, ok := figureIn(number + unit)
		if !ok || !f.isPower() {
			return 0, p.unknown(w)
		}
		return f.watts()
	}
	low, err := end(m[1])
	if err != nil {
		return err
	}
	high, err := end(m[2])
	if err != nil {
		return err
	}
	s := p.now()
	switch {
	case p.name != "":
		return p.unknown(p.nameAt)
	case high <= low:
		return refuse(w, "the range of a knob rises: type it as %s-%s", m[2], m[1])
	case len(s.bands) == 0 || s.before:
		return refuse(w, "%q may be a power set by a knob, or frequencies: type the band before it, or the unit behind it", w)
	}
	g := &group{names: []string{fullName, leastName}, watts: []float64{high, low}, absent: []bool{false, false}, mode: s.pending, adjustable: true, unit: unit != "", text: w}
	s.pending, s.groups = "", append(s.groups, g)
	if err := p.settlePEP(g); err != nil {
		return err
	}
	p.took(1, aPower)
	return nil
}

// noPower tells a number that can be no power of any radio here.
func noPower(f figure) bool {
	return f.unit == "" && f.value > 30 && strings.Contains(f.text, ".") && f.value != float64(int(f.value)) || frequencyUnits[f.unit] > 0
}

func hertz(value float64, unit string) units.Hertz {
	if worth := frequencyUnits[unit]; worth > 0 {
		return units.Hertz(value * worth)
	}
	return units.Hertz(value * 1e6)
}
