package app

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	_ "image/jpeg" // the forms that are taken; whatever else is linked in is refused
	_ "image/png"
	"net/http"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/internal/store"
)

// What a photograph may be. The device makes it no wider or higher than MostSide before
// it is sent; MostPhoto is what is refused unread.
const (
	MostPhoto = 12 << 20 // bytes
	MostSide  = 1600     // pixels
)

// KeepPhoto keeps a photograph, and returns it with its hash. What is none, in an unknown
// form, too large, or says where it was taken is refused, and nothing is kept of it.
func (a *App) KeepPhoto(ctx context.Context, who Who, file []byte) (store.Photo, error) {
	p := store.Photo{Hash: store.HashOf(file), Bytes: file, Person: who.ID, At: a.now()}
	if len(file) > MostPhoto {
		return p, refusal.Number(refusal.TooLarge, "file", float64(len(file)), MostPhoto, "bytes",
			fmt.Sprintf("The photograph has %d bytes; at most %d are taken.", len(file), MostPhoto), "Take it with the page: it makes it smaller.")
	}
	c, kind, err := picture(file)
	if err != nil {
		return p, err
	}
	p.Type, p.Width, p.Height = kind, c.Width, c.Height
	return p, a.store.KeepPhoto(ctx, p)
}

// picture looks at what is in a file, and decodes it only once it is known to be no larger
// than MostSide: a small file can hold a picture that fills the memory.
func picture(file []byte) (c image.Config, kind string, err error) {
	kind = http.DetectContentType(file)
	c, form, err := image.DecodeConfig(bytes.NewReader(file))
	if err != nil || form != "jpeg" && form != "png" || kind != "image/"+form {
		return c, kind, refusal.New(refusal.Unknown, "file", "This is no photograph in a form that is known.", "Send a JPEG or a PNG.")
	}
	if most := max(c.Width, c.Height); most > MostSide {
		return c, kind, refusal.Number(refusal.TooLarge, "file", float64(most), MostSide, "pixels", fmt.Sprintf(
			"The photograph is %d by %d pixels; at most %d either way.", c.Width, c.Height, MostSide), "Take it with the page: it makes it smaller.")
	}
	if bytes.Contains(file[:min(len(file), 128<<10)], []byte("Exif\x00")) || form == "png" && bytes.Contains(file, []byte("eXIf")) {
		return c, kind, refusal.New(refusal.Contradicts, "file", "The photograph carries what its camera wrote, perhaps where it was taken.",
			"Take it with the page: it leaves that out.")
	}
	if _, _, err := image.Decode(bytes.NewReader(file)); err != nil {
		return c, kind, refusal.New(refusal.Unknown, "file", "The photograph is not whole.", "Take it again.")
	}
	return c, kind, nil
}

// Photo returns a photograph.
func (a *App) Photo(ctx context.Context, hash string) (store.Photo, error) {
	p, err := a.store.Photo(ctx, hash)
	return p, found(err, "photograph")
}

// photographed fills in what is kept of the photograph that an entry names.
func (a *App) photographed(ctx context.Context, c record.Photo) (record.Photo, error) {
	p, err := a.store.Photo(ctx, c.Hash)
	if errors.Is(err, store.ErrNotFound) {
		return c, refusal.New(refusal.Missing, "photo", "The photograph itself has not come yet.", "Send it first, then say what it shows.")
	}
	c.Width, c.Height, c.Size = p.Width, p.Height, len(p.Bytes)
	return c, err
}
