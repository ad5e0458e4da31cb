// Package planning reads joints as planners list them: a table with one joint a row, whose
// columns are matched to what a joint is laid out from. It works nothing out: what a row
// comes to, or why it cannot be, the package joint says.
package planning

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// Field is what a column holds. Values and choices of recipes are named after them:
// "value torque", "choice gasket". Empty: the column is left out.
type Field string

// The fields every joint has; those of its bolts are of the recipe's first group.
const (
	Area      Field = "area"
	Tag       Field = "tag"
	Title     Field = "title"
	Kind      Field = "kind" // a recipe, by its title or its id
	Nameplate Field = "nameplate"
	Size      Field = "size"
	Count     Field = "count"
	Thread    Field = "thread"
	Grade     Field = "grade"
	Lubricant Field = "lubricant"
	WrittenOn Field = "written on" // the condition its torque was written for
)

const (
	ofValue  = "value "
	ofChoice = "choice "
)

// Needed are the fields without which a row is no joint.
func Needed() []Field { return []Field{Area, Tag, Title, Kind} }

// Offer is a field that a column can be matched to.
type Offer struct {
	Field Field
	Text  string
	Unit  unit.Unit // that its numbers are in where neither heading nor cell says; empty: they have none
	also  []string  // other headings that mean it
}

// Offers lists what columns can be, for the recipes that joints may be made by.
func Offers(of []recipe.Recipe) []Offer {
	out := []Offer{
		{Field: Area, Text: "Area", also: []string{"location", "unit", "system", "place"}},
		{Field: Tag, Text: "Tag", also: []string{"joint", "joint no", "joint number", "id", "no", "number", "flange no"}},
		{Field: Title, Text: "What it is", also: []string{"title", "description", "name", "joint description"}},
		{Field: Kind, Text: "Kind of joint", also: []string{"kind", "type of joint", "joint type", "recipe"}},
		{Field: Nameplate, Text: "Nameplate", also: []string{"type", "class", "series", "rating"}},
		{Field: Size, Text: "Size", also: []string{"dn", "nps", "nominal size"}},
		{Field: Count, Text: "Bolts, how many", also: []string{"bolts", "count", "number of bolts", "no of bolts", "qty", "bolt count"}},
		{Field: Thread, Text: "Thread", also: []string{"bolt size", "bolt", "bolt diameter"}},
		{Field: Grade, Text: "Grade", also: []string{"bolt grade", "material", "bolt material", "property class"}},
		{Field: Lubricant, Text: "Lubrication on the job", also: []string{"lubrication", "lubricant", "lube"}},
		{Field: WrittenOn, Text: "Lubrication its torque is written for", also: []string{"written for", "torque for", "torque condition"}},
	}
	seen := map[Field]bool{}
	add := func(o Offer) {
		if !seen[o.Field] {
			seen[o.Field] = true
			out = append(out, o)
		}
	}
	for _, r := range of {
		for _, c := range r.Choices {
			add(Offer{Field: Field(ofChoice + c.Name), Text: c.Text, also: []string{c.Name}})
		}
	}
	for _, r := range of {
		for _, n := range r.Needs {
			if n.Rule == nil {
				add(Offer{Field: Field(ofValue + n.Name), Text: n.Text, Unit: n.Unit, also: []string{n.Name}})
			}
		}
	}
	return out
}

// Column is a column as it was matched.
type Column struct {
	Heading string
	Field   Field
	Unit    unit.Unit // as its heading says; empty: it says none
}

var bracketed = regexp.MustCompile(`^(.*?)\s*[(\[]\s*([^()\[\]]+?)\s*[)\]]\s*$`)

// plain is a heading or a name without what does not tell it apart.
func plain(s string) string {
	return strings.Join(strings.FieldsFunc(strings.ToLower(s), func(r rune) bool {
		return r == ' ' || r == '_' || r == '-' || r == '.' || r == ',' || r == ':' || r == '/' || r == '#' || r == '\n' || r == '\t'
	}), " ")
}

// UnitOf reads a unit however it is usually written: Nm, N.m, ft-lb, in-lbs, kPa is none.
func UnitOf(text string) (unit.Unit, bool) {
	key := strings.NewReplacer(" ", "", ".", "", "·", "", "-", "", "*", "", "_", "", "⋅", "").Replace(strings.ToLower(text))
	for _, u := range unit.Units() {
		if key == strings.NewReplacer("·", "").Replace(strings.ToLower(string(u))) {
			return u, true
		}
	}
	also := map[string]unit.Unit{"ftlb": unit.FootPound, "ftlbs": unit.FootPound, "lbft": unit.FootPound, "lbfft": unit.FootPound,
		"footpounds": unit.FootPound, "inlb": unit.InchPound, "inlbs": unit.InchPound, "lbin": unit.InchPound, "lbfin": unit.InchPound,
		"kgm": unit.KilogramMetre, "inch": unit.Inch, "inches": unit.Inch, `"`: unit.Inch, "lb": unit.PoundForce, "lbs": unit.PoundForce,
		"deg": unit.Degree, "degrees": unit.Degree, "sec": unit.Second, "n/mm²": unit.Megapascal, "n/mm2": unit.Megapascal}
	u, ok := also[key]
	return u, ok
}

// split parts a heading into its words and the unit in brackets behind them.
func split(heading string) (words string, u unit.Unit) {
	if m := bracketed.FindStringSubmatch(heading); m != nil {
		if known, ok := UnitOf(m[2]); ok {
			return m[1], known
		}
	}
	return heading, ""
}

// Match says what each column is likely to be, by its heading; each field once, the first
// column that means it.
func Match(headings []string, offers []Offer) []Column {
	out := make([]Column, len(headings))
	taken := map[Field]bool{}
	means := func(words string, exact bool) Field {
		for _, o := range offers {
			if taken[o.Field] {
				continue
			}
			if words == plain(o.Text) || words == plain(string(o.Field)) || !exact && slices.Contains(o.also, words) {
				return o.Field
			}
		}
		return ""
	}
	// What is named exactly goes before what is only called so elsewhere.
	for _, exact := range []bool{true, false} {
		for i, h := range headings {
			words, u := split(h)
			out[i].Heading, out[i].Unit = h, u
			if out[i].Field != "" || plain(words) == "" {
				continue
			}
			if f := means(plain(words), exact); f != "" {
				out[i].Field = f
				taken[f] = true
			}
		}
	}
	return out
}

// CheckColumns refuses a match that no row can be read by.
func CheckColumns(columns []Column, offers []Offer) error {
	seen := map[Field]string{}
	for _, c := range columns {
		if c.Field == "" {
			continue
		}
		o := slices.IndexFunc(offers, func(o Offer) bool { return o.Field == c.Field })
		if o < 0 {
			return refusal.New(refusal.Unknown, "columns", fmt.Sprintf("There is nothing that is called %q.", c.Field),
				"Choose from the list.")
		}
		if before, twice := seen[c.Field]; twice {
			return refusal.New(refusal.Contradicts, "columns", fmt.Sprintf("%q and %q are both matched to %s.", before, c.Heading,
				offers[o].Text),
				"Leave one of them out.")
		}
		seen[c.Field] = c.Heading
		if c.Unit != "" && offers[o].Unit != "" {
			if _, err := unit.Convert(1, c.Unit, offers[o].Unit); err != nil {
				return refusal.New(refusal.Contradicts, "columns", fmt.Sprintf("%q is in %s, and %s is not measured in that.", c.Heading,
					c.Unit,
					offers[o].Text), "Match it to something else.")
			}
		}
	}
	for _, f := range Needed() {
		if _, there := seen[f]; !there {
			o := offers[slices.IndexFunc(offers, func(o Offer) bool { return o.Field == f })]
			return refusal.New(refusal.Missing, "columns", fmt.Sprintf("No column is matched to %s.", o.Text),
				"Say which it is; each joint needs it.")
		}
	}
	return nil
}

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

// HeadingOf is the heading of the column that holds a field; empty where none does.
func HeadingOf(columns []Column, f Field) string {
	for _, c := range columns {
		if c.Field == f {
			return c.Heading
		}
	}
	return ""
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

var (
	errNoNumber = errors.New("it is no number")
	amount      = regexp.MustCompile(`^([-+]?[0-9][0-9.,']*|[-+]?\.[0-9]+)\s*(?:(?:to|\.\.\.|…|–|—|-)\s*([0-9][0-9.,']*)\s*)?(.*)$`)
)

// Given reads "88", "88 ft·lbf", "80 to 90 N·m", "12,5". The unit is the cell's own, else
// the heading's, else the one that is asked for.
func Given(cell string, heading, asked unit.Unit) (g joint.Given, err error) {
	m := amount.FindStringSubmatch(strings.TrimSpace(cell))
	if m == nil {
		return g, fmt.Errorf("%q: %w", cell, errNoNumber)
	}
	u := heading
	if u == "" {
		u = asked
	}
	if text := strings.TrimSpace(m[3]); text != "" {
		own, ok := UnitOf(text)
		if !ok {
			return g, fmt.Errorf("%q is no unit that is known here", text)
		}
		u = own
	}
	switch {
	case asked == "" && u != "":
		return g, fmt.Errorf("%q has a unit, and this is a number without one", cell)
	case asked != "":
		if _, err := unit.Convert(1, u, asked); err != nil {
			return g, fmt.Errorf("%s is no unit for it; it is asked for in %s", u, asked)
		}
	}
	low, err := number(m[1])
	if err != nil {
		return g, err
	}
	g.Value = unit.Of(low, u)
	if m[2] == "" {
		return g, nil
	}
	high, err := number(m[2])
	if err != nil {
		return g, err
	}
	if high < low {
		return g, fmt.Errorf("%q ends below where it begins", cell)
	}
	g.Max = unit.Of(high, u)
	return g, nil
}

// number reads a number with a point or a comma before its fraction. One that could be read
// either way is refused: a wrong guess is a factor of a thousand.
func number(s string) (float64, error) {
	s = strings.ReplaceAll(s, "'", "")
	comma, point := strings.Count(s, ","), strings.Count(s, ".")
	switch {
	case comma > 0 && point > 0:
		return 0, fmt.Errorf("%q has a comma and a point; write it with one of them, before its fraction", s)
	case comma == 1:
		_, after, _ := strings.Cut(s, ",")
		if len(after) == 3 {
			return 0, fmt.Errorf("%q could be %s or %s; write which", s, strings.Replace(s, ",", "", 1), strings.Replace(s, ",", ".", 1))
		}
		s = strings.Replace(s, ",", ".", 1)
	case comma > 1, point > 1:
		return 0, fmt.Errorf("%q: %w", s, errNoNumber)
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil || math.IsInf(v, 0) || math.IsNaN(v) {
		return 0, fmt.Errorf("%q: %w", s, errNoNumber)
	}
	return v, nil
}

// Cells writes a joint as a row under offers, as Input reads it back.
func Cells(offers []Offer, row Row, in joint.Input, r recipe.Recipe) []string {
	b := in.Groups[group(r, in.Choices)]
	out := make([]string, len(offers))
	for i, o := range offers {
		name, value := strings.CutPrefix(string(o.Field), ofValue)
		choice, chosen := strings.CutPrefix(string(o.Field), ofChoice)
		switch {
		case value:
			if g, given := in.Values[name]; given {
				out[i] = g.String()
			}
		case chosen:
			out[i] = in.Choices[choice]
		}
		switch o.Field {
		case Area:
			out[i] = row.Area
		case Tag:
			out[i] = row.Tag
		case Title:
			out[i] = row.Title
		case Kind:
			out[i] = row.Kind
		case Nameplate:
			out[i] = in.Type
		case Size:
			out[i] = in.Size
		case Count:
			if b.Count > 0 {
				out[i] = strconv.Itoa(b.Count)
			}
		case Thread:
			out[i] = b.Thread
		case Grade:
			out[i] = b.Grade
		case Lubricant:
			out[i] = b.Lubrication
		case WrittenOn:
			out[i] = b.SpecifiedFor
		}
	}
	return out
}
