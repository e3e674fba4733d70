package claims

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"talloak/core/bands"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/units"
)

// Power is one claimed power: of a band, a level, a mode. PEP says that the
// peak envelope power is claimed; otherwise it is carrier or mean power. W is 0
// where the level is there but nothing is claimed for it.
type Power struct {
	Band  string        `json:"band"`
	Level string        `json:"level"`
	Mode  rulebook.Mode `json:"mode"`
	W     float64       `json:"w"`
	PEP   bool          `json:"pep"`
}

// levelNames are the levels of a radio that has so many of them.
var levelNames = map[int][]string{
	1: {"High"},
	2: {"High", "Low"},
	3: {"High", "Mid", "Low"},
	4: {"High", "Mid", "Low", "Lowest"},
}

// LevelName is what level i of n is called, the highest first, where nobody named it.
func LevelName(i, n int) string {
	if names := levelNames[n]; i < len(names) {
		return names[i]
	}
	return fmt.Sprintf("level %d", i+1)
}

var powerWord = regexp.MustCompile(`^[0-9.,/?]+[wW]?$`)

// noClaim stands for the power of a level that nothing is claimed for.
const noClaim = "?"

// group is one run of powers in a line: 25/10/5 with its mode.
type group struct {
	watts []float64
	mode  rulebook.Mode
	pep   bool
}

// ParseLine reads a claim as a person types it: a band, then powers from the
// highest level down in watts, with mode words before or behind and pep before:
// `2m 25/10/5`, `70cm 5/1`, `10m AM 12 pep 35 SSB`. Without a mode it is FM.
// Where nothing is claimed, `2m ?/?` names two levels and `2m` alone one.
// The error is a *problem.Error on the field "text".
func ParseLine(text string) ([]Power, error) {
	words := strings.Fields(text)
	if len(words) == 0 {
		return nil, problem.New("text", "type a band and its powers, such as 2m 25/10/5")
	}
	band, ok := bands.Find(words[0])
	if !ok {
		return nil, problem.New("text", "%q is no band known here; known are %s", words[0], strings.Join(bands.Names(), ", "))
	}
	groups, pending, err := readGroups(words[1:])
	if err != nil {
		return nil, problem.New("text", "%s", err.Error())
	}
	if len(groups) == 0 {
		groups = []group{{watts: []float64{0}, mode: pending}}
	}
	var out []Power
	for _, g := range groups {
		names := levelNames[len(g.watts)]
		if names == nil {
			return nil, problem.New("text", "%d levels; at most 4 are known", len(g.watts))
		}
		if g.mode == "" {
			g.mode = rulebook.FM
		}
		for i, w := range g.watts {
			if i > 0 && w > 0 && g.watts[i-1] > 0 && w >= g.watts[i-1] {
				return nil, problem.New("text", "%g W follows %g W; type the levels from the highest down", w, g.watts[i-1])
			}
			out = append(out, Power{band.Name, names[i], g.mode, w, g.pep})
		}
	}
	return out, nil
}

// readGroups gives the groups of powers, and a mode that no power belongs to.
func readGroups(words []string) (groups []group, pending rulebook.Mode, err error) {
	pep := false
	for _, word := range words {
		last := len(groups) - 1
		mode := rulebook.Mode(strings.ToUpper(word))
		switch {
		case strings.EqualFold(word, "pep"):
			pep = true
		case strings.EqualFold(word, "w"):
		case mode.Known() && pending == "" && last >= 0 && groups[last].mode == "":
			groups[last].mode = mode
		case mode.Known():
			pending = mode
		case powerWord.MatchString(word):
			watts, err := readPowers(strings.TrimRight(word, "wW"))
			if err != nil {
				return nil, "", err
			}
			groups = append(groups, group{watts, pending, pep})
			pending, pep = "", false
		default:
			return nil, "", fmt.Errorf("%q is not understood; powers, ? for none claimed, FM AM SSB CW DIGITAL and pep are", word)
		}
	}
	if pep {
		return nil, "", fmt.Errorf("pep needs a power behind it, such as pep 35")
	}
	return groups, pending, nil
}

func readPowers(word string) ([]float64, error) {
	var out []float64
	for part := range strings.SplitSeq(word, "/") {
		if part == noClaim {
			out = append(out, 0)
			continue
		}
		w, err := units.ParseNumber(part)
		if err != nil {
			return nil, err
		}
		if !(w > 0) || w > 1e5 {
			return nil, fmt.Errorf("%g W is no power to claim", w)
		}
		out = append(out, w)
	}
	return out, nil
}

// Cell is one box of a review's matrix: a band at a level, with its claim, or 0
// where there is none.
type Cell struct {
	Band    bands.Band    `json:"band"`
	Level   string        `json:"level"`
	Mode    rulebook.Mode `json:"mode"`
	Claimed float64       `json:"claimed_w"`
	PEP     bool          `json:"pep"`
}

// Matrix is the boxes of all claims: bands in the order claimed, levels from
// the highest down. A box claimed twice keeps the later claim.
func Matrix(claimed []Power) []Cell {
	var out []Cell
	for _, p := range claimed {
		band, _ := bands.Find(p.Band)
		cell := Cell{band, p.Level, p.Mode, p.W, p.PEP}
		i := slices.IndexFunc(out, func(c Cell) bool {
			return c.Band.Name == band.Name && c.Level == p.Level && c.Mode == p.Mode
		})
		if i >= 0 {
			out[i] = cell
		} else {
			out = append(out, cell)
		}
	}
	return out
}
