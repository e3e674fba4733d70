package app

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"strings"
	"time"

	"talloak/core/claims"
	"talloak/core/kit"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/units"
	"talloak/core/wiring"
)

// ItemChange is what a person says of an item, on the version it was read at; 0 for a
// new one. Carrier is one it is meant for: a file whose band misses it is refused; 0 for
// none.
type ItemChange struct {
	ID      string
	Version int
	Name    string   `json:"name"`
	Spec    kit.Spec `json:"spec"`
	Retired bool
	Carrier units.Hertz
}

// KeepItem writes an item, retires it or takes it back. The very same change again
// changes nothing; store.ErrStale where the version is not the newest.
func (a *App) KeepItem(ctx context.Context, c ItemChange) (*record.Item, error) {
	row, err := a.item(ctx, c)
	if err == nil && c.Carrier > 0 {
		err = below("spec", row.Spec.CheckCarrier(c.Carrier))
	}
	if err == nil {
		err = a.Store.PutItem(ctx, row)
	}
	if err != nil {
		return nil, err
	}
	a.Events.publish("kit", row.ID, "")
	return row, nil
}

// RemoveItem takes a mistaken item off the bench; store.ErrInUse where anything names it.
func (a *App) RemoveItem(ctx context.Context, id string, version int) error {
	err := a.Store.RemoveItem(ctx, id, version)
	if err == nil {
		a.Events.publish("kit", id, "")
	}
	return err
}

// item checks what was written. Errors are on "name" and "spec...".
func (a *App) item(ctx context.Context, c ItemChange) (*record.Item, error) {
	if err := checkTexts(c); err != nil {
		return nil, err
	}
	var bad problem.List
	row := &record.Item{ID: c.ID, Version: c.Version, Name: c.Name, Spec: c.Spec}
	if strings.TrimSpace(row.Name) == "" {
		bad.Add("name", "give the item a name you will know it by")
	}
	row.Spec.Kind = row.Spec.KindOf()
	row.Spec.Element.Kind, row.Spec.Element.Name, row.Spec.Element.Measured = row.Spec.Kind.PathKind(), "", nil
	bad.AddErr("spec", row.Spec.Check())
	if err := bad.Err(); err != nil {
		return nil, err
	}
	old, err := a.Store.KitItem(ctx, c.ID)
	if err == nil {
		row.Practice = old.Practice
	}
	if c.Retired {
		row.RetiredAt = today()
		if err == nil && old.RetiredAt != nil {
			row.RetiredAt = old.RetiredAt
		}
	}
	return row, nil
}

func today() *time.Time {
	at := time.Now().UTC().Truncate(time.Microsecond)
	return &at
}

func below(field string, err error) error {
	var bad problem.List
	bad.AddErr(field, err)
	return bad.Err()
}

// KeepPath writes a path, retires it or takes it back, the way KeepItem writes an item.
// It refuses one without a name, or with parts that cannot lie on it as they are set.
// Dangers are no refusal: a path is drawn before it is safe.
func (a *App) KeepPath(ctx context.Context, p *record.Path, retired bool) error {
	if p.Parts == nil {
		p.Parts = []record.PathPart{}
	}
	if err := checkTexts(struct {
		Name   string            `json:"name"`
		Socket string            `json:"socket"`
		Parts  []record.PathPart `json:"parts"`
	}{p.Name, p.Socket, p.Parts}); err != nil {
		return err
	}
	var bad problem.List
	if strings.TrimSpace(p.Name) == "" {
		bad.Add("name", "give the path a name")
	}
	if !(math.Abs(p.AppliedOffsetDB) <= 200) {
		bad.Add("applied_offset_db", "give what the instrument adds, -200 to 200 dB")
	}
	once := map[string]bool{}
	for i, part := range p.Parts {
		if once[part.KitID] {
			bad.Add(fmt.Sprintf("parts[%d].kit_id", i), "this very thing lies on the path already: write down the second one of it too")
		}
		once[part.KitID] = true
	}
	t, err := a.Store.ThroughOf(ctx, p)
	if err != nil {
		return err
	}
	_, err = wiring.Elements(t)
	bad.AddErr("", err)
	if bad.Empty() {
		_, err = wiring.Compile(t)
		bad.AddErr("", err)
	}
	if err := bad.Err(); err != nil {
		return err
	}
	if p.Practice, err = a.benchOf(ctx, p); err != nil {
		return err
	}
	if p.RetiredAt = nil; retired {
		p.RetiredAt = today()
		if old, err := a.Store.Path(ctx, p.ID); err == nil && old.RetiredAt != nil {
			p.RetiredAt = old.RetiredAt
		}
	}
	if err := a.Store.PutPath(ctx, p); err != nil {
		return err
	}
	a.Events.publish("path", p.ID, "")
	return nil
}

// benchOf is the practice review whose kit a path is made of, empty for real kit. The two never lie on
// one path, nor does the supply of one feed the other.
func (a *App) benchOf(ctx context.Context, p *record.Path) (string, error) {
	ids, fields := []string{}, []string{}
	for i, part := range p.Parts {
		ids, fields = append(ids, part.KitID), append(fields, fmt.Sprintf("parts[%d].kit_id", i))
	}
	if p.Supply != nil {
		ids, fields = append(ids, p.Supply.KitID), append(fields, "supply.kit_id")
	}
	of := ""
	for i, id := range ids {
		k, err := a.Store.KitItem(ctx, id)
		if err != nil {
			return "", err
		}
		if i > 0 && k.Practice != of {
			return "", problem.New(fields[i], "practice kit and real kit do not go together")
		}
		of = k.Practice
	}
	return of, nil
}

// Wiring is what is asked of a path outside any review: what will be keyed into it. The
// path is kept, or only drawn.
func (a *App) Wiring(ctx context.Context, p *record.Path, w wiring.Wiring, ruleBook string) (*wiring.Wiring, error) {
	var err error
	if w.Book, err = a.book(ctx, "rule_book", ruleBook); err != nil {
		return nil, err
	}
	for i, l := range w.Levels {
		if l.W < 0 {
			return nil, problem.New(fmt.Sprintf("levels[%d].w", i), "give 0 W or more")
		}
		w.Levels[i].Name = cmp.Or(l.Name, claims.LevelName(i, len(w.Levels)))
	}
	if w.Through, err = a.Store.ThroughOf(ctx, p); err != nil {
		return nil, err
	}
	w.Bench, err = a.Store.Kit(ctx, p.Practice)
	return &w, err
}
