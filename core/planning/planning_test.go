package planning_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/joint"
	"dynacor/core/planning"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/core/work/worktest"
)

var recipes = []recipe.Recipe{worktest.Flange()}

func offers() []planning.Offer { return planning.Offers(recipes) }

func TestColumnsAreMatchedByTheirHeadings(t *testing.T) {
	got := planning.Match([]string{"Joint No.", "System", "Description", "Joint type", "Torque [ft-lb]", "Bolt size", "No. of bolts",
		"Remarks",
		"Tag"}, offers())
	want := []planning.Field{"", planning.Area, planning.Title, planning.Kind, "value torque", planning.Thread, planning.Count, "",
		planning.Tag}
	for i, c := range got {
		require.Equal(t, want[i], c.Field, c.Heading)
	}
	require.Equal(t, unit.FootPound, got[4].Unit)
}

func TestAMatchThatNoRowCanBeReadBy(t *testing.T) {
	columns := planning.Match([]string{"Tag", "Area", "What it is", "Kind of joint"}, offers())
	require.NoError(t, planning.CheckColumns(columns, offers()))
	twice := append(columns, planning.Column{Heading: "Tag 2", Field: planning.Tag})
	require.ErrorContains(t, planning.CheckColumns(twice, offers()), `"Tag" and "Tag 2" are both matched`)
	require.ErrorContains(t, planning.CheckColumns(columns[1:], offers()), "No column is matched to Tag")
	require.ErrorIs(t, planning.CheckColumns(append(columns, planning.Column{Field: "value nothing"}), offers()),
		refusal.New(refusal.Unknown, "columns", "", ""))
	require.ErrorContains(t, planning.CheckColumns(append(columns, planning.Column{Heading: "Torque (mm)", Field: "value torque",
		Unit: unit.Millimetre}), offers()), "is not measured in that")
}

func TestUnitsHoweverTheyAreWritten(t *testing.T) {
	for text, want := range map[string]unit.Unit{"Nm": unit.NewtonMetre, "N.m": unit.NewtonMetre, "N·m": unit.NewtonMetre,
		"n-m":   unit.NewtonMetre,
		"ft-lb": unit.FootPound, "lb.ft": unit.FootPound, "FT LBS": unit.FootPound, "in-lb": unit.InchPound, `"`: unit.Inch, "MPA": unit.Megapascal,
		"N/mm²": unit.Megapascal, "psi": unit.PSI, "deg": unit.Degree} {
		u, ok := planning.UnitOf(text)
		require.True(t, ok, text)
		require.Equal(t, want, u, text)
	}
	for _, text := range []string{"kPa", "", "furlong", "Nmm"} {
		_, ok := planning.UnitOf(text)
		require.False(t, ok, text)
	}
}

func TestNumbersAreReadOrRefused(t *testing.T) {
	nm := func(v float64) joint.Given { return joint.Given{Value: unit.Of(v, unit.NewtonMetre)} }
	for cell, want := range map[string]joint.Given{
		"88": nm(88), "12,5": nm(12.5), "1250.5 Nm": nm(1250.5), "88 ft·lbf": {Value: unit.Of(88, unit.FootPound)},
		"80 to 90":     {Value: unit.Of(80, unit.NewtonMetre), Max: unit.Of(90, unit.NewtonMetre)},
		"80-90 ft-lbs": {Value: unit.Of(80, unit.FootPound), Max: unit.Of(90, unit.FootPound)},
	} {
		g, err := planning.Given(cell, "", unit.NewtonMetre)
		require.NoError(t, err, cell)
		require.Equal(t, want, g, cell)
	}
	for cell, says := range map[string]string{"1,250": "could be 1250 or 1.250", "1,250.5": "a comma and a point", "tight": "no number",
		"88 kPa": "no unit that is known", "88 mm": "asked for in N·m", "90 to 80": "ends below", "1.2.3": "no number"} {
		_, err := planning.Given(cell, "", unit.NewtonMetre)
		require.ErrorContains(t, err, says, cell)
	}
	g, err := planning.Given("88", unit.FootPound, unit.NewtonMetre)
	require.NoError(t, err)
	require.Equal(t, unit.Of(88, unit.FootPound), g.Value, "the heading says the unit")
	_, err = planning.Given("3 mm", "", "")
	require.ErrorContains(t, err, "a number without one")
}

func TestARowIsRead(t *testing.T) {
	columns := planning.Match([]string{"Tag", "Area", "Title", "Kind", "Torque (N·m)", "Bolts", "Thread", "Grade", "Lubricant"}, offers())
	cells := []string{" ps-1 /  bypass ", "Penstock gallery", "Bypass", recipes[0].Title, "260", "8", "M20", "8.8", "light oil"}
	row := planning.Name(columns, cells)
	require.Equal(t, planning.Row{Area: "Penstock gallery", Tag: "PS-1 / BYPASS", Title: "Bypass", Kind: recipes[0].Title}, row)
	require.Empty(t, row.Check(columns))
	r, ok := planning.Find(row.Kind, recipes)
	require.True(t, ok)
	in, wrong := planning.Input(columns, cells, r)
	require.Empty(t, wrong)
	require.Equal(t, joint.Given{Value: unit.Of(260, unit.NewtonMetre)}, in.Values["torque"])
	require.Equal(t, joint.Bolts{Count: 8, Thread: "M20", Grade: "8.8", Lubrication: "light oil"}, in.Groups[r.Groups[0].Name])
	cells[5], cells[4] = "eight", "tight"
	_, wrong = planning.Input(columns, cells, r)
	require.Equal(t, []string{"Torque (N·m)", "Bolts"}, []string{wrong[0].Column, wrong[1].Column})
	require.Equal(t, []planning.Wrong{{Column: "Tag", Text: "it is empty"}}, planning.Name(columns, append([]string{""},
		cells[1:]...)).Check(columns))
}

// What is written out is read back as it was.
func TestWhatIsWrittenIsReadBack(t *testing.T) {
	r := recipes[0]
	rapid.Check(t, func(t *rapid.T) {
		in := joint.Input{Recipe: r.ID, Edition: r.Edition, Choices: map[string]string{}, Values: map[string]joint.Given{},
			Groups: map[string]joint.Bolts{}}
		if rapid.Bool().Draw(t, "torque") {
			u := rapid.SampledFrom([]unit.Unit{unit.NewtonMetre, unit.FootPound, unit.KilogramMetre}).Draw(t, "unit")
			in.Values["torque"] = joint.Given{Value: unit.Of(float64(rapid.IntRange(1, 99_999).Draw(t, "v"))/10, u)}
		}
		if rapid.Bool().Draw(t, "bolts") {
			in.Groups[r.Groups[0].Name] = joint.Bolts{Count: rapid.IntRange(4, 60).Draw(t, "n"), Thread: "M20", Grade: "8.8"}
		}
		var headings []string
		for _, o := range offers() {
			headings = append(headings, o.Text)
		}
		row := planning.Row{Area: "Pit", Tag: "J-1", Title: "Joint", Kind: r.Title}
		cells := planning.Cells(offers(), row, in, r)
		columns := planning.Match(headings, offers())
		if got := planning.Name(columns, cells); got != row {
			t.Fatalf("%+v", got)
		}
		back, wrong := planning.Input(columns, cells, r)
		if len(wrong) > 0 {
			t.Fatal(wrong)
		}
		require.Equal(t, in, back)
	})
}

func FuzzGiven(f *testing.F) {
	for _, s := range []string{"88", "1,250", "80 to 90 N·m", "-", "1e9", "∞"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, cell string) {
		if g, err := planning.Given(cell, "", unit.NewtonMetre); err == nil {
			if _, err := g.Value.In(unit.NewtonMetre); err != nil {
				t.Fatal(cell, err)
			}
		}
	})
}
