package drawing

import "image/color"

// The inks of the house, as on its pages.
var (
	Ground = color.RGBA{0xf5, 0xf0, 0xe4, 0xff}
	Paper  = color.RGBA{0xfb, 0xf8, 0xef, 0xff}
	Ink    = color.RGBA{0x2a, 0x26, 0x20, 0xff}
	Soft   = color.RGBA{0x6a, 0x62, 0x53, 0xff}
	Hair   = color.RGBA{0xd6, 0xcd, 0xb8, 0xff}
	Leaf   = color.RGBA{0x3f, 0x7a, 0x35, 0xff}
	Rust   = color.RGBA{0xa8, 0x41, 0x2a, 0xff}
	Amber  = color.RGBA{0xa8, 0x6f, 0x00, 0xff}
	Slate  = color.RGBA{0x5a, 0x66, 0x72, 0xff}
	Wash   = color.RGBA{0xf2, 0xe4, 0xd9, 0xff} // rust, thin on paper: what is forbidden
	Haze   = color.RGBA{0xe3, 0xdf, 0xd4, 0xff} // soft, thin on paper: what nobody looked at
)

// variables are the names that a page's own inks go by, light or dark.
var variables = map[color.RGBA]string{
	Ground: "--ground", Paper: "--sheet", Ink: "--ink", Soft: "--soft", Hair: "--hair", Leaf: "--leaf", Rust: "--rust", Amber: "--amber", Slate: "--slate", Wash: "--wash", Haze: "--haze",
}
