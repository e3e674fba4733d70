package kit

// Instead names, for a field of a Spec, the others that say the same in another form: the
// newest counts, and the others go.
func Instead() map[string][]string {
	return map[string][]string{
		"element.cable":            {"element.points", "element.loss"},
		"element.points":           {"element.cable", "element.loss"},
		"element.loss":             {"element.cable", "element.points", "element.coupling_db", "element.coupling_unknown"},
		"element.coupling_db":      {"element.loss", "element.coupling_unknown"},
		"element.coupling_unknown": {"element.coupling_db", "element.loss"},
	}
}
