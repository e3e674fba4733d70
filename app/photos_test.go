package app

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"strings"
	"testing"
)

// header is a PNG of so many points that ends before them (PNG, 3rd edition, 11.2.1, IHDR).
func header(w, h uint32) []byte {
	chunk := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32([]byte("IHDR"), w), h)
	chunk = append(chunk, 8, 0, 0, 0, 0)
	out := append([]byte("\x89PNG\r\n\x1a\n\x00\x00\x00\x0d"), chunk...)
	return binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(chunk))
}

// TestPhotographsArePlain: upright as the camera says (Exif 2.3, tag 274, from memory), no
// larger than can be looked at, and without what else was written into them.
func TestPhotographsArePlain(t *testing.T) {
	wide := image.NewRGBA(image.Rect(0, 0, 64, 32))
	for y := range 32 {
		for x := range 64 {
			wide.Set(x, y, color.Gray{uint8(4 * x)}) // dark on the left
		}
	}
	var plain bytes.Buffer
	if err := jpeg.Encode(&plain, wide, nil); err != nil {
		t.Fatal(err)
	}
	// A table of one entry in either byte order: orientation 6, turned a quarter clockwise.
	for order, tiff := range map[string]string{
		"big":    "MM\x00\x2a\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00\x06\x00\x00\x00\x00\x00\x00",
		"little": "II\x2a\x00\x08\x00\x00\x00\x01\x00\x12\x01\x03\x00\x01\x00\x00\x00\x06\x00\x00\x00\x00\x00\x00\x00",
	} {
		segment := "Exif\x00\x00" + tiff + "a place nobody needs"
		n := len(segment) + 2
		turned := append([]byte{0xff, 0xd8, 0xff, 0xe1, byte(n >> 8), byte(n)}, segment...)
		turned = append(turned, plain.Bytes()[2:]...)
		got, kind, err := plainPhoto(turned)
		if err != nil || kind != "image/jpeg" || bytes.Contains(got, []byte("nobody")) {
			t.Fatalf("%s: %s %v", order, kind, err)
		}
		p, err := jpeg.Decode(bytes.NewReader(got))
		if err != nil || p.Bounds().Dx() != 32 || p.Bounds().Dy() != 64 {
			t.Fatalf("%s: %v %v", order, p.Bounds(), err)
		}
		if top, bottom := color.GrayModel.Convert(p.At(16, 4)).(color.Gray).Y, color.GrayModel.Convert(p.At(16, 60)).(color.Gray).Y; top > 60 || bottom < 200 {
			t.Errorf("%s: what was left is not on top: %d, %d", order, top, bottom)
		}
	}
	var large bytes.Buffer
	if err := png.Encode(&large, image.NewGray(image.Rect(0, 0, 4800, 1200))); err != nil {
		t.Fatal(err)
	}
	got, kind, err := plainPhoto(large.Bytes())
	if about, _, _ := image.DecodeConfig(bytes.NewReader(got)); err != nil || kind != "image/png" || about.Width != 2400 || about.Height != 600 {
		t.Errorf("%v %s %v", about, kind, err)
	}
	// Its size is read before its points are: what would take too much memory is refused.
	for _, x := range []struct {
		w, h, depth int
		ok          bool
	}{{9000, 9000, 8, true}, {9300, 9300, 8, false}, {4500, 4600, 32, true}, {4600, 4600, 32, false}, {60000, 60000, 8, false}} {
		about := image.Config{ColorModel: map[int]color.Model{8: color.GrayModel, 32: color.NRGBAModel}[x.depth], Width: x.w, Height: x.h}
		if got := float64(x.w)*float64(x.h)*bytesAPoint(nil, about, "png") <= maxBytes; got != x.ok {
			t.Errorf("%d x %d of %d bits: %v", x.w, x.h, x.depth, got)
		}
	}
	if _, _, err := plainPhoto(header(40000, 40000)); err == nil || !strings.Contains(err.Error(), "40000 x 40000 points") {
		t.Errorf("a picture of 1.6 billion points: %v", err)
	}
	if frame := []byte{0xff, 0xd8, 0xff, 0xe0, 0, 4, 0, 0, 0xff, 0xc2, 0, 11, 8}; !progressive(frame) || progressive(plain.Bytes()) {
		t.Error("a progressive JPEG is not told from another")
	}
	for what, content := range map[string][]byte{"text": []byte("no picture"), "half": plain.Bytes()[:plain.Len()/2], "much": make([]byte, MaxPhoto+1), "nothing": nil} {
		if _, _, err := plainPhoto(content); err == nil {
			t.Errorf("%s is taken for a photograph", what)
		}
	}
}
