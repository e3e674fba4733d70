package kit

import (
	"cmp"
	"fmt"
	"strings"
	"time"

	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/touchstone"
	"talloak/core/units"
)

// Check says all that is wrong with an item, by its fields ("element.to_hz").
func (s *Spec) Check() error {
	var bad problem.List
	kind := s.KindOf()
	if !kind.Known() {
		bad.Add("kind", "give one of %s", joinKinds())
		return bad.Err()
	}
	own := s.Element
	own.Kind = cmp.Or(kind.PathKind(), path.Load)
	bad.AddErr("element", own.CheckOwn())
	switch as := kind.PathKind(); {
	case as != "":
		s.checkOnPath(&bad, as)
	case kind == Supply:
		s.checkSupply(&bad)
	default:
		e := s.Element
		e.Kind = path.Load // its range and SWR file are held to the same rules
		_, err := path.Prepare(e)
		bad.AddErr("element", err)
	}
	if s.Meter != nil {
		m := *s.Meter
		if len(s.ScalesW) > 0 {
			m.ScaleW = &s.ScalesW[0]
		}
		bad.AddErr("meter", m.Check())
	}
	for i, w := range s.ScalesW {
		if !(w > 0) {
			bad.Add(fmt.Sprintf("scales_w[%d]", i), "give the end of the scale in W, above 0")
		}
	}
	if len(s.DivisionsW) > len(s.ScalesW) {
		bad.Add("divisions_w", "give a division for each scale, no more")
	}
	for i, d := range s.DivisionsW {
		if d < 0 {
			bad.Add(fmt.Sprintf("divisions_w[%d]", i), "give the needle's division on that scale in W, above 0")
		}
	}
	if s.AccuracyDB < 0 {
		bad.Add("accuracy_db", "give 0 dB or more")
	}
	if s.AccuracyK != nil && !(*s.AccuracyK > 0) {
		bad.Add("accuracy_k", "give the k of the certificate, above 0; it is usually 2")
	}
	if l := s.Levels; l != nil && l.ToDBm <= l.FromDBm {
		bad.Add("levels.to_dbm", "must be above from_dbm")
	}
	if s.CheckedOn != "" {
		if _, err := time.Parse(time.DateOnly, s.CheckedOn); err != nil {
			bad.Add("checked_on", "give the day as 2026-11-25")
		}
	}
	s.checkBounds(&bad) // what was refused already keeps its own words
	return bad.Err()
}

// checkOnPath prepares the item as it lies on a path, at each of its settings.
func (s *Spec) checkOnPath(bad *problem.List, as path.Kind) {
	switchable := s.KindOf() == SwitchedAttenuator
	if switchable && len(s.Positions) == 0 {
		bad.Add("positions", "give its positions, each with a name and its dB")
	}
	seen := map[string]bool{}
	for i, p := range s.Positions {
		field := fmt.Sprintf("positions[%d]", i)
		if strings.TrimSpace(p.Name) == "" {
			bad.Add(field+".name", "give the position a name, such as 20 dB")
		}
		if seen[p.Name] {
			bad.Add(field+".name", "two positions have the name %q", p.Name)
		}
		seen[p.Name] = true
		if p.Unknown && (p.DB != nil || p.Loss != nil || as != path.Tap) || !p.Unknown && (p.DB == nil) == (p.Loss == nil) {
			bad.Add(field+".db", "give its dB, flat or over frequency; only a sampler's knob may be unknown")
			continue
		}
		e := s.Element
		e.Kind = as
		p.apply(&e)
		_, err := path.Prepare(e)
		s.addBelow(bad, err, field)
		checkPassive(bad, field+".loss", p.Loss)
	}
	if len(s.Positions) > 0 || switchable {
		return
	}
	e := s.Element
	e.Kind = as
	_, err := path.Prepare(e)
	bad.AddErr("element", err)
	checkPassive(bad, "element.loss", e.Loss)
}

// noiseDB is how far a network analyzer may show a short part to amplify (common
// practice, no source).
const noiseDB = 0.5

// checkPassive refuses a file that amplifies: no kind of kit does, and a level
// taken for lower than it is kills an instrument.
func checkPassive(bad *problem.List, field string, loss *path.Loss) {
	if loss == nil || loss.Touchstone == nil {
		return
	}
	n, err := touchstone.Parse(*loss.Touchstone, 0)
	if err != nil || n.Ports != 2 {
		return // Prepare says it
	}
	for i, f := range n.Frequency {
		if loss, _ := n.LossDB(i); loss < -noiseDB {
			bad.Add(field+".touchstone", "the file amplifies at %s by %.2f dB, which no such part does: is it the file meant?", f, -float64(loss))
			return
		}
	}
}

// addBelow puts what is wrong with the loss at its position, and the rest at the element.
func (s *Spec) addBelow(bad *problem.List, err error, position string) {
	var l problem.List
	l.AddErr("", err)
	for _, f := range l.Fields() {
		switch {
		case f.Field == "coupling_db" || f.Field == "loss.flat_db":
			bad.Add(position+".db", "%s", f.Detail)
		case strings.HasPrefix(f.Field, "loss"):
			bad.Add(position+"."+f.Field, "%s", f.Detail)
		default:
			bad.Add("element."+f.Field, "%s", f.Detail)
		}
	}
}

func (s *Spec) checkSupply(bad *problem.List) {
	v := s.Supply
	switch {
	case v == nil:
		bad.Add("supply", "give what it supplies, in V")
		return
	case v.FromV < 0:
		bad.Add("supply.from_v", "give 0 V or more")
	case v.ToV < v.FromV || v.ToV <= 0:
		bad.Add("supply.to_v", "give the highest voltage in V, not below the lowest")
	}
	if v.LimitA != nil && !(*v.LimitA > 0) {
		bad.Add("supply.limit_a", "give the current limit in A, above 0")
	}
	if v.LeadOhm != nil && *v.LeadOhm < 0 {
		bad.Add("supply.lead_ohm", "give the resistance of both leads in ohm, 0 or more")
	}
}

// CheckCarrier refuses a file on the item whose band misses a carrier it is
// meant for: there would be no figure.
func (s *Spec) CheckCarrier(f units.Hertz) error {
	if s.Element.Loss == nil || s.Element.Loss.Touchstone == nil || s.KindOf().PathKind() == "" {
		return nil
	}
	e := s.Element
	e.Kind = s.KindOf().PathKind()
	part, err := path.Prepare(e)
	if err != nil {
		return nil // Check says it
	}
	if band := part.Known(); f < band.Lo || f > band.Hi {
		return problem.New("element.loss.touchstone", "the file covers %s to %s, and the carrier %s is not in it: measure it again over the carrier, or set the carrier to one it covers", band.Lo, band.Hi, f)
	}
	return nil
}

func joinKinds() string {
	var names []string
	for _, k := range Kinds() {
		names = append(names, string(k))
	}
	return strings.Join(names, ", ")
}
