// Package planning reads joints as planners list them: a table with one joint a row, whose
// columns are matched to what a joint is laid out from. It works nothing out: what a row
// comes to, or why it cannot be, the package joint says.
package planning

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/thread"
)

const (
	ofValue  = "value "
	ofChoice = "choice "
)

// Wrong says what of a row cannot be, and in which column: its heading, empty where it is
// the row as a whole.
type Wrong struct {
	Column string
	Text   string
}

// Row is a row as far as it names a joint.
type Row struct{ Area, Tag, Title, Kind string }

// Name reads what a row is about.
func Name(columns []Column, cells []string) Row {
	return Row{at(columns, cells, Area), strings.ToUpper(at(columns, cells, Tag)), at(columns, cells, Title), at(columns, cells, Kind)}
}

func at(columns []Column, cells []string, f Field) string {
	for i, c := range columns {
		if c.Field == f && i < len(cells) {
			return strings.Join(strings.Fields(cells[i]), " ")
		}
	}
	return ""
}

// The longest that a tag and a title may be, letters.
const (
	MostTag   = 40
	MostTitle = 120
)

// Check says what is missing of a row's names.
func (r Row) Check(columns []Column) (out []Wrong) {
	for _, x := range []struct {
		field Field
		is    string
		most  int
	}{{Area, r.Area, MostTitle}, {Tag, r.Tag, MostTag}, {Title, r.Title, MostTitle}, {Kind, r.Kind, MostTitle}} {
		n := utf8.RuneCountInString(x.is)
		switch {
		case n == 0:
			out = append(out, Wrong{HeadingOf(columns, x.field), "it is empty"})
		case n > x.most:
			out = append(out, Wrong{HeadingOf(columns, x.field), fmt.Sprintf("%d letters; %d at the most", n, x.most)})
		}
	}
	return out
}

// Find returns the recipe that a row calls its kind, by title, id or kind of joint.
func Find(called string, of []recipe.Recipe) (recipe.Recipe, bool) {
	for _, by := range []func(recipe.Recipe) string{func(r recipe.Recipe) string { return r.Title },
		func(r recipe.Recipe) string { return r.ID }, func(r recipe.Recipe) string { return r.Kind }} {
		if i := slices.IndexFunc(of, func(r recipe.Recipe) bool { return plain(by(r)) == plain(called) }); i >= 0 {
			return of[i], true
		}
	}
	return recipe.Recipe{}, false
}

// Input reads a row as what its joint is laid out from, by its recipe. Cells that are empty
// say nothing.
func Input(columns []Column, cells []string, r recipe.Recipe) (in joint.Input, wrong []Wrong) {
	in = joint.Input{Recipe: r.ID, Edition: r.Edition, Type: at(columns, cells, Nameplate), Size: at(columns, cells, Size),
		Choices: map[string]string{}, Values: map[string]joint.Given{}, Groups: map[string]joint.Bolts{}}
	bad := func(c Column, format string, args ...any) {
		wrong = append(wrong, Wrong{c.Heading, fmt.Sprintf(format, args...)})
	}
	bolts, has := joint.Bolts{}, false
	for i, c := range columns {
		if i >= len(cells) || strings.TrimSpace(cells[i]) == "" {
			continue
		}
		cell := strings.Join(strings.Fields(cells[i]), " ")
		name, value := strings.CutPrefix(string(c.Field), ofValue)
		choice, chosen := strings.CutPrefix(string(c.Field), ofChoice)
		switch {
		case value:
			n := slices.IndexFunc(r.Needs, func(n recipe.Need) bool { return n.Name == name })
			if n < 0 {
				bad(c, "%s asks for no such value", r.Title)
				continue
			}
			g, err := Given(cell, c.Unit, r.Needs[n].Unit)
			if err != nil {
				bad(c, "%s", err)
				continue
			}
			in.Values[name] = g
		case chosen:
			n := slices.IndexFunc(r.Choices, func(x recipe.Choice) bool { return x.Name == choice })
			if n < 0 {
				bad(c, "%s has no such choice", r.Title)
				continue
			}
			o := slices.IndexFunc(r.Choices[n].Options, func(o string) bool { return plain(o) == plain(cell) })
			if o < 0 {
				bad(c, "%q is not one of %s", cell, strings.Join(r.Choices[n].Options, ", "))
				continue
			}
			in.Choices[choice] = r.Choices[n].Options[o]
		case c.Field == Count:
			n, err := strconv.Atoi(cell)
			if err != nil || n < 1 {
				bad(c, "%q is no number of bolts", cell)
				continue
			}
			bolts.Count, has = n, true
		case c.Field == Thread:
			if _, err := thread.Parse(cell); err != nil {
				bad(c, "%s", err)
				continue
			}
			bolts.Thread, has = cell, true
		case c.Field == Grade:
			bolts.Grade, has = cell, true
		case c.Field == Lubricant:
			bolts.Lubrication, has = cell, true
		case c.Field == WrittenOn:
			bolts.SpecifiedFor, has = cell, true
		}
	}
	usual(r, in.Choices)
	if has {
		if g := group(r, in.Choices); g != "" {
			in.Groups[g] = bolts
		} else {
			wrong = append(wrong, Wrong{HeadingOf(columns, Count), r.Title + " has no bolts that are asked for"})
		}
	}
	return in, wrong
}

// usual chooses the making of the joint, where a recipe leads other work on it, too, and the
// list does not say which: planners list what is to be made.
func usual(r recipe.Recipe, choices map[string]string) {
	for _, c := range r.Choices {
		if _, chosen := choices[c.Name]; chosen {
			continue
		}
		var makes []string
		for _, o := range c.Options {
			if r.Again[c.Name] != o && r.Undoes[c.Name] != o {
				makes = append(makes, o)
			}
		}
		if len(makes) == 1 && len(c.Options) > 1 {
			choices[c.Name] = makes[0]
		}
	}
}

// group is the group whose bolts the columns are about: the first that is there with what
// is chosen so far.
func group(r recipe.Recipe, choices map[string]string) string {
	for _, g := range r.Groups {
		if g.Of == "" && g.Was == "" && !against(g.When, choices) {
			return g.Name
		}
	}
	return ""
}

// against reports whether something is not there with what is chosen; what nobody chose
// yet is not against it.
func against(w recipe.When, choices map[string]string) bool {
	for name, option := range w {
		if is, chosen := choices[name]; chosen && !slices.Contains(strings.Split(option, " or "), is) {
			return true
		}
	}
	return false
}

// Place says in which column it is what the core refused of a row.
func Place(columns []Column, err error) Wrong {
	var e *refusal.Error
	if !errors.As(err, &e) {
		return Wrong{Text: err.Error()}
	}
	field := plain(strings.ReplaceAll(e.Field, ".", " "))
	for _, c := range columns {
		name := strings.TrimPrefix(strings.TrimPrefix(string(c.Field), ofValue), ofChoice)
		if c.Field != "" && (strings.HasSuffix(field, plain(name)) || strings.Contains(field, plain(name)) && len(name) > 3) {
			return Wrong{c.Heading, e.Error()}
		}
	}
	also := map[string]Field{"lubrication": Lubricant, "specified": WrittenOn, "type": Nameplate, "size": Size}
	for word, f := range also {
		if strings.Contains(field, word) && HeadingOf(columns, f) != "" {
			return Wrong{HeadingOf(columns, f), e.Error()}
		}
	}
	return Wrong{Text: e.Error()}
}
