// Package scpi is the instrument's end of the language that instruments with a socket
// speak: messages of IEEE 488.2, commands by the syntax of SCPI-1999, its errors and its
// status, and the lines of a TCP server with bounds on time, size and number.
//
// What an instrument measures is not here: start from Device, which is given a list of
// Commands, and from Serve.
package scpi
