package sensitivity

import (
	"fmt"
	"slices"
	"strings"

	"talloak/core/bands"
	"talloak/core/claims"
	"talloak/core/measure"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/units"
)

// claimed is a claim of sensitivity: for 12 dB SINAD, on a band, narrow or wide.
type claimed struct {
	band, width string
	level       units.Quantity
}

// readClaim reads `2m sensitivity 0.25uV`, with narrow or wide behind it (narrow where
// neither is said) and 12 dB SINAD spelt out where somebody likes to. Is tells whether
// the line is one at all.
func readClaim(text string, region bands.Region) (c claimed, is bool, err error) {
	words := strings.Fields(text)
	if len(words) < 2 || !strings.EqualFold(words[1], "sensitivity") && !strings.EqualFold(words[1], "sens") {
		return c, false, nil
	}
	band, ok := bands.Find(words[0], region)
	if !ok {
		return c, true, problem.New("text", "%q is no band known here; known are %s", words[0], strings.Join(bands.Names(), ", "))
	}
	c.band, c.width = band.Name, "narrow"
	var level []string
	for _, word := range words[2:] {
		switch w := strings.ToLower(word); w {
		case "narrow", "wide":
			c.width = w
		case "12", "12db", "db", "sinad", "for", "at":
		default:
			level = append(level, word)
		}
	}
	if len(level) == 0 {
		return c, true, problem.New("text", "give the level claimed, such as 2m sensitivity 0.25uV")
	}
	if c.level, err = units.ParseQuantity(strings.Join(level, "")); err != nil {
		return c, true, problem.New("text", "%q is not understood; type a level such as 0.25uV or -119dBm, and narrow or wide", strings.Join(level, " "))
	}
	if w, err := c.level.Power(); err != nil || !(w > 0) || units.CheckShown(c.level) != nil {
		return c, true, problem.New("text", "%q is no level", strings.Join(level, " "))
	}
	return c, true, nil
}

// claimSaid is a claim in words.
func claimSaid(text string, region bands.Region) (said string, is bool, err error) {
	c, is, err := readClaim(text, region)
	if !is || err != nil {
		return "", is, err
	}
	return fmt.Sprintf("sensitivity %g %s for 12 dB SINAD, %s", c.level.Value, c.level.Unit, c.width), true, nil
}

var widths = []string{"narrow", "wide"}

// asks are the claims of a band, one of each width.
func asks(r *measure.Review, c claims.Cell) []string {
	var out []string
	for _, width := range widths {
		if level, ok := claim(r, c.Band.Name, width); ok {
			out = append(out, fmt.Sprintf("sensitivity %g %s, %s", level.Value, level.Unit, width))
		}
	}
	return out
}

// missing are the widths of which a level is claimed and none was measured.
func missing(r *measure.Review, k record.Keyed, standing []Measured) []string {
	var out []string
	for _, width := range widths {
		if _, ok := claim(r, k.Band, width); ok && !slices.ContainsFunc(standing, func(m Measured) bool { return m.By == BySINAD && m.Width == width }) {
			out = append(out, "12 dB SINAD, "+width)
		}
	}
	return out
}

// claim is what is claimed of a band at a width; the last one typed counts.
func claim(r *measure.Review, band, width string) (level units.Quantity, ok bool) {
	for _, l := range r.Lines {
		if c, is, err := readClaim(l.Text, r.Subject.Region); is && err == nil && c.band == band && c.width == width {
			level, ok = c.level, true
		}
	}
	return level, ok
}
