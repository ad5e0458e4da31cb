package work_test

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/core/work"
)

// same is what two states of a run have to agree about.
func same(t require.TestingT, a, b *work.State) {
	require.Equal(t, a.Standing, b.Standing)
	require.Equal(t, a.Offered(), b.Offered())
	require.Equal(t, a.Bolts(), b.Bolts())
	require.Equal(t, a.Deviations(), b.Deviations())
	require.Equal(t, a.Open(), b.Open())
	require.Equal(t, len(a.Signatures), len(b.Signatures))
}

// Whatever happens on the way, the state is the fold of its entries, levels stay
// within the glass, what is ahead is the path that is then taken, and doing what
// is next gets to the end from anywhere.
func TestAnyHistoryFoldsToItsState(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h := flange(t, rapid.IntRange(3, 9).Draw(t, "bolts"))
		if rapid.Bool().Draw(t, "frame") {
			h = frame(t)
		}
		for range rapid.IntRange(0, 90).Draw(t, "acts") {
			if h.State.Standing == record.Stopped {
				h.Add(record.Decision{Reason: "looked at"})
			}
			offered := h.State.Offered()
			if len(offered) == 0 {
				break
			}
			a := rapid.SampledFrom(offered).Draw(t, "act")
			bolt := rapid.SampledFrom(h.State.Bolts()).Draw(t, "bolt")
			switch rapid.IntRange(0, 9).Draw(t, "what") {
			case 0:
				if remedies := h.State.Remedies(bolt.Group, bolt.Position); len(remedies) > 0 {
					h.Add(record.Trouble{Group: bolt.Group, Bolt: bolt.Position, What: record.Overshot,
						Remedy: rapid.SampledFrom(remedies).Draw(t, "remedy")})
				}
			case 1:
				if len(h.Entries) > 0 {
					_ = h.Confirm(record.Correction{Of: rapid.SampledFrom(h.Entries).Draw(t, "of").ID, Reason: "drawn"})
				}
			case 2:
				if a.Round > 0 {
					h.Move(a)
				}
			default:
				h.Ready(a)
				ahead := h.State.Ahead(h.Person, h.Now, 2)
				h.Do(a)
				if len(ahead) > 1 && ahead[0].Act == a {
					if next, ok := h.State.Next(); ok {
						require.Equal(t, ahead[1].Act, next)
					}
				}
			}
		}
		same(t, h.State, h.Fold())
		for _, b := range h.State.Bolts() {
			require.False(t, b.Level < 0 || b.Level > 1 || math.IsNaN(b.Level))
		}
		replaced := 0
		for n := 0; h.State.Standing != record.Sign; n++ {
			require.Less(t, n, 3000)
			switch {
			case h.State.Standing == record.Stopped:
				h.Add(record.Decision{Reason: "go on"})
			case len(h.State.Offered()) > 0:
				h.Do(h.Next())
			default: // a bolt that was turned and struck out is replaced
				replaced++
				for group, bolts := range h.State.Troubled() {
					h.Add(record.Trouble{Group: group, Bolt: bolts[0], What: record.Overshot, Remedy: record.Replaced})
				}
			}
		}
		require.Less(t, replaced, 40)
		h.Made()
	})
}

// Whatever is sent, it is accepted or refused with a reason, and what is
// accepted folds.
func FuzzAccept(f *testing.F) {
	f.Add(uint8(0), 1, 20.0, 40.0, "N·m", "tried again", true, 2.0)
	f.Add(uint8(3), -5, 99.0, math.NaN(), "furlong", "", false, math.Inf(1))
	f.Fuzz(func(t *testing.T, what uint8, bolt int, share, reading float64, in, note string, flag bool, gap float64) {
		q := unit.Of(reading, unit.Unit(in))
		pull := record.Done{Act: record.Act{Step: "pull", Bolt: bolt, Share: share, Round: int(what) % 3}, Reading: q, NoTurn: flag,
			Moved: !flag}
		contents := []record.Content{
			pull, record.Done{Act: record.Act{Step: "gap"}, Readings: []float64{gap, reading, gap, 1}, Reason: note},
			record.Done{Act: record.Act{Step: "before"}, Readings: []float64{gap, reading, gap, 1}},
			record.Done{Act: record.Act{Step: note}, Held: gap, Bolts: []int{bolt}},
			record.Trouble{Group: "bolts", Bolt: bolt, What: record.TroubleKind(note), Remedy: record.TryAgain, Note: in},
			record.Correction{Of: "e2", Reason: in, Instead: pull}, record.Correction{Of: note, Reason: in},
			record.Setting{Group: "bolts", Share: share}, record.Report{Tool: note, What: record.Dropped}, record.Answer{Tool: "TW-1",
				Reason: note},
			record.Lubricant{Group: "bolts", Is: note, Note: in}, record.Pause{Note: note}, record.Resume{Note: note},
			record.Decision{Reason: note, Tool: in}, record.Signature{},
			record.Caution{Step: note},
			record.Twice{Done: pull}, record.Twice{Done: record.Done{Act: record.Act{Step: "pull", Bolt: 1, Share: 20}, Moved: flag}},
			record.Tooling{Group: note, Stages: []record.StageTool{{Tools: []string{in}, Torque: reading, Setting: q}}},
		}
		for standing := range 3 {
			h := flange(t, 4)
			h.UpTo([]string{"pull", "gap", "leak"}[standing])
			e := record.Entry{ID: "x", Seq: len(h.Entries) + 1, Person: []string{"fitter", "other"}[int(what)%2], AtTool: h.Now, Confirmed: flag,
				Content: contents[int(what)%len(contents)]}
			if err := h.State.Accept(e, h.Facts); err != nil {
				var r *refusal.Error
				if !errors.As(err, &r) {
					t.Fatalf("%T: %v", e.Content, err)
				}
				continue
			}
			s := h.State.Then(e)
			same(t, s, work.Fold(s.Plan(), append(slices.Clone(h.Entries), e)))
		}
	})
}

// BenchmarkThen adds the entries of a flange one after the other, each looked at
// first: ns/entry must not grow with the run.
func BenchmarkThen(b *testing.B) {
	for _, bolts := range []int{8, 40, 200} {
		h := flange(b, bolts)
		h.Finish()
		b.Run(fmt.Sprint(bolts), func(b *testing.B) {
			for b.Loop() {
				s := work.Begin(h.State.Plan())
				for _, e := range h.Entries {
					if err := s.Accept(e, h.Facts); err != nil {
						b.Fatal(err)
					}
					s = s.Then(e)
				}
			}
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N*len(h.Entries)), "ns/entry")
		})
	}
}

// BenchmarkFold folds the whole run of a flange; ns/entry must not grow with it.
func BenchmarkFold(b *testing.B) {
	for _, bolts := range []int{8, 40, 200} {
		h := flange(b, bolts)
		h.Finish()
		b.Run(fmt.Sprint(bolts), func(b *testing.B) {
			for b.Loop() {
				work.Fold(h.State.Plan(), h.Entries)
			}
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N*len(h.Entries)), "ns/entry")
		})
	}
}
