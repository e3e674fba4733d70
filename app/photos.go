package app

import (
	"bytes"
	"context"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"strings"

	"golang.org/x/image/draw"

	"talloak/core/problem"
	"talloak/core/record"
	"talloak/store"
)

// MaxPhoto is the largest photograph taken, in bytes; one that takes more memory than maxBytes
// while it is read is not worth it.
const (
	MaxPhoto = 10 << 20
	maxBytes = 80 << 20 // of memory that a picture may take while it is read
	longest  = 2400     // points that are kept along its longer side
)

// decoding is held by who reads a picture, one at a time: two, and what is drawn of them, would
// take more memory than a small machine has to spare.
var decoding = make(chan struct{}, 1)

// AddPhoto keeps a photograph, PNG or JPEG, of what it is about: a measurement by its id, or
// a claim by its text. It is drawn anew, upright and no larger than can be looked at, so
// that nothing of the camera, the place or the person is kept in it.
func (a *App) AddPhoto(ctx context.Context, p *record.Photo) error {
	if err := checkTexts(struct {
		About string `json:"about"`
		Name  string `json:"name"`
	}{p.About, p.Name}); err != nil {
		return err
	}
	if strings.TrimSpace(p.About) == "" {
		return problem.New("about", "say what it is of: a measurement by its id, or a claim by its text")
	}
	request := store.Fingerprint([]any{p.ReviewID, p.About, p.Name, len(p.Content), store.Fingerprint(p.Content)})
	var err error
	if p.Content, p.MediaType, err = plainPhoto(p.Content); err != nil {
		return err
	}
	again, err := a.Store.AddPhoto(ctx, p, request)
	if err == nil && !again {
		a.Events.publish("photo", p.ID, p.ReviewID)
	}
	return err
}

func plainPhoto(content []byte) (plain []byte, mediaType string, err error) {
	const would = "give a PNG or JPEG of at most 10 MB"
	if len(content) > MaxPhoto {
		return nil, "", problem.New("photo", "it is over 10 MB; %s", would)
	}
	about, format, err := image.DecodeConfig(bytes.NewReader(content))
	switch {
	case err != nil || format != "png" && format != "jpeg":
		return nil, "", problem.New("photo", "it is no picture that can be read; %s", would)
	case about.Width < 1 || about.Height < 1 || float64(about.Width)*float64(about.Height)*bytesAPoint(content, about, format) > maxBytes:
		return nil, "", problem.New("photo", "it is %d x %d points, which takes more memory than a photograph is worth; give one of at most 20 million points, 5 million where it is saved as progressive JPEG", about.Width, about.Height)
	}
	decoding <- struct{}{}
	defer func() { <-decoding }()
	picture, _, err := image.Decode(bytes.NewReader(content))
	if err != nil {
		return nil, "", problem.New("photo", "the picture is broken: %s", err.Error())
	}
	turned := 1
	if format == "jpeg" {
		turned = orientation(content)
	}
	picture = upright(smaller(picture), turned)
	var out bytes.Buffer
	if format == "png" {
		err = png.Encode(&out, picture)
	} else {
		err = jpeg.Encode(&out, picture, &jpeg.Options{Quality: 90})
	}
	return out.Bytes(), "image/" + format, err
}

// bytesAPoint is how much memory a point takes while a picture is read, known before any is: a
// progressive JPEG keeps its coefficients until its end, 4 bytes for each sample.
func bytesAPoint(content []byte, about image.Config, format string) float64 {
	switch {
	case format == "jpeg" && progressive(content):
		return 15
	case format == "jpeg":
		return 3
	}
	switch about.ColorModel {
	case color.GrayModel:
		return 1
	case color.RGBA64Model, color.NRGBA64Model:
		return 8
	}
	if _, palette := about.ColorModel.(color.Palette); palette {
		return 1
	}
	return 4
}

// progressive tells whether the frame of a JPEG is one (marker SOF2, ITU-T T.81).
func progressive(content []byte) bool {
	for at := 2; at+4 < len(content) && content[at] == 0xff; at += 2 + int(content[at+2])<<8 + int(content[at+3]) {
		switch content[at+1] {
		case 0xc2:
			return true
		case 0xc0, 0xc1, 0xda:
			return false
		}
	}
	return false
}

func smaller(picture image.Image) image.Image {
	b := picture.Bounds()
	most := max(b.Dx(), b.Dy())
	if most <= longest {
		return picture
	}
	out := image.NewRGBA(image.Rect(0, 0, max(1, b.Dx()*longest/most), max(1, b.Dy()*longest/most)))
	draw.ApproxBiLinear.Scale(out, out.Bounds(), picture, b, draw.Src, nil)
	return out
}

// upright draws a picture as it was held: by the orientation 1 to 8 that a camera notes.
func upright(picture image.Image, turned int) image.Image {
	if turned < 2 || turned > 8 {
		return picture
	}
	b := picture.Bounds()
	w, h := b.Dx(), b.Dy()
	if turned >= 5 {
		w, h = h, w
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range b.Dy() {
		for x := range b.Dx() {
			right, bottom := b.Dx()-1-x, b.Dy()-1-y
			to := [...]image.Point{{}, {}, {right, y}, {right, bottom}, {x, bottom}, {y, x}, {bottom, x}, {bottom, right}, {y, right}}[turned]
			out.Set(to.X, to.Y, picture.At(b.Min.X+x, b.Min.Y+y))
		}
	}
	return out
}

// orientation is the way a JPEG was held, by the Exif tag 274 in its first APP1 segment; 1,
// as it is, where there is none.
func orientation(content []byte) int {
	const upright = 1
	for at := 2; at+4 < len(content) && content[at] == 0xff && content[at+1] != 0xda; {
		marker, length := content[at+1], int(content[at+2])<<8|int(content[at+3])
		segment := content[at+4 : max(at+4, min(len(content), at+2+length))]
		at += 2 + length
		if marker != 0xe1 || !bytes.HasPrefix(segment, []byte("Exif\x00\x00")) || len(segment) < 14 {
			continue
		}
		tiff := segment[6:]
		number := func(i, n int) int { // n bytes at i, in the order the file has
			v := 0
			for k := range n {
				j := i + k
				if tiff[0] == 'I' {
					j = i + n - 1 - k
				}
				if j < 0 || j >= len(tiff) {
					return 0
				}
				v = v<<8 | int(tiff[j])
			}
			return v
		}
		table := number(4, 4)
		for i := range min(number(table, 2), 100) {
			if entry := table + 2 + 12*i; number(entry, 2) == 274 {
				return number(entry+8, 2)
			}
		}
	}
	return upright
}
