package crib_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Every face at three settings: what it shows, and what one reads to somebody.
func TestWhatAFaceShows(t *testing.T) {
	for _, c := range []struct {
		tag    string
		at     float64
		value  float64
		main   float64
		minors int
		words  string
	}{
		{"TW-1", 40, 40, 40, 0, "The last line covered is 40, the ring’s 0 at the line: 40 N·m."},
		{"TW-1", 107, 107, 100, 7, "The last line covered is 100, the ring’s 7 at the line: 107 N·m."},
		{"TW-1", 200, 200, 200, 0, "The last line covered is 200, the ring’s 0 at the line: 200 N·m."},
		{"TD-1", 30, 30, 30, 0, "The last line covered is 30, the ring’s 0 at the line: 30 cN·m."},
		{"TD-1", 47.4, 47, 40, 7, "The last line covered is 40, the ring’s 7 at the line: 47 cN·m."},
		{"TD-1", 120, 120, 120, 0, "The last line covered is 120, the ring’s 0 at the line: 120 cN·m."},
		{"WW-1", 40, 40, 40, 0, "The window shows 40 N·m."},
		{"WW-1", 107, 108, 108, 0, "The window shows 108 N·m."},
		{"WW-1", 106.9, 106, 106, 0, "The window shows 106 N·m."},
		{"DW-1", 0, 0, 0, 0, "Pointer and follower from nought; read 0 N·m."},
		{"DW-1", 42, 42, 40, 1, "Pointer and follower from nought; read 42 N·m, 1 small mark past 40."},
		{"DW-1", 80, 80, 80, 0, "Pointer and follower from nought; read 80 N·m."},
		{"EW-1", 40, 40, 40, 0, "The display shows 40.0 N·m."},
		{"EW-1", 106.96, 107, 107, 0, "The display shows 107.0 N·m."},
		{"EW-1", 200, 200, 200, 0, "The display shows 200.0 N·m."},
		{"PS-1", 3, 25, 25, 0, "Set on the bench to 25 N·m; nothing is turned on it."},
		{"HW-1", 310, 310, 300, 1, "The needle at 310 bar, 1 small mark past 300."},
		{"GA-1", 0, 0, 0, 0, "The needle at 0 bar."},
		{"GA-1", 555, 560, 500, 6, "The needle at 560 bar, 6 small marks past 500."},
		{"GA-1", 1000, 1000, 1000, 0, "The needle at 1000 bar."},
	} {
		for _, x := range each() {
			if x.Tag != c.tag {
				continue
			}
			s, err := x.Shows(c.at)
			require.NoError(t, err, "%s at %g", c.tag, c.at)
			require.InDelta(t, c.value, s.Value, 1e-9, "%s at %g", c.tag, c.at)
			require.InDelta(t, c.main, s.Main, 1e-9, "%s at %g", c.tag, c.at)
			require.Equal(t, c.minors, s.Minors)
			require.Equal(t, c.words, s.Words)
		}
	}
}

func TestWhatIsOffAFace(t *testing.T) {
	for _, x := range each() {
		if x.Tag == "SO-24" {
			_, err := x.Shows(1)
			refused(t, err, refusal.Unknown, "kind", "has no scale")
		}
	}
	_, err := ring().Shows(201)
	refused(t, err, refusal.OutOfRange, "value", "off the scale, 40 to 200 N·m")
	_, err = ring().Shows(39)
	refused(t, err, refusal.OutOfRange, "value", "off the scale")
	_, err = ring().Shows(math.NaN())
	require.Error(t, err)
}

// What a face shows is within half a step of what was asked, and is made of its main and its
// small marks.
func FuzzFace(f *testing.F) {
	f.Add(107.3, 10.0, 1.0)
	f.Add(0.4, 0.5, 0.25)
	f.Fuzz(func(t *testing.T, at, major, minor float64) {
		x := ring()
		x.Unit, x.Least, x.Scale.First, x.Scale.Major, x.Scale.Minor = unit.FootPound, 0, 0, major, minor
		if x.Check() != nil || minor < 1e-3 {
			return
		}
		s, err := x.Shows(at)
		if err != nil {
			return
		}
		require.InDelta(t, at, s.Value, minor/2*(1+1e-6)+1e-8)
		require.InDelta(t, s.Value, s.Main+float64(s.Minors)*minor, 1e-6*math.Max(1, s.Value))
		require.True(t, s.Minors >= 0 && s.Minors < s.Turn, "%d of %d", s.Minors, s.Turn)
	})
}
