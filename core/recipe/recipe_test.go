package recipe_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

func num(v float64) *float64 { return &v }

// frame is a small recipe with something of everything: a choice, a block that
// may be done in any order, a group with locks, one gone round, an adjustment.
func frame() recipe.Recipe {
	nm, mm := unit.NewtonMetre, unit.Millimetre
	return recipe.Recipe{
		ID: "frame", Title: "A small frame", Kind: "wheel or hub nuts", Edition: 1,
		Choices: []recipe.Choice{{Name: "seal", Text: "Is it sealed", Options: []string{"yes", "no"}}},
		Needs:   []recipe.Need{{Name: "torque", Text: "Torque", Unit: nm}, {Name: "rated", Text: "Rated torque", Unit: nm, When: recipe.When{"seal": "yes"}}},
		Groups: []recipe.Group{
			{Name: "posts", Layout: recipe.Line, Bolts: 3, How: recipe.ByTorque, Value: "torque", Shares: []float64{50, 100}, Lock: "sleeve over"},
			{Name: "ring", Layout: recipe.Ring, Least: 3, Most: 12, How: recipe.ByTorque, Value: "torque", Still: true},
			{Name: "nut", Layout: recipe.Single, Bolts: 1, How: recipe.ByTurns, Turns: []float64{360, 90}},
		},
		Steps: []recipe.Step{
			{ID: "clean", Does: recipe.Check, Station: recipe.LayOut, Text: "Clean", Block: "ready"},
			{ID: "gap", Does: recipe.Measure, Station: recipe.LayOut, Text: "Gap", Block: "ready", Places: 2, Limit: &recipe.Limit{Low: num(0), Above: true, Even: num(0.5), Unit: mm}},
			{ID: "posts", Does: recipe.Tighten, Station: recipe.AtBolts, Text: "Posts", Group: "posts"},
			{ID: "ring", Does: recipe.Tighten, Station: recipe.AtBolts, Text: "Ring", Group: "ring", Proves: "a whole check round moved nothing"},
			{ID: "turn", Does: recipe.Turn, Station: recipe.AtBolts, Text: "Nut", Group: "nut"},
			{ID: "gland", Does: recipe.Adjust, Station: recipe.Prove, Text: "Gland", When: recipe.When{"seal": "yes"}, Limit: &recipe.Limit{Low: num(0.8), High: num(1.2), Of: "rated", Unit: nm}},
			{ID: "made", Does: recipe.Sign, Station: recipe.AtRecord, Text: "Made"},
			{ID: "checked", Does: recipe.Sign, Station: recipe.AtRecord, Text: "Checked", By: "inspector"},
		},
	}
}

func values(ring int) recipe.Joint {
	return recipe.Joint{Choices: map[string]string{"seal": "yes"}, Bolts: map[string]int{"ring": ring},
		Values: map[string]unit.Quantity{"torque": unit.Of(80, unit.NewtonMetre), "rated": unit.Of(10, unit.FootPound)}}
}

func begin(t require.TestingT) *recipe.Work {
	w, err := frame().Begin(values(5))
	require.NoError(t, err)
	return w
}

// do takes the first act offered, with what it asks for.
func do(t require.TestingT, w *recipe.Work, moved bool) *recipe.Work {
	a := w.Offered()[0]
	d := recipe.Done{Person: "fitter", Qualifications: []string{"inspector"}, Moved: moved}
	switch a.Step {
	case "gap":
		d.Readings = []float64{1, 1.2}
	case "gland":
		d.Readings = []float64{13}
	}
	w, err := w.Do(a, d)
	require.NoError(t, err)
	return w
}

// until goes on to the first act of a step.
func until(t require.TestingT, w *recipe.Work, step string) *recipe.Work {
	for w.Offered()[0].Step != step {
		w = do(t, w, false)
	}
	return w
}

func TestABlockIsDoneInAnyOrderAndBlocksAreNot(t *testing.T) {
	w := begin(t)
	require.Len(t, w.Offered(), 2)
	gap := w.Offered()[1]
	require.Equal(t, "gap", gap.Step)
	w, err := w.Do(gap, recipe.Done{Person: "fitter", Readings: []float64{1, 1.4}})
	require.NoError(t, err)
	require.Len(t, w.Offered(), 1)
	_, err = w.Do(recipe.Act{Step: "posts", Does: recipe.Tighten, Bolt: 1, Share: 50}, recipe.Done{Person: "fitter"})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotNext, Field: "act"})
	require.ErrorContains(t, err, `Next: "Clean"`)
}

func TestDoLeavesTheWorkBeforeAlone(t *testing.T) {
	w := begin(t)
	after := do(t, w, false)
	require.Len(t, w.Offered(), 2)
	require.Len(t, after.Offered(), 1)
	require.Empty(t, w.Log)
	require.Len(t, after.Log, 1)
}

// Each bolt's lock comes right after its last pull.
func TestALockFollowsItsBoltAtOnce(t *testing.T) {
	w := until(t, begin(t), "posts")
	var got []string
	for w.Offered()[0].Step == "posts" {
		a := w.Offered()[0]
		s := fmt.Sprintf("%d@%g", a.Bolt, a.Share)
		if a.Lock {
			s = fmt.Sprintf("lock %d", a.Bolt)
		}
		got = append(got, s)
		w = do(t, w, false)
	}
	require.Equal(t, []string{"1@50", "2@50", "3@50", "1@100", "lock 1", "2@100", "lock 2", "3@100", "lock 3"}, got)
}

// A ring takes its kind's own order, then goes round until nothing moves.
func TestGoneRoundUntilNothingMoves(t *testing.T) {
	w := until(t, begin(t), "ring")
	order, err := sequence.Ring(sequence.Star, 5, 1)
	require.NoError(t, err)
	for _, b := range order {
		require.Equal(t, recipe.Act{Step: "ring", Does: recipe.Tighten, Bolt: b, Share: 100}, w.Offered()[0])
		w = do(t, w, false)
	}
	for round := 1; round <= 3; round++ {
		for b := 1; b <= 5; b++ {
			require.Equal(t, recipe.Act{Step: "ring", Does: recipe.Tighten, Bolt: b, Share: 100, Round: round}, w.Offered()[0])
			w = do(t, w, round < 3 && b == 2)
		}
	}
	require.Equal(t, "turn", w.Offered()[0].Step, "the third round moved nothing")
	round, ok := w.Still("ring")
	require.True(t, ok)
	require.Equal(t, 3, round)
	_, ok = w.Still("posts")
	require.False(t, ok, "it has no rounds")
	_, ok = w.Undo(recipe.Act{Step: "ring", Does: recipe.Tighten, Bolt: 4, Share: 100, Round: 3}).Still("ring")
	require.False(t, ok, "one of the round is struck out")
}

// In portions of a turn there is no pass before: round and round, in the group's
// own order, until each holds, and often.
func TestPortionsGoRoundUntilEachHolds(t *testing.T) {
	r := frame()
	r.Kind, r.Groups[1].Portion = "clamping disc on a hollow shaft", 90
	r.Again = recipe.When{"seal": "yes"}
	r.Undoes = recipe.When{"seal": "no"}
	w, err := r.Begin(values(3))
	require.NoError(t, err)
	w = until(t, w, "ring")
	for round := 1; round <= 9; round++ {
		for b := 1; b <= 3; b++ {
			require.Equal(t, recipe.Act{Step: "ring", Does: recipe.Tighten, Bolt: b, Share: 100, Turn: 90, Round: round}, w.Offered()[0])
			w = do(t, w, round < 9)
		}
	}
	require.Equal(t, "turn", w.Offered()[0].Step)
	require.False(t, w.Stopped(), "a clamping disc takes many rounds")
	w, err = r.Begin(values(3))
	require.NoError(t, err)
	w = until(t, w, "ring")
	for !w.Stopped() {
		w = do(t, w, true)
	}
	require.Equal(t, recipe.MostPortions, w.Moving())
	require.ErrorContains(t, w.MaySign(), "24 rounds have moved a nut")
}

// A joint that stands is gone over: rounds alone.
func TestGoneOverAgain(t *testing.T) {
	r := frame()
	r.Groups[1].Stands = true
	w, err := r.Begin(values(3))
	require.NoError(t, err)
	w = until(t, w, "ring")
	require.Equal(t, recipe.Act{Step: "ring", Does: recipe.Tighten, Bolt: 1, Share: 100, Round: 1}, w.Offered()[0])
	for range 3 {
		w = do(t, w, false)
	}
	require.Equal(t, "turn", w.Offered()[0].Step)
}

// A choice that only one variant asks is not asked in the others.
func TestAChoiceThatIsNotAsked(t *testing.T) {
	r := frame()
	r.Choices = append(r.Choices, recipe.Choice{Name: "paint", Text: "Which paint", Options: []string{"red", "grey"}, When: recipe.When{"seal": "yes"}})
	require.Equal(t, []map[string]string{{"seal": "yes", "paint": "red"}, {"seal": "yes", "paint": "grey"}, {"seal": "no"}}, r.Variants())
	_, err := r.Begin(values(4))
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Missing, Field: "paint"})
	j := values(4)
	j.Choices["seal"] = "no"
	_, err = r.Begin(j)
	require.NoError(t, err)
}

func TestFiveRoundsThatMoveStopAndAsk(t *testing.T) {
	w := until(t, begin(t), "ring")
	for range 5 {
		w = do(t, w, false)
	}
	_, err := w.GoOn("engineer", "too early")
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotNow})
	for range recipe.MostRounds * 5 {
		require.False(t, w.Stopped())
		w = do(t, w, w.Offered()[0].Bolt == 5)
	}
	require.True(t, w.Stopped())
	require.Empty(t, w.Offered())
	require.ErrorIs(t, w.MaySign(), &refusal.Error{Code: refusal.NotNow, Field: "rounds"})
	_, err = w.GoOn("engineer", "")
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NeedsReason})
	w, err = w.GoOn("engineer", "the washer was turned over")
	require.NoError(t, err)
	require.Equal(t, 6, w.Offered()[0].Round)
	for range 5 {
		w = do(t, w, false)
	}
	require.Equal(t, "turn", w.Offered()[0].Step)
}

func TestTurnsComeInOrder(t *testing.T) {
	w := until(t, begin(t), "turn")
	require.Equal(t, recipe.Act{Step: "turn", Does: recipe.Turn, Bolt: 1, Turn: 360, Stroke: 1}, w.Offered()[0])
	w = do(t, w, false)
	require.Equal(t, 90.0, w.Offered()[0].Turn)
}

// The window is a share of a value in another unit: 10 ft·lbf is 13.558 N·m.
func TestAdjustAndMeasureUntilItIsIn(t *testing.T) {
	w := until(t, begin(t), "gland")
	win, ok := w.Window("gland")
	require.True(t, ok)
	require.InDelta(t, 0.8*13.558179483314004, win.Low, 1e-9)
	a := w.Offered()[0]
	for _, try := range []float64{5, 20} {
		var err error
		w, err = w.Do(a, recipe.Done{Person: "fitter", Readings: []float64{try}})
		require.NoError(t, err)
		require.Equal(t, a, w.Offered()[0], "still open")
		require.Error(t, w.MaySign())
	}
	w = do(t, w, false)
	require.NoError(t, w.MaySign())
	require.Empty(t, w.Deviations(), "tries are no deviations")
	tries := 0
	for _, e := range w.Log {
		if e.Tried {
			tries++
		}
	}
	require.Equal(t, 2, tries, "every try is recorded")
	require.Equal(t, "made", w.Offered()[0].Step)
}

func TestOutsideOnlyWithAReason(t *testing.T) {
	w := begin(t)
	gap := w.Offered()[1]
	for _, bad := range [][]float64{{0, 1}, {1, 1.6}, {-1, 1}} {
		_, err := w.Do(gap, recipe.Done{Person: "fitter", Readings: bad})
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.NeedsReason, Field: "readings"}, "%v", bad)
	}
	for _, bad := range [][]float64{nil, {1}, {1, 1, 1}, {1, math.NaN()}} {
		_, err := w.Do(gap, recipe.Done{Person: "fitter", Readings: bad, Reason: "whatever"})
		require.Error(t, err, "%v", bad)
	}
	kept, err := w.Do(gap, recipe.Done{Person: "fitter", Readings: []float64{1, 1.6}, Reason: "the maker allows 0.6"})
	require.NoError(t, err)
	require.Len(t, kept.Deviations(), 1)
	require.Contains(t, kept.Deviations()[0].Outside, "differ by 0.6 mm")
	_, err = w.Do(w.Offered()[0], recipe.Done{Person: "fitter", Readings: []float64{1}})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "readings"}, "nothing is read there")
	_, err = w.Do(w.Offered()[0], recipe.Done{})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Missing, Field: "person"})
}

func TestAStepForAQualifiedPerson(t *testing.T) {
	w := until(t, begin(t), "checked")
	_, err := w.Do(w.Offered()[0], recipe.Done{Person: "fitter"})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotTheSame, Field: "person"})
	require.False(t, w.Signed())
	w, err = w.Do(w.Offered()[0], recipe.Done{Person: "other", Qualifications: []string{"inspector"}})
	require.NoError(t, err)
	require.True(t, w.Signed())
	require.Empty(t, w.Offered())
}

func TestVariantsSwitchStepsAndValues(t *testing.T) {
	require.Equal(t, []map[string]string{{"seal": "yes"}, {"seal": "no"}}, frame().Variants())
	j := values(4)
	j.Choices["seal"] = "no"
	delete(j.Values, "rated")
	w, err := frame().Begin(j)
	require.NoError(t, err, "what only the other variant needs is not asked for")
	require.NotContains(t, w.Open(), "Gland")
	for name, edit := range map[string]func(*recipe.Joint){
		"seal":   func(j *recipe.Joint) { j.Choices = nil },
		"rated":  func(j *recipe.Joint) { delete(j.Values, "rated") },
		"torque": func(j *recipe.Joint) { j.Values["torque"] = unit.Of(5, unit.Millimetre) },
		"ring":   func(j *recipe.Joint) { j.Bolts["ring"] = 13 },
	} {
		j := values(4)
		edit(&j)
		_, err := frame().Begin(j)
		var r *refusal.Error
		require.ErrorAs(t, err, &r, name)
		require.Equal(t, name, r.Field)
	}
	j = values(4)
	j.Values["torque"] = unit.Of(-5, unit.NewtonMetre)
	_, err = frame().Begin(j)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotPositive, Field: "torque"})
}

// A variant that undoes the joint proves nothing of it.
func TestUndoingProvesNothing(t *testing.T) {
	r := frame()
	r.Steps[3].When = recipe.When{"seal": "no"}
	require.Error(t, r.Check())
	r.Undoes = recipe.When{"seal": "yes"}
	require.NoError(t, r.Check())
}

// Four first, then all the others, each bolt once.
func TestFourAtRightAnglesFirst(t *testing.T) {
	r := frame()
	r.Groups[1].Still = false
	r.Steps[3].Some = recipe.Quarters
	rest := r.Steps[3]
	rest.ID, rest.Some = "rest", recipe.Rest
	r.Steps = append(r.Steps[:4:4], append([]recipe.Step{rest}, r.Steps[4:]...)...)
	w, err := r.Begin(values(8))
	require.NoError(t, err)
	w = until(t, w, "ring")
	var got []int
	for w.Offered()[0].Step == "ring" || w.Offered()[0].Step == "rest" {
		got = append(got, w.Offered()[0].Bolt)
		w = do(t, w, false)
	}
	require.Equal(t, []int{1, 5, 3, 7, 2, 6, 4, 8}, got)
	_, err = r.Begin(values(6))
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "ring"})
}

func TestRecipesThatCannotBeFollowed(t *testing.T) {
	require.NoError(t, frame().Check())
	for _, c := range []struct {
		name  string
		edit  func(*recipe.Recipe)
		field string
	}{
		{"no title", func(r *recipe.Recipe) { r.Title = " " }, "title"},
		{"no edition", func(r *recipe.Recipe) { r.Edition = 0 }, "edition"},
		{"unknown kind", func(r *recipe.Recipe) { r.Kind = "knot" }, "kind"},
		{"one option", func(r *recipe.Recipe) { r.Choices[0].Options = []string{"yes"} }, "choices.0"},
		{"an option twice", func(r *recipe.Recipe) { r.Choices[0].Options = []string{"yes", "yes"} }, "choices.0"},
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
		{"a caution of no kind", func(r *recipe.Recipe) { r.Steps[1].Cautions = []recipe.Caution{{Kind: "perhaps", Text: "x"}} }, "steps.1.cautions.0.kind"},
		{"a caution that says nothing", func(r *recipe.Recipe) { r.Steps[1].Cautions = []recipe.Caution{{Kind: recipe.Forbidden}} }, "steps.1.cautions.0.text"},
		{"a share of no evenness", func(r *recipe.Recipe) { r.Steps[5].Limit.EvenOf = "rated" }, "steps.5.limit.evenof"},
		{"even of another kind of unit", func(r *recipe.Recipe) { r.Steps[1].Limit.EvenOf = "rated" }, "steps.1.limit.evenof"},
		{"dry and oiled", func(r *recipe.Recipe) { r.Groups[1].Dry, r.Groups[1].Lubricant = true, "oil" }, "groups.1.dry"},
		{"no steps", func(r *recipe.Recipe) { r.Steps = nil }, "groups.0"},
		{"a step twice", func(r *recipe.Recipe) { r.Steps[1].ID = "clean" }, "steps.1"},
		{"a step that says nothing", func(r *recipe.Recipe) { r.Steps[0].Text = "" }, "steps.0.text"},
		{"unknown station", func(r *recipe.Recipe) { r.Steps[0].Station = "lunch" }, "steps.0.station"},
		{"back to a station", func(r *recipe.Recipe) { r.Steps[5].Station = recipe.LayOut }, "steps.5.station"},
		{"a block taken up again", func(r *recipe.Recipe) { r.Steps[3].Block = "ready" }, "steps.3.block"},
		{"a group of nobody", func(r *recipe.Recipe) { r.Steps[2].Group = "nobody" }, "steps.2.group"},
		{"tightens what is turned", func(r *recipe.Recipe) { r.Steps[4].Does = recipe.Tighten }, "steps.4.does"},
		{"signs at the bolts", func(r *recipe.Recipe) { r.Steps[0].Does = recipe.Sign }, "steps.0.station"},
		{"measures without a limit", func(r *recipe.Recipe) { r.Steps[1].Limit = nil }, "steps.1.limit"},
		{"an empty limit", func(r *recipe.Recipe) { r.Steps[1].Limit = &recipe.Limit{} }, "steps.1.limit"},
		{"low above high", func(r *recipe.Recipe) { r.Steps[5].Limit.Low = num(2) }, "steps.5.limit"},
		{"a share of nothing", func(r *recipe.Recipe) { r.Steps[5].Limit.Of = "nothing" }, "steps.5.limit.of"},
		{"a share in another kind of unit", func(r *recipe.Recipe) { r.Steps[5].Limit.Unit = unit.Millimetre }, "steps.5.limit.of"},
		{"above nothing", func(r *recipe.Recipe) { r.Steps[5].Limit.Low, r.Steps[5].Limit.Above = nil, true }, "steps.5.limit"},
		{"a limit that is no number", func(r *recipe.Recipe) { r.Steps[5].Limit.High = num(math.NaN()) }, "steps.5.limit.high"},
		{"places less than none", func(r *recipe.Recipe) { r.Steps[1].Places = -1 }, "steps.1.places"},
		{"places nothing", func(r *recipe.Recipe) { r.Steps[0].Does = recipe.Place }, "steps.0.items"},
		{"proves what nobody asks", func(r *recipe.Recipe) { r.Steps[3].Proves = "beauty" }, "steps.3.proves"},
		{"does not prove what its kind asks", func(r *recipe.Recipe) { r.Steps[3].Proves = "" }, "steps"},
		{"proves it in one variant only", func(r *recipe.Recipe) { r.Steps[3].When = recipe.When{"seal": "no"} }, "steps"},
		{"undoes what", func(r *recipe.Recipe) { r.Undoes = recipe.When{"paint": "red"} }, "undoes"},
		{"ends unsigned", func(r *recipe.Recipe) { r.Steps = r.Steps[:6] }, "steps"},
	} {
		r := frame()
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
		outside, err := w.Judge([]float64{v})
		require.NoError(t, err)
		if math.Abs(v-low) > 1e-6 && math.Abs(v-high) > 1e-6 { // a limit counts as met within a relative 1e-9
			require.Equal(t, v < low || v > high, outside != "")
		}
		edge, err := w.Judge([]float64{low})
		require.NoError(t, err)
		require.Equal(t, above, edge != "", "the low end itself is outside only where it must stay open")
	})
}

func FuzzWork(f *testing.F) {
	f.Add([]byte{0, 1, 2, 250, 3}, 1.0, 1.2, true)
	f.Add([]byte{9, 9, 9}, math.NaN(), math.Inf(1), false)
	f.Fuzz(func(t *testing.T, acts []byte, a, b float64, reason bool) {
		w := begin(t)
		for _, x := range acts[:min(len(acts), 300)] {
			offered := w.Offered()
			if len(offered) == 0 {
				break
			}
			act := offered[int(x)%len(offered)]
			if x > 200 { // something else than what is offered
				act.Bolt += int(x) - 200
			}
			d := recipe.Done{Person: "fitter", Moved: x%3 == 0, Qualifications: []string{"inspector"}}
			if _, reads := w.Window(act.Step); reads {
				d.Readings = []float64{a, b}[:1+int(x)%2]
			}
			if reason {
				d.Reason = "because"
			}
			next, err := w.Do(act, d)
			if err != nil {
				continue
			}
			if w.MaySign() != nil && next.Signed() {
				t.Fatal("signed with something open")
			}
			w = next
		}
	})
}

func ExampleWork_Offered() {
	w, _ := frame().Begin(values(5))
	for _, a := range w.Offered() {
		fmt.Println(a.Does, a.Step)
	}
	// Output:
	// check clean
	// measure gap
}

// The verdict as it is typed is the one that counts when it is kept.
func TestJudgeIsWhatDoSays(t *testing.T) {
	r := frame()
	r.Steps[1].Hold = 5
	w, err := r.Begin(values(5))
	require.NoError(t, err)
	gap := w.Offered()[1]
	for _, c := range []struct {
		readings []float64
		held     float64
		says     string
	}{
		{[]float64{1, 1.2}, 5, ""},
		{[]float64{1, 1.2}, math.Inf(1), ""},
		{[]float64{1, 1.2}, 4, "held 4 of 5 min"},
		{[]float64{0, 1.2}, 5, "0 mm on the left; it must be above 0 mm"},
		{[]float64{0, 1.2}, 2, "above 0 mm. It was held 2 of 5 min"},
	} {
		outside, err := w.Judge("gap", c.readings, c.held)
		require.NoError(t, err)
		require.Contains(t, outside, c.says)
		require.Equal(t, c.says == "", outside == "")
		_, err = w.Do(gap, recipe.Done{Person: "fitter", Readings: c.readings, Held: min(c.held, 60)})
		require.Equal(t, outside == "", err == nil)
	}
	_, err = w.Judge("clean", []float64{1}, 5)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown})
}

// A private copy gives the same as one after the other, and leaves its origin
// alone.
func TestAPrivateCopy(t *testing.T) {
	start := begin(t)
	w, p := start, start.Private()
	for !w.Signed() {
		w = do(t, w, false)
		p = do(t, p, false)
		require.Equal(t, w.Offered(), p.Offered())
	}
	require.True(t, p.Shared().Signed())
	require.Equal(t, w.Log, p.Log)
	require.Len(t, start.Offered(), 2)
}

func TestSheets(t *testing.T) {
	good := frame()
	good.Sheet = &recipe.Sheet{Title: "Sheet", Rows: []recipe.Row{
		{Type: "A", Size: "1", When: recipe.When{"seal": "yes"}, Values: map[string][]float64{"torque": {80}}, Bolts: map[string]int{"ring": 5}, Threads: map[string]string{"ring": "M8"}, Grades: map[string]string{"ring": "8.8"}},
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

// What may be left undone is left with a reason, and is a deviation until it is
// done after all.
func TestLeftUndone(t *testing.T) {
	w := begin(t)
	clean := w.Offered()[0]
	_, err := w.Do(clean, recipe.Done{Person: "fitter", Skipped: true})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NeedsReason, Field: "skipped"})
	left, err := w.Do(clean, recipe.Done{Person: "fitter", Skipped: true, Reason: "no water"})
	require.NoError(t, err)
	require.Len(t, left.Deviations(), 1)
	require.Empty(t, left.Undo(clean).Deviations())
	require.Len(t, left.Undo(clean).Offered(), 2)
	r := frame()
	r.Steps[0].Must = true
	w, err = r.Begin(values(5))
	require.NoError(t, err)
	_, err = w.Do(clean, recipe.Done{Person: "fitter", Skipped: true, Reason: "no water"})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotNow, Field: "skipped"})
	w = until(t, w, "posts")
	_, err = w.Do(w.Offered()[0], recipe.Done{Person: "fitter", Skipped: true, Reason: "no wrench"})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotNow, Field: "skipped"}, "a pull is never left")
}
