package planning

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"dynacor/core/recipe"
	"dynacor/core/refusal"
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

// HeadingOf is the heading of the column that holds a field; empty where none does.
func HeadingOf(columns []Column, f Field) string {
	for _, c := range columns {
		if c.Field == f {
			return c.Heading
		}
	}
	return ""
}
