package scpi

import (
	"context"
	"strconv"
	"strings"
	"sync"
	"time"
)

// mostErrors is how long the queue gets; the last entry then says that more were lost.
const mostErrors = 64

// Command is one header of an instrument with what it does. Do is nil for what can only be
// asked, Ask for what can only be told.
type Command struct {
	Header string
	Do     func(*Call)
	Ask    func(*Call) string
}

// Device is an instrument as its socket sees it: settings, errors and status belong to it,
// not to a connection. Lock is held while a command is done; several devices may share it.
type Device struct {
	Lock     *sync.Mutex
	Identity string      // the four fields that *IDN? answers
	Reset    func()      // what *RST does
	SelfTest func() bool // what *TST? comes to; nil passes
	Done     func() time.Time

	commands []compiled
	errors   []Error
	events   int // standard event status
	enabled  int // which of them count into the status byte
	service  int
	waiting  bool // *OPC was sent and what was begun is not done
}

type compiled struct {
	Command
	nodes []node
}

// NewDevice is an instrument with the given commands beside those of IEEE 488.2. Done tells
// when what was begun is done: a moment that has passed where nothing is.
func NewDevice(lock *sync.Mutex, identity string, done func() time.Time, commands []Command) *Device {
	d := &Device{Lock: lock, Identity: identity, Done: done, events: 1 << 7} // power on
	for _, c := range append(d.ours(), commands...) {
		d.commands = append(d.commands, compiled{c, nodesOf(c.Header)})
	}
	return d
}

// Call is a command being done, with its parameters.
type Call struct {
	ctx    context.Context
	device *Device
	args   []string
	failed bool
}

// Fail puts an error into the queue; what was to be done is not.
func (c *Call) Fail(e Error) {
	if !c.failed {
		c.device.Queue(e)
	}
	c.failed = true
}

// Number is the next parameter as a number within the span; false where there is none of
// that kind, which is in the queue then.
func (c *Call) Number(s Span) (float64, bool) {
	arg, ok := c.next()
	if !ok {
		return 0, false
	}
	v, e := s.read(arg)
	if e != NoError {
		c.Fail(e)
		return 0, false
	}
	return v, c.Whole()
}

// Word is the next parameter as one of the words, which are written as headers are; what it
// gives is the short form.
func (c *Call) Word(words ...string) (string, bool) {
	arg, ok := c.next()
	if !ok {
		return "", false
	}
	for _, w := range words {
		n := nodesOf(w)[0]
		if u := strings.ToUpper(arg); u == n.short || u == n.long {
			return n.short, true
		}
	}
	switch {
	case arg[0] == '"' || arg[0] == '\'':
		c.Fail(DataType)
	case decimal.MatchString(arg):
		c.Fail(DataType)
	default:
		c.Fail(IllegalValue)
	}
	return "", false
}

// Switch is the next parameter as ON, OFF, 1 or 0.
func (c *Call) Switch() (on, ok bool) {
	arg, ok := c.next()
	if !ok {
		return false, false
	}
	switch strings.ToUpper(arg) {
	case "ON":
		return true, c.Whole()
	case "OFF":
		return false, c.Whole()
	}
	v, e := Span{Least: -1e9, Most: 1e9, Whole: true}.read(arg)
	if e != NoError {
		c.Fail(e)
		return false, false
	}
	return v != 0, c.Whole()
}

// Optional tells whether a further parameter was sent.
func (c *Call) Optional() bool { return len(c.args) > 0 }

func (c *Call) next() (string, bool) {
	if len(c.args) == 0 {
		c.Fail(MissingParameter)
		return "", false
	}
	arg := c.args[0]
	c.args = c.args[1:]
	return arg, true
}

// Whole is false where more was sent than the command takes.
func (c *Call) Whole() bool {
	if len(c.args) > 0 {
		c.Fail(TooMany)
	}
	return len(c.args) == 0
}

// Until waits for the moment without holding the lock; false where the connection ended.
func (c *Call) Until(t time.Time) bool {
	wait := time.Until(t)
	if wait <= 0 {
		return true
	}
	c.device.Lock.Unlock()
	defer c.device.Lock.Lock()
	timer := time.NewTimer(wait)
	defer timer.Stop()
	select {
	case <-timer.C:
		return true
	case <-c.ctx.Done():
		c.failed = true
		return false
	}
}

// Settle waits until all that was begun is done.
func (c *Call) Settle() bool {
	for time.Until(c.device.Done()) > 0 {
		if !c.Until(c.device.Done()) {
			return false
		}
	}
	return true
}

// Queue puts an error into the queue.
func (d *Device) Queue(e Error) {
	d.events |= e.event()
	if len(d.errors) >= mostErrors {
		d.errors[len(d.errors)-1] = QueueOverflow
		return
	}
	d.errors = append(d.errors, e)
}

func (d *Device) nextError() Error {
	if len(d.errors) == 0 {
		return NoError
	}
	e := d.errors[0]
	d.errors = d.errors[1:]
	return e
}

// Execute does a message, command by command, and is what it answers: what several queries
// answer is parted by semicolons. A header is looked for behind the path that the one before
// it left (SCPI-1999 volume 1, 6.2.4).
func (d *Device) Execute(ctx context.Context, message string) string {
	d.Lock.Lock()
	defer d.Lock.Unlock()
	var answers []string
	var path []string
	for _, text := range split(message, ';') {
		u, e, ok := parseUnit(text)
		if !ok {
			continue
		}
		if e != NoError {
			d.Queue(e)
			break
		}
		var words []string
		switch {
		case u.common:
			words = []string{"*" + u.words[0]}
		case u.rooted:
			path = nil
			fallthrough
		default:
			words = append(append([]string{}, path...), u.words...)
			path = words[:len(words)-1]
		}
		cmd, e := d.find(words, u.query)
		if e != NoError {
			d.Queue(e)
			break
		}
		call := &Call{ctx: ctx, device: d, args: u.args}
		before := len(d.errors)
		if u.query {
			if answer := cmd.Ask(call); !call.failed {
				answers = append(answers, answer)
			}
		} else {
			cmd.Do(call)
		}
		if ctx.Err() != nil || call.failed && len(d.errors) > before && d.errors[len(d.errors)-1].command() {
			break
		}
	}
	return strings.Join(answers, ";")
}

func (d *Device) find(words []string, query bool) (*Command, Error) {
	e := UndefinedHeader
	for i := range d.commands {
		c := &d.commands[i]
		if query && c.Ask == nil || !query && c.Do == nil {
			continue
		}
		switch yes, inRange := match(c.nodes, words); {
		case yes && inRange:
			return &c.Command, NoError
		case yes:
			e = HeaderSuffix
		}
	}
	return nil, e
}

var byteSpan = Span{Least: 0, Most: 255, Whole: true}

// ours are the commands that every instrument has.
func (d *Device) ours() []Command {
	number := func(at *int) (func(*Call), func(*Call) string) {
		return func(c *Call) {
				if v, ok := c.Number(byteSpan); ok {
					*at = int(v)
				}
			}, func(c *Call) string {
				c.Whole()
				return strconv.Itoa(*at)
			}
	}
	ask := func(f func(c *Call) string) func(*Call) string {
		return func(c *Call) string {
			if !c.Whole() {
				return ""
			}
			return f(c)
		}
	}
	do := func(f func(c *Call)) func(*Call) {
		return func(c *Call) {
			if c.Whole() {
				f(c)
			}
		}
	}
	setEnabled, askEnabled := number(&d.enabled)
	setService, askService := number(&d.service)
	return []Command{
		{"*IDN", nil, ask(func(*Call) string { return d.Identity })},
		{"*RST", do(func(*Call) { d.waiting = false; d.Reset() }), nil},
		{"*CLS", do(func(*Call) { d.errors, d.events, d.waiting = nil, 0, false }), nil},
		{"*OPC", do(func(*Call) { d.waiting = true }), ask(func(c *Call) string { c.Settle(); return "1" })},
		{"*WAI", do(func(c *Call) { c.Settle() }), nil},
		{"*ESR", nil, ask(func(*Call) string {
			d.complete()
			v := d.events
			d.events = 0
			return strconv.Itoa(v)
		})},
		{"*ESE", setEnabled, askEnabled},
		{"*SRE", setService, askService},
		{"*STB", nil, ask(func(*Call) string { return strconv.Itoa(d.statusByte()) })},
		{"*TST", nil, ask(func(*Call) string {
			if d.SelfTest != nil && !d.SelfTest() {
				return "1"
			}
			return "0"
		})},
		{"SYSTem:ERRor[:NEXT]", nil, ask(func(*Call) string { return d.nextError().String() })},
		{"SYSTem:ERRor:COUNt", nil, ask(func(*Call) string { return strconv.Itoa(len(d.errors)) })},
		{"SYSTem:VERSion", nil, ask(func(*Call) string { return "1999.0" })},
	}
}

// complete sets the bit that *OPC asked for once all is done.
func (d *Device) complete() {
	if d.waiting && time.Until(d.Done()) <= 0 {
		d.events |= bitComplete
		d.waiting = false
	}
}

// statusByte is the status byte: errors in the queue, enabled events (IEEE 488.2, 11.2).
func (d *Device) statusByte() int {
	d.complete()
	v := 0
	if len(d.errors) > 0 {
		v |= 1 << 2
	}
	if d.events&d.enabled != 0 {
		v |= 1 << 5
	}
	if v&d.service != 0 {
		v |= 1 << 6
	}
	return v
}
