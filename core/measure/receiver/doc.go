// Package receiver is what a receiver does beside hearing: its S-meter against level, where its squelch
// opens and closes, and by how much it hears its image and its neighbours less. How weak a signal it
// hears is the room of sensitivity. The type to start from is Draft.
package receiver
