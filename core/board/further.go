package board

import (
	"fmt"
	"slices"
	"strings"

	"talloak/core/decision"
	"talloak/core/measure"
)

// further are the further tests of a headline that need no sentence of their own: it stays readable with
// ten of them. What fails, is too close to call or void has its own.
type further struct{ pass, soFar, alone []string }

// takes tells whether a kind is said among others.
func (f *further) takes(about measure.About, whole decision.Whole, boxes []measure.Named) bool {
	name := about.Said()
	switch whole.Verdict {
	case decision.Pass:
		f.pass = append(f.pass, name)
	case decision.SoFar:
		f.soFar = append(f.soFar, name)
	case decision.Fail, decision.Inconclusive, decision.Void:
		return false
	default:
		if !slices.ContainsFunc(boxes, func(b measure.Named) bool { return b.Verdict == decision.NoClaim }) {
			return false
		}
		f.alone = append(f.alone, name)
	}
	return true
}

func (f *further) sentences() []string {
	var out []string
	for _, s := range []struct {
		names []string
		says  string
	}{{f.pass, "As claimed: %s."}, {f.soFar, "As claimed so far: %s."}, {f.alone, "Measured, with no claim to be held against: %s."}} {
		if len(s.names) > 0 {
			out = append(out, fmt.Sprintf(s.says, Listed(s.names)))
		}
	}
	return out
}

// Listed is names in a sentence: a, b and c. There is at least one.
func Listed(names []string) string {
	last := len(names) - 1
	if last == 0 {
		return names[0]
	}
	return strings.Join(names[:last], ", ") + " and " + names[last]
}
