package board

import (
	"cmp"
	"slices"

	"talloak/core/measure"
)

// Stage is a place in the work on a review: the unit and its claims, a kind of
// measurement, the ruling, an edition. Done is how far it is, from 0 to 1.
type Stage struct {
	Name  string  `json:"name"`
	Title string  `json:"title"`
	Key   string  `json:"key"`
	Done  float64 `json:"done"`
	Kinds []Stage `json:"kinds,omitempty"` // of the further tests, in their order
}

// Stages are those of a review in the order of the work, with the number they have in
// the whole of it.
func Stages(r *measure.Review, editions int) []Stage {
	share := func(parts ...bool) float64 {
		n := 0
		for _, p := range parts {
			if p {
				n++
			}
		}
		return float64(n) / float64(len(parts))
	}
	out := []Stage{{Name: "radio", Title: "Radio", Key: "1", Done: share(r.Subject.ComeBy != "", len(r.Cells) > 0, r.Subject.Serial != "")}}
	more := Stage{Name: "more", Title: "More tests", Key: "5"}
	taken := []bool{}
	made := 0
	for _, k := range r.Kinds {
		about := k.About()
		n, boxes := len(r.Of(about.Name)), len(about.Cells(r))
		stage := Stage{Name: about.Name, Title: about.Title, Key: about.Key, Done: min(1, float64(n)/float64(max(1, boxes)))}
		if about.More {
			more.Kinds = append(more.Kinds, stage)
			more.Done += stage.Done
			continue
		}
		out = append(out, stage)
		if about.Always {
			taken = append(taken, n > 0)
			made += min(n, boxes)
		}
	}
	ruled := 0.0
	if !slices.Contains(taken, false) {
		ruled = 1
	}
	if len(more.Kinds) > 0 {
		more.Done /= float64(len(more.Kinds))
		out = append(out, more)
	}
	out = append(out, Stage{Name: "sheet", Title: "Run sheet", Key: "2", Done: min(1, float64(made)/float64(max(1, len(taken)*len(r.Cells))))})
	last := Stage{Name: "publish", Title: "Publish", Key: "7", Done: min(1, float64(editions))}
	if r.Practice != "" {
		last = Stage{Name: "practice", Title: "Bench and score", Key: "7"}
	}
	out = append(out, Stage{Name: "ruling", Title: "Ruling", Key: "6", Done: ruled}, last)
	slices.SortStableFunc(out, func(a, b Stage) int { return cmp.Compare(a.Key, b.Key) })
	return out
}
