package app

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"github.com/google/uuid"

	"dynacor/core/joint"
	"dynacor/core/planning"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/internal/sheets"
	"dynacor/internal/store"
)

// ImportLook is a file that joints may come in from, before anything of it is taken.
type ImportLook struct {
	Table   sheets.Table
	Columns []planning.Column // as they are likely to be, or as they were last matched
	Offers  []planning.Offer
	Before  bool // one with these headings was matched before
}

// LookAtImport reads a file and says what its columns are likely to be.
func (a *App) LookAtImport(ctx context.Context, file []byte) (ImportLook, error) {
	t, err := sheets.Read(file)
	if err != nil {
		return ImportLook{}, err
	}
	_, offers, err := a.offers(ctx)
	if err != nil {
		return ImportLook{}, err
	}
	look := ImportLook{Table: t, Columns: planning.Match(t.Headings, offers), Offers: offers}
	kept, err := a.store.ImportColumns(ctx, fingerprint(t.Headings))
	if err != nil || len(kept) != len(look.Columns) {
		return look, err
	}
	look.Before = true
	for i, f := range kept {
		if f == "" || slices.ContainsFunc(offers, func(o planning.Offer) bool { return string(o.Field) == f }) {
			look.Columns[i].Field = planning.Field(f)
		}
	}
	return look, nil
}

func fingerprint(headings []string) string {
	sum := sha256.Sum256([]byte(strings.Join(headings, "\x00")))
	return hex.EncodeToString(sum[:])
}

// offers returns the recipes that new joints may be made by, and what columns can be.
func (a *App) offers(ctx context.Context) ([]recipe.Recipe, []planning.Offer, error) {
	all, err := a.Library(ctx)
	if err != nil {
		return nil, nil, err
	}
	var usable []recipe.Recipe
	for _, e := range all {
		if e.Retired == nil && e.Fault == "" {
			usable = append(usable, e.Recipe)
		}
	}
	return usable, planning.Offers(usable), nil
}

// ImportRow is what came, or is to come, of one line of a file.
type ImportRow struct {
	Line  int // in the file; the headings are line 1
	Tag   string
	What  ImportOutcome
	Wrong []planning.Wrong // why it is left out
}

// ImportOutcome is what comes of a line.
type ImportOutcome string

// The outcomes.
const (
	ImportNew     ImportOutcome = "new"
	ImportChanged ImportOutcome = "changed"
	ImportSame    ImportOutcome = "same"
	ImportIssued  ImportOutcome = "issued" // a plan was issued: it stays as it is
	ImportWrong   ImportOutcome = "wrong"
)

// ImportResult is what came, or is to come, of a file.
type ImportResult struct {
	Rows  []ImportRow
	Count map[ImportOutcome]int
}

// Import takes the joints of a file in: new ones with a draft, drafts of those that are
// there changed, and what a plan was issued for left as it is. Lines that cannot be are
// left out and named; all others are stored together. With try, nothing is stored.
func (a *App) Import(ctx context.Context, who Who, file []byte, fields []planning.Field, try bool) (ImportResult, error) {
	t, err := sheets.Read(file)
	if err != nil {
		return ImportResult{}, err
	}
	usable, offers, err := a.offers(ctx)
	if err != nil {
		return ImportResult{}, err
	}
	columns := planning.Match(t.Headings, offers)
	if len(fields) != len(columns) {
		return ImportResult{}, refusal.New(refusal.Contradicts, "columns", fmt.Sprintf("%d columns are matched, and the file has %d.",
			len(fields),
			len(columns)), "Choose the file again.")
	}
	for i, f := range fields {
		columns[i].Field = f
	}
	if err := planning.CheckColumns(columns, offers); err != nil {
		return ImportResult{}, err
	}
	i, err := a.importer(ctx, who, columns, usable)
	if err != nil {
		return ImportResult{}, err
	}
	for n, line := range t.Lines {
		if strings.TrimSpace(strings.Join(line, "")) != "" {
			i.line(ctx, n+2, line)
		}
	}
	if !try {
		names := make([]string, len(fields))
		for i, f := range fields {
			names[i] = string(f)
		}
		if err := a.store.KeepImportColumns(ctx, fingerprint(t.Headings), names); err != nil {
			return ImportResult{}, err
		}
		if err := i.store(ctx); err != nil {
			return ImportResult{}, err
		}
	}
	out := ImportResult{Rows: i.rows, Count: map[ImportOutcome]int{}}
	for _, r := range out.Rows {
		out.Count[r.What]++
	}
	return out, nil
}

// importer reads lines against what the site has.
type importer struct {
	app     *App
	who     Who
	columns []planning.Column
	recipes []recipe.Recipe
	areas   map[string]uuid.UUID // by name, in small letters
	joints  map[string]store.Joint
	drafts  map[uuid.UUID]store.Draft
	issued  map[uuid.UUID]bool
	own     []OwnFigure
	seen    map[string]int // lines by tag
	rows    []ImportRow
	list    []store.Imported
	at      []int // of each of list: its row
}

func (a *App) importer(ctx context.Context, who Who, columns []planning.Column, usable []recipe.Recipe) (*importer, error) {
	i := &importer{app: a, who: who, columns: columns, recipes: usable, areas: map[string]uuid.UUID{}, joints: map[string]store.Joint{},
		seen: map[string]int{}}
	areas, err := a.store.Areas(ctx)
	if err != nil {
		return nil, err
	}
	for _, x := range areas {
		i.areas[strings.ToLower(x.Name)] = x.ID
	}
	joints, err := a.store.Joints(ctx)
	if err != nil {
		return nil, err
	}
	for _, j := range joints {
		i.joints[j.Tag] = j
	}
	if i.drafts, err = a.store.Drafts(ctx); err != nil {
		return nil, err
	}
	if i.issued, err = a.store.Issued(ctx); err != nil {
		return nil, err
	}
	i.own, err = a.OwnFigures(ctx)
	return i, err
}

// line reads one line.
func (i *importer) line(ctx context.Context, n int, cells []string) {
	row := planning.Name(i.columns, cells)
	out := ImportRow{Line: n, Tag: row.Tag}
	x, what, wrong := i.read(ctx, row, n, cells)
	out.What, out.Wrong = what, wrong
	if what == ImportNew || what == ImportChanged {
		i.list = append(i.list, x)
		i.at = append(i.at, len(i.rows))
	}
	i.rows = append(i.rows, out)
}

func (i *importer) read(ctx context.Context, row planning.Row, n int, cells []string) (x store.Imported, what ImportOutcome,
	wrong []planning.Wrong) {
	bad := func(f planning.Field, format string, args ...any) {
		wrong = append(wrong, planning.Wrong{Column: planning.HeadingOf(i.columns, f), Text: fmt.Sprintf(format, args...)})
	}
	wrong = row.Check(i.columns)
	if before, twice := i.seen[row.Tag]; twice && row.Tag != "" {
		bad(planning.Tag, "line %d has this tag, too", before)
	}
	i.seen[row.Tag] = n
	area, known := i.areas[strings.ToLower(row.Area)]
	if !known && row.Area != "" {
		bad(planning.Area, "there is no area %q; an administrator adds one in the room Site", row.Area)
	}
	r, ok := planning.Find(row.Kind, i.recipes)
	if !ok && row.Kind != "" {
		bad(planning.Kind, "no recipe is called %q; the Library lists them", row.Kind)
	}
	if len(wrong) > 0 {
		return x, ImportWrong, wrong
	}
	j, there := i.joints[row.Tag]
	if there && i.issued[j.ID] {
		return x, ImportIssued, nil
	}
	if there && j.Recipe != r.ID {
		bad(planning.Kind, "this joint is led by %s", j.Recipe)
		return x, ImportWrong, wrong
	}
	before := i.drafts[j.ID]
	if there && before.Version > 0 && before.Fault == "" && before.Input.Edition != r.Edition {
		// A draft stays with the edition it was begun by.
		older, err := i.app.recipe(ctx, j.Recipe, before.Input.Edition)
		if err != nil {
			return x, ImportWrong, []planning.Wrong{planning.Place(i.columns, err)}
		}
		r = older
	}
	in, wrong := planning.Input(i.columns, cells, r)
	if len(wrong) > 0 {
		return x, ImportWrong, wrong
	}
	bare := len(in.Values)+len(in.Groups) == 0 && in.Type+in.Size == ""
	in = tidy(over(before.Input, in))
	in, err := withOwn(in, before.Input, i.own)
	if err == nil {
		_, err = joint.Compute(in, r)
	}
	if err != nil {
		return x, ImportWrong, []planning.Wrong{planning.Place(i.columns, err)}
	}
	x = store.Imported{New: !there, Joint: store.Joint{ID: j.ID, Area: area, Tag: row.Tag, Title: row.Title, Recipe: r.ID},
		Draft: store.Draft{
			Joint: j.ID, Version: before.Version, Input: in}}
	if !there {
		x.Joint.ID = uuid.New()
		x.Draft.Joint = x.Joint.ID
		return x, ImportNew, nil
	}
	named := j.Area == area && j.Title == row.Title
	if named && bare && before.Version == 0 || named && reflect.DeepEqual(tidy(before.Input), in) {
		return x, ImportSame, nil
	}
	return x, ImportChanged, nil
}

// over puts what a list says over what a draft has: what it has no column for, or an empty
// cell, stays.
func over(draft, list joint.Input) joint.Input {
	out := draft
	out.Recipe, out.Edition = list.Recipe, list.Edition
	if list.Type != "" {
		out.Type = list.Type
	}
	if list.Size != "" {
		out.Size = list.Size
	}
	out.Choices, out.Values, out.Groups = merged(draft.Choices, list.Choices), merged(draft.Values, list.Values), merged(draft.Groups, nil)
	for g, b := range list.Groups {
		was := out.Groups[g]
		set := func(to *string, from string) {
			if from != "" {
				*to = from
			}
		}
		set(&was.Thread, b.Thread)
		set(&was.Grade, b.Grade)
		set(&was.Lubrication, b.Lubrication)
		set(&was.SpecifiedFor, b.SpecifiedFor)
		if b.Count > 0 {
			was.Count = b.Count
		}
		out.Groups[g] = was
	}
	return out
}

func merged[T any](under, over map[string]T) map[string]T {
	out := make(map[string]T, len(under)+len(over))
	for _, m := range []map[string]T{under, over} {
		for k, v := range m {
			out[k] = v
		}
	}
	return out
}

// store stores what is new and changed.
func (i *importer) store(ctx context.Context) error {
	if len(i.list) == 0 {
		return nil
	}
	left, err := i.app.store.ImportJoints(ctx, i.list, i.who.ID, i.app.now())
	if errors.Is(err, store.ErrTaken) {
		return changedMeanwhile()
	}
	if err != nil {
		return err
	}
	for n, x := range i.list {
		if slices.Contains(left, x.Joint.ID) {
			r := &i.rows[i.at[n]]
			r.What, r.Wrong = ImportWrong, []planning.Wrong{{Text: "somebody changed it, or issued a plan, in the meantime; take the file in again"}}
		}
	}
	_ = i.app.store.NotifyAll(ctx) // screens look again by themselves
	return nil
}

// List returns all joints as a table that Import reads back, with where each stands.
func (a *App) List(ctx context.Context) (t sheets.Table, err error) {
	usable, offers, err := a.offers(ctx)
	if err != nil {
		return t, err
	}
	joints, err := a.store.Joints(ctx)
	if err != nil {
		return t, err
	}
	drafts, err := a.store.Drafts(ctx)
	if err != nil {
		return t, err
	}
	w, err := a.Wall(ctx, Who{})
	if err != nil {
		return t, err
	}
	stands := map[uuid.UUID]string{}
	for _, c := range w.Cards {
		stands[c.Joint.ID] = c.Text
	}
	texts := map[string]int{}
	for _, o := range offers {
		texts[o.Text]++
	}
	for _, o := range offers {
		if texts[o.Text] > 1 {
			t.Headings = append(t.Headings, string(o.Field))
		} else {
			t.Headings = append(t.Headings, o.Text)
		}
	}
	t.Headings = append(t.Headings, "Stands")
	for _, j := range joints {
		r, ok := planning.Find(j.Recipe, usable)
		if !ok {
			r = recipe.Recipe{ID: j.Recipe, Title: j.Recipe}
		}
		cells := planning.Cells(offers, planning.Row{Area: j.AreaName, Tag: j.Tag, Title: j.Title, Kind: r.Title}, drafts[j.ID].Input, r)
		t.Lines = append(t.Lines, append(cells, stands[j.ID]))
	}
	return t.Used(len(planning.Needed())), nil
}
