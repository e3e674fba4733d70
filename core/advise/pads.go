package advise

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/rulebook"
	"talloak/core/say"
	"talloak/core/units"
)

// Candidate is an owned item at one of its settings, ready to be put on a path.
// Item tells two settings of one item from two items.
type Candidate struct {
	Item    string
	Setting string
	Name    string
	Part    path.Part
	Meter   *reading.Meter // of one that reads power, on the scale of the setting
}

// Question is what pads are asked for: the highest power that can be keyed, the
// parts in front of and behind the pads, the last an analyzer, and the limits to
// see under at the carrier's Multiples.
type Question struct {
	Stress  path.Stress // its frequencies are not used
	Carrier units.Hertz
	Limits  *rulebook.Limits
	Before  []path.Part
	Pads    []Candidate
	Behind  []path.Part
	Most    int // pads in a row; 0 is 3, or 2 where that is too many to try
}

// Choice is pads in order with what they leave at both ends. Margins are in dB
// and nil where there is no such figure: HeadroomDB to what the analyzer's input
// survives, TightestDB to the nearest rating before it, SpareDB from the lowest
// emission still visible up to the limit, at SpareAt times the carrier;
// SelfMadeDB from the harmonics the analyzer makes itself up to the limit. Reach
// is the highest multiple with a limit that the analyzer sees. Fits tells that
// nothing is wanting; Wanting says what is. What is not known is never fine: without
// a rating nothing is safe, without a floor nothing fits.
type Choice struct {
	Pads       []int    `json:"pads"`
	Names      []string `json:"names"`
	TotalDB    *float64 `json:"total_db"`
	HeadroomDB *float64 `json:"headroom_db"`
	TightestDB *float64 `json:"tightest_db"`
	SpareDB    *float64 `json:"spare_db"`
	SpareAt    int      `json:"spare_at"`
	SelfMadeDB *float64 `json:"self_made_db"`
	Reach      int      `json:"reach"`
	Safe       bool     `json:"safe"`
	Fits       bool     `json:"fits"`
	Wanting    []string `json:"wanting"`
	room       float64
}

// Room is the room before anything is damaged, in dB: the least of the headroom and the
// nearest rating; nil where neither is known.
func (c *Choice) Room() *float64 {
	if c.HeadroomDB == nil || c.TightestDB != nil && *c.TightestDB < *c.HeadroomDB {
		return c.TightestDB
	}
	return c.HeadroomDB
}

// Short tells that there is less room than is asked for.
func (c *Choice) Short() bool { return c.Room() != nil && *c.Room() < wantHeadroom }

// Asked says what is asked of a choice.
func Asked() string {
	return fmt.Sprintf("%d dB of room and own harmonics %d dB under the limit are asked for.", wantHeadroom, wantSelfMade)
}

// Multiples is how many multiples of the carrier are looked at, the carrier among them.
const Multiples = 10

// The room a choice should leave, in dB: to damage, as the staircase cautions;
// and of self-made products under the limit, so that a real one near the limit is
// not suspect (both common practice, no source).
const (
	wantHeadroom = 3
	wantSelfMade = 6
)

// mostRows is how many rows of pads are tried at most: about a second's work.
const mostRows = 60_000

// rows is how many rows of up to most out of n things there are, counted no
// further than past mostRows.
func rows(n, most int) int {
	all, row := 1, 1
	for i := 0; i < most && all <= mostRows; i++ {
		row *= max(0, n-i)
		all += row
	}
	return all
}

// runnersUp is how many choices are given beside the best.
const runnersUp = 5

// Pads orders the choices of up to Most pads, the best first: those with nothing
// wanting, by the least room at any end, then with the fewest pads. Of one set of
// items only the best order and settings are given. Unsafe ones are left out unless nothing is
// safe. Errors are *problem.Error.
func Pads(q Question) ([]Choice, error) {
	var bad problem.List
	if n := len(q.Behind); n == 0 || q.Behind[n-1].Kind() != path.Analyzer {
		bad.Add("analyzer", "give the analyzer the pads are for")
	}
	stress := q.Stress
	stress.Frequencies = []units.Hertz{q.Carrier}
	bad.AddErr("", stress.Check())
	most := q.Most
	switch {
	case most == 0:
		most = 3
		if rows(len(q.Pads), most) > mostRows {
			most = 2
		}
	case most < 0 || most > 4:
		bad.Add("most_pads", "give 1 to 4")
	}
	if rows(len(q.Pads), min(most, 4)) > mostRows {
		bad.Add("pads", "%d pads and settings, %d in a row, are more rows than can be tried; give fewer of either", len(q.Pads), most)
	}
	if err := bad.Err(); err != nil {
		return nil, err
	}
	best := map[string]Choice{}
	var row []int
	var try func() error
	try = func() error {
		c, err := q.weigh(row)
		if err != nil {
			return err
		}
		if old, ok := best[setKey(row)]; !ok || better(c, old) < 0 {
			best[setKey(row)] = c
		}
		if len(row) == most {
			return nil
		}
		for i, cand := range q.Pads {
			if slices.ContainsFunc(row, func(k int) bool { return q.Pads[k].Item == cand.Item }) {
				continue
			}
			row = append(row, i)
			if err := try(); err != nil {
				return err
			}
			row = row[:len(row)-1]
		}
		return nil
	}
	if err := try(); err != nil {
		return nil, err
	}
	return q.rank(best), nil
}

func (q *Question) rank(best map[string]Choice) []Choice {
	out := make([]Choice, 0, len(best))
	anySafe := false
	for _, c := range best {
		out = append(out, c)
		anySafe = anySafe || c.Safe
	}
	if anySafe {
		out = slices.DeleteFunc(out, func(c Choice) bool { return !c.Safe })
	}
	slices.SortFunc(out, better)
	return q.distinct(out)
}

// distinct keeps, best first, what is another way of doing it: not the same items
// at other settings, nor a better choice with hardly anything put to it.
func (q *Question) distinct(sorted []Choice) []Choice {
	var out []Choice
	for _, c := range sorted {
		if len(out) > runnersUp {
			break
		}
		if !slices.ContainsFunc(out, func(kept Choice) bool {
			return q.contains(c, kept) && (len(c.Pads) == len(kept.Pads) || alike(c, kept))
		}) {
			out = append(out, c)
		}
	}
	return out
}

// contains tells whether a has every item of b.
func (q *Question) contains(a, b Choice) bool {
	for _, i := range b.Pads {
		if !slices.ContainsFunc(a.Pads, func(k int) bool { return q.Pads[k].Item == q.Pads[i].Item }) {
			return false
		}
	}
	return true
}

// alike tells whether two choices take the same to within what makes no difference.
func alike(a, b Choice) bool {
	return a.TotalDB != nil && b.TotalDB != nil && math.Abs(*a.TotalDB-*b.TotalDB) < 3
}

// setKey is the same for the same pads in any order.
func setKey(row []int) string {
	sorted := slices.Clone(row)
	slices.Sort(sorted)
	return fmt.Sprint(sorted)
}

func better(a, b Choice) int {
	order := func(c Choice) int {
		switch {
		case c.Fits:
			return 0
		case c.Safe:
			return 1
		}
		return 2
	}
	return cmp.Or(cmp.Compare(order(a), order(b)), cmp.Compare(b.Reach, a.Reach), -cmp.Compare(a.room, b.room), cmp.Compare(len(a.Pads), len(b.Pads)), slices.Compare(a.Pads, b.Pads))
}

// weigh works out one row of pads.
func (q *Question) weigh(row []int) (Choice, error) {
	parts := slices.Clone(q.Before)
	out := Choice{Pads: slices.Clone(row), Names: []string{}, Wanting: []string{}, room: math.Inf(1)}
	if out.Pads == nil {
		out.Pads = []int{}
	}
	for _, i := range row {
		parts = append(parts, q.Pads[i].Part)
		out.Names = append(out.Names, q.Pads[i].Name)
	}
	p, err := path.Assemble(append(parts, q.Behind...))
	if err != nil {
		return out, err
	}
	stress := q.Stress
	stress.Frequencies, stress.Strict = []units.Hertz{q.Carrier}, true
	at, err := p.Analyze(stress)
	if err != nil {
		return out, err
	}
	out.Safe, out.TotalDB, out.HeadroomDB, out.TightestDB = at.Safe, at.TotalLossDB[0], at.HeadroomDB, at.TightestDB
	for _, f := range at.Problems {
		if f.Severity == say.Danger || f.Code == say.NoRatingCode {
			out.want("%s", f.Detail)
			out.Safe = false
		}
	}
	out.hold(out.HeadroomDB, wantHeadroom, "only %s to what the input survives; %d dB are wanted")
	out.hold(out.TightestDB, wantHeadroom, "only %s to the nearest rating; %d dB are wanted")
	q.see(&out, p)
	q.selfMade(&out, p)
	if out.TotalDB == nil {
		out.want("a part has no loss at %s", q.Carrier)
	}
	out.Fits = len(out.Wanting) == 0
	return out, nil
}

func (c *Choice) want(format string, args ...any) {
	c.Wanting = append(c.Wanting, fmt.Sprintf(format, args...))
}

// hold compares a margin with what is wanted of it and keeps the least room.
func (c *Choice) hold(margin *float64, wanted int, words string) {
	if margin == nil {
		return
	}
	c.room = min(c.room, *margin-float64(wanted))
	if *margin < float64(wanted) && (*margin >= 0 || c.Safe) {
		c.want(words, units.DB(*margin).Signed(), wanted)
	}
}

// see holds the lowest visible level under the limit at each multiple.
func (q *Question) see(c *Choice, p *path.Path) {
	unseen := 0
	for n := 2; n <= Multiples; n++ {
		f := units.Hertz(n) * q.Carrier
		limit := q.Limits.At(f)
		if limit.LimitDBm == nil {
			continue
		}
		lowest, ok := p.LowestVisible(f)
		if !ok {
			if unseen == 0 {
				unseen = n
			}
			continue
		}
		c.Reach = n
		level := float64(lowest)
		if spare := limit.Spare(&level); c.SpareDB == nil || *spare < *c.SpareDB {
			c.SpareDB, c.SpareAt = spare, n
		}
	}
	if unseen > 0 {
		c.want("at %d f, %s, it is not known what can be seen: the analyzer does not reach it, its noise floor is not noted, or a part has no loss there", unseen, units.Hertz(unseen)*q.Carrier)
	}
	if c.SpareDB == nil {
		return
	}
	c.room = min(c.room, *c.SpareDB)
	if *c.SpareDB < 0 {
		c.want("at %d f the noise hides the limit by %.1f dB", c.SpareAt, -*c.SpareDB)
	}
}

// selfMade holds the harmonics the analyzer makes itself under the limit.
func (q *Question) selfMade(c *Choice, p *path.Path) {
	for order := 2; order <= 3; order++ {
		limit := q.Limits.At(units.Hertz(order) * q.Carrier)
		level, ok := p.SelfMade(units.Watts(q.Stress.SourceW).DBm(), q.Carrier, order)
		if !ok || limit.LimitDBm == nil {
			continue
		}
		made := float64(level)
		if gap := limit.Spare(&made); c.SelfMadeDB == nil || *gap < *c.SelfMadeDB {
			c.SelfMadeDB = gap
		}
	}
	if c.SelfMadeDB == nil {
		return
	}
	c.room = min(c.room, *c.SelfMadeDB-wantSelfMade)
	if gap, side := *c.SelfMadeDB, "under"; gap < wantSelfMade {
		if gap < 0 {
			gap, side = -gap, "over"
		}
		c.want("the analyzer makes harmonics of its own %.1f dB %s the limit; %d dB under it are wanted", gap, side, wantSelfMade)
	}
}
