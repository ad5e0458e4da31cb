package recipes_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/kind"
	"dynacor/core/reading"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work/worktest"
	"dynacor/internal/recipes"
)

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

// For every recipe and variant, following what is offered, in whatever order it
// is offered, reaches "may be signed" and then the end; before that nothing may
// be signed, no act is done twice, and what is not offered is refused.
func TestFollowingWhatIsOfferedReachesTheEnd(t *testing.T) {
	for _, r := range shipped(t) {
		t.Run(r.ID, func(t *testing.T) {
			rapid.Check(t, func(t *rapid.T) {
				h := worktest.New(t, plan(t, r, rapid.SampledFrom(r.Variants()).Draw(t, "variant")))
				done := map[record.Act]bool{}
				var order []record.Act
				for n := 0; h.State.Standing != record.Sign; n++ {
					require.Less(t, n, 20_000)
					require.NotEmpty(t, h.State.Open())
					require.Error(t, h.State.Accept(record.Entry{Person: h.Person, Content: record.Signature{Part: record.Made}}, h.Facts))
					if h.State.Standing == record.Stopped {
						h.Add(record.Decision{Reason: "one nut is worn; the maker was asked"})
					}
					a := rapid.SampledFrom(h.State.Offered()).Draw(t, "act")
					for past := range done {
						require.Error(t, h.Try(h.Done(past)), "done twice: %+v", past)
						break
					}
					h.Ready(a)
					if st, _ := h.State.Plan().Step(a.Step); st.By != "" && a.Item == 0 && !a.Photo && !a.Release {
						h.Facts.Qualified = nil
						require.ErrorIs(t, h.Try(h.Done(a)), &refusal.Error{Code: refusal.NotTheSame, Field: "person"})
						h.Facts.Qualified = worktest.Everybody
					}
					if a.Round > 0 && rapid.IntRange(0, 40).Draw(t, "moves") == 0 {
						h.Move(a)
					} else {
						h.Do(a)
					}
					done[a] = true
					order = append(order, a)
				}
				require.Empty(t, h.State.Offered())
				require.Len(t, done, len(order), "nothing twice")
				require.False(t, h.State.Outside())
				for i, a := range order {
					if a.Lock { // a lock comes right after its bolt
						require.Equal(t, a.Bolt, order[i-1].Bolt)
						require.False(t, order[i-1].Lock)
					}
				}
				h.Made()
				h.Checked()
			})
		})
	}
}

// In every recipe and variant, a reading outside its limit is refused without a
// reason and with one stands first on the record; past a firm limit, and where a
// test failed, it is refused whatever the reason.
func TestOutsideItsLimitOnlyWithAReason(t *testing.T) {
	for _, r := range shipped(t) {
		for _, choices := range r.Variants() {
			h := worktest.New(t, plan(t, r, choices))
			kept, back := 0, map[string]bool{}
			for h.State.Standing != record.Sign {
				a := h.Next()
				h.Ready(a)
				st, _ := h.State.Plan().Step(a.Step)
				bad := h.Done(a)
				win, ok := h.State.Window(st.ID)
				plain := len(st.All()) == 1 && st.All()[0].Form == reading.Plain && st.All()[0].Keep == "" && h.State.Asks(st.ID)[0].Limited
				if plain && st.Sample == "" { // its limit may follow from what was read before
					win = h.State.Asks(st.ID)[0].Window
				}
				if !ok || !plain || math.IsInf(win.High, 0) || len(bad.Readings) == 0 || st.From != "" || back[st.ID] {
					h.Do(a)
					continue
				}
				bad.Readings[0] = win.High + 1
				switch {
				case st.Does == recipe.Adjust || h.State.Widens(st.ID): // a try: it stays open, of a sample for all of the group
					h.Add(bad)
					if back[st.ID] = st.Back != ""; back[st.ID] { // a try that sends the work back
						require.Equal(t, st.Back, h.Next().Step)
						continue
					}
					require.Contains(t, h.State.Offered(), a)
					h.Do(a)
				case st.Does == recipe.Test || win.Firm:
					bad.Reason = "whatever"
					require.ErrorIs(t, h.Try(bad), &refusal.Error{Code: refusal.OutOfRange, Field: "readings"}, "%s: %s", r.ID, st.ID)
					h.Do(a)
				default:
					require.ErrorIs(t, h.Try(bad), &refusal.Error{Code: refusal.NeedsReason, Field: "readings"}, "%s: %s", r.ID, st.ID)
					bad.Reason = "the maker allows it, letter of 3 November"
					h.Add(bad)
					kept++
				}
			}
			require.Len(t, h.State.Deviations(), kept, "%s, %s", r.ID, variant(choices))
		}
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

// Files that are made to keep the reader busy are refused before anything is built of
// them: each of them took seconds.
func TestFilesWithoutEnd(t *testing.T) {
	var drawn strings.Builder
	for i := range 250 {
		drawn.WriteString(strings.Repeat(" ", i) + "a:\n")
	}
	for name, file := range map[string]string{
		"brackets": "id: " + strings.Repeat("[", 40_000), "braces": strings.Repeat("a: {", 10_000), "entries": strings.Repeat("- ", 20_000),
		"keys": strings.Repeat("? ", 20_000), "aliases": "id: &a [x]\nkind: [*a, *a]\n", "merges": "a: &a {b: c}\nd:\n  <<: *a\n",
		"tags": "id: !!binary x\n", "indents": drawn.String(), "words": "id: [" + strings.Repeat("a,", 40_000) + "]",
		"bytes": strings.Repeat("#", recipes.Largest+1),
	} {
		_, err := recipes.Read([]byte(file))
		var no *refusal.Error
		require.ErrorAs(t, err, &no, name)
		require.Equal(t, "file", no.Field, name)
		require.NotContains(t, no.Text, "cannot be read as a recipe", name)
	}
}

// What ships comes back from the shelf as it was put there, and whatever is in a text.
func TestARecipeComesBack(t *testing.T) {
	for _, r := range shipped(t) {
		_, err := recipes.Kept(r)
		require.NoError(t, err, r.ID)
	}
	for _, odd := range []string{"# not a remark", "a: b", "- x", "yes", "1e3", "'quoted'", "\"", "two\nlines", " spaces ", "| >", "{a}",
		"💥", "...",
		"~", "null",
		"0x1F", "2026-11-25", "%", "@", "`", "\\n"} {
		r := named(t, "hose-clamp")
		r.Title, r.Steps[0].Text = odd, odd
		body, err := recipes.Kept(r)
		if err != nil {
			require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "file"}, odd)
			continue
		}
		back, err := recipes.Read(body)
		require.NoError(t, err, odd)
		require.Equal(t, odd, back.Title)
		require.Equal(t, odd, back.Steps[0].Text)
	}
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
	require.Equal(t, []recipe.Caution{{Kind: recipe.Danger, Text: "Never under it."}, {Kind: recipe.Forbidden, Text: "No gun."}},
		r.Steps[0].Cautions)
	for from, to := range map[string]string{"kind: forbidden": "kind: perhaps", "text: No gun.": "tekst: No gun."} {
		_, err := recipes.Read([]byte(strings.Replace(file, from, to, 1)))
		var no *refusal.Error
		require.ErrorAs(t, err, &no, to)
	}
}
