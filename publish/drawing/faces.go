package drawing

import (
	"embed"
	"strings"
	"sync"

	"golang.org/x/image/font/opentype"
	"golang.org/x/image/font/sfnt"
	"gonum.org/v1/plot/font"
	"gonum.org/v1/plot/vg"
)

//go:embed fonts/*.ttf
var files embed.FS

// Face is one of the faces of the house.
type Face string

// The faces, by their files: they ship with the program (SIL Open Font License 1.1).
const (
	Regular Face = "plex-400"
	Bold    Face = "plex-600"
	Serif   Face = "fraunces-600"
)

// Faces are all of them.
var Faces = []Face{Regular, Bold, Serif}

// TrueType is a face's file.
func (f Face) TrueType() []byte {
	data, err := files.ReadFile("fonts/" + string(f) + ".ttf")
	if err != nil {
		panic(err) // embedded above
	}
	return data
}

var parsed = sync.OnceValue(func() map[Face]*opentype.Font {
	out := map[Face]*opentype.Font{}
	for _, f := range Faces {
		p, err := opentype.Parse(f.TrueType())
		if err != nil {
			panic(err) // embedded above
		}
		out[f] = p
	}
	return out
})

// at is a face at a size in points.
func (f Face) at(size float64) font.Face {
	return font.Face{Font: font.Font{Typeface: font.Typeface(f), Size: vg.Length(size)}, Face: parsed()[f]}
}

// Known is a text with a question mark for every sign that the face lacks: a PDF has no other face to fall back on.
func (f Face) Known(text string) string {
	var buf sfnt.Buffer
	return strings.Map(func(r rune) rune {
		if at, err := parsed()[f].GlyphIndex(&buf, r); err != nil || at == 0 {
			return '?'
		}
		return r
	}, text)
}

// Width is how wide a text is set at a size, both in points.
func (f Face) Width(size float64, text string) float64 {
	face := f.at(size)
	return face.Width(text).Points()
}
