package touchstone

import (
	"fmt"
	"math"
	"math/cmplx"
	"strconv"
	"strings"

	"talloak/core/problem"
	"talloak/core/units"
)

// MaxPorts is the largest network that is read.
const MaxPorts = 64

// Parse reads the text of a Touchstone file. Version 1 does not say how many
// ports it has: ports does, or 0 leaves it to the layout of the first point.
// Errors are *problem.Error on "text" with the line, or on "ports".
func Parse(text string, ports int) (*Network, error) {
	if ports < 0 || ports > MaxPorts {
		return nil, problem.New("ports", "give 1 to %d", MaxPorts)
	}
	p := parser{ports: ports, z0: 50, scale: 9, form: 'M'}
	lineNo := 0
	for line := range strings.Lines(text) {
		lineNo++
		line, _, _ = strings.Cut(line, "!")
		if line = strings.TrimSpace(line); line == "" || p.ended {
			continue
		}
		if err := p.line(line); err != nil {
			return nil, problem.New("text", "line %d: %s", lineNo, err.Error())
		}
	}
	return p.finish()
}

type parser struct {
	ports      int
	z0         float64
	scale      int  // decimal exponent of the frequency unit
	form       byte // M, D or R
	hasOptions bool

	version2    bool
	filePorts   int // from [Number of Ports]
	wantPoints  int
	order       string // of a two-port, version 2
	matrix      string // full, lower, upper
	reference   []float64
	inReference bool
	inData      bool
	inNoise     bool
	inInfo      bool
	ended       bool

	tokens []float64
	text   []string // the tokens as written: frequencies are scaled as text
	lines  []int    // number of tokens of each line
}

func (p *parser) line(line string) error {
	switch {
	case p.inInfo && !strings.HasPrefix(strings.ToLower(line), "[end information]"):
		return nil
	case line[0] == '#':
		return p.options(line[1:])
	case line[0] == '[':
		return p.keyword(line)
	case p.inReference:
		return p.references(line)
	case p.inNoise:
		return nil
	case p.version2 && !p.inData:
		return fmt.Errorf("data before [Network Data]")
	}
	fields := strings.Fields(line)
	for _, f := range fields {
		v, err := units.ParsePointNumber(f)
		if err != nil {
			return err
		}
		p.tokens = append(p.tokens, v)
		p.text = append(p.text, f)
	}
	p.lines = append(p.lines, len(fields))
	return nil
}

func (p *parser) options(line string) error {
	if p.hasOptions {
		return nil // only the first option line counts
	}
	p.hasOptions = true
	words := strings.Fields(strings.ToUpper(line))
	for i := 0; i < len(words); i++ {
		switch w := words[i]; w {
		case "HZ":
			p.scale = 0
		case "KHZ":
			p.scale = 3
		case "MHZ":
			p.scale = 6
		case "GHZ":
			p.scale = 9
		case "S":
		case "Y", "Z", "G", "H":
			return fmt.Errorf("%s parameters; only S parameters are read", w)
		case "MA", "DB", "RI":
			p.form = w[0]
		case "R":
			if i++; i == len(words) {
				return fmt.Errorf("the option R comes without its ohms")
			}
			z, err := units.ParsePointNumber(words[i])
			if err != nil || !(z > 0) {
				return fmt.Errorf("option R %s: give the reference impedance in ohms", words[i])
			}
			p.z0 = z
		default:
			return fmt.Errorf("option %q; known are Hz kHz MHz GHz, S, MA DB RI, R", w)
		}
	}
	return nil
}

func (p *parser) keyword(line string) error {
	name, value, closed := strings.Cut(line[1:], "]")
	if !closed {
		return fmt.Errorf("the keyword has no closing bracket")
	}
	name = strings.ToLower(strings.Join(strings.Fields(name), " "))
	value = strings.TrimSpace(value)
	if !p.version2 && name != "version" {
		return fmt.Errorf("keyword before [Version]")
	}
	p.inReference = false
	switch name {
	case "version":
		if value != "2.0" && value != "2.1" {
			return fmt.Errorf("version %q; 2.0 and 2.1 are read", value)
		}
		if len(p.tokens) > 0 {
			return fmt.Errorf("[Version] after data")
		}
		p.version2 = true
	case "number of ports":
		return p.count(value, MaxPorts, &p.filePorts)
	case "number of frequencies":
		return p.count(value, math.MaxInt32, &p.wantPoints)
	case "two-port data order":
		if value != "12_21" && value != "21_12" {
			return fmt.Errorf("[Two-Port Data Order] %q; give 12_21 or 21_12", value)
		}
		p.order = value
	case "matrix format":
		switch p.matrix = strings.ToLower(value); p.matrix {
		case "full", "lower", "upper":
		default:
			return fmt.Errorf("[Matrix Format] %q; give Full, Lower or Upper", value)
		}
	case "reference":
		p.inReference = true
		return p.references(value)
	case "network data":
		p.inData = true
	case "number of noise frequencies":
	case "noise data":
		p.inNoise = true
	case "begin information":
		p.inInfo = true
	case "end information":
		p.inInfo = false
	case "end":
		p.ended = true
	default:
		return fmt.Errorf("keyword [%s] is not read", name)
	}
	return nil
}

func (p *parser) count(value string, most int, to *int) error {
	n, err := strconv.Atoi(value)
	if err != nil || n < 1 || n > most {
		return fmt.Errorf("%q is no count of 1 to %d", value, most)
	}
	*to = n
	return nil
}

func (p *parser) references(line string) error {
	for _, f := range strings.Fields(line) {
		z, err := units.ParsePointNumber(f)
		if err != nil || !(z > 0) {
			return fmt.Errorf("[Reference] %s: give ohms", f)
		}
		p.reference = append(p.reference, z)
	}
	return nil
}

func bad(format string, args ...any) error { return problem.New("text", format, args...) }

func (p *parser) finish() (*Network, error) {
	if len(p.tokens) == 0 {
		return nil, bad("no data; give the text of a Touchstone file")
	}
	if p.version2 {
		if err := p.checkVersion2(); err != nil {
			return nil, err
		}
	} else if p.ports == 0 {
		if p.ports = p.portsFromLayout(); p.ports == 0 {
			return nil, problem.New("ports", "the text does not show how many ports there are; say it")
		}
	}
	n := &Network{Ports: p.ports, Z0: p.z0}
	return n, p.read(n)
}

func (p *parser) checkVersion2() error {
	switch {
	case p.filePorts == 0:
		return bad("[Number of Ports] is missing")
	case p.ports != 0 && p.ports != p.filePorts:
		return problem.New("ports", "%d, but the text says [Number of Ports] %d", p.ports, p.filePorts)
	case p.filePorts == 2 && p.order == "":
		return bad("[Two-Port Data Order] is missing; without it S21 and S12 cannot be told apart")
	case p.wantPoints == 0:
		return bad("[Number of Frequencies] is missing")
	case len(p.reference) != 0 && len(p.reference) != p.filePorts:
		return bad("[Reference] has %d values for %d ports", len(p.reference), p.filePorts)
	}
	p.ports = p.filePorts
	for _, z := range p.reference {
		if z != p.reference[0] {
			return bad("[Reference] values differ; only one impedance for all ports is read")
		}
		p.z0 = z
	}
	return nil
}

// portsFromLayout counts the numbers of the first point. A line that begins a
// point has an odd count (a frequency and pairs), one that goes on an even one.
func (p *parser) portsFromLayout() int {
	count := p.lines[0]
	for _, n := range p.lines[1:] {
		if n%2 == 1 {
			break
		}
		count += n
	}
	for ports := 1; ports <= MaxPorts; ports++ {
		if count == 1+2*ports*ports {
			return ports
		}
	}
	return 0
}

// pairs is how many complex numbers a point has in the file.
func (p *parser) pairs() int {
	if p.matrix == "lower" || p.matrix == "upper" {
		return p.ports * (p.ports + 1) / 2
	}
	return p.ports * p.ports
}

func (p *parser) read(n *Network) error {
	per := 1 + 2*p.pairs()
	lineOf := p.lineStarts()
	for at := 0; at < len(p.tokens); at += per {
		f, err := units.ParseScaled(p.text[at], p.scale)
		if err != nil || f < 0 {
			return bad("frequency %s is not one", p.text[at])
		}
		last := len(n.Frequency) - 1
		if last >= 0 && units.Hertz(f) <= n.Frequency[last] {
			if p.ports == 2 && !p.version2 && p.noiseFrom(at, lineOf) {
				break
			}
			return bad("point %d: frequencies must rise, but %s follows %s", last+2, units.Hertz(f), n.Frequency[last])
		}
		if at+per > len(p.tokens) {
			return bad("the last point is incomplete: %d numbers where %d belong", len(p.tokens)-at, per)
		}
		n.Frequency = append(n.Frequency, units.Hertz(f))
		if err := p.point(n, p.tokens[at+1:at+per]); err != nil {
			return err
		}
	}
	if p.version2 && p.wantPoints != n.Points() {
		return bad("[Number of Frequencies] is %d, but there are %d", p.wantPoints, n.Points())
	}
	return nil
}

func (p *parser) lineStarts() map[int]int {
	starts := make(map[int]int, len(p.lines))
	at := 0
	for _, n := range p.lines {
		starts[at] = n
		at += n
	}
	return starts
}

// noiseFrom tells whether from token at on there is nothing but noise data:
// lines of five numbers whose frequencies rise.
func (p *parser) noiseFrom(at int, lineOf map[int]int) bool {
	before := math.Inf(-1)
	for ; at < len(p.tokens); at += 5 {
		if lineOf[at] != 5 || p.tokens[at] <= before {
			return false
		}
		before = p.tokens[at]
	}
	return true
}

func (p *parser) point(n *Network, numbers []float64) error {
	start := len(n.s)
	n.s = append(n.s, make([]complex128, p.ports*p.ports)...)
	s := n.s[start:]
	for k := 0; k < len(numbers)/2; k++ {
		v := p.complexOf(numbers[2*k], numbers[2*k+1])
		if cmplx.IsInf(v) || cmplx.IsNaN(v) {
			return bad("point %d: %g %g is too large", n.Points(), numbers[2*k], numbers[2*k+1])
		}
		row, col := p.place(k)
		s[row*p.ports+col] = v
		if p.matrix == "lower" || p.matrix == "upper" {
			s[col*p.ports+row] = v
		}
	}
	if p.ports == 2 && p.order != "12_21" && p.matrix != "lower" && p.matrix != "upper" {
		s[1], s[2] = s[2], s[1] // a two-port is written S11 S21 S12 S22
	}
	return nil
}

// place is the row and column of the k-th pair of a point.
func (p *parser) place(k int) (row, col int) {
	switch p.matrix {
	case "lower":
		for row = 0; k > row; row++ {
			k -= row + 1
		}
		return row, k
	case "upper":
		for row = 0; k >= p.ports-row; row++ {
			k -= p.ports - row
		}
		return row, row + k
	}
	return k / p.ports, k % p.ports
}

func (p *parser) complexOf(a, b float64) complex128 {
	switch p.form {
	case 'R':
		return complex(a, b)
	case 'D':
		a = math.Pow(10, a/20)
	}
	sin, cos := math.Sincos(b * math.Pi / 180)
	return complex(a*cos, a*sin)
}
