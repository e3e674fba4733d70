package scpi

import "strconv"

// Error is an entry of the error queue by its standard number (SCPI-1999 volume 2, chapter
// 21.8). Negative numbers are of the standard.
type Error int

// The errors that are told here.
const (
	NoError          Error = 0
	CommandError     Error = -100
	InvalidCharacter Error = -101
	SyntaxError      Error = -102
	DataType         Error = -104
	TooMany          Error = -108
	MissingParameter Error = -109
	HeaderSuffix     Error = -114
	UndefinedHeader  Error = -113
	InvalidNumber    Error = -121
	InvalidSuffix    Error = -131
	SuffixNotAllowed Error = -138
	InvalidCharData  Error = -141
	InitIgnored      Error = -213
	OutOfRange       Error = -222
	IllegalValue     Error = -224
	DataStale        Error = -230
	SystemError      Error = -310
	QueueOverflow    Error = -350
	InputOverrun     Error = -363
)

var texts = map[Error]string{
	NoError: "No error", CommandError: "Command error", InvalidCharacter: "Invalid character", SyntaxError: "Syntax error",
	DataType: "Data type error", TooMany: "Parameter not allowed", MissingParameter: "Missing parameter",
	HeaderSuffix: "Header suffix out of range", UndefinedHeader: "Undefined header", InvalidNumber: "Invalid character in number",
	InvalidSuffix: "Invalid suffix", SuffixNotAllowed: "Suffix not allowed", InvalidCharData: "Invalid character data",
	InitIgnored: "Init ignored", OutOfRange: "Data out of range",
	IllegalValue: "Illegal parameter value", DataStale: "Data corrupt or stale", SystemError: "System error",
	QueueOverflow: "Queue overflow", InputOverrun: "Input buffer overrun",
}

// String is the entry as it is answered.
func (e Error) String() string { return strconv.Itoa(int(e)) + `,"` + texts[e] + `"` }

// The bits of the standard event status register (IEEE 488.2, 11.5.1).
const (
	bitComplete  = 1 << 0
	bitQuery     = 1 << 2
	bitDevice    = 1 << 3
	bitExecution = 1 << 4
	bitCommand   = 1 << 5
)

// command tells whether the error lies in what was sent: what follows it in the message is
// dropped.
func (e Error) command() bool { return e <= -100 && e > -200 }

// event is the bit that an error sets.
func (e Error) event() int {
	switch {
	case e.command():
		return bitCommand
	case e <= -200 && e > -300:
		return bitExecution
	case e <= -300 && e > -400:
		return bitDevice
	case e <= -400 && e > -500:
		return bitQuery
	}
	return 0
}
