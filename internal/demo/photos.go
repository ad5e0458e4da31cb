package demo

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/internal/judge"
)

// photo takes the photograph that a step asks for: a made-up one, a plate on a ground.
func (w *worker) photo(st recipe.Step) {
	var b bytes.Buffer
	if w.err = jpeg.Encode(&b, plate(uint32(w.rand.IntN(1<<30))), &jpeg.Options{Quality: 70}); w.err != nil {
		return
	}
	p, err := w.app.KeepPhoto(w.ctx, w.who(w.j.fitter), b.Bytes())
	if err != nil {
		w.err = err
		return
	}
	w.pass(15, 40)
	w.add(w.j.fitter, judge.NewEntry{Content: record.Photo{Step: st.ID, Hash: p.Hash, What: st.Photo}})
}

// plate draws a nameplate with strokes where its letters are, another for each seed.
func plate(seed uint32) image.Image {
	const width, height = 640, 480
	m := image.NewRGBA(image.Rect(0, 0, width, height))
	for y := range height {
		for x := range width {
			shade := uint8(90 + (x+2*y)*40/(width+2*height))
			c := color.RGBA{shade, shade, shade + 6, 255}
			if x > 110 && x < 530 && y > 120 && y < 360 {
				c = color.RGBA{214, 209, 196, 255}
				line, stroke := (y-150)/40, (x-140)/14
				if y > 150 && y < 330 && (y-150)%40 < 22 && x > 140 && x < 500 && (seed>>(uint(line*7+stroke)%31))&1 == 1 && (x-140)%14 < 9 {
					c = color.RGBA{52, 58, 66, 255}
				}
			}
			m.Set(x, y, c)
		}
	}
	return m
}
