// Package battery is a run-down of a battery: what it gave, in mAh and Wh, against its label, and
// how long that lasts at a duty. The type to start from is Input.
package battery
