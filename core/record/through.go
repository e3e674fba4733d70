package record

import (
	"fmt"
	"time"

	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
)

// Through is the copy of path and kit that each measurement keeps: what it was taken
// through stays as it was then.
type Through struct {
	PathID          string      `json:"path_id"`
	Name            string      `json:"name"`
	Socket          string      `json:"socket,omitempty"`
	AppliedOffsetDB float64     `json:"applied_offset_db"`
	Kit             []KitCopy   `json:"kit"`
	Supply          *SupplyCopy `json:"supply,omitempty"`
	Preflight       *time.Time  `json:"preflight,omitempty"`

	// StackChanged tells that parts were measured in one piece but no longer lie as they
	// were measured: their printed losses count.
	StackChanged bool `json:"stack_changed,omitempty"`

	// Risk is what was in danger as it was taken, where it was kept all the same.
	Risk *Risk `json:"risk,omitempty"`
}

// Risk is a danger that somebody took upon themselves: keyed for KeyS seconds at most with RestS of rest
// between; both 0 for what had been taken already when the danger was seen.
type Risk struct {
	Danger string  `json:"danger"`
	KeyS   float64 `json:"key_s,omitempty"`
	RestS  float64 `json:"rest_s,omitempty"`
}

// KitCopy is an item as it was, at its setting. Measured stands at the last part of
// what was measured in one piece.
type KitCopy struct {
	ID       string         `json:"id"`
	Name     string         `json:"name"`
	Setting  string         `json:"setting,omitempty"`
	Spec     kit.Spec       `json:"spec"`
	Measured *path.Measured `json:"measured,omitempty"`
}

// SupplyCopy is a supply as it was set.
type SupplyCopy struct {
	ID      string          `json:"id"`
	Name    string          `json:"name"`
	SetV    float64         `json:"set_v"`
	LeadOhm *float64        `json:"lead_ohm,omitempty"`
	Range   kit.SupplyRange `json:"range"`
}

// CopyPath is a path with its kit as it is on the bench now. A stack measured in one
// piece counts while its parts lie as they were measured. What the path names and is
// not among items or stacks is a *problem.Error on "parts[i]..." or "supply.kit_id".
func CopyPath(p *Path, items []Item, stacks []Stack) (*Through, error) {
	byID := map[string]Item{}
	for _, i := range items {
		byID[i.ID] = i
	}
	out := &Through{PathID: p.ID, Name: p.Name, Socket: p.Socket, AppliedOffsetDB: p.AppliedOffsetDB, Kit: []KitCopy{}}
	measured := map[string]*Stack{}
	for n := range stacks {
		measured[stacks[n].ID] = &stacks[n]
	}
	seen := map[string]bool{}
	for n, part := range p.Parts {
		i, ok := byID[part.KitID]
		if !ok {
			return nil, problem.New(fmt.Sprintf("parts[%d].kit_id", n), "there is no such item on the bench")
		}
		out.Kit = append(out.Kit, KitCopy{ID: i.ID, Name: i.Name, Setting: part.Setting, Spec: i.Spec})
		if part.StackID != "" && measured[part.StackID] == nil {
			return nil, problem.New(fmt.Sprintf("parts[%d].stack_id", n), "no stack was measured under this id")
		}
	}
	if v := p.Supply; v != nil {
		i, ok := byID[v.KitID]
		if !ok || i.Spec.Supply == nil {
			return nil, problem.New("supply.kit_id", "there is no such supply on the bench")
		}
		out.Supply = &SupplyCopy{i.ID, i.Name, v.SetV, v.LeadOhm, *i.Spec.Supply}
	}
	for _, part := range p.Parts {
		stack := measured[part.StackID]
		if stack == nil || seen[stack.ID] {
			continue
		}
		seen[stack.ID] = true
		if at := stack.RunOf(p.Parts); at >= 0 {
			last := at + len(stack.Parts) - 1
			out.Kit[last].Measured = &path.Measured{Spans: len(stack.Parts), Table: stack.Found, On: stack.MeasuredOn}
		} else {
			out.StackChanged = true
		}
	}
	return out, nil
}
