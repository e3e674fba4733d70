package line

import (
	"regexp"
	"slices"
	"strings"

	"talloak/core/kit"
)

// Owned is an item that can lie on a path.
type Owned struct {
	ID   string
	Name string
	Spec kit.Spec
}

// Part is an owned item on a path at a setting.
type Part struct {
	KitID   string `json:"kit_id"`
	Setting string `json:"setting"`
}

// Way is a path as it was typed: its parts from the radio on, each named as it stands there.
type Way struct {
	Name  string   `json:"name"`
	Parts []Part   `json:"parts"`
	Says  []string `json:"says"`
}

// between parts stands a comma that is no decimal mark, or an arrow.
var parting = regexp.MustCompile(`,(?:\s+|$|([^\d\s]))|\s*(?:→|>)\s*`)

// IsPath tells whether a line is one of parts, not of one thing.
func IsPath(text string) bool { return parting.MatchString(text) }

// Path reads a path: the parts in the order that the signal passes them, from the radio to a load, a
// meter or an analyzer, each by words of its name, its kind, its setting or its dB: `jumper, pad 40,
// analyzer`. What goes by the words of several things is refused with their names, unless they are
// alike; a thing lies on a path once. In front of a colon stands a name of its own. The error is a
// *problem.Error on the field "text".
func Path(text string, owned []Owned) (*Way, error) {
	way := &Way{Parts: []Part{}, Says: []string{}}
	if name, rest, ok := strings.Cut(text, ":"); ok {
		way.Name, text = strings.TrimSpace(name), rest
	}
	text = parting.ReplaceAllString(text, "\n$1")
	var names []string
	for one := range strings.SplitSeq(text, "\n") {
		one = strings.TrimSpace(one)
		if one == "" {
			continue
		}
		part, as, err := find(one, owned, way.Parts)
		if err != nil {
			return nil, err
		}
		way.Parts, way.Says, names = append(way.Parts, part), append(way.Says, as), append(names, one)
	}
	if len(way.Parts) == 0 {
		return nil, refuse("name the parts, with commas between them")
	}
	if way.Name == "" {
		way.Name = strings.Join(names, ", ")
	}
	return way, nil
}

// found is an item that goes by what was typed, and how well.
type found struct {
	Owned
	setting string
	fits    int
}

// find is the one thing that goes by some words, which does not lie on the path yet.
func find(words string, owned []Owned, before []Part) (Part, string, error) {
	var all []found
	used := ""
	for _, o := range owned {
		setting, fits := o.goesBy(strings.Fields(strings.ToLower(words)))
		if fits == 0 {
			continue
		}
		if slices.ContainsFunc(before, func(p Part) bool { return p.KitID == o.ID }) {
			used = o.Name
			continue
		}
		if strings.EqualFold(o.Name, words) {
			fits += 10
		}
		all = append(all, found{o, setting, fits})
	}
	slices.SortStableFunc(all, func(a, b found) int { return b.fits - a.fits })
	switch {
	case len(all) == 0 && used != "":
		return Part{}, "", refuse("“%s” lies on this path already: write down the second one of it too", used)
	case len(all) == 0:
		return Part{}, "", refuse("nothing on the bench goes by “%s”", words)
	}
	best := all[0]
	var also []string
	for _, o := range all[1:] {
		if o.fits == best.fits && !alike(o.Owned, best.Owned) {
			also = append(also, o.Name)
		}
	}
	if len(also) > 0 {
		return Part{}, "", refuse("“%s” could be %s or %s: say more of it", words, best.Name, strings.Join(also, ", "))
	}
	return Part{best.ID, best.setting}, kit.Title(best.Name, best.setting), nil
}

// alike tells whether it is all the same which of two is meant.
func alike(a, b Owned) bool {
	strip := func(o Owned) string { return strings.TrimRight(o.Name, " 0123456789") }
	return a.Spec.Kind == b.Spec.Kind && strip(a) == strip(b)
}

var tokens = regexp.MustCompile(`\d+(?:[.,]\d+)?|\p{L}+`)

// goesBy tells how well an item goes by some words, 0 for not at all, and the setting that they name;
// else the first.
func (o Owned) goesBy(words []string) (setting string, fits int) {
	setting = o.Spec.First()
	named := tokens.FindAllString(strings.ToLower(o.Name), -1)
	first := slices.IndexFunc(named, func(t string) bool { return t[0] <= '9' })
	fits = 1
	for _, w := range words {
		at := slices.IndexFunc(o.Spec.Settings(), func(s string) bool { return has(tokens.FindAllString(strings.ToLower(s), -1), w) })
		switch {
		case isCalled(o.Spec.Kind, w):
			fits += 2
		case at >= 0:
			setting = o.Spec.Settings()[at]
			fits++
		case first >= 0 && has(named[first:first+1], w): // a pad goes by its dB before its watts
			fits += 2
		case has(named, w):
			fits++
		default:
			return "", 0
		}
	}
	return setting, fits
}

// has tells whether a word stands among tokens: a number whole, letters from their beginning.
func has(all []string, word string) bool {
	parts := tokens.FindAllString(word, -1)
	for _, part := range parts {
		if !slices.ContainsFunc(all, func(t string) bool {
			return t == part || part[0] > '9' && strings.HasPrefix(t, part)
		}) {
			return false
		}
	}
	return len(parts) > 0
}
