package app

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/instruments"
)

// ErrUnaware is a server that others reach too, asked to connect to an instrument before somebody
// said that they know.
var ErrUnaware = errors.New("this server is open to others: whoever uses it makes it connect to the addresses on the bench")

// Driver is how a class of instruments is spoken with.
type Driver = instruments.Driver

// InstrumentTrouble is what went wrong at the other end of a cable.
type InstrumentTrouble = instruments.Trouble

// Drivers are all that are known: those that ship, and the user's own, which stand before them where
// they have the same id.
func (a *App) Drivers(ctx context.Context) (all []instruments.Driver, own map[string]bool, err error) {
	kept, err := a.Store.Drivers(ctx)
	if err != nil {
		return nil, nil, err
	}
	own = map[string]bool{}
	for _, k := range kept {
		d, err := instruments.ReadDriver(k.Body)
		if err != nil { // of a later program
			continue
		}
		all, own[k.ID] = append(all, *d), true
	}
	for _, d := range instruments.Shipped() {
		if !own[d.ID] {
			all = append(all, d)
		}
	}
	slices.SortFunc(all, func(x, y instruments.Driver) int {
		return cmp.Or(cmp.Compare(x.Kind, y.Kind), cmp.Compare(x.Name, y.Name))
	})
	return all, own, nil
}

// Driver is the driver of an id; store.ErrNotFound is a *problem.Error on "driver" here.
func (a *App) Driver(ctx context.Context, id string) (*instruments.Driver, error) {
	all, _, err := a.Drivers(ctx)
	for i := range all {
		if all[i].ID == id {
			return &all[i], nil
		}
	}
	return nil, cmp.Or(err, error(problem.New("driver", "there is no driver %q here", id)))
}

// KeepDriver brings in a driver of the user's own, or another wording of it.
func (a *App) KeepDriver(ctx context.Context, file []byte) (*instruments.Driver, error) {
	d, err := instruments.ReadDriver(file)
	if err == nil {
		err = a.Store.PutDriver(ctx, record.OwnDriver{ID: d.ID, Body: d.JSON()})
	}
	if err == nil {
		a.Events.publish("kit", d.ID, "")
	}
	return d, err
}

// RemoveDriver takes a driver of the user's own away.
func (a *App) RemoveDriver(ctx context.Context, id string) error {
	err := a.Store.PutDriver(ctx, record.OwnDriver{ID: id})
	if err == nil {
		a.Events.publish("kit", id, "")
	}
	return err
}

// PutSocket writes where an item listens, and its driver; an empty address takes it away.
func (a *App) PutSocket(ctx context.Context, k record.Socket) error {
	item, err := a.Store.KitItem(ctx, k.KitID)
	if err != nil {
		return err
	}
	if k.Address = strings.TrimSpace(k.Address); k.Address != "" {
		var bad problem.List
		if err := instruments.CheckAddress(k.Address); err != nil {
			bad.Add("address", "%s", err.Error())
		}
		d, err := a.Driver(ctx, k.Driver)
		switch {
		case err != nil:
			bad.AddErr("", err)
		case !drives(d.Kind, item.Spec.KindOf()):
			bad.Add("driver", "this driver is for another kind of thing: a %s", d.Kind)
		}
		if err := bad.Err(); err != nil {
			return err
		}
	}
	if err := a.Store.PutSocket(ctx, k); err != nil {
		return err
	}
	a.Events.publish("kit", k.KitID, "")
	return nil
}

// drives tells whether a driver of a kind is one for an item: meters of any sort read power.
func drives(driver, item kit.Kind) bool {
	meters := []kit.Kind{kit.ThroughMeter, kit.TerminatingMeter, kit.ServiceMonitor}
	return driver == item || slices.Contains(meters, driver) && slices.Contains(meters, item)
}

// converse opens a conversation with an item of the bench, at the address that is written there.
func (a *App) converse(ctx context.Context, kitID string, aware bool, with *instruments.Driver) (*instruments.Line, func(), error) {
	sockets, err := a.Store.Sockets(ctx)
	if err != nil {
		return nil, nil, err
	}
	socket, ok := sockets[kitID]
	if !ok {
		return nil, nil, problem.New("kit_id", "no address is written for it on the bench")
	}
	if a.Rack.Open && !aware && !a.Rack.Off {
		if item, err := a.Store.KitItem(ctx, kitID); err != nil || item.Practice == "" { // a practice bench is in this very server
			return nil, nil, ErrUnaware
		}
	}
	if with == nil {
		if with, err = a.Driver(ctx, socket.Driver); err != nil {
			return nil, nil, err
		}
	}
	return a.Rack.Converse(ctx, socket.Address, with)
}

// Tried is what came of trying an instrument: who it says it is, and each thing that was asked.
type Tried struct {
	Identity string               `json:"identity"`
	Lines    []TriedLine          `json:"lines"`
	Spoken   []instruments.Spoken `json:"spoken"`
	Trouble  string               `json:"trouble"`
}

// TriedLine is a thing of the driver that was tried.
type TriedLine struct {
	What string `json:"what"`
	Says string `json:"says"`
	Fine bool   `json:"fine"`
}

// TryDriver asks an instrument who it is and tries everything of its driver that changes nothing: each
// setting is asked for and set to what it is, each figure read, one sweep taken. Nothing is
// switched on. With a driver, that is tried instead of the one kept.
func (a *App) TryDriver(ctx context.Context, kitID string, aware bool, file []byte) (*Tried, error) {
	var with *instruments.Driver
	var err error
	if len(file) > 0 {
		if with, err = instruments.ReadDriver(file); err != nil {
			return nil, err
		}
	}
	l, done, err := a.converse(ctx, kitID, aware, with)
	if err != nil {
		return nil, err
	}
	defer done()
	out := &Tried{Lines: []TriedLine{}}
	defer func() { out.Spoken = l.Spoken }()
	if out.Identity, err = l.Identify(); err != nil {
		out.Trouble = err.Error()
		return out, nil
	}
	for _, t := range l.Try() {
		out.Lines = append(out.Lines, TriedLine(t))
	}
	return out, nil
}

// Read is what was read by instruments along a path, as a line of an entry, with who said what.
type Read struct {
	Text string      `json:"text"`
	By   []record.By `json:"by"`
}

// ReadPower reads the meter on a path: power and SWR where it has them, and the volts and amps of
// its supply where that has a socket too. What stands on the line already stays: another power comes
// behind the ones before it, what else is read takes the place of what was read before.
func (a *App) ReadPower(ctx context.Context, pathID, line string, aware bool) (*Read, error) {
	t, _, err := a.Store.Through(ctx, pathID)
	if err != nil {
		return nil, err
	}
	at := slices.IndexFunc(t.Kit, func(k record.KitCopy) bool {
		kind := k.Spec.Element.Kind
		return kind == path.Meter || kind == path.TerminatingMeter
	})
	if at < 0 {
		return nil, problem.New("path_id", "there is no meter on this path")
	}
	out := &Read{By: []record.By{}}
	if err := a.readInto(ctx, out, t.Kit[at].ID, t.Kit[at].Name, aware, "power", "swr"); err != nil {
		return nil, err
	}
	if t.Supply != nil {
		sockets, err := a.Store.Sockets(ctx)
		if _, has := sockets[t.Supply.ID]; err == nil && has {
			if err := a.readInto(ctx, out, t.Supply.ID, t.Supply.Name, aware, "volts", "amps"); err != nil {
				return nil, err
			}
		}
	}
	out.Text = joinedRead(line, out.Text)
	return out, nil
}

// beside are the words of a line that are said once: SWR, supply volts and amps.
var beside = regexp.MustCompile(`(?i)(^|\s)(swr\s*[\d.,]+|[\d.,]+\s*(v|a|ma))(\s|$)`)

// joinedRead is a line with what was read put to it.
func joinedRead(line, read string) string {
	line = strings.TrimSpace(line)
	if line == "" {
		return read
	}
	power, rest, _ := strings.Cut(read, " ")
	for beside.MatchString(line) {
		line = strings.TrimSpace(beside.ReplaceAllString(line, "$1 $4"))
	}
	words := strings.Fields(line)
	at := 0
	for i, w := range words {
		if w[0] >= '0' && w[0] <= '9' && strings.HasSuffix(strings.ToUpper(w), "W") {
			at = i + 1
		}
	}
	return strings.TrimSpace(strings.Join(slices.Insert(words, at, power), " ") + " " + rest)
}

// ReadFrequency reads a counter of the bench.
func (a *App) ReadFrequency(ctx context.Context, kitID string, aware bool) (*Read, error) {
	item, err := a.Store.KitItem(ctx, kitID)
	if err != nil {
		return nil, err
	}
	out := &Read{By: []record.By{}}
	return out, a.readInto(ctx, out, kitID, item.Name, aware, "frequency")
}

// readInto adds figures of an instrument to a line. The first is what it is for: without it nothing
// is read; what else it does not have is left out.
func (a *App) readInto(ctx context.Context, out *Read, kitID, name string, aware bool, figures ...string) error {
	l, done, err := a.converse(ctx, kitID, aware, nil)
	if err != nil {
		return named(name, err)
	}
	defer done()
	who, err := l.Identify()
	if err != nil {
		return named(name, err)
	}
	words := []string{}
	for i, f := range figures {
		if i > 0 && !l.Driver.Reads(f) {
			continue
		}
		v, err := l.Read(f)
		if err != nil {
			return named(name, err)
		}
		if (f == "power" || f == "frequency") && v == 0 {
			return named(name, &instruments.Trouble{Says: "it reads 0: key the radio first, then read"})
		}
		words = append(words, asTyped(f, v))
	}
	said := strings.Join(words, " ")
	out.Text = strings.TrimSpace(out.Text + " " + said)
	out.By = append(out.By, record.By{KitID: kitID, Name: name, Identity: who, Driver: l.Driver.ID, Said: said, At: time.Now().UTC().Truncate(time.Millisecond), Simulated: isSimulated(who)})
	return nil
}

// isSimulated tells an instrument that says it is one of ours that is not there.
func isSimulated(identity string) bool { return strings.HasPrefix(identity, "Tall Oak,simulated") }

// asTyped writes a figure as a person would on the entry line: to four places and no finer.
func asTyped(figure string, v float64) string {
	switch figure {
	case "swr":
		return "swr " + places(v)
	case "volts":
		return places(v) + "v"
	case "amps":
		return places(v) + "a"
	case "frequency":
		return strconv.FormatFloat(v/1e6, 'f', 6, 64)
	}
	return places(v) + "W"
}

func places(v float64) string {
	if v == 0 {
		return "0"
	}
	digits := 3 - int(math.Floor(math.Log10(math.Abs(v))))
	return strconv.FormatFloat(v, 'f', min(max(digits, 0), 6), 64)
}

// named puts the name of an item before what is wrong with it.
func named(name string, err error) error {
	var t *instruments.Trouble
	if errors.As(err, &t) {
		return &instruments.Trouble{Says: fmt.Sprintf("%s: %s", name, t.Says)}
	}
	return err
}
