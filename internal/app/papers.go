package app

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"github.com/google/uuid"

	roles "dynacor/core/person"
	"dynacor/core/refusal"
	"dynacor/internal/store"
)

// MostSheet is the largest maker's sheet that is taken, bytes.
const MostSheet = 12 << 20

// Hanging is a maker's own sheet and where it is hung: at a recipe or at a joint, or at one
// of its steps. File is empty where Hash names one that is kept already.
type Hanging struct {
	ID     uuid.UUID
	File   []byte
	Hash   string
	Title  string
	Recipe string
	Joint  *uuid.UUID
	Step   string
	Page   int
}

// HangPaper hangs a maker's own sheet. What is neither a PDF nor a picture, is not whole or
// too large is refused by what is in it, and so is a place that is none; nothing is kept then.
func (a *App) HangPaper(ctx context.Context, who Who, h Hanging) (store.Hung, error) {
	f := store.Sheet{Hash: h.Hash, Person: who.ID, At: a.now()}
	out := store.Hung{ID: h.ID, Title: strings.TrimSpace(h.Title), Joint: h.Joint, Step: h.Step, Page: h.Page, Person: who.ID, At: f.At}
	if h.Recipe != "" {
		out.Recipe = &h.Recipe
	}
	if out.Title == "" {
		return out, refusal.New(refusal.Missing, "title", "The sheet has no title.", "Say whose it is and what it is for.")
	}
	if err := a.hangsAt(ctx, who, h); err != nil {
		return out, err
	}
	var err error
	switch {
	case len(h.File) > 0:
		f.Bytes, f.Hash = h.File, store.HashOf(h.File)
		f.Type, err = sheetType(h.File)
	case h.Hash != "":
		var kept store.Sheet
		kept, err = a.store.Sheet(ctx, h.Hash)
		f.Type, err = kept.Type, found(err, "sheet")
	default:
		err = refusal.New(refusal.Missing, "file", "There is no file.", "Choose the maker's sheet, a PDF or a picture.")
	}
	if err != nil {
		return out, err
	}
	if f.Type != pdf && h.Page > 1 {
		return out, refusal.Number(refusal.OutOfRange, "page", float64(h.Page), 1, "pages", "A picture has one page.", "Leave the page out.")
	}
	out.Hash, out.Type = f.Hash, f.Type
	return out, a.store.HangSheet(ctx, f, out)
}

// hangsAt refuses a place that is none, or that is not theirs to hang something at: what
// hangs at a recipe is seen at every joint of it.
func (a *App) hangsAt(ctx context.Context, who Who, h Hanging) error {
	if (h.Recipe == "") == (h.Joint == nil) {
		return refusal.New(refusal.Missing, "recipe", "Where does it hang?", "Name a recipe or a joint, one of the two.")
	}
	id := h.Recipe
	if h.Joint != nil {
		j, err := a.store.Joint(ctx, *h.Joint)
		if err != nil {
			return found(err, "joint")
		}
		id = j.Recipe
	} else if !who.Is(roles.Engineer) {
		return &Error{Kind: NotAllowed, Code: "not-yours", Text: "What hangs at a recipe hangs at every joint of it; an engineer hangs it there.",
			Way: "Hang it at the joint."}
	}
	e, there, err := a.edition(ctx, id)
	if err != nil {
		return err
	}
	if !there {
		return notFound("recipe")
	}
	if _, is := e.Step(h.Step); h.Step != "" && !is {
		return refusal.New(refusal.Unknown, "step", fmt.Sprintf("%s has no step %q.", e.Title, h.Step), "Choose one of its steps.")
	}
	return nil
}

const pdf = "application/pdf"

// sheetType tells by what is in a file what it is.
func sheetType(file []byte) (string, error) {
	if len(file) > MostSheet {
		return "", refusal.Number(refusal.TooLarge, "file", float64(len(file)), MostSheet, "bytes",
			fmt.Sprintf("The sheet has %d bytes; at most %d are taken.", len(file), MostSheet), "Take out the pages that are not for this joint.")
	}
	switch kind := http.DetectContentType(file); kind {
	case pdf:
		if !bytes.Contains(file[max(0, len(file)-2048):], []byte("%%EOF")) {
			return "", refusal.New(refusal.Unknown, "file", "The PDF is not whole.", "Send it again.")
		}
		return pdf, nil
	case "image/jpeg", "image/png":
		_, _, err := picture(file)
		return kind, err
	}
	return "", refusal.New(refusal.Unknown, "file", "This is neither a PDF nor a picture.", "Send the sheet as PDF, JPEG or PNG.")
}

// PapersAt lists what hangs at a joint, and at its recipe; without a joint, at a recipe.
func (a *App) PapersAt(ctx context.Context, joint *uuid.UUID, recipe string) ([]store.Hung, error) {
	if joint == nil {
		return a.store.SheetsOfRecipe(ctx, recipe)
	}
	return a.store.SheetsOfJoint(ctx, *joint)
}

// TakePaperOff takes a sheet off where it hangs; it stays stored.
func (a *App) TakePaperOff(ctx context.Context, who Who, id uuid.UUID) error {
	h, err := a.store.HungSheet(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil // it hangs there no more
	} else if err != nil {
		return err
	}
	if h.Recipe != nil && !who.Is(roles.Engineer) {
		return &Error{Kind: NotAllowed, Code: "not-yours", Text: "It hangs at the recipe; an engineer takes it off.", Way: "Ask an engineer."}
	}
	return a.store.TakeSheetOff(ctx, id, who.ID, a.now())
}

// Paper returns a maker's sheet.
func (a *App) Paper(ctx context.Context, hash string) (store.Sheet, error) {
	f, err := a.store.Sheet(ctx, hash)
	return f, found(err, "sheet")
}
