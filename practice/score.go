package practice

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"talloak/core/board"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/rulebook"
	"talloak/core/units"
	"talloak/instruments/simulated"
)

// What a ruling comes to beside the truth.
const (
	Right       = "right"
	WrongPass   = "wrong pass"
	WrongFail   = "wrong fail"
	TooCautious = "too cautious"
	Untried     = "not tried"
)

// Score is what an afternoon of practice came to.
type Score struct {
	Rulings []Ruled  `json:"rulings"`
	Faults  []Found  `json:"faults"`
	False   []string `json:"false_alarms" doc:"suspected, and not so"`
	Of      int      `json:"of" doc:"rulings that were tried, where there is something to rule"`
	Wrong   int      `json:"wrong" doc:"wrong passes and wrong fails"`
	Minutes float64  `json:"minutes"`
	KeyUps  int      `json:"key_ups"`
	KeyedS  float64  `json:"keyed_s"`

	Risked  []simulated.Event `json:"risked"`
	Teaches string            `json:"teaches"`
	EndedAt time.Time         `json:"ended_at"`
}

// Ruled is a ruling beside the truth.
type Ruled struct {
	Box     string           `json:"box"`
	Kind    string           `json:"kind"`
	Ruling  decision.Verdict `json:"ruling"`
	Truth   decision.Verdict `json:"truth"`
	Says    string           `json:"says" doc:"the truth in a figure"`
	Outcome string           `json:"outcome" enum:"right,wrong pass,wrong fail,too cautious,not tried"`
}

// Found is a fault beside what was made of it.
type Found struct {
	ID      string `json:"id"`
	Says    string `json:"says"`
	Sign    string `json:"sign"`
	Outcome string `json:"outcome" enum:"found,found and cured,cured,missed"`
}

// Afternoon is what is scored: the review with its board, what was suspected, and what happened.
type Afternoon struct {
	Review    *measure.Review
	Suspected []string
	BegunAt   time.Time
	KeyUps    int
	KeyedS    float64
	Events    []simulated.Event
}

// Score holds every ruling against the truth. A fault is found where it was suspected, and cured where
// nothing that it touches is ruled wrong.
func (s *Scenario) Score(a Afternoon) Score {
	out := Score{Rulings: []Ruled{}, Faults: []Found{}, False: []string{}, KeyUps: a.KeyUps, KeyedS: a.KeyedS, Risked: []simulated.Event{}, Teaches: s.Teaches, EndedAt: time.Now().UTC()}
	out.Minutes = math.Round(out.EndedAt.Sub(a.BegunAt).Minutes()*10) / 10
	b := board.Of(a.Review, false)
	outcomes := map[string]string{}
	for i := range b.Cells {
		c := &b.Cells[i]
		for _, t := range s.truths(a.Review, &c.Cell) {
			box := c.Box(t.Kind)
			if box == nil {
				continue
			}
			t.Box, t.Ruling = c.Name, box.Verdict
			t.Outcome = outcome(box, t.Truth, s.honest(c.Name+" "+t.Kind))
			outcomes[c.Name+" "+t.Kind] = t.Outcome
			out.Rulings = append(out.Rulings, t)
			wrong := t.Outcome == WrongPass || t.Outcome == WrongFail
			if wrong || t.Outcome != Untried && t.Truth != decision.NoLimit {
				out.Of++
			}
			if wrong {
				out.Wrong++
			}
		}
	}
	for _, f := range s.Faults {
		cured := len(f.Touches) > 0
		for _, box := range f.Touches {
			cured = cured && outcomes[box] == Right
		}
		if f.ID == "wrong-unit" {
			cured = strings.TrimSpace(a.Review.Subject.Serial) == s.Label
		}
		found := slices.Contains(a.Suspected, f.ID)
		says := map[[2]bool]string{{true, true}: "found and cured", {true, false}: "found", {false, true}: "cured", {false, false}: "missed"}[[2]bool{found, cured}]
		out.Faults = append(out.Faults, Found{f.ID, f.Says, f.Sign, says})
	}
	for _, id := range a.Suspected {
		if says := Suspicions[id]; says != "" && !slices.ContainsFunc(s.Faults, func(f Fault) bool { return f.ID == id }) {
			out.False = append(out.False, says)
		}
	}
	for _, e := range a.Events {
		if e.Harm {
			out.Risked = append(out.Risked, e)
		}
	}
	return out
}

// honest tells that a box cannot be known with what is on the bench: an open ruling is right there.
func (s *Scenario) honest(box string) bool {
	return slices.ContainsFunc(s.Faults, func(f Fault) bool { return f.Honest && slices.Contains(f.Touches, box) })
}

// outcome is what a ruling comes to beside the truth. A pass as far as one looked is one of what was
// seen: where it says so, it passes nothing that was not.
func outcome(b *measure.Box, truth decision.Verdict, honest bool) string {
	open := b.Verdict != decision.Pass && b.Verdict != decision.Fail
	switch {
	case truth == decision.NoLimit:
		if open {
			return Right
		}
		return map[decision.Verdict]string{decision.Pass: WrongPass, decision.Fail: WrongFail}[b.Verdict]
	case b.Taken == 0:
		return Untried
	case open && honest:
		return Right
	case open:
		return TooCautious
	case b.Verdict == truth:
		return Right
	case b.Verdict == decision.Pass:
		return WrongPass
	}
	return WrongFail
}

// truths are what is true of a band and level: its power against the claim, and its worst line against
// the limit, whether or not any instrument can show it.
func (s *Scenario) truths(r *measure.Review, c *claims.Cell) []Ruled {
	level, f, ok := s.levelOf(c)
	if !ok {
		return nil
	}
	out := []Ruled{}
	rules := r.Rules
	if got, err := claims.Compare(claims.Claim{ClaimedW: c.Claimed, MeasuredW: level.W, Scheme: claims.Scheme(rules.Scheme), ToleranceDB: rules.ToleranceDB, PassPercent: rules.PassPercent, Rule: decision.Simple}); err == nil {
		out = append(out, Ruled{Kind: "power", Truth: got.Verdict, Says: fmt.Sprintf("%s, %s of the claim", units.Watts(level.W), got.PercentWords())})
	}
	limits := r.BookOf(c.Band.Name).For(rulebook.Carrier{Frequency: f, MeanW: level.W, PEPW: level.W, Mode: c.Mode, State: rulebook.Operating})
	worst, says := math.Inf(1), "no limit"
	hold := func(at units.Hertz, dbc float64) {
		l := limits.At(at)
		if l.LimitDBm == nil {
			return
		}
		if margin := *l.LimitDBm - float64(units.Watts(level.W).DBm()) - dbc; margin < worst {
			worst, says = margin, fmt.Sprintf("worst at %s, %.1f dB %s the limit", at, math.Abs(margin), map[bool]string{true: "under", false: "over"}[margin >= 0])
		}
	}
	for i, dbc := range level.Harmonics {
		hold(f*units.Hertz(i+2), dbc)
	}
	for _, spur := range level.Spurs {
		hold(units.Hertz(spur.MHz*1e6), spur.DBc)
	}
	truth := decision.NoLimit
	if !math.IsInf(worst, 1) {
		truth = map[bool]decision.Verdict{true: decision.Pass, false: decision.Fail}[worst >= 0]
	}
	return append(out, Ruled{Kind: "emissions", Truth: truth, Says: says})
}

// levelOf is what the radio truly does in a band at a level.
func (s *Scenario) levelOf(c *claims.Cell) (Level, units.Hertz, bool) {
	for _, b := range s.Radio.Bands {
		if b.Band == c.Band.Name {
			l, ok := b.Levels[strings.ToUpper(c.Level)]
			return l, units.Hertz(b.TunedTo * 1e6), ok
		}
	}
	return Level{}, 0, false
}
