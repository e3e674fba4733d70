package instruments

import (
	"embed"
	"encoding/json"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"

	"talloak/core/kit"
	"talloak/core/problem"
	"talloak/core/strictjson"
)

// DriverFormat is what a driver begins with.
const DriverFormat = "talloak-driver-1"

// Driver is how to speak with a class of instruments: what to send, what comes back, how to know
// that it is done. Kind is the kind of kit it is for.
type Driver struct {
	Format string   `json:"format" enum:"talloak-driver-1"`
	ID     string   `json:"id" doc:"lower-case letters, digits and dashes" pattern:"^[a-z0-9][a-z0-9-]{0,59}$"`
	Kind   kit.Kind `json:"kind" enum:"analyzer,through-meter,terminating-meter,service-monitor,signal-generator,supply,counter"`
	Name   string   `json:"name" maxLength:"120"`
	Says   string   `json:"says,omitempty" maxLength:"600" doc:"what it is for"`

	// Identify asks who it is; Clear is sent first. Errors asks for the next entry of its error
	// queue, whose answer begins with None where there is none.
	Identify string  `json:"identify"`
	Clear    string  `json:"clear,omitempty"`
	Errors   *Errors `json:"errors,omitempty"`
	WaitS    float64 `json:"wait_s,omitempty" minimum:"0" maximum:"60" doc:"how long an answer may take, in s; 5 where not said"`

	Settings map[string]Setting `json:"settings,omitempty" doc:"by name: start_hz, stop_hz, rbw_hz, points, detector, hold, attenuation_db, pre_amplifier, reference_dbm, offset_db, frequency_hz, level_dbm, volts, amps, output"`
	Figures  map[string]Figure  `json:"figures,omitempty" doc:"what it reads, by name: power, swr, volts, amps, frequency"`
	Sweep    *Sweep             `json:"sweep,omitempty"`
	Trace    *Trace             `json:"trace,omitempty"`
	Overload *Bit               `json:"overload,omitempty" doc:"how it tells that its input is overloaded"`
	Cannot   []string           `json:"cannot,omitempty" doc:"what it can not, in words"`
}

// Errors is how its error queue is asked for.
type Errors struct {
	Ask  string `json:"ask"`
	None string `json:"none" doc:"how an answer begins that tells of none"`
}

// Setting is one thing to set: Tell has {} where the value stands, Ask is answered with it. Words
// are those it has for ours.
type Setting struct {
	Tell  string            `json:"tell,omitempty"`
	Ask   string            `json:"ask,omitempty"`
	Words map[string]string `json:"words,omitempty"`
}

// Figure is one thing it reads. Void is the number that stands for none.
type Figure struct {
	Before []string `json:"before,omitempty" doc:"sent first"`
	Ask    string   `json:"ask"`
	Unit   string   `json:"unit" enum:"W,mW,dBm,V,A,mA,Hz,kHz,MHz,1" doc:"of the answer"`
	Void   *float64 `json:"void,omitempty" doc:"an answer of at least this much tells that it could not read"`
}

// Sweep is how one sweep is taken: what is sent, and what is asked until it is done.
type Sweep struct {
	Before  []string `json:"before,omitempty" doc:"sent once"`
	Tell    string   `json:"tell"`
	Done    string   `json:"done" doc:"asked when it is begun; answered once it is done"`
	Is      string   `json:"is" doc:"the answer"`
	Time    string   `json:"time,omitempty" doc:"asks how long one takes, in s"`
	WithinS float64  `json:"within_s" minimum:"1" maximum:"1200" doc:"the longest that one may take, in s"`
}

// Trace is how the levels of a sweep come.
type Trace struct {
	Before       []string `json:"before,omitempty"`
	Ask          string   `json:"ask"`
	As           string   `json:"as" enum:"ascii,float32"`
	LittleEndian bool     `json:"little_endian,omitempty"`
	Unit         string   `json:"unit" enum:"dBm"`
	Falling      bool     `json:"falling,omitempty" doc:"the highest frequency comes first"`
}

// Bit is a bit of a number that is asked for.
type Bit struct {
	Ask string `json:"ask"`
	Bit int    `json:"bit" minimum:"0" maximum:"30"`
}

// What can be set, with the words that stand for values; nil is a number.
var settings = map[string][]string{
	"start_hz": nil, "stop_hz": nil, "rbw_hz": nil, "points": nil, "attenuation_db": nil, "reference_dbm": nil, "offset_db": nil,
	"detector": {"peak", "rms", "average", "sample"}, "hold": {"single", "max", "average"}, "pre_amplifier": {"off", "on"},
	"frequency_hz": nil, "level_dbm": nil, "volts": nil, "amps": nil, "output": {"off", "on"},
}

// figures are what can be read, with the units they may be in.
var figures = map[string][]string{"power": {"W", "mW", "dBm"}, "swr": {"1"}, "volts": {"V"}, "amps": {"A", "mA"}, "frequency": {"Hz", "kHz", "MHz"}}

//go:embed drivers/*.json
var files embed.FS

// Shipped are the drivers that come with Tall Oak, by their ids.
func Shipped() []Driver {
	var out []Driver
	entries, _ := files.ReadDir("drivers")
	for _, e := range entries {
		data, _ := files.ReadFile("drivers/" + e.Name())
		d, err := ReadDriver(data)
		if err != nil {
			panic(e.Name() + ": " + err.Error()) // a test reads them all
		}
		out = append(out, *d)
	}
	return out
}

var idPattern = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,59}$`)

// mostDriver is the longest driver file, in bytes.
const mostDriver = 64 << 10

// ReadDriver reads a driver and refuses what it cannot be used for. Errors are *problem.Error on
// its fields.
func ReadDriver(data []byte) (*Driver, error) {
	if len(data) > mostDriver {
		return nil, problem.New("driver", "a driver is at most %d KiB", mostDriver>>10)
	}
	var d Driver
	if err := strictjson.Decode(data, &d); err != nil {
		return nil, err
	}
	return &d, d.check()
}

// JSON is the driver as a file.
func (d *Driver) JSON() []byte {
	out, _ := json.MarshalIndent(d, "", "  ")
	return out
}

// socketKinds are the kinds of kit that have sockets.
var socketKinds = []kit.Kind{kit.Analyzer, kit.ThroughMeter, kit.TerminatingMeter, kit.ServiceMonitor, kit.SignalGenerator, kit.Supply, kit.Counter}

func (d *Driver) check() error {
	var bad problem.List
	sent := func(field, text string, must bool) {
		switch {
		case text == "" && must:
			bad.Add(field, "say what is sent")
		case len(text) > 400 || strings.ContainsAny(text, "\r\n"):
			bad.Add(field, "give one line of at most 400 characters")
		}
	}
	if d.Format != DriverFormat {
		bad.Add("format", "give %s", DriverFormat)
	}
	if !idPattern.MatchString(d.ID) {
		bad.Add("id", "give lower-case letters, digits and dashes, such as my-analyzer")
	}
	if !slices.Contains(socketKinds, d.Kind) {
		bad.Add("kind", "give one of %s", joined(socketKinds))
	}
	if strings.TrimSpace(d.Name) == "" || len(d.Name) > 120 {
		bad.Add("name", "give it a name of at most 120 characters")
	}
	sent("identify", d.Identify, true)
	sent("clear", d.Clear, false)
	if d.Errors != nil {
		sent("errors.ask", d.Errors.Ask, true)
	}
	if !(d.WaitS >= 0 && d.WaitS <= 60) {
		bad.Add("wait_s", "give 0 to 60 s")
	}
	for _, name := range slices.Sorted(maps.Keys(d.Settings)) {
		s, field := d.Settings[name], "settings."+name
		known, is := settings[name]
		if !is {
			bad.Add(field, "there is no such setting; known are %s", joined(slices.Sorted(maps.Keys(settings))))
			continue
		}
		sent(field+".tell", s.Tell, false)
		sent(field+".ask", s.Ask, false)
		if s.Tell != "" && strings.Count(s.Tell, "{}") != 1 {
			bad.Add(field+".tell", "write {} once, where the value stands")
		}
		for ours := range s.Words {
			if !slices.Contains(known, ours) {
				bad.Add(field+".words", "there is no %q; known are %s", ours, joined(known))
			}
		}
		if known != nil && len(s.Words) == 0 {
			bad.Add(field+".words", "give its words for %s", joined(known))
		}
	}
	for _, name := range slices.Sorted(maps.Keys(d.Figures)) {
		f, field := d.Figures[name], "figures."+name
		sent(field+".ask", f.Ask, true)
		for i, b := range f.Before {
			sent(fmt.Sprintf("%s.before[%d]", field, i), b, true)
		}
		if in, is := figures[name]; !is {
			bad.Add(field, "there is no such figure; known are %s", joined(slices.Sorted(maps.Keys(figures))))
		} else if !slices.Contains(in, f.Unit) {
			bad.Add(field+".unit", "give one of %s", joined(in))
		}
	}
	d.checkSweep(&bad, sent)
	return bad.Err()
}

func (d *Driver) checkSweep(bad *problem.List, sent func(field, text string, must bool)) {
	if (d.Sweep == nil) != (d.Trace == nil) {
		bad.Add("sweep", "sweep and trace come together: how one is taken, and how its levels come")
	}
	if s := d.Sweep; s != nil {
		for i, b := range s.Before {
			sent(fmt.Sprintf("sweep.before[%d]", i), b, true)
		}
		sent("sweep.tell", s.Tell, true)
		sent("sweep.done", s.Done, true)
		sent("sweep.time", s.Time, false)
		if !(s.WithinS >= 1 && s.WithinS <= 1200) {
			bad.Add("sweep.within_s", "give 1 to 1200 s")
		}
		for _, need := range []string{"start_hz", "stop_hz", "rbw_hz", "detector", "hold", "offset_db"} {
			if d.Settings[need].Ask == "" {
				bad.Add("settings."+need+".ask", "a sweep is kept as the instrument tells it: say how this is asked for")
			}
		}
	}
	if t := d.Trace; t != nil {
		for i, b := range t.Before {
			sent(fmt.Sprintf("trace.before[%d]", i), b, true)
		}
		sent("trace.ask", t.Ask, true)
		if t.As != "ascii" && t.As != "float32" {
			bad.Add("trace.as", "give ascii or float32")
		}
		if t.Unit != "dBm" {
			bad.Add("trace.unit", "give dBm: set the instrument to it before a trace")
		}
	}
	if o := d.Overload; o != nil {
		sent("overload.ask", o.Ask, true)
		if o.Bit < 0 || o.Bit > 30 {
			bad.Add("overload.bit", "give 0 to 30")
		}
	}
}

func joined[T ~string](words []T) string {
	out := make([]string, len(words))
	for i, w := range words {
		out[i] = string(w)
	}
	return strings.Join(out, ", ")
}
