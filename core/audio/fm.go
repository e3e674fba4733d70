package audio

import "math"

// Carson is the bandwidth of an FM signal by Carson's rule (textbook), in the unit of its deviation and of its highest
// modulating frequency.
func Carson(deviation, highest float64) float64 { return 2 * (deviation + highest) }

// J0Zero is the n-th zero of the Bessel function J0, n from 1: the modulation index of the
// carrier's n-th null (Abramowitz and Stegun, table 9.5). McMahon's first term begins, Newton's
// steps end it.
func J0Zero(n int) float64 {
	x := (float64(n) - 0.25) * math.Pi
	x += 1 / (8 * x)
	for range 8 {
		x += math.J0(x) / math.J1(x) // J0' = -J1
	}
	return x
}
