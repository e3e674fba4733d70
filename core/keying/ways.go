package keying

import (
	"slices"

	"talloak/core/kit"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/core/runsheet"
	"talloak/core/units"
	"talloak/core/wiring"
)

// Way is a kept path with whether what is keyed into it can count for a box, else why not and what on the
// bench would cure it. ScaleW is the scale of its meter that is proposed there, in W, nil where it has one
// only.
type Way struct {
	PathID string   `json:"path_id"`
	Name   string   `json:"name"`
	Counts bool     `json:"counts"`
	WhyNot string   `json:"why_not"`
	Cure   string   `json:"cure"`
	ScaleW *float64 `json:"scale_w"`
}

// WaysTo lists the paths that serve a purpose for each of some boxes, those that can count first; of these
// the one used last, then those with the instrument used last, then as they are kept. Before anything was
// taken in the review, last is the path that was used last in another; empty where nobody knows.
func WaysTo(r *measure.Review, w Ways, purpose string, boxes []record.Keyed, last string) [][]Way {
	s := sheet{review: r, ways: w, suits: map[suitAsk]suit{}}
	if taken := r.Of(purpose); len(taken) > 0 {
		last = taken[len(taken)-1].Through.PathID
	}
	lastMeter := ""
	for _, t := range w.Paths {
		if t.PathID == last {
			lastMeter = wiring.MeterID(t)
		}
	}
	out := make([][]Way, len(boxes))
	for i, box := range boxes {
		out[i] = []Way{}
		rank := map[string]int{}
		for _, t := range w.Paths {
			if !wiring.Serves(t, purpose) {
				continue
			}
			got := s.suit(t, purpose, runsheet.KeyUp{Frequency: units.Hertz(box.FrequencyHz), Mode: box.Mode})
			way := Way{PathID: t.PathID, Name: t.Name, Counts: got.whyNot == "", WhyNot: got.whyNot, Cure: got.cure}
			if purpose == wiring.ForPower {
				way.ScaleW = kit.ScaleFor(wiring.Scales(t), s.claimed(box))
			}
			switch {
			case t.PathID == last:
				rank[t.PathID] = 0
			case lastMeter != "" && wiring.MeterID(t) == lastMeter:
				rank[t.PathID] = 1
			case wiring.Purpose(t) == purpose:
				rank[t.PathID] = 2
			default: // power off an analyzer
				rank[t.PathID] = 3
			}
			if !way.Counts {
				rank[t.PathID] += 4
			}
			out[i] = append(out[i], way)
		}
		slices.SortStableFunc(out[i], func(a, b Way) int { return rank[a.PathID] - rank[b.PathID] })
	}
	return out
}

// claimed is the power claimed of a box, in W; what is taken for one of which nothing is claimed.
func (s *sheet) claimed(k record.Keyed) float64 {
	if c := s.review.Cell(k); c != nil && c.Claimed > 0 {
		return c.Claimed
	}
	return s.highest(k.Band)
}
