package measure

import (
	"bytes"
	"encoding/csv"
	"strings"

	"talloak/core/units"
)

// CSV is rows as comma-separated values (RFC 4180). What a spreadsheet would take for a formula,
// text that begins with =, +, -, @, a tab or a carriage return, gets an apostrophe before it, which
// a spreadsheet takes for text (OWASP, CSV injection; from memory); numbers stay numbers.
func CSV(rows [][]string) ([]byte, error) {
	var out bytes.Buffer
	w := csv.NewWriter(&out)
	for _, row := range rows {
		plain := make([]string, len(row))
		for i, cell := range row {
			plain[i] = plainCell(cell)
		}
		if err := w.Write(plain); err != nil {
			return nil, err
		}
	}
	w.Flush()
	return out.Bytes(), w.Error()
}

func plainCell(cell string) string {
	if cell == "" || !strings.ContainsRune("=+-@\t\r", rune(cell[0])) {
		return cell
	}
	if _, err := units.ParsePointNumber(cell); err == nil {
		return cell
	}
	return "'" + cell
}
