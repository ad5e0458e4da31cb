package work_test

import (
	"math"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/derive"
	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

// tooled is a flange at its first pull, with a wrench that is due on a day.
func tooled(t require.TestingT, bolts int, due time.Time) *worktest.Hand {
	h := flange(t, bolts)
	before(h)
	g, _ := h.State.Plan().Result.Group("bolts")
	tool := worktest.Tooling(g, "TW-1")
	for i := range tool.Stages {
		tool.Stages[i].Due = due
	}
	h.Add(tool)
	h.Add(record.Caution{Step: "pull"})
	return h
}

// A pull is judged with the tool's state at its time: past due it is refused,
// unless an engineer says why it may be used; then it stands first on the record.
func TestAToolPastItsDate(t *testing.T) {
	h := tooled(t, 4, time.Date(2026, 11, 3, 0, 0, 0, 0, time.UTC))
	h.Do(h.Next())
	h.Now = h.Now.AddDate(0, 0, 2)
	err := h.Try(record.Setting{Group: "bolts", Share: 20})
	refused(t, err, refusal.OutOfDate, "tool", "TW-1 was due on 3 November 2026, 2 days ago")
	require.ErrorIs(t, h.Try(record.Done{Act: h.Next()}), &refusal.Error{Code: refusal.OutOfDate})
	require.ErrorIs(t, h.Try(record.Decision{Tool: "TW-1"}), &refusal.Error{Code: refusal.NeedsReason})
	require.ErrorIs(t, h.Try(record.Decision{Tool: "TW-9", Reason: "x"}), &refusal.Error{Code: refusal.NotNow})
	h.Add(record.Decision{Tool: "TW-1", Reason: "checked on the tester this morning"})
	h.Do(h.Next())
	require.True(t, h.State.Outside())
	h.Finish()
	require.Contains(t, h.State.Deviations()[0].Text, "checked on the tester this morning")
}

func TestAToolByHandIsOutside(t *testing.T) {
	h := flange(t, 4)
	h.Do(h.Next())
	g, _ := h.State.Plan().Result.Group("bolts")
	tool := worktest.Tooling(g, "borrowed")
	for i := range tool.Stages {
		tool.Stages[i].ByHand = true
	}
	h.Add(tool)
	require.True(t, h.State.Outside())
}

// A pace that no hand can make is asked about and then noted, once for all that
// went by so; a slower one is not.
func TestAPaceNoHandCanMake(t *testing.T) {
	h := tooled(t, 8, time.Time{})
	h.Ready(h.Next())
	h.Pace = time.Second
	var err error
	var at int
	for at = 0; err == nil && at < 12; at++ {
		if h.Next().Share > 20 {
			h.Ready(h.Next())
		}
		err = h.Try(record.Done{Act: h.Next()})
	}
	require.Equal(t, work.PacePulls, at)
	refused(t, err, refusal.Asked, "confirmed", "6 bolts in 6 seconds")
	h.Now = h.Now.Add(-h.Pace)
	require.NoError(t, h.Confirm(record.Done{Act: h.Next()}))
	require.Len(t, h.State.Deviations(), 1)
	require.NoError(t, h.Try(record.Done{Act: h.Next()}), "it was answered")
	h.Pace = 2 * time.Second
	for range 8 {
		h.Ready(h.Next())
		require.NoError(t, h.Try(record.Done{Act: h.Next()}))
	}
}

// Time at the tool that runs backwards by more than a minute is asked about.
func TestTimeThatRunsBackwards(t *testing.T) {
	h := tooled(t, 4, time.Time{})
	h.Ready(h.Next())
	h.Now = h.Now.Add(-2*h.Pace - 30*time.Second)
	err := h.Try(record.Done{Act: h.Next()})
	refused(t, err, refusal.Asked, "confirmed", "lies before that of the entry before it")
	h.Now = h.Now.Add(-h.Pace)
	require.NoError(t, h.Confirm(record.Done{Act: h.Next()}))
	require.Contains(t, h.State.Deviations()[0].Text, "before")
}

// A whole stage in which no nut turned stops: the tool, its setting or the nuts
// are not what they seem.
func TestAStageWithoutATurnStops(t *testing.T) {
	h := tooled(t, 4, time.Time{})
	for range 4 {
		h.Ready(h.Next())
		h.Add(record.Done{Act: h.Next(), NoTurn: true})
	}
	require.Equal(t, record.Stopped, h.State.Standing)
	why, _ := h.State.Stop()
	require.Contains(t, why, "no nut turned")
	refused(t, h.Try(record.Signature{Part: record.Made}), refusal.NotNow, "open", "no nut turned")
	h.Add(record.Decision{Reason: "the studs were seized; freed"})
	require.Equal(t, record.Tighten, h.State.Standing)
	require.NotEmpty(t, h.State.Deviations())
}

// Another lubricant, found in the middle of a stage, stops the work until an engineer
// decides; the record shows it first, with the bolt from which on.
func TestAnotherLubricantStops(t *testing.T) {
	h := tooled(t, 4, time.Time{})
	h.Do(h.Next())
	h.Do(h.Next())
	for _, c := range []struct {
		is    record.Lubricant
		code  refusal.Code
		field string
	}{{record.Lubricant{Group: "nuts", Is: "light oil"}, refusal.Unknown, "group"}, {record.Lubricant{Group: "bolts", Is: " "},
		refusal.Missing,
		"is"}, {record.Lubricant{Group: "bolts", Is: "light oil"}, refusal.Contradicts, "is"},
		{record.Lubricant{Group: "bolts", Is: strings.Repeat("x", 81)}, refusal.TooLarge, "is"}} {
		require.ErrorIs(t, h.Try(c.is), &refusal.Error{Code: c.code, Field: c.field})
	}
	h.Add(record.Lubricant{Group: "bolts", Is: "molybdenum disulphide paste", Note: "a tin of it stood there"})
	require.Equal(t, record.Stopped, h.State.Standing)
	require.Empty(t, h.State.Offered())
	why, _ := h.State.Stop()
	require.Equal(t, "On the bolts is molybdenum disulphide paste, not light oil, from bolt 2, 20 % on. "+
		"At the same torque it loads them 31 % more.", why)
	refused(t, h.Try(record.Signature{Part: record.Made}), refusal.NotNow, "open", "an engineer decides")
	h.Add(record.Decision{Reason: "cleaned; the two were replaced"})
	require.Equal(t, record.Tighten, h.State.Standing)
	_, unset := h.State.Unset(h.Person, h.Now)
	require.True(t, unset, "the tool is taken in hand anew")
	d := h.State.Deviations()
	require.True(t, d[0].Outside)
	require.Contains(t, d[0].Text, "from bolt 2, 20 % on")
	require.Contains(t, d[0].Text, "a tin of it stood there")
	require.Contains(t, d[1].Text, "cleaned; the two were replaced")
	h.Finish()
	h.Made()
	h.Add(record.Lubricant{Group: "bolts", Is: "something in a blue tin"})
	require.Empty(t, h.State.Signatures, "found after it was signed")
	why, _ = h.State.Stop()
	require.Contains(t, why, "How it loads them is not known.")
}

// The band with the tool that was taken: what the setting lands on, and by the root of
// squares of K, wrench, multiplier and half a mark of the scale.
func TestTheBandOfTheToolThatWasTaken(t *testing.T) {
	h := flange(t, 8)
	g, _ := h.State.Plan().Result.Group("bolts")
	tool := record.StageTool{Torque: 260, Lands: 258, Setting: unit.Of(51.6, unit.NewtonMetre), Minor: 0.4, Accuracy: 0.05,
		Multiplier: 0.03}
	b, ok := work.BandOf(g, tool)
	require.True(t, ok)
	require.InEpsilon(t, g.Load*258/260, b.Load, 1e-12)
	half := 0.2 / 51.6 / math.Sqrt(3) * 2
	require.InEpsilon(t, math.Sqrt(g.K.Spread()*g.K.Spread()+0.05*0.05+half*half), b.Budget.Expanded, 1e-9)
	require.Equal(t, 0, b.Budget.Order()[0], "the nut factor is the largest part")
	require.InEpsilon(t, b.Load*(1+b.Budget.Expanded), b.High, 1e-9)
	require.Greater(t, b.Low, 0.0)
	require.Less(t, b.Low, b.Load)
	tool.Multiplier, tool.Accuracy = 0, 0.04
	exact, _ := work.BandOf(g, tool)
	require.Len(t, exact.Budget.Parts, 3)
	require.Less(t, exact.Budget.Expanded, b.Budget.Expanded)
	g.Load = 0
	_, ok = work.BandOf(g, tool)
	require.False(t, ok)
}

// An angle that a tool reads is held against the others' median and the computed turn,
// asked about with what it hints at, and noted; in a round it says whether a nut moved.
func TestTorqueAndAngle(t *testing.T) {
	h := tooled(t, 8, time.Time{})
	for h.Next().Share < 100 {
		h.Do(h.Next())
	}
	pull := func(angle float64) error {
		h.Ready(h.Next())
		return h.Try(record.Done{Act: h.Next(), Angle: angle})
	}
	for _, angle := range []float64{-1, math.NaN(), math.Inf(1), 721} {
		require.Error(t, pull(angle), "%v", angle)
	}
	require.NoError(t, pull(400), "there is nothing to hold the first against")
	for _, angle := range []float64{40, 42} {
		require.NoError(t, pull(angle))
	}
	require.NoError(t, pull(41)) // of 400, 40, 42
	refused(t, pull(20), refusal.Asked, "confirmed", "20° where the others turn 41.5°: much less. Bottomed, galled or cross-threaded?")
	refused(t, pull(70), refusal.Asked, "confirmed", "much more. Yielding, a soft part, or a washer missing?")
	require.NoError(t, h.Confirm(record.Done{Act: h.Next(), Angle: 70}))
	var said []string
	for _, d := range h.State.Deviations() {
		said = append(said, d.Text)
	}
	require.Len(t, said, 2, "and the first, held against those after it")
	require.Contains(t, said[0], "bolt 1 turned 400° where the others turn")
	rounds(h)
	a := h.Next()
	refused(t, h.Try(record.Done{Act: a, Angle: 12}), refusal.Contradicts, "moved", "more than 5° is moved")
	refused(t, h.Try(record.Done{Act: a, Angle: 4, Moved: true}), refusal.Contradicts, "moved", "It turned 4°")
	require.True(t, work.ByAngle(record.Done{Act: a, Angle: 12}).Moved)
	h.Add(work.ByAngle(record.Done{Act: a, Angle: 4}))
	refused(t, h.Try(record.Done{Act: record.Act{Step: "before"}, Angle: 4}), refusal.NotNext, "", "")
}

// With too few others the turn is held against the computed one.
func TestTheComputedTurn(t *testing.T) {
	in := worktest.Flanged(8)
	b := in.Groups["bolts"]
	b.Clamp = joint.Clamp{Length: unit.Of(80, unit.Millimetre), TwoNuts: true}
	in.Groups["bolts"] = b
	h := worktest.New(t, worktest.Lay(t, in, worktest.Flange()))
	g, _ := h.State.Plan().Result.Group("bolts")
	require.Greater(t, g.FromSnug, 10.0)
	for h.Next().Share < 100 {
		h.Do(h.Next())
	}
	h.Ready(h.Next())
	refused(t, h.Try(record.Done{Act: h.Next(), Angle: 0.5 * g.FromSnug}), refusal.Asked, "confirmed", "the load asks for")
	require.NoError(t, h.Try(record.Done{Act: h.Next(), Angle: 1.2 * g.FromSnug}))
}

// Where a setting comes from: the torque behind the multiplier, in the scale's unit, on
// its nearest mark.
func TestWhereASettingComesFrom(t *testing.T) {
	tool := record.StageTool{Torque: 749.4, Lands: 107 * 7, Setting: unit.Of(107, unit.NewtonMetre), First: 20, Major: 10, Minor: 1,
		Accuracy: 0.05}
	all, err := tool.Derive("bolts", 3)
	require.NoError(t, err)
	require.Equal(t, "setting/3", all[0].Key)
	require.InDelta(t, 107, all[0].Result(), 1e-9)
	require.Equal(t, "S = 20 + 1·round((749.4 N·m/(7·1 N·m) − 20)/1)", all[0].Numbers())
	require.Equal(t, "lands/3", all[1].Key)
	require.InDelta(t, 749, all[1].Result(), 1e-9)
	u, _ := all[1].Uncertain()
	require.InDelta(t, 0.05, u, 1e-9)
	pounds := record.StageTool{Torque: 203.4, Lands: 150 * 1.3558179483314004, Setting: unit.Of(150, unit.FootPound), First: 30,
		Major: 10, Minor: 0.5}
	all, err = pounds.Derive("bolts", 1)
	require.NoError(t, err)
	require.InDelta(t, 150, all[0].Result(), 1e-9)
	shifted := record.StageTool{Torque: 99.6, Lands: 99, Setting: unit.Of(99, unit.NewtonMetre), First: 20, Major: 10, Minor: 1}
	all, err = shifted.Derive("bolts", 1)
	require.NoError(t, err)
	require.Len(t, all, 2, "the nearest mark lay outside the range: what it gives is derived, and how accurately")
	long := record.StageTool{Torque: 700, Lands: 700, Setting: unit.Of(100, unit.NewtonMetre), First: 20, Major: 10, Minor: 1,
		Accuracy: 0.05, Multiplier: 0.03, Force: 250}
	all, err = long.Derive("bolts", 2)
	require.NoError(t, err)
	by := map[string]derive.Derivation{}
	for _, d := range all {
		by[d.Key] = d
	}
	require.InDelta(t, 5, by["accuracy/2"].Result(), 1e-9)
	require.Equal(t, "a = √((4 %)² + (3 %)²)", by["accuracy/2"].Numbers())
	require.InDelta(t, 250, by["force/2"].Result(), 1e-9)
	require.Contains(t, by["force/2"].Numbers(), "/400 mm")
}
