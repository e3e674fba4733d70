package drawing

import (
	"image"
	"image/color"

	"codeberg.org/go-pdf/fpdf"
	"gonum.org/v1/plot/font"
	"gonum.org/v1/plot/vg"
)

// AddFaces embeds the faces of the house in a PDF, each as a family of its own.
func AddFaces(doc *fpdf.Fpdf) {
	for _, f := range Faces {
		doc.AddUTF8FontFromBytes(string(f), "", f.TrueType())
	}
}

// pdfCanvas draws into a stretch of a page of a PDF. The lower left corner lies at x and y of the page, whose y
// goes down.
type pdfCanvas struct {
	doc         *fpdf.Fpdf
	x, y, scale float64
}

func (c *pdfCanvas) at(p vg.Point) (x, y float64) {
	return c.x + p.X.Points()*c.scale, c.y - p.Y.Points()*c.scale
}

// SetLineWidth implements vg.Canvas.
func (c *pdfCanvas) SetLineWidth(w vg.Length) { c.doc.SetLineWidth(w.Points() * c.scale) }

// SetLineDash implements vg.Canvas.
func (c *pdfCanvas) SetLineDash(pattern []vg.Length, offset vg.Length) {
	dashes := make([]float64, len(pattern))
	for i, d := range pattern {
		dashes[i] = d.Points() * c.scale
	}
	c.doc.SetDashPattern(dashes, offset.Points()*c.scale)
}

// SetColor implements vg.Canvas.
func (c *pdfCanvas) SetColor(ink color.Color) {
	r, g, b, _ := ink.RGBA()
	c.doc.SetFillColor(int(r>>8), int(g>>8), int(b>>8))
	c.doc.SetDrawColor(int(r>>8), int(g>>8), int(b>>8))
	c.doc.SetTextColor(int(r>>8), int(g>>8), int(b>>8))
}

// Stroke implements vg.Canvas.
func (c *pdfCanvas) Stroke(p vg.Path) { c.path(p, "D") }

// Fill implements vg.Canvas.
func (c *pdfCanvas) Fill(p vg.Path) { c.path(p, "F") }

// path draws lines and cubic curves, which is all that a Sheet has.
func (c *pdfCanvas) path(p vg.Path, how string) {
	for _, part := range p {
		x, y := c.at(part.Pos)
		switch part.Type {
		case vg.MoveComp:
			c.doc.MoveTo(x, y)
		case vg.LineComp:
			c.doc.LineTo(x, y)
		case vg.CurveComp:
			ax, ay := c.at(part.Control[0])
			bx, by := c.at(part.Control[1])
			c.doc.CurveBezierCubicTo(ax, ay, bx, by, x, y)
		case vg.CloseComp:
			c.doc.ClosePath()
		}
	}
	c.doc.DrawPath(how)
}

// FillString implements vg.Canvas.
func (c *pdfCanvas) FillString(f font.Face, pt vg.Point, text string) {
	x, y := c.at(pt)
	c.doc.SetFont(string(f.Font.Typeface), "", f.Font.Size.Points()*c.scale)
	c.doc.Text(x, y, Face(f.Font.Typeface).Known(text))
}

// A Sheet neither turns nor moves its paper, and sets no images on it.

// Rotate implements vg.Canvas.
func (c *pdfCanvas) Rotate(float64) {}

// Translate implements vg.Canvas.
func (c *pdfCanvas) Translate(vg.Point) {}

// Scale implements vg.Canvas.
func (c *pdfCanvas) Scale(float64, float64) {}

// Push implements vg.Canvas.
func (c *pdfCanvas) Push() {}

// Pop implements vg.Canvas.
func (c *pdfCanvas) Pop() {}

// DrawImage implements vg.Canvas.
func (c *pdfCanvas) DrawImage(vg.Rectangle, image.Image) {}
