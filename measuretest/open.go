// Package measuretest opens reviews with figures of one kind in them, for the tests of kinds.
package measuretest

import (
	"encoding/json"
	"fmt"
	"testing"

	"talloak/core/kinds"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/core/strictjson"
	"talloak/rulebooks"
)

// Review is of a radio with claims, judged guarded by the US amateur book.
func Review(claims ...string) *record.Review {
	r := record.Review{ID: "r", Subject: record.Subject{Model: "T1"}, Rules: record.Rules{RuleBook: "us-amateur", DecisionRule: "guarded", Scheme: "tolerance"}}
	for _, c := range claims {
		r.Claims = append(r.Claims, record.Claim{Text: c, Source: "box"})
	}
	return &r
}

// Facts are figures taken one after another through no path; their ids are 0, 1 and so on.
func Facts[D any](t *testing.T, kind string, at record.Keyed, drafts ...D) record.Facts {
	t.Helper()
	var out record.Facts
	for i, d := range drafts {
		payload, err := json.Marshal(d)
		if err != nil {
			t.Fatal(err)
		}
		out.Measurements = append(out.Measurements, record.Measurement{ID: fmt.Sprint(i), Kind: kind, Keyed: at, Through: &record.Through{Name: "no path"}, Payload: payload})
	}
	return out
}

// Open opens the review with all kinds.
func Open(t *testing.T, review *record.Review, facts record.Facts) *measure.Review {
	t.Helper()
	r, err := measure.Open(review, facts, review.Rules, rulebooks.Find, kinds.All())
	if err != nil {
		t.Fatal(err)
	}
	return r
}

// Take has a kind in a review read a draft as it is sent.
func Take[D, V any](w interface {
	Read(measure.Taking, D) (measure.Worth[V], error)
}, t measure.Taking) (measure.Worth[V], error) {
	var in D
	if err := strictjson.Decode(t.Draft, &in); err != nil {
		return measure.Worth[V]{}, err
	}
	return w.Read(t, in)
}
