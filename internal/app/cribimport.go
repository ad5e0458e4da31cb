package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/refusal"
	"dynacor/internal/sheets"
	"dynacor/internal/store"
)

// What a list of tools says beside their data.
const (
	columnPlace      = "place"
	columnCalibrated = "calibrated"
	columnDue        = "due"
)

// ToolColumns lists the headings of a list of tools; those after the last that is read say
// where each stands.
func ToolColumns() []string { return append(crib.Columns(), columnPlace, columnCalibrated, columnDue) }

// ToolRow is what came, or is to come, of one line of a list of tools.
type ToolRow struct {
	Line  int // in the file; the headings are line 1
	Tag   string
	What  string // new, changed, same, wrong
	Wrong []ToolFault
	data  crib.Tool
	was   crib.Entered
}

// ToolFault is what is wrong in a column.
type ToolFault struct{ Column, Text string }

// ImportTools reads tools from a list and says row by row what is wrong; with take, the rows
// that are right are taken, all of them or none.
func (a *App) ImportTools(ctx context.Context, who Who, file []byte, take bool) (rows []ToolRow, taken int, err error) {
	t, err := sheets.Read(file)
	if err != nil {
		return nil, 0, err
	}
	if len(t.Lines) > mostTools {
		return nil, 0, refusal.Number(refusal.TooLarge, "file", float64(len(t.Lines)), mostTools, "lines",
			fmt.Sprintf("The list has %d lines; at most %d are read.", len(t.Lines), mostTools), "Cut it in parts.")
	}
	have, err := a.store.Tools(ctx)
	if err != nil {
		return nil, 0, err
	}
	known := byTag(have)
	at := map[string]int{}
	for i, h := range t.Headings {
		at[strings.TrimSpace(h)] = i
	}
	if _, tagged := at["tag"]; !tagged {
		return nil, 0, refusal.New(refusal.Missing, "file", "The list has no column “tag”.",
			"Begin from the list that the Crib gives out: its headings are those that are read.")
	}
	seen := map[string]int{}
	for i, line := range t.Lines {
		cells := map[string]string{}
		for h, k := range at {
			if k < len(line) {
				cells[h] = line[k]
			}
		}
		r := a.toolRow(i+2, cells, known)
		if first, twice := seen[strings.ToLower(r.Tag)]; twice && r.Tag != "" {
			r.What, r.Wrong = "wrong", append(r.Wrong, ToolFault{"tag", fmt.Sprintf("%s is in line %d already.", r.Tag, first)})
		}
		seen[strings.ToLower(r.Tag)] = r.Line
		rows = append(rows, r)
	}
	if !take {
		return rows, 0, nil
	}
	taken, err = a.takeRows(ctx, who, rows)
	return rows, taken, err
}

// toolRow reads one line.
func (a *App) toolRow(line int, cells map[string]string, known map[string]store.Tool) ToolRow {
	data, wrong := crib.Row(cells)
	r := ToolRow{Line: line, Tag: data.Tag, What: "new", data: data, was: crib.Entered{Place: strings.TrimSpace(cells[columnPlace])}}
	for _, err := range wrong {
		f := ToolFault{Text: err.Error()}
		var refused *refusal.Error
		if errors.As(err, &refused) {
			f.Column, _, _ = strings.Cut(refused.Field, ".")
		}
		r.Wrong = append(r.Wrong, f)
	}
	for _, d := range []struct {
		column string
		to     *time.Time
	}{{columnCalibrated, &r.was.Calibrated}, {columnDue, &r.was.Due}} {
		text := strings.TrimSpace(cells[d.column])
		if text == "" {
			continue
		}
		on, err := time.Parse(time.DateOnly, text[:min(len(text), len(time.DateOnly))])
		switch {
		case err != nil:
			r.Wrong = append(r.Wrong, ToolFault{d.column, fmt.Sprintf("%q is no date. Write it as 2026-11-26.", text)})
		case d.column == columnCalibrated && on.After(a.now()):
			r.Wrong = append(r.Wrong, ToolFault{d.column, text + " lies ahead."})
		case d.column == columnDue && !r.was.Calibrated.IsZero() && on.Before(r.was.Calibrated):
			r.Wrong = append(r.Wrong, ToolFault{d.column, "It is due before it was calibrated."})
		default:
			*d.to = on
		}
	}
	if r.was.Due.IsZero() && !r.was.Calibrated.IsZero() && data.Months > 0 {
		r.was.Due = r.was.Calibrated.AddDate(0, data.Months, 0)
	}
	was, there := known[strings.ToLower(data.Tag)]
	switch {
	case len(r.Wrong) > 0:
		r.What = "wrong"
	case there && was.Scrapped != "":
		r.What, r.Wrong = "wrong", []ToolFault{{"tag", data.Tag + " was scrapped."}}
	case there && was.Kind != string(data.Kind):
		r.What, r.Wrong = "wrong", []ToolFault{{"kind", fmt.Sprintf("%s is a %s in the crib.", data.Tag, was.Kind)}}
	case there:
		r.data.Tag = was.Tag
		if r.What = "changed"; dataDiffer(was.Data(), r.data) == "" {
			r.What = "same"
		}
	}
	return r
}

// takeRows takes what is new, in one go, and changes what is changed.
func (a *App) takeRows(ctx context.Context, who Who, rows []ToolRow) (taken int, err error) {
	now := a.now()
	var new []store.NewTool
	for _, r := range rows {
		switch r.What {
		case "new":
			new = append(new, store.NewTool{Data: r.data, Life: []crib.Entry{{ID: uuid.NewString(), On: now, AtServer: now, Person: who.ID.String(),
				Content: r.was}}})
		case "changed":
			data := r.data
			if err := a.LiveTool(ctx, who, data.Tag, NewLife{ID: uuid.New(), Content: crib.Changed{Why: "read from a list"}, Data: &data}); err != nil {
				return taken, err
			}
			taken++
		}
	}
	if len(new) > 0 {
		if err := a.enter(ctx, who, new); err != nil {
			return taken, err
		}
	}
	return taken + len(new), nil
}

// ToolList is every tool as a table, as it can be read in again.
func (a *App) ToolList(ctx context.Context) (sheets.Table, error) {
	list, err := a.Crib(ctx)
	t := sheets.Table{Headings: append(ToolColumns(), "standing", "held", "lent")}
	for _, x := range list {
		var line []string
		for _, c := range crib.Columns() {
			line = append(line, x.Data.Cell(c))
		}
		day := func(d *time.Time) string {
			if d == nil {
				return ""
			}
			return d.Format(time.DateOnly)
		}
		line = append(line, x.Tool.Place, day(x.Tool.Calibrated), day(x.Tool.Due), x.Standing(), x.Tool.HeldBack, x.Lent)
		t.Lines = append(t.Lines, line)
	}
	return t, err
}
