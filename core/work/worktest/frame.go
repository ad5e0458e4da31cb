package worktest

import (
	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/unit"
)

func num(v float64) *float64 { return &v }

// Frame is a small recipe with something of everything: a choice, a block that
// may be done in any order, a group with locks, one gone round, one turned, an
// adjustment.
func Frame() recipe.Recipe {
	nm, mm := unit.NewtonMetre, unit.Millimetre
	return recipe.Recipe{
		ID: "frame", Title: "A small frame", Kind: "wheel or hub nuts", Edition: 1,
		Choices: []recipe.Choice{{Name: "seal", Text: "Is it sealed", Options: []string{"yes", "no"}}},
		Needs: []recipe.Need{{Name: "torque", Text: "Torque", Unit: nm}, {Name: "rated", Text: "Rated torque", Unit: nm,
			When: recipe.When{"seal": "yes"}}},
		Groups: []recipe.Group{
			{Name: "posts", Layout: recipe.Line, Bolts: 3, How: recipe.ByTorque, Value: "torque", Shares: []float64{50, 100},
				Lock: "sleeve over", Lubricant: "light oil"},
			{Name: "ring", Layout: recipe.Ring, Least: 3, Most: 12, How: recipe.ByTorque, Value: "torque", Still: true,
				Lubricant: "light oil"},
			{Name: "nut", Layout: recipe.Single, Bolts: 1, How: recipe.ByTurns, Turns: []float64{360, 90}},
		},
		Steps: []recipe.Step{
			{ID: "clean", Does: recipe.Check, Station: recipe.LayOut, Text: "Clean", Block: "ready"},
			{ID: "gap", Does: recipe.Measure, Station: recipe.LayOut, Text: "Gap", Block: "ready", Places: 2,
				Limit: &recipe.Limit{Low: num(0), Above: true, Even: num(0.5), Unit: mm}},
			{ID: "posts", Does: recipe.Tighten, Station: recipe.AtBolts, Text: "Posts", Group: "posts"},
			{ID: "ring", Does: recipe.Tighten, Station: recipe.AtBolts, Text: "Ring", Group: "ring",
				Proves: "a whole check round moved nothing"},
			{ID: "turn", Does: recipe.Turn, Station: recipe.AtBolts, Text: "Nut", Group: "nut"},
			{ID: "gland", Does: recipe.Adjust, Station: recipe.Prove, Text: "Gland", When: recipe.When{"seal": "yes"},
				Limit: &recipe.Limit{Low: num(0.8), High: num(1.2), Of: "rated", Unit: nm}},
			{ID: "made", Does: recipe.Sign, Station: recipe.AtRecord, Text: "Made"},
			{ID: "checked", Does: recipe.Sign, Station: recipe.AtRecord, Text: "Checked", By: "inspector"},
		},
	}
}

// Framed is a sealed frame with so many bolts in its ring.
func Framed(ring int) joint.Input {
	return joint.Input{Recipe: "frame", Edition: 1, Type: "A", Size: "1", Choices: map[string]string{"seal": "yes"},
		Groups: map[string]joint.Bolts{"ring": {Count: ring}},
		Values: map[string]joint.Given{"torque": {Value: unit.Of(80, unit.NewtonMetre)}, "rated": {Value: unit.Of(10, unit.FootPound)}}}
}

// Flange is a gasketed flange in a few steps: a ring in stages that is gone
// round, its gap before and after, and a test.
func Flange() recipe.Recipe {
	nm, mm := unit.NewtonMetre, unit.Millimetre
	gap := func(firm bool) *recipe.Limit {
		return &recipe.Limit{Low: num(0), Above: true, High: num(100), Firm: firm, Even: num(1), EvenOf: "gap limit", Over: "bolt circle",
			Unit: mm}
	}
	return recipe.Recipe{
		ID: "flange", Title: "A flange", Kind: "gasketed pipe flange", Edition: 1,
		Choices: []recipe.Choice{{Name: "gasket", Text: "Which gasket", Options: []string{"spiral", "sheet", "soft", "metal ring"}}},
		Needs: []recipe.Need{{Name: "torque", Text: "Torque", Unit: nm}, {Name: "bolt circle", Text: "Bolt circle", Unit: mm,
			Optional: true}, {Name: "gap limit", Text: "Gap limit", Unit: mm}, {Name: "gasket outer", Text: "Gasket outside", Unit: mm,
			Optional: true}, {Name: "gasket inner", Text: "Gasket inside", Unit: mm, Optional: true}, {Name: "seating stress",
			Text: "Seating stress", Unit: unit.Megapascal, Optional: true}, {Name: "pressure", Text: "Pressure", Unit: unit.Bar,
			Optional: true}},
		Groups: []recipe.Group{{Name: "bolts", Layout: recipe.Ring, Least: 3, Most: 200, How: recipe.ByTorque, Value: "torque",
			Shares: []float64{20, 60, 100}, Still: true, Lubricant: "light oil", Circle: "bolt circle",
			Gasket: &recipe.Gasket{Choice: "gasket", Outer: "gasket outer", Inner: "gasket inner", Stress: "seating stress",
				Pressure: "pressure"}}},
		Steps: []recipe.Step{
			{ID: "before", Does: recipe.Measure, Station: recipe.LayOut, Text: "Gap before", Places: 4, Limit: gap(false),
				Proves: "fit-up before assembly"},
			{ID: "pull", Does: recipe.Tighten, Station: recipe.AtBolts, Text: "Stages, then rounds", Group: "bolts",
				Proves:   "a whole check round moved nothing",
				Cautions: []recipe.Caution{{Kind: recipe.Danger, Text: "Nobody in line with a stud."}}},
			{ID: "gap", Does: recipe.Measure, Station: recipe.Prove, Text: "Gap", Places: 4, Limit: gap(true), Proves: "gap parallel"},
			{ID: "thread", Does: recipe.Measure, Station: recipe.Prove, Text: "Thread", Limit: &recipe.Limit{Low: num(1), Word: "threads"},
				Proves: "thread past the nut"},
			{ID: "leak", Does: recipe.Test, Station: recipe.Prove, Text: "Leak", Hold: 10, Must: true, Limit: &recipe.Limit{Low: num(0),
				High: num(0.2), Unit: unit.Bar}, Proves: "pressure or leak test"},
			{ID: "made", Does: recipe.Sign, Station: recipe.AtRecord, Text: "Made"},
			{ID: "checked", Does: recipe.Sign, Station: recipe.AtRecord, Text: "Checked", By: "inspector"},
		},
	}
}

// Flanged is a flange of so many M20 8.8 bolts at 260 N·m on light oil, over a
// sheet gasket that they seat, on a 240 mm circle or as large as its nuts need.
func Flanged(bolts int) joint.Input {
	mm := func(v float64) joint.Given { return joint.Given{Value: unit.Of(v, unit.Millimetre)} }
	circle := max(240, 14*float64(bolts))
	return joint.Input{Recipe: "flange", Edition: 1, Type: "RF", Size: "150", Choices: map[string]string{"gasket": "sheet"},
		Groups: map[string]joint.Bolts{"bolts": {Count: bolts, Thread: "M20", Grade: "8.8", SpecifiedFor: "light oil",
			Lubrication: "light oil"}}, Values: map[string]joint.Given{"torque": {Value: unit.Of(260, unit.NewtonMetre)},
			"bolt circle": mm(circle), "gasket outer": mm(circle - 35), "gasket inner": mm(circle - 35 - 45*min(1, float64(bolts)/8)),
			"gap limit": mm(0.8)}}
}
