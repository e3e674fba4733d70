package drawing

import (
	"bytes"
	"fmt"
	"html"
	"image/color"
	"image/png"
	"regexp"
	"strings"

	"codeberg.org/go-pdf/fpdf"
	"gonum.org/v1/plot/vg"
	"gonum.org/v1/plot/vg/vgimg"
	"gonum.org/v1/plot/vg/vgsvg"
)

// Picture is something drawn, of a size in points, under the name and title that it goes by.
type Picture struct {
	Name, Title   string
	Width, Height float64
	Draw          func(*Sheet)
}

func (p *Picture) on(c vg.Canvas) { p.Draw(&Sheet{canvas: c, height: p.Height, times: 1}) }

// SVG is the picture as a file that needs no other: its faces are in it.
func (p *Picture) SVG() ([]byte, error) {
	c := vgsvg.NewWith(vgsvg.UseWH(vg.Length(p.Width), vg.Length(p.Height)), vgsvg.EmbedFonts(true))
	p.on(c)
	var out bytes.Buffer
	_, err := c.WriteTo(&out)
	return out.Bytes(), err
}

var (
	upToSVG = regexp.MustCompile(`(?s)^.*?<svg[^>]*>`)
	hexInk  = regexp.MustCompile(`#[0-9A-Fa-f]{6}`)
	styled  = regexp.MustCompile(`font-family:([^;]*);font-variant:[a-z]*;font-weight:[a-z0-9]*;font-style:[a-z]*`)
)

// Inline is the picture as part of a page that has the faces and the inks, light or dark, of its own.
func (p *Picture) Inline() (string, error) {
	c := vgsvg.NewWith(vgsvg.UseWH(vg.Length(p.Width), vg.Length(p.Height)))
	p.on(c)
	var out bytes.Buffer
	if _, err := c.WriteTo(&out); err != nil {
		return "", err
	}
	text := upToSVG.ReplaceAllString(out.String(), fmt.Sprintf(`<svg viewBox="0 0 %g %g" role="img" aria-label="%s">`, p.Width, p.Height, html.EscapeString(p.Title)))
	text = hexInk.ReplaceAllStringFunc(text, func(hex string) string {
		for ink, name := range variables {
			if strings.EqualFold(hex, fmt.Sprintf("#%02x%02x%02x", ink.R, ink.G, ink.B)) {
				return "var(" + name + ")"
			}
		}
		return hex
	})
	return styled.ReplaceAllStringFunc(text, func(style string) string {
		family := styled.FindStringSubmatch(style)[1]
		switch {
		case strings.Contains(family, "Fraunces"):
			return "font-family:Fraunces,Georgia,serif;font-weight:600"
		case strings.Contains(family, "SemiBold"):
			return "font-family:'IBM Plex Sans',sans-serif;font-weight:600"
		}
		return "font-family:'IBM Plex Sans',sans-serif"
	}), nil
}

// PNG is the picture as points, so many to a point of its size.
func (p *Picture) PNG(scale float64) ([]byte, error) {
	const points = 72 // to an inch, as vg counts
	c := vgimg.NewWith(vgimg.UseWH(vg.Length(p.Width), vg.Length(p.Height)), vgimg.UseDPI(int(points*scale)), vgimg.UseBackgroundColor(color.Transparent))
	p.on(c)
	var out bytes.Buffer
	err := (&png.Encoder{CompressionLevel: png.DefaultCompression}).Encode(&out, c.Image())
	return out.Bytes(), err
}

// pngScale is how many points of a PNG file there are to one of the picture's size.
const pngScale = 2

// As is the picture as a file, svg or png, with its media type; nil where it is asked for as something else.
func (p *Picture) As(kind string) (content []byte, mediaType string, err error) {
	switch kind {
	case "svg":
		content, err = p.SVG()
		return content, "image/svg+xml", err
	case "png":
		content, err = p.PNG(pngScale)
		return content, "image/png", err
	}
	return nil, "", nil
}

// Onto draws the picture on the page of a PDF that is open, with its upper left corner at x and y and so wide. The
// document's unit is the point, and it has the faces of the house: see AddFaces.
func (p *Picture) Onto(doc *fpdf.Fpdf, x, y, width float64) {
	scale := width / p.Width
	p.on(&pdfCanvas{doc: doc, x: x, y: y + p.Height*scale, scale: scale})
}
