package demo

import (
	"bytes"
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"

	"codeberg.org/go-pdf/fpdf"
	"github.com/google/uuid"

	"dynacor/core/recipe"
	"dynacor/internal/app"
	"dynacor/internal/recipes"
)

// hung are the recipes at which a made-up maker's sheet hangs, and at which step it is opened on its second
// page.
var hung = map[string]string{"accumulator": "charge", "large-nut": "pull"}

// hangSheets hangs the makers' sheets, made up like all figures here.
func (l *loader) hangSheets(ctx context.Context) error {
	book, err := recipes.Book()
	if err != nil {
		return err
	}
	l.begin(0)
	for _, r := range book {
		step, ok := hung[r.ID]
		if !ok {
			continue
		}
		file, err := l.sheet(r)
		if err != nil {
			return err
		}
		h := app.Hanging{ID: uuid.New(), File: file, Title: "Ottermere sheet for the " + strings.ToLower(r.Title), Recipe: r.ID}
		kept, err := l.app.HangPaper(ctx, l.who("edda"), h)
		if err != nil {
			return err
		}
		h = app.Hanging{ID: uuid.New(), Hash: kept.Hash, Title: h.Title, Recipe: r.ID, Step: step, Page: 2}
		if _, err := l.app.HangPaper(ctx, l.who("edda"), h); err != nil {
			return err
		}
	}
	return nil
}

// sheet draws a maker's sheet of two pages: what it gives for each size, and how it goes
// together.
func (l *loader) sheet(r recipe.Recipe) ([]byte, error) {
	p := fpdf.New("P", "mm", "A4", "")
	say := p.UnicodeTranslatorFromDescriptor("")
	p.SetCreationDate(l.clock)
	p.SetModificationDate(l.clock)
	p.SetCatalogSort(true)
	head := func(title string) {
		p.AddPage()
		p.SetFont("Helvetica", "B", 20)
		p.CellFormat(0, 12, say(r.Title), "B", 1, "", false, 0, "")
		p.SetFont("Helvetica", "", 12)
		p.CellFormat(0, 9, say(title+". "+r.Sheet.Title), "", 1, "", false, 0, "")
		p.Ln(4)
	}
	head("Page 1: values for each size")
	for _, row := range r.Sheet.Rows {
		p.SetFont("Helvetica", "B", 12)
		p.CellFormat(0, 8, say(strings.TrimSpace(row.Type+" "+row.Size+" "+row.When.Words())), "", 1, "", false, 0, "")
		p.SetFont("Helvetica", "", 11)
		var out []string
		for _, name := range slices.Sorted(maps.Keys(row.Values)) {
			i := slices.IndexFunc(r.Needs, func(n recipe.Need) bool { return n.Name == name })
			if i < 0 {
				continue
			}
			v := strings.ReplaceAll(strings.Trim(fmt.Sprint(row.Values[name]), "[]"), " ", " to ")
			out = append(out, strings.TrimSpace(fmt.Sprintf("%s %s %s%s", name, v, r.Needs[i].Unit, r.Needs[i].Word)))
		}
		p.MultiCell(0, 6, say(strings.Join(out, "; ")), "", "", false)
		p.Ln(2)
	}
	head("Page 2: how it goes together")
	for i, part := range r.Parts {
		p.MultiCell(0, 7, say(strings.Trim(fmt.Sprintf("%d  %s, %s", i+1, part.Name, part.Facing()), " ,")), "", "", false)
	}
	var b bytes.Buffer
	err := p.Output(&b)
	return b.Bytes(), err
}
