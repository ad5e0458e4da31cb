package rehearsal

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/unit"
)

// start is when a rehearsal begins; its joint was made ten hours before, where it is
// further work on one that stands.
var start = time.Date(2026, 11, 3, 8, 0, 0, 0, time.UTC)

const madeBefore = 10 * time.Hour

// usual is what no sheet gives and a rule takes: 70 mm are 3.5 d of M20.
var usual = map[string]unit.Quantity{"bolt length": unit.Of(70, unit.Millimetre), "grip": unit.Of(50, unit.Millimetre),
	"lot K": unit.Of(0.13, "")}

// amount is what is taken where nothing at all says how much.
const amount = 20

// Joint makes up a joint of a recipe in a variant: the first row of its sheet that fits, and
// what no sheet gives as it is usual, which madeUp names. What is not chosen is the first
// option.
func Joint(r recipe.Recipe, choices map[string]string) (in joint.Input, madeUp []string, err error) {
	choices = chosen(r, choices)
	in = JointOf(r, rowOf(r, choices), choices)
	res, err := joint.Compute(in, r)
	if err != nil {
		return in, nil, err
	}
	_, whole := joint.Whole(in, r)
	for _, o := range res.Open {
		of, is := strings.CutPrefix(o.Field, "values.")
		i := slices.IndexFunc(whole.Needs, func(n recipe.Need) bool { return n.Name == of })
		if is && i >= 0 {
			in.Values[of] = joint.Given{Value: unit.Of(amount, whole.Needs[i].Unit)}
		}
	}
	for _, n := range whole.Needs {
		if v := in.Values[n.Name]; !v.IsZero() {
			madeUp = append(madeUp, strings.TrimSpace(fmt.Sprintf("%s %s %s", n.Text, v, n.Word)))
		}
	}
	return in, madeUp, nil
}

// JointOf is a joint of a row of a recipe's sheet, with what no sheet gives and a rule takes.
func JointOf(r recipe.Recipe, row recipe.Row, choices map[string]string) joint.Input {
	in := joint.Input{Recipe: r.ID, Edition: r.Edition, Type: row.Type, Size: row.Size, Choices: choices, MadeAt: start.Add(-madeBefore),
		Groups: map[string]joint.Bolts{}, Values: map[string]joint.Given{}}
	for _, n := range r.Needs {
		if q, ok := usual[n.Name]; ok && n.When.Holds(choices) {
			in.Values[n.Name] = joint.Given{Value: q}
		}
	}
	_, whole := joint.Whole(in, r)
	for _, g := range whole.Groups {
		if g.Bolts == 0 && g.Of == "" && row.Bolts[g.Name] == 0 {
			in.Groups[g.Name] = joint.Bolts{Count: min(max(g.Least, 8), g.Most)}
		}
	}
	return in
}

// chosen fills in what is not chosen, the first option of each, and leaves out what the
// variant does not ask: a choice that was edited away meanwhile.
func chosen(r recipe.Recipe, choices map[string]string) map[string]string {
	out := map[string]string{}
	for _, c := range r.Choices {
		if c.When.Holds(out) {
			out[c.Name] = cmp.Or(choices[c.Name], c.Options[0])
		}
	}
	return out
}

// rowOf is the first row of the sheet that a variant has; one that the nameplate decides
// otherwise only where there is no other.
func rowOf(r recipe.Recipe, choices map[string]string) (row recipe.Row) {
	if r.Sheet == nil {
		return row
	}
	agrees := func(x recipe.Row) bool {
		for name, option := range x.Choices {
			if choices[name] != option {
				return false
			}
		}
		return true
	}
	for pass := range 2 {
		for _, x := range r.Sheet.Rows {
			if x.When.Holds(choices) && (pass == 1 || agrees(x)) {
				return x
			}
		}
	}
	return row
}
