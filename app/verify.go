package app

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"slices"

	"talloak/core/decision"
	"talloak/core/record"
)

// Verify recomputes the sums of every edition, of its data and of its page, and says of
// each what does not match; nothing where all does. Looked is how many there are.
func (a *App) Verify(ctx context.Context) (wrong []string, looked int, err error) {
	err = a.Store.AllEditions(ctx, func(e *record.Edition) error {
		looked++
		for _, what := range mismatches(e) {
			wrong = append(wrong, fmt.Sprintf("edition %d of %s (%s): %s", e.Number, e.Title, e.ID, what))
		}
		return nil
	})
	return wrong, looked, err
}

func mismatches(e *record.Edition) []string {
	var out []string
	if got := sumOf(e.Document); got != e.SHA256 {
		out = append(out, fmt.Sprintf("its data have SHA-256 %s, not %s as they were frozen", got, e.SHA256))
	}
	if got := sumOf(e.Page); got != e.PageSHA256 {
		out = append(out, fmt.Sprintf("its page has SHA-256 %s, not %s as it was frozen", got, e.PageSHA256))
	}
	if !bytes.Contains(e.Page, []byte(e.SHA256)) {
		out = append(out, "its page does not name the sum of its data")
	}
	var said document
	if err := json.Unmarshal(e.Document, &said); err != nil {
		return append(out, "its data cannot be read")
	}
	if said.Number != e.Number || said.ReviewID != e.ReviewID {
		out = append(out, fmt.Sprintf("its data are of edition %d of the review %s", said.Number, said.ReviewID))
	}
	if said.Board.Headline != e.Headline {
		out = append(out, fmt.Sprintf("it is headed %q, its data say %q", e.Headline, said.Board.Headline))
	}
	return append(out, said.contradictions()...)
}

// document is of an edition's data what its rulings are held against.
type document struct {
	Number   int    `json:"edition"`
	ReviewID string `json:"review_id"`
	Board    struct {
		Headline  string         `json:"headline"`
		Power     decision.Whole `json:"power"`
		Emissions decision.Whole `json:"emissions"`
		Cells     []struct {
			Name    string           `json:"name"`
			Power   decision.Verdict `json:"power"`
			Reading *struct {
				Against *struct {
					Verdict decision.Verdict `json:"verdict"`
				} `json:"against_claim"`
			} `json:"reading"`
			Verdict   decision.Verdict `json:"verdict"`
			Emissions struct {
				Ruling *struct {
					Verdict  decision.Verdict `json:"verdict"`
					Products []struct {
						Verdict decision.Verdict `json:"verdict"`
					} `json:"products"`
				} `json:"ruling"`
			} `json:"emissions"`
		} `json:"cells"`
	} `json:"board"`
}

// contradictions are rulings that do not follow from the edition's own figures: a pass over a
// box that fails, a box that passes over a product or a reading that does not, a fail of nothing.
func (d *document) contradictions() (out []string) {
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	var power, emissions []decision.Verdict
	for _, c := range d.Board.Cells {
		power, emissions = append(power, c.Power), append(emissions, c.Verdict)
		if r := c.Reading; r != nil && r.Against != nil && c.Power == decision.Pass && r.Against.Verdict != decision.Pass {
			say("%s passes its claim by a reading that comes to %s", c.Name, r.Against.Verdict)
		}
		r := c.Emissions.Ruling
		if r == nil {
			if c.Verdict == decision.Pass || c.Verdict == decision.Fail {
				say("the emissions of %s come to %s without a ruling", c.Name, c.Verdict)
			}
			continue
		}
		var products []decision.Verdict
		for _, p := range r.Products {
			products = append(products, p.Verdict)
		}
		if c.Verdict == decision.Pass && r.Verdict != decision.Pass {
			say("the emissions of %s pass, their ruling is %s", c.Name, r.Verdict)
		}
		against(say, "the emissions of "+c.Name, r.Verdict, products)
	}
	against(say, "power", d.Board.Power.Verdict, power)
	against(say, "emissions", d.Board.Emissions.Verdict, emissions)
	return out
}

// against holds what a whole comes to against its parts: one that fails fails the whole, one
// that is too close to call keeps it from passing.
func against(say func(string, ...any), what string, whole decision.Verdict, parts []decision.Verdict) {
	fails, close := slices.Contains(parts, decision.Fail), slices.Contains(parts, decision.Inconclusive)
	switch {
	case whole == decision.Pass && (fails || close):
		say("%s: a pass, over parts that do not", what)
	case whole == decision.Fail && !fails:
		say("%s: a fail, of nothing that fails", what)
	case whole != decision.Fail && whole != decision.Void && fails:
		say("%s: %s, over a part that fails", what, whole)
	}
}

func sumOf(b []byte) string {
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:])
}
