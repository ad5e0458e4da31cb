package tool_test

import (
	"errors"
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

func TestFitTakesASmallerToolForLowPasses(t *testing.T) {
	big, small := wrench("BIG", 60, 340, 10, 1), wrench("SMALL", 10, 100, 5, 0.5)
	s := tool.Fit(tool.Chain{Wrench: big}, []float64{50, 150, 250}, []tool.Wrench{big, small}, today)
	require.NoError(t, s.Refused)
	require.Equal(t, "SMALL", s.Settings[0].Chain.Wrench.Tag)
	require.Equal(t, "BIG", s.Settings[1].Chain.Wrench.Tag)

	s = tool.Fit(tool.Chain{Wrench: big}, []float64{50, 150, 250}, []tool.Wrench{big}, today)
	require.ErrorContains(t, s.Refused, "Pass 1")

	m := &tool.Multiplier{Tag: "X", Ratio: 4, OutputMax: 1500, DriveIn: "1/2"}
	s = tool.Fit(tool.Chain{Wrench: big, Multiplier: m}, []float64{180, 540, 900}, []tool.Wrench{big}, today)
	require.NoError(t, s.Refused)
	require.Nil(t, s.Settings[0].Chain.Multiplier, "the wrench alone reaches the first pass")
	require.InDelta(t, 225, s.Settings[2].Reading.Shown, 1e-9)
}

// A lower pass keeps the offset end and the socket, and takes no helper that
// they do not fit.
func TestALowerPassKeepsTheOffsetEnd(t *testing.T) {
	big, small, other := wrench("BIG", 60, 340, 10, 1), wrench("SMALL", 10, 100, 5, 0.5), wrench("OTHER", 10, 100, 5, 0.5)
	other.Drive = "3/8"
	foot, socket := &tool.OffsetEnd{Tag: "O", Length: 50, DriveIn: "1/2", DriveOut: "1/2", Limit: 600}, &tool.Socket{Tag: "S", Size: 30,
		Drive: "1/2"}
	s := tool.Fit(tool.Chain{Wrench: big, Offset: foot, Socket: socket}, []float64{55, 275}, []tool.Wrench{other, small}, today)
	require.NoError(t, s.Refused)
	require.Equal(t, "SMALL", s.Settings[0].Chain.Wrench.Tag)
	require.Equal(t, foot, s.Settings[0].Chain.Offset)
	require.InDelta(t, 50, s.Settings[0].Reading.Shown, 1e-9, "55·500/550")
	require.InDelta(t, 250, s.Settings[1].Reading.Shown, 1e-9)
}

// Whatever Ways offers is within every rating.
func TestWaysStayWithinTheirRatings(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var ws []tool.Wrench
		for i := range rapid.IntRange(1, 6).Draw(t, "wrenches") {
			top := rapid.Float64Range(20, 1000).Draw(t, "top")
			ws = append(ws, wrench(fmt.Sprint("W", i), top/rapid.Float64Range(2, 10).Draw(t, "span"), top, 10, 1))
		}
		ms := []tool.Multiplier{{Tag: "X", Ratio: rapid.Float64Range(2, 20).Draw(t, "ratio"), OutputMax: rapid.Float64Range(500,
			4000).Draw(t, "most"), DriveIn: "1/2"}}
		target := rapid.Float64Range(10, 4000).Draw(t, "target")
		refused := false
		for _, w := range tool.Ways(tool.Crib{Wrenches: ws, Multipliers: ms}, []float64{0.3 * target, target}, unit.NewtonMetre, today) {
			if w.Refused != nil {
				refused = true
				var r *refusal.Error
				require.True(t, errors.As(w.Refused, &r))
				continue
			}
			require.False(t, refused, "refused ones come last")
			for _, s := range w.Settings {
				low, err := tool.Lowest(s.Chain.Wrench.RatedMin, s.Chain.Wrench.RatedMax)
				require.NoError(t, err)
				require.GreaterOrEqual(t, s.Reading.Shown, low*(1-1e-9))
				require.LessOrEqual(t, s.Reading.Shown, s.Chain.Wrench.RatedMax*(1+1e-9))
				if s.Chain.Multiplier != nil {
					require.LessOrEqual(t, s.Torque, s.Chain.Multiplier.OutputMax*(1+1e-9))
				}
			}
		}
	})
}

func ExampleScale_Read() {
	r, _ := tool.Scale{First: 60, Major: 10, Minor: 1}.Read(342)
	fmt.Println(r.Main, r.Minors)
	// Output: 340 2
}
