package tool_test

import (
	"fmt"
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

var today = time.Date(2026, 11, 3, 9, 0, 0, 0, time.UTC)

func wrench(tag string, low, high, major, minor float64) tool.Wrench {
	return tool.Wrench{Tag: tag, RatedMin: low, RatedMax: high, Unit: unit.NewtonMetre, Scale: tool.Scale{First: low, Major: major,
		Minor: minor}, Drive: "1/2", Length: 500, Accuracy: 0.04, Due: today.AddDate(0, 3, 0)}
}

func TestReadingAddsUpToWhatIsShown(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := tool.Scale{First: rapid.Float64Range(0, 100).Draw(t, "first"), Minor: rapid.SampledFrom([]float64{0.05, 0.25, 1, 2}).Draw(t,
			"minor")}
		s.Major = s.Minor * float64(rapid.IntRange(1, 20).Draw(t, "turn"))
		v := s.First + rapid.Float64Range(0.01, 900).Draw(t, "above")
		r, err := s.Read(v)
		require.NoError(t, err)
		require.InDelta(t, r.Shown, r.Main+float64(r.Minors)*s.Minor, 1e-6)
		require.LessOrEqual(t, math.Abs(r.Shown-v), s.Minor/2+1e-6)
		require.Less(t, float64(r.Minors)*s.Minor, s.Major+1e-9, "a full turn is carried")
	})
}

func TestSettingsRiseWithTorque(t *testing.T) {
	c := tool.Chain{Wrench: wrench("A", 60, 340, 10, 1), Multiplier: &tool.Multiplier{Tag: "X", Ratio: 4.8, OutputMax: 2700,
		DriveIn: "1/2"}}
	rapid.Check(t, func(t *rapid.T) {
		a, b := rapid.Float64Range(400, 1600).Draw(t, "a"), rapid.Float64Range(400, 1600).Draw(t, "b")
		sa, err := c.Set(1, math.Min(a, b), today)
		require.NoError(t, err)
		sb, err := c.Set(1, math.Max(a, b), today)
		require.NoError(t, err)
		require.LessOrEqual(t, sa.Reading.Shown, sb.Reading.Shown)
		require.LessOrEqual(t, math.Abs(sb.Error), 100*0.5*4.8/math.Max(a, b)+1e-9, "within half a mark")
	})
}

func TestChainsRefuseWithTheReason(t *testing.T) {
	overdue := wrench("OLD", 60, 340, 10, 1)
	overdue.Due = today.AddDate(0, 0, -1)
	lastDay := wrench("TODAY", 60, 340, 10, 1)
	lastDay.Due = time.Date(2026, 11, 3, 0, 0, 0, 0, time.UTC)
	dropped := wrench("DROPPED", 60, 340, 10, 1)
	dropped.HeldBack = "dropped"
	small := &tool.Multiplier{Tag: "SMALL", Ratio: 4, OutputMax: 500, DriveIn: "1/2"}
	other := &tool.Multiplier{Tag: "DRIVE", Ratio: 4, OutputMax: 5000, DriveIn: "3/4"}
	good := wrench("GOOD", 60, 340, 10, 1)
	for _, c := range []struct {
		chain  tool.Chain
		torque float64
		code   refusal.Code
		says   string
	}{
		{tool.Chain{Wrench: overdue}, 200, refusal.OutOfDate, "out of calibration since 2 November 2026"},
		{tool.Chain{Wrench: dropped}, 200, refusal.NotNow, "held back: dropped"},
		{tool.Chain{Wrench: good}, 67, refusal.OutOfRange, "below 68 N·m"},
		{tool.Chain{Wrench: good}, 341, refusal.OutOfRange, "ends at 340 N·m"},
		{tool.Chain{Wrench: good, Multiplier: small}, 600, refusal.OutOfRange, "at most 500 N·m"},
		{tool.Chain{Wrench: good, Multiplier: other}, 600, refusal.Contradicts, "3/4 in drive"},
		{tool.Chain{Wrench: good}, math.NaN(), refusal.NotANumber, "not a number"},
	} {
		_, err := c.chain.Set(1, c.torque, today)
		require.ErrorIs(t, err, &refusal.Error{Code: c.code}, c.says)
		require.ErrorContains(t, err, c.says)
	}
	_, err := tool.Chain{Wrench: lastDay}.Set(1, 200, today)
	require.NoError(t, err, "a calibration holds to the end of its last day")
}

func TestALowStageTakesASmallerTool(t *testing.T) {
	big, small := wrench("BIG", 60, 340, 10, 1), wrench("SMALL", 10, 100, 5, 0.5)
	of := func(torques ...float64) tool.Request { return tool.Request{Torques: torques, Prefer: unit.NewtonMetre} }
	s := tool.Crib{Wrenches: []tool.Wrench{big, small}}.Take(tool.Chain{Wrench: big}, of(50, 150, 250), today)
	require.NoError(t, s.Refused)
	require.Equal(t, "SMALL", s.Settings[0].Chain.Wrench.Tag)
	require.Equal(t, "BIG", s.Settings[1].Chain.Wrench.Tag)

	s = tool.Crib{Wrenches: []tool.Wrench{big}}.Take(tool.Chain{Wrench: big}, of(50, 150, 250), today)
	require.ErrorContains(t, s.Refused, "Pass 1")

	m := &tool.Multiplier{Tag: "X", Ratio: 4, OutputMax: 1500, DriveIn: "1/2"}
	s = tool.Crib{Wrenches: []tool.Wrench{big}}.Take(tool.Chain{Wrench: big, Multiplier: m}, of(180, 540, 900), today)
	require.NoError(t, s.Refused)
	require.Nil(t, s.Settings[0].Chain.Multiplier, "the wrench alone reaches the first stage")
	require.InDelta(t, 225, s.Settings[2].Reading.Shown, 1e-9)
	require.ErrorContains(t, tool.Crib{}.Take(tool.Chain{Wrench: big}, of(), today).Refused, "no passes")
}

// Whatever is possible is within every rating.
func TestWhatIsPossibleStaysWithinItsRatings(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := drawCrib(t)
		target := rapid.Float64Range(10, 4000).Draw(t, "target")
		r := tool.Request{Torques: []float64{0.3 * target, target}, Prefer: unit.NewtonMetre, Size: 46, Offset: rapid.Bool().Draw(t, "offset"),
			Angle: rapid.Float64Range(0, 120).Draw(t, "angle")}
		got := c.Possible(r, today)
		for _, w := range got.Setups {
			require.NoError(t, w.Refused)
			require.Len(t, w.Settings, 2)
			for _, s := range w.Settings {
				low, err := tool.Lowest(s.Chain.Wrench.RatedMin, s.Chain.Wrench.RatedMax)
				require.NoError(t, err)
				require.GreaterOrEqual(t, s.Reading.Shown, low*(1-1e-9))
				require.LessOrEqual(t, s.Reading.Shown, s.Chain.Wrench.RatedMax*(1+1e-9))
				at, _, err := s.Chain.AtWrench(s.Torque)
				require.NoError(t, err)
				require.Equal(t, r.Offset, s.Chain.Offset != nil)
				for _, l := range s.Chain.Links() {
					through := at
					if l.Geared {
						through = s.Torque
					}
					require.True(t, l.Limit == 0 || through <= l.Limit*(1+1e-9), "%s bears %g, %g goes through it", l.Tag, l.Limit, through)
				}
			}
		}
		for _, l := range got.Left {
			require.Error(t, l.Why, l.Tag)
			for _, w := range got.Setups {
				require.NotContains(t, w.Chain.Tags(), l.Tag, "who is in a way is not out")
			}
		}
	})
}

// A crib with drives of its own: 749 N·m on a nut of 46 mm.
func driven() tool.Crib {
	w := wrench("W", 60, 340, 10, 1)
	w.Drive, w.Length = "1/2", 600
	long := wrench("L", 140, 760, 20, 2)
	long.Drive, long.Length = "3/4", 2000
	return tool.Crib{Wrenches: []tool.Wrench{w, long},
		Multipliers: []tool.Multiplier{{Tag: "M", Ratio: 4, OutputMax: 1500, DriveIn: "1/2", DriveOut: "3/4"}},
		Adapters:    []tool.Adapter{{Tag: "A", DriveIn: "3/4", DriveOut: "1", Limit: 1200}},
		Offsets:     []tool.OffsetEnd{{Tag: "O", Length: 100, DriveIn: "3/4", DriveOut: "3/4", Limit: 900}},
		Extensions:  []tool.Extension{{Tag: "E200", Drive: "1", Length: 200, Limit: 900}, {Tag: "E400", Drive: "1", Length: 400, Limit: 900}},
		Sockets:     []tool.Socket{{Tag: "S46", Size: 46, Drive: "1", Limit: 2000}, {Tag: "S36", Size: 36, Drive: "3/4", Limit: 2000}}}
}

func TestAChainIsMadeOfWhatFits(t *testing.T) {
	r := tool.Request{Torques: []float64{250, 749}, Prefer: unit.NewtonMetre, Size: 46}
	got := driven().Possible(r, today)
	require.Len(t, got.Setups, 2)
	best := got.Setups[0]
	require.Equal(t, []string{"L", "A", "S46"}, best.Chain.Tags())
	require.Equal(t, []string{"3/4", "1", ""}, drives(best.Chain))
	require.Equal(t, []string{"W", "M", "A", "S46"}, got.Setups[1].Chain.Tags())
	require.Equal(t, "L", got.Setups[1].Settings[0].Chain.Wrench.Tag, "too little for the multiplier, and for its wrench")
	require.Equal(t, []string{"S36"}, out(got), "and what is out says why")

	// Nobody pulls 749 N·m on a short wrench: the multiplier comes in.
	c := driven()
	c.Wrenches[1].Length = 900
	got = c.Possible(r, today)
	require.Equal(t, []string{"L", "A", "S46"}, got.Setups[1].Chain.Tags())
	require.Equal(t, []string{"W", "M", "A", "S46"}, got.Setups[0].Chain.Tags())
	require.InDelta(t, 749.0/4, got.Setups[0].Settings[1].Reading.Shown, 0.5)

	// An extension bridges what is asked; the shortest that does.
	r.Reach = 150
	require.Equal(t, []string{"L", "A", "E200", "S46"}, driven().Possible(r, today).Setups[0].Chain.Tags())
	r.Reach = 500
	require.Empty(t, driven().Possible(r, today).Setups)

	// A multiplier is not used for a fifth of what it gives, whatever else there is.
	c = driven()
	c.Wrenches = c.Wrenches[:1]
	got = c.Possible(tool.Request{Torques: []float64{290}, Prefer: unit.NewtonMetre, Size: 46}, today)
	for _, l := range got.Left {
		if l.Tag == "M" {
			require.ErrorContains(t, l.Why, "below 300 N·m it is not used")
		}
	}

	// A size that the crib has no socket of is fetched.
	r.Reach, r.Size = 0, 50
	got = driven().Possible(r, today)
	require.Equal(t, 50.0, got.Fetch)
	require.Equal(t, []string{"L"}, got.Setups[0].Chain.Tags())

	// Nor does one help that nothing goes with: the drives say why.
	odd := driven()
	odd.Sockets[0].Drive = "1/4"
	r.Size = 46
	got = odd.Possible(r, today)
	require.Equal(t, 46.0, got.Fetch)
	require.Equal(t, []string{"L"}, got.Setups[0].Chain.Tags())

	// An offset end's setting follows its angle: 600·L/(L + E·cos θ), L 2000, E 100 mm.
	r = tool.Request{Torques: []float64{600}, Prefer: unit.NewtonMetre, Size: 36, Offset: true}
	for _, x := range []struct{ angle, at float64 }{{0, 600 * 2000 / 2100.}, {60, 600 * 2000 / 2050.}, {90, 600}, {120, 600 * 2000 / 1950.}} {
		r.Angle = x.angle
		got = driven().Possible(r, today)
		require.Equal(t, []string{"L", "O", "S36"}, got.Setups[0].Chain.Tags())
		require.InDelta(t, x.at, got.Setups[0].Settings[0].Reading.Shown, 1, "to the nearest mark of 2")
		require.Equal(t, x.angle, got.Setups[0].Chain.Links()[1].Angle)
	}
	require.Zero(t, driven().Offsets[0].Angle, "what is asked changes nothing in the crib")
	require.Error(t, driven().Possible(tool.Request{}, today).Setups[0].Refused)
}

func drives(c tool.Chain) (list []string) {
	for _, l := range c.Links() {
		list = append(list, l.Drive)
	}
	return list
}

func out(p tool.Possible) (list []string) {
	for _, l := range p.Left {
		list = append(list, l.Tag)
	}
	return list
}

func ExampleScale_Read() {
	r, _ := tool.Scale{First: 60, Major: 10, Minor: 1}.Read(342)
	fmt.Println(r.Main, r.Minors)
	// Output: 340 2
}
