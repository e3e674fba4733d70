package keying

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"

	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/diagnose"
	"talloak/core/measure"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// Unplanned reads a step that is on no sheet: a frequency in MHz, or a channel by its name,
// with the level and mode where they are not those of now: `144.1 h`, `450.2 low AM`, `ch 7`. What
// lies in no band of the review is kept at its own frequency, in the band nearest to it. It refuses
// what is kept for emergencies. Errors are on "text".
func Unplanned(r *measure.Review, text string, now record.Keyed) (record.Keyed, error) {
	out := now
	words := strings.Fields(text)
	if len(words) == 0 {
		return out, problem.New("text", "give the frequency in MHz, and the level: n 144.1 h")
	}
	f, words, err := where(r, words, now)
	if err != nil {
		return out, err
	}
	if name, is := bands.Reserved(f); is {
		return out, problem.New("text", "%s: nobody tests there, not even into a load that may leak", name)
	}
	level := ""
	for _, w := range words {
		if mode := rulebook.Mode(strings.ToUpper(w)); mode.Known() {
			out.Mode = mode
		} else if level == "" {
			level = w
		} else {
			return out, problem.New("text", "%q is not understood; a frequency, a level and a mode are", w)
		}
	}
	in := slices.Clone(r.Cells)
	in = slices.DeleteFunc(in, func(c claims.Cell) bool { return c.Mode != out.Mode })
	if len(in) == 0 {
		return out, problem.New("text", "the review has no level in %s", out.Mode)
	}
	inside := slices.DeleteFunc(slices.Clone(in), func(c claims.Cell) bool { return !c.Band.Contains(f) })
	if len(inside) == 0 {
		if with := slices.DeleteFunc(slices.Clone(in), func(c claims.Cell) bool { return level != "" && !diagnose.SameLevel(c.Level, level) }); len(with) > 0 {
			in = with
		}
		inside = nearest(in, f)
	}
	i := slices.IndexFunc(inside, func(c claims.Cell) bool {
		return level != "" && diagnose.SameLevel(c.Level, level) || level == "" && c.Level == now.Level
	})
	switch {
	case i < 0 && level != "":
		return out, problem.New("text", "there is no level %q there", level)
	case i < 0:
		i = 0
	}
	out.Band, out.Level, out.FrequencyHz = inside[i].Band.Name, inside[i].Level, float64(f)
	return out, nil
}

// nearest are the boxes of the band claimed that lies nearest to a frequency outside all of
// them, by the ratio of frequencies.
func nearest(in []claims.Cell, f units.Hertz) []claims.Cell {
	off := func(c claims.Cell) float64 {
		edge := min(c.Band.ToHz, max(c.Band.FromHz, f))
		return math.Abs(math.Log(float64(f / edge)))
	}
	best := slices.MinFunc(in, func(a, b claims.Cell) int { return cmp.Compare(off(a), off(b)) })
	return slices.DeleteFunc(in, func(c claims.Cell) bool { return c.Band.Name != best.Band.Name })
}

// where reads the frequency that the words begin with, in MHz or as `ch 7` of the band one
// is at, and gives the words behind it.
func where(r *measure.Review, words []string, now record.Keyed) (units.Hertz, []string, error) {
	if strings.EqualFold(words[0], "ch") {
		c := r.Cell(now)
		if c == nil || len(c.Band.Channels()) == 0 {
			return 0, nil, problem.New("text", "%s has no channels with names: type the frequency in MHz", now.Band)
		}
		name := strings.Join(words[1:min(2, len(words))], "")
		for _, channel := range c.Band.Channels() {
			if strings.EqualFold(channel.Name, name) {
				return channel.Hz, words[2:], nil
			}
		}
		return 0, nil, problem.New("text", "%s has no channel %q", now.Band, name)
	}
	mhz, err := strconv.ParseFloat(strings.TrimSuffix(strings.ToLower(strings.Replace(words[0], ",", ".", 1)), "mhz"), 64)
	if err != nil || !(mhz > 0) || mhz > 1e6 {
		return 0, nil, problem.New("text", "%q is no frequency in MHz; type it first, n 144.1 h, or a channel, n ch 7 h", words[0])
	}
	return units.Hertz(mhz * 1e6), words[1:], nil
}
