package job_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/job"
	"dynacor/core/plan"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

func num(v float64) *float64 { return &v }

// disc is a small clamping disc: a single screw, a ring gone round, a gland, and
// a line of posts with their sleeves.
func disc() recipe.Recipe {
	nm := unit.NewtonMetre
	return recipe.Recipe{
		ID: "disc", Title: "Disc", Kind: "clamping disc on a hollow shaft", Edition: 3,
		Choices: []recipe.Choice{{Name: "shaft", Text: "Has the shaft a shoulder", Options: []string{"yes", "no"}}},
		Needs: []recipe.Need{{Name: "torque", Text: "Torque", Unit: nm}, {Name: "window", Text: "Window", Unit: nm}, {Name: "rated", Text: "Rated torque", Unit: nm}, {Name: "hours", Text: "Hours", Word: "h"},
			{Name: "ring", Text: "Ring", Unit: nm, When: recipe.When{"shaft": "no"}}},
		Groups: []recipe.Group{
			{Name: "screws", Layout: recipe.Ring, Least: 3, Most: 12, How: recipe.ByTorque, Value: "torque", Still: true, Dry: true},
			{Name: "valve", Layout: recipe.Single, Bolts: 1, How: recipe.ByTorque, Value: "window", Lubricant: "light oil"},
			{Name: "posts", Layout: recipe.Line, Bolts: 2, How: recipe.ByTorque, Value: "torque", Shares: []float64{50, 100}, Lock: "sleeve over", Lubricant: "light oil"},
		},
		Steps: []recipe.Step{
			{ID: "stop", Does: recipe.Check, Station: recipe.LayOut, Text: "Locked out", Must: true, Cautions: []recipe.Caution{{Kind: recipe.Danger, Text: "It turns."}}, Proves: "parts match the list"},
			{ID: "parts", Does: recipe.Match, Station: recipe.LayOut, Text: "Parts"},
			{ID: "dry", Does: recipe.KeepDry, Station: recipe.LayOut, Text: "Dry"},
			{ID: "tool", Does: recipe.Check, Station: recipe.ToolUp, Text: "Tools set"},
			{ID: "screws", Does: recipe.Tighten, Station: recipe.AtBolts, Text: "Screws", Group: "screws", Proves: "a whole check round moved nothing"},
			{ID: "valve", Does: recipe.Tighten, Station: recipe.AtBolts, Text: "Valve", Group: "valve"},
			{ID: "posts", Does: recipe.Tighten, Station: recipe.AtBolts, Text: "Posts", Group: "posts"},
			{ID: "gap", Does: recipe.Measure, Station: recipe.Prove, Text: "Gap", Places: 2, Limit: &recipe.Limit{Low: num(0), Above: true, Even: num(0.5), Unit: unit.Millimetre}, Proves: "clearance kept"},
			{ID: "even", Does: recipe.Check, Station: recipe.Prove, Text: "Even", Proves: "gap parallel"},
			{ID: "gland", Does: recipe.Adjust, Station: recipe.Prove, Text: "Gland", Limit: &recipe.Limit{Low: num(0.8), High: num(1.2), Of: "rated", Unit: nm}},
			{ID: "test", Does: recipe.Test, Station: recipe.Prove, Text: "Test", Hold: 10, Limit: &recipe.Limit{Low: num(0), High: num(0.2), Unit: unit.Bar}},
			{ID: "cover", Does: recipe.Lock, Station: recipe.Prove, Text: "All locked", Proves: "locks on, cover and guards on", By: "rigger"},
			{ID: "made", Does: recipe.Sign, Station: recipe.AtRecord, Text: "Made"},
		},
		Parts: []recipe.Part{{Name: "disc", Match: "size"}, {Name: "ring", Match: "bore", When: recipe.When{"shaft": "no"}}},
		Sheet: &recipe.Sheet{Title: "Sheet", Rows: []recipe.Row{
			{Type: "D", Size: "50", Values: map[string][]float64{"torque": {30}, "window": {0.4, 0.6}, "rated": {10}, "hours": {4}, "ring": {12}}, Bolts: map[string]int{"screws": 6},
				Threads: map[string]string{"screws": "M8"}, Grades: map[string]string{"screws": "10.9"}},
		}},
	}
}

func input() job.Input {
	return job.Input{Recipe: "disc", Edition: 3, Type: "D", Size: "50", Choices: map[string]string{"shaft": "yes"}, Values: map[string]job.Given{}, Groups: map[string]job.Bolts{}}
}

func compute(t require.TestingT, edit func(*job.Input)) job.Result {
	in := input()
	if edit != nil {
		edit(&in)
	}
	res, err := job.Compute(in, disc())
	require.NoError(t, err)
	return res
}

func group(res job.Result, name string) job.Group {
	for _, g := range res.Groups {
		if g.Name == name {
			return g
		}
	}
	return job.Group{}
}

func open(res job.Result) []string {
	var out []string
	for _, o := range res.Open {
		out = append(out, o.Field)
	}
	return out
}

func TestTheDiscIsARecipe(t *testing.T) { require.NoError(t, disc().Check()) }

// The nameplate gives the values, the count, the thread, and so the load:
// 30 N·m, K 0.20, 8 mm: 18.75 kN.
func TestFromNameplateToLoad(t *testing.T) {
	res := compute(t, nil)
	require.Empty(t, res.Open)
	require.Empty(t, res.Deviations)
	g := group(res, "screws")
	require.Equal(t, 6, g.Count)
	require.Equal(t, job.Dry, g.Lubrication)
	require.InDelta(t, 18750, g.Load, 1e-9)
	require.Equal(t, sequence.Circular, g.Pattern)
	require.Equal(t, []int{1, 2, 3, 4, 5, 6}, g.Order)
	require.Less(t, g.LikelyLow, g.Load)
	require.Greater(t, g.Limit, g.LikelyHigh)
	v := group(res, "valve")
	require.InDelta(t, 0.5, v.Torque, 1e-12, "the middle of its window")
	require.Zero(t, v.Load, "no thread, no load")
	require.Len(t, res.Values, 4, "the ring belongs to the other variant")
}

func TestWhatIsNotGivenIsOpen(t *testing.T) {
	require.Equal(t, []string{"choices.shaft", "values.torque", "values.window", "values.rated", "values.hours", "groups.screws.count"},
		open(compute(t, func(in *job.Input) { in.Type, in.Choices = "", nil })))
	res := compute(t, func(in *job.Input) { in.Size = "51" })
	require.Contains(t, res.Minds[0].Text, "not on the sheet")
	_, err := job.Follow(input(), disc(), res)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NeedsDecision, Field: "values.torque"})
}

// A value by hand wins over the sheet's, is said to differ, and stands on the
// record.
func TestByHandWinsAndIsShown(t *testing.T) {
	res := compute(t, func(in *job.Input) { in.Values["torque"] = job.Given{Value: unit.Of(22, unit.FootPound)} })
	require.InDelta(t, 22*1.3558179483314004, group(res, "screws").Torque, 1e-9)
	require.Contains(t, res.Deviations[0], "Torque: 22 ft·lbf where the maker's sheet has 30 N·m")
	require.Empty(t, compute(t, func(in *job.Input) { in.Values["torque"] = job.Given{Value: unit.Of(30, unit.NewtonMetre)} }).Deviations)
}

func TestAgainstTheKindOnlyWithTheReason(t *testing.T) {
	star := func(reason string) func(*job.Input) {
		return func(in *job.Input) { in.Groups["screws"] = job.Bolts{Order: sequence.Star, Reason: reason} }
	}
	res := compute(t, star(""))
	require.Equal(t, []string{"groups.screws.reason"}, open(res))
	require.Contains(t, res.Minds[0].Text, "A cross tilts the disc")
	res = compute(t, star("the maker's letter of 3 November"))
	require.Empty(t, res.Open)
	require.Contains(t, res.Deviations[0], "the maker's letter")
	in := input()
	star("the maker's letter of 3 November")(&in)
	p, err := job.Follow(in, disc(), res)
	require.NoError(t, err)
	require.Equal(t, 1, p.Work.Acts("screws")[0].Bolt)
	require.Equal(t, group(res, "screws").Order[1], p.Work.Acts("screws")[1].Bolt)
}

// Lubricant on dry screws: the equivalent is offered, never taken silently, and
// the reason is asked for besides.
func TestAConditionThatIsNotTheTorques(t *testing.T) {
	const moly = "molybdenum disulphide paste"
	with := func(b job.Bolts) job.Result {
		return compute(t, func(in *job.Input) { in.Groups["screws"] = b })
	}
	res := with(job.Bolts{Lubrication: moly})
	require.Equal(t, []string{"groups.screws.reason", "groups.screws.decision"}, open(res))
	require.Contains(t, res.Minds[0].Text, "must stay dry: on moly paste the same torque loads them 54 % more")
	require.InDelta(t, 30, group(res, "screws").Torque, 1e-12, "nothing is converted by itself")
	require.InDelta(t, 30*0.13/0.20, group(res, "screws").Equivalent, 1e-9)
	res = with(job.Bolts{Lubrication: moly, Decision: plan.TakeEquivalent, Reason: "pasted by the maker"})
	require.Empty(t, res.Open)
	require.InDelta(t, 19.5, group(res, "screws").Torque, 1e-9)
	require.InDelta(t, 18750, group(res, "screws").Load, 1e-6, "the load it was written for")
	// And a lubricated value on dry posts.
	res = compute(t, func(in *job.Input) { in.Groups["posts"] = job.Bolts{Lubrication: job.Dry} })
	require.Equal(t, []string{"groups.posts.decision"}, open(res))
	require.Contains(t, res.Minds[0].Text, "15 % less load")
}

// Another preset of stages than the recipe's is taken, and what it risks is said.
func TestOtherStages(t *testing.T) {
	in := input()
	in.Groups["posts"] = job.Bolts{Stages: "20-60-100"}
	res, err := job.Compute(in, disc())
	require.NoError(t, err)
	g := group(res, "posts")
	require.Equal(t, []float64{20, 60, 100}, g.Stages)
	require.InDelta(t, 18, g.Torques[1], 1e-9)
	require.Contains(t, res.Minds[0].Text, "The posts in 20-60-100 %, which is usual for soft and fibre gaskets")
	p, err := job.Follow(in, disc(), res)
	require.NoError(t, err)
	require.Len(t, p.Work.Acts("posts"), 3*2+2, "three stages of two bolts, and their locks")
	same := compute(t, func(in *job.Input) { in.Groups["posts"] = job.Bolts{Stages: "50-100"} })
	require.Empty(t, same.Open)
	for stages, field := range map[string]string{"1-2-3": "posts", "20-60-100": "screws"} {
		in := input()
		in.Groups[field] = job.Bolts{Stages: stages}
		r := disc()
		r.Groups[0].Portion = 90
		_, err := job.Compute(in, r)
		var no *refusal.Error
		require.ErrorAs(t, err, &no)
		require.Equal(t, "groups."+field+".stages", no.Field)
	}
}

// A plate lies as its rows and pitches say, and its order goes by them.
func TestAPlateLiesAsItIs(t *testing.T) {
	r := disc()
	r.Kind = "structural splice"
	r.Groups[0].Layout, r.Groups[0].Dry = recipe.Plate, false
	r.Steps[4].Proves, r.Steps[7].Proves = "thread past the nut", "residual torque of a sample"
	lay := func(b job.Bolts) (job.Result, error) {
		in := input()
		b.Count = 12
		in.Groups["screws"] = b
		return job.Compute(in, r)
	}
	square, err := lay(job.Bolts{})
	require.NoError(t, err)
	require.Equal(t, recipe.Grid{Rows: 3, Cols: 4, Across: 1, Down: 1}, group(square, "screws").Grid)
	two, err := lay(job.Bolts{Rows: 2, Across: unit.Of(70, unit.Millimetre), Down: unit.Of(10, unit.Inch)})
	require.NoError(t, err)
	require.Equal(t, recipe.Grid{Rows: 2, Cols: 6, Across: 70, Down: 254}, group(two, "screws").Grid)
	want, err := sequence.Grid(2, 6, 70, 254)
	require.NoError(t, err)
	require.Equal(t, want, group(two, "screws").Order)
	in := input()
	in.Groups["screws"] = job.Bolts{Count: 12, Rows: 2, Across: unit.Of(70, unit.Millimetre), Down: unit.Of(10, unit.Inch), SpecifiedFor: "light oil"}
	res, err := job.Compute(in, r)
	require.NoError(t, err)
	p, err := job.Follow(in, r, res)
	require.NoError(t, err)
	var order []int
	for _, a := range p.Work.Acts("screws")[:12] {
		order = append(order, a.Bolt)
	}
	require.Equal(t, want, order, "the run goes as the plan was drawn")
	_, err = lay(job.Bolts{Rows: 5})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "groups.screws.rows"})
	_, err = lay(job.Bolts{Across: unit.Of(70, unit.Millimetre)})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotPositive, Field: "groups.screws.rows"})
}

func TestWhatCannotBeIsRefused(t *testing.T) {
	for _, c := range []struct {
		name, field string
		code        refusal.Code
		edit        func(*job.Input)
	}{
		{"another variant", "choices.shaft", refusal.Unknown, func(in *job.Input) { in.Choices["shaft"] = "perhaps" }},
		{"millimetres", "values.torque", refusal.Contradicts, func(in *job.Input) { in.Values["torque"] = job.Given{Value: unit.Of(3, unit.Millimetre)} }},
		{"below zero", "values.torque", refusal.NotPositive, func(in *job.Input) { in.Values["torque"] = job.Given{Value: unit.Of(-3, unit.NewtonMetre)} }},
		{"a window that falls", "values.window", refusal.Contradicts, func(in *job.Input) {
			in.Values["window"] = job.Given{Value: unit.Of(6, unit.NewtonMetre), Max: unit.Of(5, unit.NewtonMetre)}
		}},
		{"too many", "groups.screws", refusal.OutOfRange, func(in *job.Input) { in.Groups["screws"] = job.Bolts{Count: 13} }},
		{"no such thread", "groups.screws.thread", refusal.Unknown, func(in *job.Input) { in.Groups["screws"] = job.Bolts{Thread: "M7.3"} }},
		{"no such lubricant", "groups.screws.lubrication", refusal.Unknown, func(in *job.Input) { in.Groups["screws"] = job.Bolts{Lubrication: "butter"} }},
		{"past yield", "groups.screws.torque", refusal.TooLarge, func(in *job.Input) { in.Values["torque"] = job.Given{Value: unit.Of(60, unit.NewtonMetre)} }},
	} {
		in := input()
		c.edit(&in)
		_, err := job.Compute(in, disc())
		var r *refusal.Error
		require.ErrorAs(t, err, &r, c.name)
		require.Equal(t, c.code, r.Code, "%s: %v", c.name, err)
		require.Contains(t, r.Field, c.field, c.name)
	}
}

// book adds entries to a run and keeps them.
type book struct {
	t       require.TestingT
	plan    job.Plan
	state   *job.State
	entries []run.Entry
	person  string
	may     []string
}

func begin(t require.TestingT) *book {
	res := compute(t, nil)
	p, err := job.Follow(input(), disc(), res)
	require.NoError(t, err)
	return &book{t: t, plan: p, state: job.Fold(p, nil), person: "fitter", may: []string{"rigger"}}
}

func (b *book) try(c run.Content) error {
	e := run.Entry{ID: fmt.Sprint("e", len(b.entries)), Seq: len(b.entries) + 1, Person: b.person, Content: c}
	if err := b.state.Accept(e, b.may); err != nil {
		return err
	}
	b.state = b.state.Then(e)
	b.entries = append(b.entries, e)
	return nil
}

func (b *book) add(c run.Content) string {
	require.NoError(b.t, b.try(c), "%+v", c)
	return b.entries[len(b.entries)-1].ID
}

func (b *book) tools() {
	for _, g := range b.plan.Result.Groups {
		t := run.Tooling{Group: g.Name}
		for i, torque := range g.Torques {
			t.Passes = append(t.Passes, run.PassTool{Pass: i + 1, Tools: []string{"TW"}, Torque: torque, Lands: torque, Setting: unit.Of(torque, unit.NewtonMetre)})
		}
		b.add(t)
	}
}

func (b *book) next() run.Step {
	a, ok := b.state.Next()
	require.True(b.t, ok)
	c := run.Step{Step: a.Step, Bolt: a.Bolt, Share: a.Share, Turn: a.Turn, Stroke: a.Stroke, Lock: a.Lock, Round: a.Round}
	switch a.Step {
	case "gap":
		c.Readings = []float64{0.4, 0.6}
	case "gland":
		c.Readings = []float64{11}
	case "parts":
		c.Marks = []string{"disc: D-50"}
	case "test":
		c.Readings, c.Held = []float64{0.1}, 10
	}
	return c
}

// until goes on to the first act of a step.
func (b *book) until(step string) {
	for {
		if len(b.state.Tooling) == 0 && b.state.Stage == run.StageTool {
			b.tools()
		}
		c := b.next()
		if c.Step == step {
			return
		}
		b.due(c)
		b.add(c)
	}
}

func (b *book) due(c run.Step) {
	for _, st := range b.state.Work.Steps() {
		if st.ID == c.Step && len(st.Cautions) > 0 && !b.state.Cautioned[st.ID][b.person] {
			b.add(run.Caution{Step: st.ID})
		}
	}
}

func (b *book) end() {
	for b.state.Stage != run.StageSign {
		b.until(b.next().Step)
		c := b.next()
		b.due(c)
		b.add(c)
	}
}

func (b *book) refused(code refusal.Code, c run.Content) {
	err := b.try(c)
	require.ErrorIs(b.t, err, &refusal.Error{Code: code}, "%+v: %v", c, err)
}

func TestStationAfterStation(t *testing.T) {
	b := begin(t)
	require.Equal(t, run.StageLayOut, b.state.Stage)
	b.refused(refusal.NotNow, run.Step{Step: "stop"}) // its caution is not read
	b.add(run.Caution{Step: "stop"})
	b.refused(refusal.NotNow, run.Step{Step: "stop", Skipped: true, Reason: "no time"})
	b.refused(refusal.NotNext, run.Step{Step: "gap", Readings: []float64{1, 1}})
	b.add(run.Step{Step: "stop"})
	b.refused(refusal.Missing, run.Step{Step: "parts", Marks: []string{"disc: "}})
	b.refused(refusal.Missing, run.Step{Step: "parts", Marks: []string{"ring: R-50"}})
	b.add(run.Step{Step: "parts", Marks: []string{"disc: D-50"}})
	b.refused(refusal.NeedsReason, run.Step{Step: "dry", Skipped: true})
	b.add(run.Step{Step: "dry"})
	require.Equal(t, run.StageTool, b.state.Stage)
	b.refused(refusal.NotNow, run.Step{Step: "tool"}) // no tools yet
	b.tools()
	b.add(run.Step{Step: "tool"})
	require.Equal(t, run.StageTighten, b.state.Stage)
	b.refused(refusal.NotNext, run.Step{Step: "screws", Bolt: 2, Share: 100})
	b.until("gap")
	require.Equal(t, run.StageProve, b.state.Stage)
	b.refused(refusal.NotNow, run.Signature{Part: run.Made})
	b.end()
	require.Empty(t, b.state.Open())
	require.Empty(t, b.state.AllDeviations())
	b.add(run.Signature{Part: run.Made})
	b.refused(refusal.NotTheSame, run.Signature{Part: run.Checked})
	b.person, b.may = "other", []string{"fitter"}
	b.refused(refusal.NotTheSame, run.Signature{Part: run.Checked})
	b.may = []string{"inspector"}
	b.add(run.Signature{Part: run.Checked})
	require.Equal(t, run.StageSigned, b.state.Stage)
	b.refused(refusal.NotNow, run.Pause{})
}

func TestReadingsOutsideTheMakersWindow(t *testing.T) {
	b := begin(t)
	b.until("valve")
	pull := b.next()
	for _, bad := range []float64{0.39, 0.61} {
		pull.Reading = unit.Of(bad, unit.NewtonMetre)
		b.refused(refusal.FarReading, pull)
	}
	pull.Reading = unit.Of(6, unit.NewtonMetre)
	b.refused(refusal.TooLarge, pull)
	pull.Reading = unit.Of(0.58, unit.NewtonMetre) // 16 % off the setting, and inside
	b.refused(refusal.FarReading, pull)
	pull.Reading, pull.Confirmed = unit.Of(0.62, unit.NewtonMetre), true
	b.add(pull)
	b.end()
	require.True(t, b.state.Outside())
	require.Contains(t, b.state.AllDeviations()[0].Text, "outside the maker's window of 0.4 to 0.6 N·m")
	b.add(run.Signature{Part: run.Made})
	b.person, b.may = "other", []string{"inspector"}
	b.refused(refusal.NeedsReason, run.Signature{Part: run.Checked})
	b.add(run.Signature{Part: run.Checked, Reason: "the maker accepts 0.65"})
}

// A sleeve that was left keeps the count from being kept without its reason.
func TestALockThatWasLeft(t *testing.T) {
	b := begin(t)
	b.until("posts")
	for range 2 * 2 { // both stages of both posts, up to the first lock
		if b.next().Lock {
			break
		}
		b.add(b.next())
	}
	lock := b.next()
	require.True(t, lock.Lock)
	lock.Skipped, lock.Reason = true, "bent"
	b.add(lock)
	b.until("cover")
	on, all := b.state.Work.Locks()
	require.Equal(t, [2]int{1, 2}, [2]int{on, all})
	b.refused(refusal.NeedsReason, run.Step{Step: "cover"})
	b.may = nil
	b.refused(refusal.NotTheSame, run.Step{Step: "cover", Reason: "wired"})
	b.may = []string{"rigger"}
	b.add(run.Step{Step: "cover", Reason: "wired"})
	require.Len(t, b.state.AllDeviations(), 2)
}

func TestATestIsHeldForItsTime(t *testing.T) {
	b := begin(t)
	b.until("test")
	b.refused(refusal.NeedsReason, run.Step{Step: "test", Readings: []float64{0}, Held: 9})
	b.refused(refusal.NeedsReason, run.Step{Step: "test", Readings: []float64{0.3}, Held: 10})
	b.add(run.Step{Step: "test", Readings: []float64{0}, Held: 9.5, Reason: "the shift ended"})
	require.Contains(t, b.state.AllDeviations()[0].Text, "held 9.5 of 10 min")
}

// Every try of an adjust step is kept; the step is done with the one within.
func TestAdjustAndMeasure(t *testing.T) {
	b := begin(t)
	b.until("gland")
	for _, v := range []float64{7, 13, 11} {
		require.Equal(t, "gland", b.next().Step)
		b.add(run.Step{Step: "gland", Readings: []float64{v}})
	}
	require.Len(t, b.state.Work.Tries("gland"), 3)
	require.Equal(t, "test", b.next().Step)
	require.Empty(t, b.state.AllDeviations())
}

// What is struck out is to be done again; a pull that is struck out voids the
// rounds and what was proven after it.
func TestStruckOutIsDoneAgain(t *testing.T) {
	b := begin(t)
	b.until("screws")
	first := b.add(b.next())
	b.until("gland")
	b.refused(refusal.NeedsReason, run.Correction{Of: first})
	b.add(run.Correction{Of: first, Reason: "wrong wrench in hand"})
	require.Equal(t, run.Step{Step: "screws", Bolt: 1, Share: 100}, b.next())
	b.add(b.next())
	require.Equal(t, 2, b.next().Round, "the rounds begin again, with a new number")
	b.until("gap")
	b.end()
	require.Contains(t, b.state.AllDeviations()[0].Text, "screw 1 struck out: wrong wrench")
	b.refused(refusal.NotNow, run.Correction{Of: first, Reason: "again"})
}

func TestACorrectedReading(t *testing.T) {
	b := begin(t)
	b.until("gap")
	id := b.add(run.Step{Step: "gap", Readings: []float64{0.4, 0.5}})
	b.refused(refusal.NeedsReason, run.Correction{Of: id, Reason: "misread", Instead: run.Step{Step: "gap", Readings: []float64{0, 0.5}}})
	b.refused(refusal.Contradicts, run.Correction{Of: id, Reason: "misread", Instead: run.Step{Step: "even"}})
	b.add(run.Correction{Of: id, Reason: "misread", Instead: run.Step{Step: "gap", Readings: []float64{0.3, 0.5}}})
	e, ok := b.state.Work.Last(recipe.Act{Step: "gap", Does: recipe.Measure})
	require.True(t, ok)
	require.Equal(t, []float64{0.3, 0.5}, e.Readings)
	require.Equal(t, "even", b.next().Step)
}

// A bolt that is replaced begins anew, and with it the rounds.
func TestAReplacedBoltBeginsAnew(t *testing.T) {
	b := begin(t)
	b.until("posts")
	for b.next().Share == 50 {
		b.add(b.next())
	}
	b.refused(refusal.Unknown, run.Trouble{Step: "posts", Bolt: 1, What: run.ThreadDamaged, Remedy: run.Leave})
	b.refused(refusal.OutOfRange, run.Trouble{Step: "posts", Bolt: 3, What: run.ThreadDamaged, Remedy: run.Replaced})
	b.refused(refusal.NotNow, run.Trouble{Step: "screws", Bolt: 1, What: run.ThreadDamaged, Remedy: run.Replaced})
	b.add(run.Trouble{Step: "posts", Bolt: 1, What: run.ThreadDamaged, Remedy: run.Replaced, Note: "new one"})
	marks := map[string]string{}
	for _, x := range b.state.Bolts() {
		marks[fmt.Sprint(x.Group, x.Position)] = x.Mark
	}
	require.Equal(t, "trouble", marks["posts1"])
	require.Equal(t, run.Step{Step: "posts", Bolt: 1, Share: 50}, b.next())
	b.end()
	require.Contains(t, b.state.AllDeviations()[0].Text, "posts, bolt 1: thread damaged, bolt replaced and begun anew. new one")
}

func TestFiveRoundsStopTheRun(t *testing.T) {
	b := begin(t)
	b.until("screws")
	for b.state.Stage != run.StageStopped {
		c := b.next()
		c.Moved = c.Round > 0 && c.Bolt == 2
		b.add(c)
	}
	b.refused(refusal.NeedsReason, run.Decision{})
	b.add(run.Decision{Reason: "the seat was cleaned"})
	require.Equal(t, 6, b.next().Round)
	b.end()
	require.Contains(t, fmt.Sprint(b.state.AllDeviations()), "another round was allowed: the seat was cleaned")
}

func TestPausedNothingIsDone(t *testing.T) {
	b := begin(t)
	b.until("screws")
	b.add(run.Pause{Note: "called away"})
	b.refused(refusal.NotNow, b.next())
	b.refused(refusal.NotNow, run.Pause{})
	b.add(run.Resume{})
	b.refused(refusal.NotNow, run.Resume{})
	b.add(b.next())
	b.refused(refusal.Unknown, run.Pull{Bolt: 1, Pass: 1})
}

// Whatever happened on the way, folding all entries at once gives what adding
// one after the other gave, levels stay within the glass, and nothing is signed
// while a step is open.
func TestFoldingIsAddingOneByOne(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := begin(t)
		b.add(run.Caution{Step: "stop"})
		var steps []string
		for n := 0; n < 120 && b.state.Stage != run.StageSign; n++ {
			if b.state.Stage == run.StageTool && len(b.state.Tooling) == 0 {
				b.tools()
			}
			if b.state.Stage == run.StageStopped {
				b.add(run.Decision{Reason: "looked at"})
				continue
			}
			c := b.next()
			switch k := rapid.IntRange(0, 30).Draw(t, "what"); {
			case k == 0 && len(steps) > 0:
				_ = b.try(run.Correction{Of: rapid.SampledFrom(steps).Draw(t, "of"), Reason: "it did not happen"})
				continue
			case k == 1 && c.Bolt > 0 && !c.Lock:
				_ = b.try(run.Trouble{Step: c.Step, Bolt: c.Bolt, What: run.Overshot, Remedy: run.Replaced})
				continue
			case k == 2 && c.Round > 0:
				c.Moved = true
			}
			steps = append(steps, b.add(c))
			if b.state.Stage != run.StageSign {
				require.ErrorIs(t, b.try(run.Signature{Part: run.Made}), &refusal.Error{Code: refusal.NotNow})
			}
		}
		again := job.Fold(b.plan, b.entries)
		require.Equal(t, b.state.Stage, again.Stage)
		require.Equal(t, b.state.Work.Offered(), again.Work.Offered())
		require.Equal(t, b.state.Bolts(), again.Bolts())
		require.Equal(t, b.state.AllDeviations(), again.AllDeviations())
		require.Equal(t, b.state.Open(), again.Open())
		for _, x := range b.state.Bolts() {
			require.False(t, x.Level < 0 || x.Level > 1 || math.IsNaN(x.Level))
		}
		_, err := b.plan.Work.Do(recipe.Act{Step: "stop", Does: recipe.Check}, recipe.Done{Person: "fitter"})
		require.NoError(t, err, "the plan itself is never touched")
	})
}
