// Package supply is what a radio draws from its supply: at each level, receiving, standing by and
// switched off; with what of it becomes power and what heat. Draws that were noted with a power are
// the room of power's; these need none. The type to start from is Draft.
package supply
