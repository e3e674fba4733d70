package sensitivity

import (
	"fmt"
	"strings"

	"talloak/core/bands"
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

// ReadClaim implements measure.ClaimReader.
func (kind) ReadClaim(text string, region bands.Region) (said string, is bool, err error) {
	c, is, err := readClaim(text, region)
	if !is || err != nil {
		return "", is, err
	}
	return fmt.Sprintf("sensitivity %g %s for 12 dB SINAD, %s", c.level.Value, c.level.Unit, c.width), true, nil
}

// claim is what is claimed of a band at a width; the last one typed counts.
func (d *Room) claim(k record.Keyed, width string) (level units.Quantity, ok bool) {
	for _, l := range d.review.Lines {
		if c, is, err := readClaim(l.Text, d.review.Subject.Region); is && err == nil && c.band == k.Band && c.width == width {
			level, ok = c.level, true
		}
	}
	return level, ok
}
