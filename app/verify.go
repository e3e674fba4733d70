package app

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"

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
	var said struct {
		Number   int    `json:"edition"`
		ReviewID string `json:"review_id"`
	}
	if err := json.Unmarshal(e.Document, &said); err != nil {
		out = append(out, "its data cannot be read")
	} else if said.Number != e.Number || said.ReviewID != e.ReviewID {
		out = append(out, fmt.Sprintf("its data are of edition %d of the review %s", said.Number, said.ReviewID))
	}
	return out
}

func sumOf(b []byte) string {
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:])
}
