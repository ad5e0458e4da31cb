package reading

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/refusal"
)

// What readings come to, form by form, by hand.
func TestWhatReadingsComeTo(t *testing.T) {
	for _, c := range []struct {
		name string
		form Form
		raw  []float64
		g    Given
		want []Answer
	}{
		{"a length is its own answer", Plain, []float64{12.5}, Given{}, []Answer{{Value: 12.5, Judged: true}}},
		{"330 mm of a 60.3 mm pipe", Diameters, []float64{330}, Given{Over: 60.3},
			[]Answer{{Value: 5.4726, Unit: "pipe diameters", Judged: true}}},
		{"high at 3 o'clock", RunOut, []float64{0, 0.10, 0, -0.10, 0.01}, Given{}, []Answer{
			{Name: "total", Value: 0.20, Unit: "mm", Judged: true},
			{Name: "high at", Value: 90, Unit: "°", Says: "3 o’clock"},
			{Name: "shift", Value: 0.10, Unit: "mm", Says: "0.100 mm toward 9 o’clock"}}},
		{"level both ways", Level, []float64{0.4, 800, -0.1, 500}, Given{}, []Answer{
			{Name: "along", Value: 0.5, Unit: "mm/m", Judged: true, Says: "0.5 mm/m, the read end high"},
			{Name: "across", Value: 0.2, Unit: "mm/m", Judged: true, Says: "0.2 mm/m, the far end high"}}},
		{"diagonals", Square, []float64{2404, 2398}, Given{}, []Answer{{Name: "they differ by", Value: 6, Unit: "mm", Judged: true}}},
		{"a face against a straight edge", Slope, []float64{1.2, 0.9, 600}, Given{}, []Answer{{Value: 0.5, Unit: "mm/m", Judged: true}}},
		{"105 mm aside over 6 m", Deflection, []float64{105, 6000}, Given{},
			[]Answer{{Name: "deflected by", Value: 1.0026, Unit: "°", Judged: true}}},
		{"2 bar in five minutes", Rate, []float64{2, 5}, Given{}, []Answer{{Value: 0.4, Unit: "bar/min", Judged: true}}},
		{"80 bar at 38 °C", Charge, []float64{80, 37, 39}, Given{}, []Answer{{Name: "at 20 °C", Value: 75.3135, Unit: "bar", Judged: true}}},
		{"0.1 bar lost", Pressure, []float64{16, 15.9, 20, 18}, Given{Target: 16},
			[]Answer{{Name: "lost", Value: 0.1, Unit: "bar", Judged: true}}},
		{"a gas that cooled lost nothing", Pressure, []float64{9, 8.6583, 20, 10}, Given{Gas: true},
			[]Answer{{Name: "lost", Value: 0, Unit: "bar", Judged: true, Says: "-5.97e-06 bar, brought to 20 °C"}}},
		{"open at 12", Plane, []float64{2.5, 2, 1.9, 2}, Given{Bolts: 8, Over: 240}, []Answer{
			{Name: "differ by", Value: 0.6, Unit: "mm", Judged: true},
			{Name: "open at", Value: 0, Unit: "°", Says: "12 o’clock, bolts 8 and 1"}, {Name: "tilt", Value: 0.1432, Unit: "°", Says: "0.143°"}}},
		{"mean", Mean, []float64{4, 6, 8}, Given{}, []Answer{{Name: "mean", Value: 6, Judged: true}}},
		{"from here and over there", Sum, []float64{12}, Given{Before: []float64{30.5}}, []Answer{{Name: "together", Value: 42.5, Judged: true}}},
		{"against before", Change, []float64{7.2}, Given{Before: []float64{9}}, []Answer{{Name: "change", Value: -1.8, Judged: true}}},
		{"steps of the rims", Opposite, []float64{0.5, 0, 0.1, -0.3}, Given{}, []Answer{
			{Name: "12 o’clock and across", Value: 0.4, Unit: "mm", Judged: true},
			{Name: "3 o’clock and across", Value: 0.3, Unit: "mm", Judged: true}}},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, err := c.form.Answer(c.raw, c.g)
			require.NoError(t, err)
			require.Empty(t, got.Wrong)
			require.Len(t, got.Answers, len(c.want))
			for i, a := range got.Answers {
				require.InDelta(t, c.want[i].Value, a.Value, 1e-3)
				if c.form != Pressure || !c.g.Gas {
					require.Equal(t, c.want[i].Says, a.Says)
				}
				a.Value, a.Says = c.want[i].Value, c.want[i].Says
				require.Equal(t, c.want[i], a)
			}
		})
	}
}

// What cannot be read is refused, with the reading and the way out.
func TestReadingsThatAreNone(t *testing.T) {
	for _, c := range []struct {
		name string
		form Form
		raw  []float64
		g    Given
		code refusal.Code
		at   string
	}{
		{"a pipe without a diameter", Diameters, []float64{300}, Given{}, refusal.NotPositive, "readings.0"},
		{"a dial without its first place again", RunOut, []float64{0, 0.1, 0}, Given{}, refusal.Missing, "readings"},
		{"a level without a length", Level, []float64{0.4, 0, 0.1, 500}, Given{}, refusal.NotPositive, "readings.1"},
		{"one diagonal", Square, []float64{2404}, Given{}, refusal.Missing, "readings"},
		{"no distance", Slope, []float64{1, 2, 0}, Given{}, refusal.NotPositive, "readings.2"},
		{"a pipe of no length", Deflection, []float64{105, 0}, Given{}, refusal.NotPositive, "readings.1"},
		{"no time", Rate, []float64{2, 0}, Given{}, refusal.NotPositive, "readings.1"},
		{"a charge below nothing", Charge, []float64{-1, 20, 20}, Given{}, refusal.Negative, "readings.0"},
		{"a gap below nothing", Plane, []float64{1, -1, 1, 1}, Given{}, refusal.Negative, "readings.1"},
		{"no number", Plain, []float64{math.NaN()}, Given{}, refusal.NotANumber, "readings.0"},
		{"against nothing", Change, []float64{7}, Given{}, refusal.Missing, "readings"},
		{"colder than can be", Pressure, []float64{9, 9, 20, -300}, Given{Gas: true}, refusal.TooSmall, ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			_, err := c.form.Answer(c.raw, c.g)
			var r *refusal.Error
			require.ErrorAs(t, err, &r)
			require.Equal(t, c.code, r.Code)
			if c.at != "" {
				require.Equal(t, c.at, r.Field)
			}
			require.NotEmpty(t, r.Error())
		})
	}
}

// What says nothing is read again, whatever it comes to.
func TestReadingsThatSayNothing(t *testing.T) {
	for _, c := range []struct {
		name string
		form Form
		raw  []float64
		g    Given
		says string
	}{
		{"the dial's base moved", RunOut, []float64{0, 0.1, 0, -0.1, 0.05}, Given{}, "0.05 mm otherwise when it comes round again"},
		{"a shell warm on one side", Charge, []float64{80, 45, 38}, Given{}, "7 °C warmer"},
		{"the pressure was never there", Pressure, []float64{15, 15, 20, 20}, Given{Target: 16}, "Not reached: 15 bar at the start, 16 bar"},
		{"faces that touch all round", Plane, []float64{0, 0, 0, 0}, Given{}, "Every gap reads 0"},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, err := c.form.Answer(c.raw, c.g)
			require.NoError(t, err)
			require.Contains(t, got.Wrong, c.says)
		})
	}
}

// Readings made for an answer come to it, and its formula says the same.
func TestAnExampleComesToItsAnswer(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := rapid.SampledFrom(Forms()).Draw(t, "form")
		least, most, _ := f.Places()
		n := len(f.Fields(rapid.IntRange(least, min(most, 12)).Draw(t, "places")&^1|least&1, ""))
		want := rapid.Float64Range(0.001, 0.9).Draw(t, "answer")
		g := Given{Over: 60, Before: []float64{rapid.Float64Range(0, 0.0005).Draw(t, "before")}, Gas: rapid.Bool().Draw(t, "gas"), Target: 10}
		raw := f.Example(n, want, g)
		require.Len(t, raw, n, f)
		got, err := f.Answer(raw, g)
		require.NoError(t, err, f)
		require.Empty(t, got.Wrong, f)
		tolerance := 1e-9
		if f == RunOut {
			tolerance = want // between two places the dial's highest is not read
		}
		require.InDelta(t, want, got.Answers[0].Value, tolerance, f)
		for _, d := range f.Derive("x", "y", raw, g) {
			v := make([]float64, len(d.Inputs))
			for i, in := range d.Inputs {
				v[i] = in.Value
			}
			require.InDelta(t, got.Answers[0].Value, d.Formula.Of(v), 1e-9, f)
		}
	})
}

// A dial set to another zero says the same; turned on by a place, it is high that much on;
// and a part shifted as it says runs true.
func TestTheDialSaysHowToShift(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.SampledFrom([]int{4, 6, 8, 12}).Draw(t, "places")
		off := rapid.Float64Range(0.01, 2).Draw(t, "off the axis")
		high := rapid.IntRange(0, n-1).Draw(t, "high place")
		zero := rapid.Float64Range(-5, 5).Draw(t, "zero")
		raw := make([]float64, n+1)
		for i := range raw {
			raw[i] = zero + off*math.Cos(2*math.Pi*float64(i-high)/float64(n))
		}
		got, err := RunOut.Answer(raw, Given{})
		require.NoError(t, err)
		require.Empty(t, got.Wrong)
		require.InDelta(t, 2*off, got.Answers[0].Value, 1e-9)
		apart := math.Mod(got.Answers[1].Value-360*float64(high)/float64(n)+540, 360) - 180
		require.InDelta(t, 0, apart, 1e-6)
		require.InDelta(t, off, got.Answers[2].Value, 1e-9)
		for i := range raw {
			raw[i] -= got.Answers[2].Value * math.Cos(2*math.Pi*float64(i)/float64(n)-got.Answers[1].Value*math.Pi/180)
		}
		again, err := RunOut.Answer(raw, Given{})
		require.NoError(t, err)
		require.InDelta(t, 0, again.Answers[0].Value, 1e-9)
	})
}

// The warmer it was read, the less it is at 20 °C; at 20 °C it is what was read.
func TestAWarmChargeIsLess(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := rapid.Float64Range(1, 300).Draw(t, "bar")
		warm := rapid.Float64Range(-20, 70).Draw(t, "°C")
		at := func(c float64) float64 {
			r, err := Charge.Answer([]float64{p, c, c}, Given{})
			require.NoError(t, err)
			return r.Answers[0].Value
		}
		require.InDelta(t, p, at(20), 1e-9)
		require.Less(t, at(warm+1), at(warm))
	})
}

func TestPlacesRoundACircleHaveTheirHour(t *testing.T) {
	for at, want := range map[[2]int]string{{0, 4}: "12 o’clock", {1, 4}: "3 o’clock", {1, 8}: "half past 1", {5, 12}: "5 o’clock",
		{1, 5}: "72°", {1, 6}: "2 o’clock"} {
		require.Equal(t, want, Place(at[0], at[1]), fmt.Sprint(at))
	}
}

// Whatever is typed, there is an answer that is a number, or a refusal.
func FuzzAnswer(f *testing.F) {
	for i := range Forms() {
		f.Add(i, 0.5, 1.0, 2.0, 3.0, 4.0)
	}
	f.Add(3, math.Inf(1), math.NaN(), -1.0, 0.0, 1e300)
	f.Fuzz(func(t *testing.T, form int, a, b, c, d, e float64) {
		fm := Forms()[((form%len(Forms()))+len(Forms()))%len(Forms())]
		raw := []float64{a, b, c, d, e}
		for n := range raw {
			got, err := fm.Answer(raw[:n+1], Given{Over: a, Before: []float64{b}, Target: c, Gas: n%2 == 0, Bolts: 8})
			if err != nil {
				continue
			}
			for _, x := range got.Answers {
				require.False(t, math.IsNaN(x.Value), "%s of %v", fm, raw[:n+1])
			}
		}
	})
}
