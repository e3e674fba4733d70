package publish

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	_ "image/png" // photographs are PNG or JPEG

	"codeberg.org/go-pdf/fpdf"

	"talloak/publish/drawing"
)

// photographs sets those of the edition, two beside each other. Each is drawn anew as JPEG: the library that writes PDF
// does not take every PNG.
func (w *printed) photographs() {
	if len(w.d.Photos) == 0 {
		return
	}
	w.heading(0, "Photographs")
	const gap, most = 16.0, 220.0
	wide := (w.inner() - gap) / 2
	x, high := margin, 0.0
	for i, p := range w.d.Photos {
		picture, _, err := image.Decode(bytes.NewReader(p.Content))
		if err != nil {
			continue // nothing that this program kept
		}
		var out bytes.Buffer
		if err := jpeg.Encode(&out, picture, &jpeg.Options{Quality: 85}); err != nil {
			continue
		}
		b := picture.Bounds()
		fit := min(wide/float64(b.Dx()), most/float64(b.Dy()))
		pw, ph := fit*float64(b.Dx()), fit*float64(b.Dy())
		if x == margin {
			w.need(most + 24)
		}
		name, as := fmt.Sprintf("photograph %d", i), fpdf.ImageOptions{ImageType: "JPG"}
		w.doc.RegisterImageOptionsReader(name, as, &out)
		w.doc.ImageOptions(name, x, w.y, pw, ph, false, as, 0, "")
		w.put(x, w.y+ph+11, drawing.Regular, 8.5, drawing.Soft, drawing.Clipped(wide, 8.5, drawing.Regular, aboutPhoto(*w.d, p)))
		high = max(high, ph+24)
		if x += wide + gap; x > w.width-margin-wide/2 {
			w.y, x, high = w.y+high, margin, 0
		}
	}
	w.y += high
}
