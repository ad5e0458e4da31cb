package recipes_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/kind"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/internal/recipes"
)

func shipped(t require.TestingT) []recipe.Recipe {
	all, err := recipes.Book()
	require.NoError(t, err)
	return all
}

// Every kind has its recipe, and a recipe written out reads back as itself.
func TestTheBookHoldsEveryKind(t *testing.T) {
	kinds := map[string]bool{}
	for _, r := range shipped(t) {
		require.False(t, kinds[r.Kind], "two recipes for a %s", r.Kind)
		kinds[r.Kind] = true
		out, err := recipes.Write(r)
		require.NoError(t, err, r.ID)
		back, err := recipes.Read(out)
		require.NoError(t, err, "%s\n%s", r.ID, out)
		require.Equal(t, r, back, r.ID)
	}
	for _, k := range kind.All() {
		require.True(t, kinds[k.Name], "no recipe for a %s", k.Name)
	}
}

// joint makes up a joint for a variant of a recipe.
func joint(t *rapid.T, r recipe.Recipe) recipe.Joint {
	j := recipe.Joint{Choices: rapid.SampledFrom(r.Variants()).Draw(t, "variant"), Values: map[string]unit.Quantity{}, Bolts: map[string]int{}}
	for _, n := range r.Needs {
		j.Values[n.Name] = unit.Of(rapid.Float64Range(1, 90).Draw(t, n.Name), n.Unit)
	}
	for _, g := range r.Groups {
		n := rapid.IntRange(max(g.Least, 1), max(min(g.Most, 16), 1)).Draw(t, g.Name)
		if slices.ContainsFunc(r.Steps, func(s recipe.Step) bool { return s.Group == g.Name && s.Some != recipe.Whole }) {
			n = 8
		}
		j.Bolts[g.Name] = n
	}
	return j
}

var everybody = []string{"inspector", "pressure person", "rigger"}

// within returns readings that a step accepts.
func within(w *recipe.Work, s recipe.Step) []float64 {
	win, ok := w.Window(s.ID)
	if !ok {
		return nil
	}
	v := make([]float64, w.Places(s.ID))
	for i := range v {
		switch {
		case !math.IsInf(win.Low, 0) && !math.IsInf(win.High, 0):
			v[i] = (win.Low + win.High) / 2
		case !math.IsInf(win.Low, 0):
			v[i] = win.Low + 1
		default:
			v[i] = win.High
			if math.IsInf(win.High, 0) {
				v[i] = 1
			}
		}
	}
	return v
}

// For every recipe and variant, following what is offered, in whatever order it
// is offered, reaches "may be signed" and then the end; before that nothing may
// be signed, no act is done twice, and what is not offered is refused.
func TestFollowingWhatIsOfferedReachesTheEnd(t *testing.T) {
	all := shipped(t)
	for _, r := range all {
		t.Run(r.ID, func(t *testing.T) {
			rapid.Check(t, func(t *rapid.T) {
				w, err := r.Begin(joint(t, r))
				require.NoError(t, err)
				done := map[recipe.Act]bool{}
				var order []recipe.Act
				for n := 0; !w.Signed(); n++ {
					require.Less(t, n, 20_000)
					if w.Stopped() {
						require.Error(t, w.MaySign())
						w, err = w.GoOn("engineer", "one nut is worn; the maker was asked")
						require.NoError(t, err)
					}
					offered := w.Offered()
					require.NotEmpty(t, offered)
					a := rapid.SampledFrom(offered).Draw(t, "act")
					s, ok := w.Step(a)
					require.True(t, ok)
					require.Equal(t, s.Does == recipe.Sign, w.MaySign() == nil, "signed when nothing else is open, and not before")
					require.Equal(t, s.Does == recipe.Sign, len(w.Open()) == 0)
					for past := range done {
						_, err := w.Do(past, recipe.Done{Person: "fitter", Qualifications: everybody, Held: s.Hold, Bolts: w.Sample(s.ID), Readings: within(w, s)})
						require.Error(t, err, "done twice: %+v", past)
						break
					}
					moved := a.Round > 0 && rapid.IntRange(0, 40).Draw(t, "moves") == 0
					if s.By != "" {
						_, err := w.Do(a, recipe.Done{Person: "fitter", Held: s.Hold, Bolts: w.Sample(s.ID), Readings: within(w, s)})
						require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotTheSame, Field: "person"})
					}
					w, err = w.Do(a, recipe.Done{Person: "fitter", Qualifications: everybody, Held: s.Hold, Bolts: w.Sample(s.ID), Readings: within(w, s), Moved: moved})
					require.NoError(t, err, "%+v", a)
					done[a] = true
					order = append(order, a)
				}
				require.Empty(t, w.Offered())
				require.Empty(t, w.Deviations())
				require.Len(t, done, len(order), "nothing twice")
				for i, a := range order {
					if a.Lock { // a lock comes right after its bolt
						require.Equal(t, a.Bolt, order[i-1].Bolt)
						require.False(t, order[i-1].Lock)
					}
				}
			})
		})
	}
}

// In every recipe and variant, a reading outside its limit is refused without a
// reason and with one stands first on the record, as a deviation.
func TestOutsideItsLimitOnlyWithAReason(t *testing.T) {
	for _, r := range shipped(t) {
		rapid.Check(t, func(t *rapid.T) {
			w, err := r.Begin(joint(t, r))
			require.NoError(t, err)
			kept := 0
			for !w.Signed() {
				a := w.Offered()[0]
				s, _ := w.Step(a)
				d := recipe.Done{Person: "fitter", Qualifications: everybody, Held: s.Hold, Bolts: w.Sample(s.ID), Readings: within(w, s)}
				if win, ok := w.Window(s.ID); ok && !math.IsInf(win.High, 0) {
					bad := d
					bad.Readings = slices.Clone(d.Readings)
					bad.Readings[0] = win.High + 1
					if s.Does == recipe.Adjust || w.Widens(s.ID) { // a try: it stays open, of a sample for all of the group
						tried, err := w.Do(a, bad)
						require.NoError(t, err)
						require.Contains(t, tried.Offered(), a)
						require.Error(t, tried.MaySign())
						w, d.Readings, d.Bolts = tried, within(tried, s), tried.Sample(s.ID)
					} else {
						_, err := w.Do(a, bad)
						require.ErrorIs(t, err, &refusal.Error{Code: refusal.NeedsReason, Field: "readings"}, s.ID)
						bad.Reason = "the maker allows it, letter of 3 November"
						w, err = w.Do(a, bad)
						require.NoError(t, err)
						kept++
						continue
					}
				}
				if w, err = w.Do(a, d); err != nil {
					require.NoError(t, err, s.ID)
				}
			}
			require.Len(t, w.Deviations(), kept)
		})
	}
}

func TestAFileThatIsWrongNamesTheLine(t *testing.T) {
	const good = `id: hub
title: A hub
kind: wheel or hub nuts
edition: 1
needs:
  - {name: torque, text: Torque, unit: N·m}
groups:
  - {name: nuts, layout: ring, bolts: 5, how: torque, value: torque, still: true}
steps:
  - {id: pull, does: tighten, station: tighten, text: Pull, group: nuts, proves: a whole check round moved nothing}
  - {id: made, does: sign, station: sign, text: Made}
`
	_, err := recipes.Read([]byte(good))
	require.NoError(t, err)
	for _, c := range []struct{ name, from, to, says string }{
		{"no such field", "title: A hub", "titel: A hub", "[2:1]"},
		{"no such kind", "kind: wheel or hub nuts", "kind: knot", "Line 3: Unknown kind"},
		{"no such unit", "unit: N·m", "unit: furlong", "Line 6: Unknown unit"},
		{"no such need", "value: torque,", "value: force,", "Line 8:"},
		{"an order against the kind", "bolts: 5,", "bolts: 5, order: circular,", "Line 8: Going round seats the wheel"},
		{"no such step", "does: tighten", "does: fasten", "Line 10: Unknown kind of step"},
		{"no signature", "does: sign, station: sign", "does: check, station: prove", "does not end with a signature"},
		{"back to an earlier station", "station: sign", "station: lay out", "Line 11"},
		{"does not prove what its kind asks", ", proves: a whole check round moved nothing", "", "must prove"},
		{"a group nobody makes", "group: nuts", "group: bolts", "Line 10"},
		{"not a recipe", "id: hub", "[", "cannot be read"},
	} {
		require.Contains(t, good, c.from, c.name)
		_, err := recipes.Read([]byte(strings.Replace(good, c.from, c.to, 1)))
		var r *refusal.Error
		require.ErrorAs(t, err, &r, c.name)
		require.Contains(t, err.Error(), c.says, c.name)
	}
	_, err = recipes.Read(make([]byte, recipes.Largest+1))
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooLarge, Field: "file"})
}

func FuzzRead(f *testing.F) {
	f.Add([]byte("id: x\ntitle: y"))
	f.Add([]byte("steps: [{limit: {low: .nan}}]"))
	for _, r := range shipped(f) {
		b, err := recipes.Write(r)
		require.NoError(f, err)
		f.Add(b)
	}
	f.Fuzz(func(t *testing.T, file []byte) {
		r, err := recipes.Read(file)
		if err != nil {
			return
		}
		if _, err := recipes.Write(r); err != nil {
			t.Fatal(err)
		}
	})
}

// A caution of an early file, a text alone, is a danger; one with a field that
// is none is refused with its place.
func TestCautionsAsEarlyFilesHaveThem(t *testing.T) {
	const file = `id: hub
title: A hub
kind: wheel or hub nuts
edition: 1
steps:
  - {id: up, does: check, station: lay out, text: Up, cautions: [Never under it., {kind: forbidden, text: No gun.}]}
  - {id: still, does: check, station: prove, text: Still, proves: a whole check round moved nothing}
  - {id: made, does: sign, station: sign, text: Made}
`
	r, err := recipes.Read([]byte(file))
	require.NoError(t, err)
	require.Equal(t, []recipe.Caution{{Kind: recipe.Danger, Text: "Never under it."}, {Kind: recipe.Forbidden, Text: "No gun."}}, r.Steps[0].Cautions)
	for from, to := range map[string]string{"kind: forbidden": "kind: perhaps", "text: No gun.": "tekst: No gun."} {
		_, err := recipes.Read([]byte(strings.Replace(file, from, to, 1)))
		var no *refusal.Error
		require.ErrorAs(t, err, &no, to)
	}
}
