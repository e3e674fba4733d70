package sweep

import (
	"bytes"
	"fmt"
	"testing"
)

func csvText(n int) []byte {
	var b bytes.Buffer
	b.WriteString("Frequency (Hz),Level (dBm)\r\n")
	for i := range n {
		fmt.Fprintf(&b, "%d,%.2f\r\n", 1_000_000+i*15_990, -92+float64(i%700)/100)
	}
	return b.Bytes()
}

func BenchmarkParseCSV100001(b *testing.B) {
	text := csvText(100_001)
	b.SetBytes(int64(len(text)))
	b.ReportAllocs()
	for b.Loop() {
		if _, err := ParseCSV(text); err != nil {
			b.Fatal(err)
		}
	}
}
