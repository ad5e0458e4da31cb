package recipe_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/unit"
	"dynacor/core/work/worktest"
)

// A choice that only one variant asks is not asked in the others.
func TestAChoiceThatIsNotAsked(t *testing.T) {
	r := worktest.Frame()
	r.Choices = append(r.Choices, recipe.Choice{Name: "paint", Text: "Which paint", Options: []string{"red", "grey"},
		When: recipe.When{"seal": "yes"}})
	require.Equal(t, []map[string]string{{"seal": "yes", "paint": "red"}, {"seal": "yes", "paint": "grey"}, {"seal": "no"}}, r.Variants())
	require.Len(t, r.Asked(map[string]string{"seal": "no"}), 1)
	require.Len(t, r.Asked(map[string]string{"seal": "yes"}), 2)
}

// A variant that undoes the joint proves nothing of it.
func TestUndoingProvesNothing(t *testing.T) {
	r := worktest.Frame()
	r.Steps[3].When = recipe.When{"seal": "no"}
	require.Error(t, r.Check())
	r.Undoes = recipe.When{"seal": "yes"}
	require.NoError(t, r.Check())
}

func of(v float64) *float64 { return &v }

// rule adds a turn that is worked out by r.
func rule(by recipe.Rule) func(*recipe.Recipe) {
	return func(r *recipe.Recipe) {
		r.Needs = append(r.Needs, recipe.Need{Name: "turn", Text: "Turn", Unit: unit.Degree, Rule: &by})
	}
}

func TestRecipesThatCannotBeFollowed(t *testing.T) {
	require.NoError(t, worktest.Frame().Check())
	for _, c := range []struct {
		name  string
		edit  func(*recipe.Recipe)
		field string
	}{
		{"no title", func(r *recipe.Recipe) { r.Title = " " }, "title"},
		{"no edition", func(r *recipe.Recipe) { r.Edition = 0 }, "edition"},
		{"unknown kind", func(r *recipe.Recipe) { r.Kind = "knot" }, "kind"},
		{"one option", func(r *recipe.Recipe) { r.Choices[0].Options = []string{"yes"} }, "choices.0.options"},
		{"an option twice", func(r *recipe.Recipe) { r.Choices[0].Options = []string{"yes", "yes"} }, "choices.0.options"},
		{"too many choices", func(r *recipe.Recipe) {
			for i := range 7 {
				r.Choices = append(r.Choices, recipe.Choice{Name: fmt.Sprint(i), Options: []string{"a", "b"}})
			}
		}, "choices"},
		{"too many variants", func(r *recipe.Recipe) {
			for i := range 5 {
				r.Choices = append(r.Choices, recipe.Choice{Name: fmt.Sprint(i), Options: []string{"a", "b", "c", "d"}})
			}
		}, "choices"},
		{"a choice twice", func(r *recipe.Recipe) { r.Choices = append(r.Choices, r.Choices[0]) }, "choices.1"},
		{"a need twice", func(r *recipe.Recipe) { r.Needs = append(r.Needs, r.Needs[0]) }, "needs.2"},
		{"a need in furlongs", func(r *recipe.Recipe) { r.Needs[0].Unit = "furlong" }, "needs.0.unit"},
		{"when what", func(r *recipe.Recipe) { r.Needs[1].When = recipe.When{"paint": "red"} }, "needs.1.when"},
		{"when which", func(r *recipe.Recipe) { r.Steps[5].When = recipe.When{"seal": "perhaps"} }, "steps.5.when"},
		{"a part less than none", func(r *recipe.Recipe) { r.Parts = []recipe.Part{{Name: "nut", Count: -1}} }, "parts.0.count"},
		{"a group twice", func(r *recipe.Recipe) { r.Groups = append(r.Groups, r.Groups[0]) }, "groups.3"},
		{"unknown layout", func(r *recipe.Recipe) { r.Groups[0].Layout = "heap" }, "groups.0.layout"},
		{"two singles", func(r *recipe.Recipe) { r.Groups[2].Bolts = 2 }, "groups.2.bolts"},
		{"no count and no range", func(r *recipe.Recipe) { r.Groups[1].Least = 0 }, "groups.1.bolts"},
		{"an order against its kind", func(r *recipe.Recipe) { r.Groups[1].Order = sequence.Circular }, "groups.1.order"},
		{"torqued to nothing", func(r *recipe.Recipe) { r.Groups[1].Value = "" }, "groups.1.value"},
		{"shares that fall", func(r *recipe.Recipe) { r.Groups[0].Shares = []float64{60, 50, 100} }, "groups.0.shares"},
		{"no turns", func(r *recipe.Recipe) { r.Groups[2].Turns = nil }, "groups.2.turns"},
		{"pulled with what is none", func(r *recipe.Recipe) { r.Groups[1].With = "a hammer" }, "groups.1.with"},
		{"turned with a hydraulic wrench", func(r *recipe.Recipe) { r.Groups[2].With = recipe.Hydraulic }, "groups.2.with"},
		{"drawn, and not said how", drawn(func(r *recipe.Recipe) { r.Groups[1].Tension = nil }), "groups.1.tension"},
		{"torqued, and drawn", func(r *recipe.Recipe) { r.Groups[1].Tension = &recipe.Tension{} }, "groups.1.tension"},
		{"drawn to a torque", drawn(func(r *recipe.Recipe) { r.Groups[1].Value = "torque" }), "groups.1.value"},
		{"drawn over no length", drawn(func(r *recipe.Recipe) { r.Groups[1].Tension.Length = "torque" }), "groups.1.tension.length"},
		{"halves that lose nobody knows what", drawn(func(r *recipe.Recipe) { r.Groups[1].Tension.Lost = "" }), "groups.1.tension.lost"},
		{"drawn in shares", drawn(func(r *recipe.Recipe) { r.Groups[1].Shares = []float64{50, 100} }), "groups.1.tension"},
		{"halves of what is torqued", func(r *recipe.Recipe) { r.Steps[3].Some = recipe.FirstHalf }, "steps.3.some"},
		{"a charge of bolts that are torqued", func(r *recipe.Recipe) { r.Steps[1].At = "ring" }, "steps.1.at"},
		{"a drawing that is none", func(r *recipe.Recipe) { r.Steps[0].Shows = "a cat" }, "steps.0.shows"},
		{"unknown way", func(r *recipe.Recipe) { r.Groups[1].How = "feel" }, "groups.1.how"},
		{"portions of nothing", func(r *recipe.Recipe) { r.Groups[1].Portion = -90 }, "groups.1.portion"},
		{"portions and stages", func(r *recipe.Recipe) { r.Groups[0].Portion = 90 }, "groups.0.portion"},
		{"portions of what stands", func(r *recipe.Recipe) { r.Groups[1].Portion, r.Groups[1].Stands = 90, true }, "groups.1.portion"},
		{"differs about nothing", func(r *recipe.Recipe) { r.Choices[0].Differ = "tea" }, "choices.0.differ"},
		{"a choice after itself", func(r *recipe.Recipe) { r.Choices[0].When = recipe.When{"seal": "yes"} }, "choices.0.when"},
		{"a sample of nobody", func(r *recipe.Recipe) { r.Steps[1].Sample = "nobody" }, "steps.1.sample"},
		{"a sample at two places", func(r *recipe.Recipe) { r.Steps[1].Sample = "ring" }, "steps.1.sample"},
		{"a sample of a group that is not there", func(r *recipe.Recipe) {
			r.Groups[1].When, r.Steps[1].Sample, r.Steps[1].Places = recipe.When{"seal": "yes"}, "ring", 0
		}, "steps.1.sample"},
		{"a caution of no kind", func(r *recipe.Recipe) { r.Steps[1].Cautions = []recipe.Caution{{Kind: "perhaps", Text: "x"}} },
			"steps.1.cautions.0.kind"},
		{"a caution that says nothing", func(r *recipe.Recipe) { r.Steps[1].Cautions = []recipe.Caution{{Kind: recipe.Forbidden}} },
			"steps.1.cautions.0.text"},
		{"a share of no evenness", func(r *recipe.Recipe) { r.Steps[5].Limit.EvenOf = "rated" }, "steps.5.limit.evenof"},
		{"even of another kind of unit", func(r *recipe.Recipe) { r.Steps[1].Limit.EvenOf = "rated" }, "steps.1.limit.evenof"},
		{"dry and oiled", func(r *recipe.Recipe) { r.Groups[1].Dry, r.Groups[1].Lubricant = true, "oil" }, "groups.1.dry"},
		{"no steps", func(r *recipe.Recipe) { r.Steps = nil }, "groups.0"},
		{"a step twice", func(r *recipe.Recipe) { r.Steps[1].ID = "clean" }, "steps.1"},
		{"a step that says nothing", func(r *recipe.Recipe) { r.Steps[0].Text = "" }, "steps.0.text"},
		{"a step that tells what is no need", func(r *recipe.Recipe) { r.Steps[0].Text = "To {the moon}." }, "steps.0.text"},
		{"a rule that is none", rule(recipe.Rule{Name: "magic", Group: "ring"}), "needs.2.rule"},
		{"a rule of no group", rule(recipe.Rule{Name: recipe.PartTurn, Group: "nobody"}), "needs.2.rule.group"},
		{"a rule without what it takes", rule(recipe.Rule{Name: recipe.SecondTurn, Group: "ring", Length: "depth"}), "needs.2.rule"},
		{"a rule in another unit", rule(recipe.Rule{Name: recipe.FirstStep, Group: "ring", K: "x"}), "needs.2.rule"},
		{"one of several options that is none", func(r *recipe.Recipe) { r.Steps[0].When = recipe.When{"seal": "yes or maybe"} },
			"steps.0.when"},
		{"unknown station", func(r *recipe.Recipe) { r.Steps[0].Station = "lunch" }, "steps.0.station"},
		{"back to a station", func(r *recipe.Recipe) { r.Steps[5].Station = recipe.LayOut }, "steps.5.station"},
		{"a block taken up again", func(r *recipe.Recipe) { r.Steps[3].Block = "ready" }, "steps.3.block"},
		{"a group of nobody", func(r *recipe.Recipe) { r.Steps[2].Group = "nobody" }, "steps.2.group"},
		{"tightens what is turned", func(r *recipe.Recipe) { r.Steps[4].Does = recipe.Tighten }, "steps.4.does"},
		{"signs at the bolts", func(r *recipe.Recipe) { r.Steps[0].Does = recipe.Sign }, "steps.0.station"},
		{"measures without a limit", func(r *recipe.Recipe) { r.Steps[1].Limit = nil }, "steps.1.limit"},
		{"an empty limit", func(r *recipe.Recipe) { r.Steps[1].Limit = &recipe.Limit{} }, "steps.1.limit"},
		{"low above high", func(r *recipe.Recipe) { r.Steps[5].Limit.Low = of(2) }, "steps.5.limit"},
		{"a share of nothing", func(r *recipe.Recipe) { r.Steps[5].Limit.Of = "nothing" }, "steps.5.limit.of"},
		{"a share in another kind of unit", func(r *recipe.Recipe) { r.Steps[5].Limit.Unit = unit.Millimetre }, "steps.5.limit.of"},
		{"above nothing", func(r *recipe.Recipe) { r.Steps[5].Limit.Low, r.Steps[5].Limit.Above = nil, true }, "steps.5.limit"},
		{"a limit that is no number", func(r *recipe.Recipe) { r.Steps[5].Limit.High = of(math.NaN()) }, "steps.5.limit.high"},
		{"places less than none", func(r *recipe.Recipe) { r.Steps[1].Places = -1 }, "steps.1.places"},
		{"places nothing", func(r *recipe.Recipe) { r.Steps[0].Does = recipe.Place }, "steps.0.items"},
		{"proves what nobody asks", func(r *recipe.Recipe) { r.Steps[3].Proves = "beauty" }, "steps.3.proves"},
		{"does not prove what its kind asks", func(r *recipe.Recipe) { r.Steps[3].Proves = "" }, "steps"},
		{"proves it in one variant only", func(r *recipe.Recipe) { r.Steps[3].When = recipe.When{"seal": "no"} }, "steps"},
		{"undoes what", func(r *recipe.Recipe) { r.Undoes = recipe.When{"paint": "red"} }, "undoes"},
		{"ends unsigned", func(r *recipe.Recipe) { r.Steps = r.Steps[:6] }, "steps"},
	} {
		r := worktest.Frame()
		c.edit(&r)
		var no *refusal.Error
		require.ErrorAs(t, r.Check(), &no, c.name)
		require.Equal(t, c.field, no.Field, "%s: %v", c.name, no)
	}
}

// However a window is drawn, a reading is inside exactly when it is between its
// ends.
func TestWindowsJudge(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		low := rapid.Float64Range(-10, 10).Draw(t, "low")
		high := low + rapid.Float64Range(0.1, 10).Draw(t, "wide")
		above := rapid.Bool().Draw(t, "above")
		w, err := recipe.Limit{Low: &low, High: &high, Above: above}.Window(nil)
		require.NoError(t, err)
		v := rapid.Float64Range(-25, 25).Draw(t, "v")
		outside, _, err := w.Judge([]float64{v})
		require.NoError(t, err)
		if math.Abs(v-low) > 1e-6 && math.Abs(v-high) > 1e-6 { // a limit counts as met within a relative 1e-9
			require.Equal(t, v < low || v > high, outside != "")
		}
		edge, _, err := w.Judge([]float64{low})
		require.NoError(t, err)
		require.Equal(t, above, edge != "", "the low end itself is outside only where it must stay open")
	})
}

func TestSheets(t *testing.T) {
	good := worktest.Frame()
	good.Sheet = &recipe.Sheet{Title: "Sheet", Rows: []recipe.Row{
		{Type: "A", Size: "1", When: recipe.When{"seal": "yes"}, Values: map[string][]float64{"torque": {80}},
			Bolts: map[string]int{"ring": 5}, Threads: map[string]string{"ring": "M8"}, Grades: map[string]string{"ring": "8.8"}},
		{Type: "A", Size: "1", When: recipe.When{"seal": "no"}, Values: map[string][]float64{"torque": {70, 75}}},
		{Type: "A", Size: "2", Values: map[string][]float64{"torque": {90}}},
	}}
	require.NoError(t, good.Check())
	require.Equal(t, []string{"A"}, good.Sheet.Types())
	require.Equal(t, []string{"1", "2"}, good.Sheet.Sizes("A"))
	row, ok := good.Sheet.Find("A", "1", map[string]string{"seal": "no"})
	require.True(t, ok)
	require.Equal(t, []float64{70, 75}, row.Values["torque"])
	_, ok = good.Sheet.Find("A", "3", nil)
	require.False(t, ok)
	for _, c := range []struct {
		name, field string
		edit        func(*recipe.Row)
	}{
		{"no size", "sheet.rows.2", func(r *recipe.Row) { r.Size = "" }},
		{"a need that is none", "sheet.rows.2.values", func(r *recipe.Row) { r.Values = map[string][]float64{"force": {1}} }},
		{"three numbers", "sheet.rows.2.values", func(r *recipe.Row) { r.Values = map[string][]float64{"torque": {1, 2, 3}} }},
		{"a range that falls", "sheet.rows.2.values", func(r *recipe.Row) { r.Values = map[string][]float64{"torque": {2, 1}} }},
		{"nothing", "sheet.rows.2.values", func(r *recipe.Row) { r.Values = map[string][]float64{"torque": {0}} }},
		{"bolts that are counted already", "sheet.rows.2.bolts", func(r *recipe.Row) { r.Bolts = map[string]int{"posts": 3} }},
		{"too many", "sheet.rows.2.bolts", func(r *recipe.Row) { r.Bolts = map[string]int{"ring": 99} }},
		{"no such thread", "sheet.rows.2.threads", func(r *recipe.Row) { r.Threads = map[string]string{"ring": "M7.3"} }},
		{"no such grade", "sheet.rows.2.grades", func(r *recipe.Row) {
			r.Threads, r.Grades = map[string]string{"ring": "M8"}, map[string]string{"ring": "99"}
		}},
		{"no such group", "sheet.rows.2", func(r *recipe.Row) { r.For = map[string]string{"rings": "light oil"} }},
		{"twice", "sheet.rows.2", func(r *recipe.Row) { r.Size = "1" }},
	} {
		bad := good
		bad.Sheet = &recipe.Sheet{Title: "Sheet", Rows: append([]recipe.Row(nil), good.Sheet.Rows...)}
		c.edit(&bad.Sheet.Rows[2])
		var r *refusal.Error
		require.ErrorAs(t, bad.Check(), &r, c.name)
		require.Equal(t, c.field, r.Field, c.name)
	}
}

// Who edits a recipe sees everything that is wrong with it at once, each thing once, and
// one wrong thing does not hide the next.
func TestEveryFaultIsListed(t *testing.T) {
	require.Empty(t, worktest.Frame().Faults())
	r := worktest.Frame()
	r.Needs[0].Unit, r.Groups[0].Layout, r.Steps[0].Text, r.Steps[1].Places = "furlong", "heap", "", -1
	r.Steps[3].Proves = "" // in both variants, said once
	var fields []string
	for _, err := range r.Faults() {
		var no *refusal.Error
		require.ErrorAs(t, err, &no)
		fields = append(fields, no.Field)
	}
	require.Equal(t, []string{"needs.0.unit", "groups.0.layout", "steps.0.text", "steps.1.places", "steps"}, fields)
}

// Too many variants are not gone through to find what else is wrong.
func TestVariantsWithoutEndAreNotGoneThrough(t *testing.T) {
	r := worktest.Frame()
	for i := range 400 {
		r.Choices = append(r.Choices, recipe.Choice{Name: fmt.Sprint(i), Text: "?", Options: []string{"a", "b", "c"}})
	}
	require.Len(t, r.Faults(), 2, "too many choices, too many variants")
}

// drawn has the ring of a recipe drawn by tensioners, and then changes that.
func drawn(change func(*recipe.Recipe)) func(*recipe.Recipe) {
	return func(r *recipe.Recipe) {
		r.Needs = append(r.Needs, recipe.Need{Name: "load", Text: "Load", Unit: unit.Kilonewton},
			recipe.Need{Name: "clamped", Text: "Clamped", Unit: unit.Millimetre}, recipe.Need{Name: "lost", Text: "Lost", Word: "%"})
		r.Groups[1].How, r.Groups[1].Value, r.Groups[1].Still, r.Groups[1].Lubricant = recipe.ByTension, "load", false, ""
		r.Groups[1].Tension = &recipe.Tension{Length: "clamped", Lost: "lost", Halves: recipe.When{"seal": "yes"}, First: "first pressure"}
		change(r)
	}
}

// Parts have an order along their axis where it can be told.
func TestPartsAlongTheirAxis(t *testing.T) {
	r := recipe.Recipe{Axis: &recipe.Axis{First: "gas end", Last: "fluid end"},
		Choices: []recipe.Choice{{Name: "cap", Options: []string{"open", "closed"}}},
		Parts: []recipe.Part{{Name: "hub", Family: recipe.Bush}, {Name: "grease"}, {Name: "seal", Family: recipe.ORing},
			{Name: "cap", Family: recipe.Cap, When: recipe.When{"cap": "closed"}}}}
	require.Equal(t, map[string]string{"cap": "open"}, r.FirstVariant())
	require.Equal(t, []string{"hub", "seal"}, r.Along(r.FirstVariant()), "what is not drawn has no place")
	require.Equal(t, []string{"hub", "seal", "cap"}, r.Along(map[string]string{"cap": "closed"}))
	inside, twice, none := r, r, r
	inside.Parts = append(slices.Clone(r.Parts), recipe.Part{Name: "key", Family: recipe.Key, Inside: "hub"})
	twice.Parts = append(slices.Clone(r.Parts), recipe.Part{Name: "seal", Family: recipe.ORing})
	none.Axis = nil
	for _, x := range []recipe.Recipe{inside, twice, none} {
		require.Empty(t, x.Along(nil))
	}
}
