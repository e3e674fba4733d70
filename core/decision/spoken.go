package decision

// Spoken is how a verdict is said to a person.
func (v Verdict) Spoken() string {
	return map[Verdict]string{
		Pass: "passes", Fail: "fails", Inconclusive: "too close to call",
		NotCovered: "not covered", NoLimit: "no limit", Void: "void",
		SoFar: "passes so far", NotExamined: "not examined", NotGoverned: "not governed by this book", NoClaim: "nothing claimed",
	}[v]
}
