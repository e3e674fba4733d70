package app

import (
	"context"
	"slices"
	"strings"
	"time"

	"talloak/core/problem"
	"talloak/core/record"
	"talloak/store"
)

// AddLetter keeps something that was written about a review, under a key made by who asks. Errors are
// *problem.Error on its fields.
func (a *App) AddLetter(ctx context.Context, l *record.Letter) error {
	if err := checkTexts(*l); err != nil {
		return err
	}
	var bad problem.List
	if !slices.Contains(record.LetterKinds, l.Kind) {
		bad.Add("kind", "give %s", strings.Join(record.LetterKinds, ", "))
	}
	if !slices.Contains(record.LetterFrom, l.From) {
		bad.Add("from", "give %s", strings.Join(record.LetterFrom, ", "))
	}
	if _, err := time.Parse(time.DateOnly, l.SaidOn); err != nil {
		bad.Add("said_on", "give the day it is from, such as 2026-11-25")
	}
	if l.Text = strings.TrimSpace(l.Text); l.Text == "" && l.Replaces == "" {
		bad.Add("text", "give it word for word")
	}
	if err := bad.Err(); err != nil {
		return err
	}
	again, err := a.Store.AddLetter(ctx, l, store.Fingerprint([]any{l.ReviewID, l.Replaces, l.Kind, l.From, l.Name, l.SaidOn, l.About, l.Text, l.MayPrint, l.Serial, l.DateCode}))
	if err == nil && !again {
		a.Events.publish("letter", l.ID, l.ReviewID)
	}
	return err
}
