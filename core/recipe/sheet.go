package recipe

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"dynacor/core/refusal"
	"dynacor/core/thread"
)

// Sheet is a maker's table: for a type and size, and where it matters for a
// variant (a base material), what the recipe asks for.
type Sheet struct {
	Title string
	Rows  []Row
}

// Row is one line of a sheet. Values are in the units of the needs they are
// for: one number, or a range from the first to the second. Bolts, Threads,
// Grades and For (the condition a torque was written for) go by group.
type Row struct {
	Type, Size string
	When       When
	Values     map[string][]float64
	Bolts      map[string]int
	Threads    map[string]string
	Grades     map[string]string
	For        map[string]string
	Choices    map[string]string // what of the choices the nameplate decides
}

// Find returns the row for a type and size in a variant; ok is false where the
// sheet has none.
func (s *Sheet) Find(typ, size string, choices map[string]string) (r Row, ok bool) {
	if s == nil {
		return Row{}, false
	}
	for _, r := range s.Rows {
		if r.Type == typ && r.Size == size && r.When.Holds(choices) {
			return r, true
		}
	}
	return Row{}, false
}

// Plate returns a row for a type and size that says what the nameplate decides.
func (s *Sheet) Plate(typ, size string) (r Row, ok bool) {
	if s == nil {
		return Row{}, false
	}
	for _, r := range s.Rows {
		if r.Type == typ && r.Size == size && len(r.Choices) > 0 {
			return r, true
		}
	}
	return Row{}, false
}

// Types lists the types of the sheet, and Sizes the sizes of one, each once and
// in its order.
func (s *Sheet) Types() []string {
	return s.list(func(Row) bool { return true }, func(r Row) string { return r.Type })
}

// Sizes lists the sizes of a type.
func (s *Sheet) Sizes(typ string) []string {
	return s.list(func(r Row) bool { return r.Type == typ }, func(r Row) string { return r.Size })
}

func (s *Sheet) list(in func(Row) bool, name func(Row) string) []string {
	var out []string
	if s == nil {
		return out
	}
	for _, r := range s.Rows {
		if in(r) && !slices.Contains(out, name(r)) {
			out = append(out, name(r))
		}
	}
	return out
}

// checkSheet refuses a row that names what the recipe does not have, gives a
// range that falls or a thread that is none, or is there twice.
func (c checker) checkSheet() {
	if c.r.Sheet == nil {
		return
	}
	if strings.TrimSpace(c.r.Sheet.Title) == "" {
		c.holds(refusal.New(refusal.Missing, "sheet.title", "The sheet has no title.", "Say whose it is."))
	}
	if len(c.r.Sheet.Rows) > MostRows {
		c.holds(refusal.Number(refusal.TooLarge, "sheet.rows", float64(len(c.r.Sheet.Rows)), MostRows, "rows",
			fmt.Sprintf("%d rows; at most %d are read.", len(c.r.Sheet.Rows), MostRows), ""))
		return
	}
	for i, r := range c.r.Sheet.Rows {
		c.holds(c.row(fmt.Sprintf("sheet.rows.%d", i), r))
	}
	twice := map[int]bool{}
	for _, choices := range c.r.Variants() {
		seen := map[string]bool{}
		for i, r := range c.r.Sheet.Rows {
			name := r.Type + " " + r.Size
			if !r.When.Holds(choices) {
				continue
			}
			if seen[name] && !twice[i] {
				twice[i] = true
				c.holds(refusal.New(refusal.Contradicts, fmt.Sprintf("sheet.rows.%d", i), fmt.Sprintf("%s is there twice with %s.", name,
					spell(choices)), "Keep the right one."))
			}
			seen[name] = true
		}
	}
}

func (c checker) row(field string, r Row) error {
	if r.Type == "" || r.Size == "" {
		return refusal.New(refusal.Missing, field, "A row has no type or no size.", "Give both, as the nameplate has them.")
	}
	if err := c.when(field+".when", r.When); err != nil {
		return err
	}
	for _, name := range slices.Sorted(maps.Keys(r.Values)) {
		n, ok := c.needs[c.r.whole(name)]
		if !ok {
			return refusal.New(refusal.Unknown, field+".values", fmt.Sprintf("No value is named %q.", name),
				"Name one of the recipe's values.")
		}
		v := r.Values[name]
		if len(v) < 1 || len(v) > 2 {
			return refusal.Number(refusal.OutOfRange, field+".values", float64(len(v)), 2, "numbers", fmt.Sprintf("%d numbers for %s.",
				len(v), name), "Give one, or the two ends of a range.")
		}
		for _, x := range v {
			if err := refusal.Positive(field+".values", x, string(n.Unit)); err != nil {
				return err
			}
		}
		if len(v) == 2 {
			if err := refusal.Rising(field+".values", v[0], v[1], string(n.Unit)); err != nil {
				return err
			}
		}
	}
	for _, name := range slices.Sorted(maps.Keys(r.Bolts)) {
		g, ok := c.groups[c.r.whole(name)]
		if n := r.Bolts[name]; !ok || g.Bolts != 0 || n < g.Least || n > g.Most {
			return refusal.Number(refusal.OutOfRange, field+".bolts", float64(r.Bolts[name]), float64(g.Most), "bolts",
				fmt.Sprintf("%d bolts are none that %q can have.", r.Bolts[name], name), "Name a group that asks for its count.")
		}
	}
	for _, name := range slices.Sorted(maps.Keys(r.Choices)) {
		i := slices.IndexFunc(c.r.Choices, func(x Choice) bool { return x.Name == name && x.Plate })
		if i < 0 || !slices.Contains(c.r.Choices[i].Options, r.Choices[name]) {
			return refusal.New(refusal.Unknown, field+".choices", fmt.Sprintf("%q is nothing that the nameplate decides of %q.", r.Choices[name],
				name), "Name a choice that follows from the nameplate, and one of its options.")
		}
	}
	for _, list := range []map[string]string{r.Threads, r.Grades, r.For} {
		for _, name := range slices.Sorted(maps.Keys(list)) {
			if _, ok := c.groups[c.r.whole(name)]; !ok {
				return refusal.New(refusal.Unknown, field, fmt.Sprintf("No group is named %q.", name), "Name one of the recipe's groups.")
			}
		}
	}
	for _, name := range slices.Sorted(maps.Keys(r.Threads)) {
		t, err := thread.Parse(r.Threads[name])
		if err != nil {
			return refusal.At(field+".threads", err)
		}
		if grade := r.Grades[name]; grade != "" {
			if _, err := thread.StrengthOf(grade, t.Diameter); err != nil {
				return refusal.At(field+".grades", err)
			}
		}
	}
	return nil
}

// MostRows is how many rows of a sheet are read.
const MostRows = 500
