package decision

import "testing"

// TestSum: passes only when all that has something to be held against was examined in
// full and passes; less is so far, and the words count what is missing.
func TestSum(t *testing.T) {
	full, partly := Part{Pass, true}, Part{Pass, false}
	of := func(v Verdict) Part { return Part{v, true} }
	for _, c := range []struct {
		parts   []Part
		missing bool
		want    Verdict
		words   string
	}{
		{[]Part{full, full}, false, Pass, "2 of 2 pass"},
		{[]Part{full, of(NoLimit)}, false, Pass, "1 of 2 passes, 1 has no limit"},
		{[]Part{full, of(NoClaim), of(NotGoverned)}, false, Pass, "1 of 3 passes, 1 not governed by the book, 1 has no claim"},
		{[]Part{full, full}, true, SoFar, "2 of 2 pass"},
		{[]Part{full, partly}, false, SoFar, "2 of 2 pass, 1 of them not examined in full"},
		{[]Part{full, full, of(NotExamined), of(NotExamined), of(NotExamined), of(NoLimit)}, false, SoFar, "2 of 6 pass, 3 not examined, 1 has no limit"},
		{[]Part{full, of(SoFar)}, false, SoFar, "2 of 2 pass, 1 of them not examined in full"},
		{[]Part{full, of(Void)}, false, SoFar, "1 of 2 passes, 1 void"},
		{[]Part{full, of(NotCovered)}, false, SoFar, "1 of 2 passes, 1 not covered"},
		{[]Part{full, of(Inconclusive)}, false, Inconclusive, "1 of 2 passes, 1 too close to call"},
		{[]Part{of(Fail), of(Fail), of(Inconclusive), full}, false, Fail, "1 of 4 passes, 2 fail, 1 too close to call"},
		{[]Part{of(NoLimit), of(NotExamined)}, false, NotExamined, "0 of 2 pass, 1 not examined, 1 has no limit"},
		{[]Part{of(NoLimit)}, false, NoLimit, "0 of 1 pass, 1 has no limit"},
		{nil, false, NotExamined, "0 of 0 pass"},
	} {
		if got := Sum(c.parts, c.missing); got.Verdict != c.want || got.Words != c.words {
			t.Errorf("%v: %s, %q; want %s, %q", c.parts, got.Verdict, got.Words, c.want, c.words)
		}
	}
}
