package decision

import (
	"fmt"
	"strings"
)

// Part is the verdict on one band and level, and whether all that a full
// examination asks for was looked at.
type Part struct {
	Verdict Verdict
	Full    bool
}

// Whole is what several bands and levels come to together. Words count them:
// "2 of 6 pass, 3 not examined, 1 has no limit".
type Whole struct {
	Verdict Verdict `json:"verdict"`
	Words   string  `json:"words"`
	Of      int     `json:"of"`
	Pass    int     `json:"pass"`
	Fail    int     `json:"fail"`
}

// Sum is the whole of the parts: it fails if any does, is too close to call if any
// is, and passes only if every one that has something to be held against was
// examined in full and passes. Less is only so far. Missing tells that there are
// more parts than could be read.
func Sum(parts []Part, missing bool) Whole {
	count := map[Verdict]int{}
	partly := 0
	for _, p := range parts {
		if p.Verdict == SoFar {
			p = Part{Pass, false}
		}
		count[p.Verdict]++
		if p.Verdict == Pass && !p.Full {
			partly++
		}
	}
	out := Whole{Of: len(parts), Pass: count[Pass], Fail: count[Fail], Words: words(count, partly, len(parts))}
	open := partly + count[NotCovered] + count[NotExamined] + count[Void]
	switch {
	case count[Fail] > 0:
		out.Verdict = Fail
	case count[Inconclusive] > 0:
		out.Verdict = Inconclusive
	case count[Pass] > 0 && open == 0 && !missing:
		out.Verdict = Pass
	case count[Pass] > 0:
		out.Verdict = SoFar
	default:
		out.Verdict = NotExamined
		for _, v := range []Verdict{NoClaim, NotGoverned, NoLimit, NotExamined, NotCovered, Void} { // the last there is
			if count[v] > 0 {
				out.Verdict = v
			}
		}
	}
	return out
}

func words(count map[Verdict]int, partly, of int) string {
	out := []string{fmt.Sprintf("%d of %d pass%s", count[Pass], of, map[bool]string{true: "es"}[count[Pass] == 1])}
	if partly > 0 {
		out = append(out, fmt.Sprintf("%d of them not examined in full", partly))
	}
	for _, w := range []struct {
		v         Verdict
		one, many string
	}{
		{Fail, "fails", "fail"}, {Inconclusive, "too close to call", "too close to call"}, {Void, "void", "void"},
		{NotCovered, "not covered", "not covered"}, {NotExamined, "not examined", "not examined"},
		{NoLimit, "has no limit", "have no limit"}, {NotGoverned, "not governed by the book", "not governed by the book"}, {NoClaim, "has no claim", "have no claim"},
	} {
		switch n := count[w.v]; {
		case n == 1:
			out = append(out, "1 "+w.one)
		case n > 1:
			out = append(out, fmt.Sprintf("%d %s", n, w.many))
		}
	}
	return strings.Join(out, ", ")
}
