package linear_test

import (
	"fmt"
	"testing"

	"talloak/core/linear"
)

// A pad of 40 dB that is known at two frequencies, in MHz.
func ExampleThrough() {
	loss := linear.Through([]float64{100, 500}, []float64{40, 39.2})
	fmt.Printf("%.2f %.2f %.2f\n", loss.At(300), loss.At(100), loss.At(900))
	// Output: 39.60 40.00 39.20
}

func TestOnePointIsHeld(t *testing.T) {
	if l := linear.Through([]float64{146}, []float64{0.3}); l.At(1) != 0.3 || l.At(146) != 0.3 || l.At(900) != 0.3 {
		t.Error(l.At(1), l.At(146), l.At(900))
	}
}
