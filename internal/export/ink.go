package export

import (
	_ "embed"
	"image/color"

	"github.com/tdewolff/canvas"

	"obturon/core/drawing"
)

//go:embed fonts/atkinson-hyperlegible-latin-400-normal.woff2
var regularFont []byte

//go:embed fonts/atkinson-hyperlegible-latin-700-normal.woff2
var boldFont []byte

var family = func() *canvas.FontFamily {
	f := canvas.NewFontFamily("Atkinson Hyperlegible")
	f.MustLoadFont(regularFont, 0, canvas.FontRegular)
	f.MustLoadFont(boldFont, 0, canvas.FontBold)
	return f
}()

// Ink of the drafting-paper look. Tissues differ in tone as well as hue, so
// that a grey print still reads.
var (
	ink      = color.RGBA{0x1f, 0x2a, 0x33, 0xff}
	faintInk = color.RGBA{0x5d, 0x68, 0x70, 0xff}
	hairline = color.RGBA{0xd9, 0xd3, 0xc6, 0xff}
	accent   = color.RGBA{0x1e, 0x6f, 0x64, 0xff} // verdigris: what can be moved
	clear    = color.RGBA{}
	paper    = color.RGBA{0xfd, 0xfb, 0xf6, 0xff}
)

type stroke struct {
	fill, line color.RGBA
	width      float64 // mm on paper
	dashes     []float64
}

var layerInk = map[string]stroke{
	drawing.Crown:        {fill: color.RGBA{0xf1, 0xf3, 0xf4, 0xff}, line: ink, width: 0.3},
	drawing.Root:         {fill: color.RGBA{0xf3, 0xeb, 0xd6, 0xff}, line: ink, width: 0.3},
	drawing.Crest:        {line: faintInk, width: 0.2},
	drawing.Relief:       {line: hairline, width: 0.1},
	drawing.Bite:         {line: color.RGBA{0x9b, 0x4d, 0x1f, 0xff}, width: 0.3},
	drawing.Neighbour:    {line: faintInk, width: 0.2},
	drawing.Contact:      {line: faintInk, width: 0.15, dashes: []float64{0.5, 0.5}},
	drawing.CervicalLine: {line: color.RGBA{0x9a, 0x82, 0x45, 0xff}, width: 0.3},
	drawing.Gingiva:      {line: color.RGBA{0x8d, 0x4f, 0x4b, 0xff}, width: 0.25, dashes: []float64{1.4, 0.6}},
	drawing.Uncut:        {line: faintInk, width: 0.15, dashes: []float64{1, 0.8}},
	drawing.Enamel:       {fill: color.RGBA{0xe6, 0xec, 0xf0, 0xff}, line: ink, width: 0.3},
	drawing.Dentin:       {fill: color.RGBA{0xee, 0xdf, 0xb4, 0xff}, line: color.RGBA{0x9a, 0x82, 0x45, 0xff}, width: 0.15},
	drawing.Pulp:         {fill: color.RGBA{0xd3, 0xa0, 0x9c, 0xff}, line: color.RGBA{0x8d, 0x4f, 0x4b, 0xff}, width: 0.15},
	drawing.Lesion: {
		fill:   color.RGBA{0x18, 0x11, 0x0a, 0x38},
		line:   color.RGBA{0x6b, 0x4a, 0x2b, 0xff},
		width:  0.25,
		dashes: []float64{0.6, 0.5},
	},
	drawing.Kept: {
		fill:  color.RGBA{0x3a, 0x28, 0x16, 0x70},
		line:  color.RGBA{0x6b, 0x4a, 0x2b, 0xff},
		width: 0.3,
	},
	drawing.Filling:       {line: faintInk, width: 0.3, dashes: []float64{1.2, 0.4, 0.2, 0.4}},
	drawing.Drawn:         {line: accent, width: 0.25, dashes: []float64{1, 0.6}},
	drawing.Bur:           {fill: color.RGBA{0x2a, 0x30, 0x35, 0x66}, line: ink, width: 0.25},
	drawing.Shank:         {line: ink, width: 0.2},
	drawing.Groove:        {line: faintInk, width: 0.2},
	drawing.Cavity:        {fill: color.RGBA{0xcf, 0xd5, 0xd8, 0xff}, line: ink, width: 0.4},
	drawing.Bevel:         {fill: color.RGBA{0xf8, 0xfa, 0xfb, 0xff}, line: ink, width: 0.15},
	drawing.Seal:          {line: color.RGBA{0x1b, 0x68, 0x5e, 0xff}, width: 0.45, dashes: []float64{0.9, 0.6}},
	drawing.OddIncrement:  {fill: color.RGBA{0xb9, 0xd6, 0xd0, 0xff}, line: accent, width: 0.25},
	drawing.EvenIncrement: {fill: color.RGBA{0xe4, 0xf0, 0xed, 0xff}, line: accent, width: 0.25},
	drawing.Amalgam:       {fill: color.RGBA{0xc4, 0xc9, 0xcc, 0xff}, line: ink, width: 0.3},
	drawing.Protection:    {fill: color.RGBA{0xd9, 0xc7, 0x9c, 0xff}, line: color.RGBA{0x9b, 0x4d, 0x1f, 0xff}, width: 0.25},
	drawing.Band:          {line: color.RGBA{0x9b, 0x4d, 0x1f, 0xff}, width: 0.5},
	drawing.WedgeBody:     {fill: color.RGBA{0xe7, 0xdc, 0xbe, 0xff}, line: color.RGBA{0x9a, 0x82, 0x45, 0xff}, width: 0.2},
	drawing.Floor:         {fill: color.RGBA{0xee, 0xdf, 0xb4, 0xff}, line: ink, width: 0.2},
}

func face(points float64, c color.RGBA, style canvas.FontStyle) *canvas.FontFace {
	return family.Face(points, c, style)
}
