package simple

import "testing"

// TestALineThatNamesAFile, which did not come: figures with their units name none.
func TestALineThatNamesAFile(t *testing.T) {
	for text, gone := range map[string]bool{
		"stock.s1p": true, " a log of today.csv ": true, "x.txt": true, "0 8.3 1.4": false, "0 8.3v 1.4A": false, "144 2.1 146 1.4": false, "swr 1.3": false, "": false, ".csv": false, "144.1MHz 2.1": false,
	} {
		if got := FileGone(text) != nil; got != gone {
			t.Errorf("%q: %v", text, got)
		}
	}
}
