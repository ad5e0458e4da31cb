package thread

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
)

// Head is the shape a tool takes hold of.
type Head string

// The heads and nuts whose sizes are tabled.
const (
	Hexagon           Head = "hexagon"               // ISO 4032 and ISO 272, metric; regular, ASME B18.2.1 and B18.2.2, inch
	OlderHexagon      Head = "hexagon, older series" // as Hexagon, but for M10, M12, M14 and M22
	StructuralHexagon Head = "structural hexagon"    // EN 14399, metric sets
	HeavyHexagon      Head = "heavy hexagon"         // ASME B18.2.1 and B18.2.2, inch
	SocketHead        Head = "socket head"           // ISO 4762 and ASME B18.3 hexagon socket
)

// Heads lists them.
func Heads() []Head {
	return []Head{Hexagon, OlderHexagon, StructuralHexagon, HeavyHexagon, SocketHead}
}

// Inside reports whether a bit is put into the head, not a socket over it.
func (h Head) Inside() bool { return h == SocketHead }

// HeadOf returns the head and nut that bolts of a grade usually have on t.
// Structural sets and inch studs are heavy.
func (t Thread) HeadOf(grade string) Head {
	switch {
	case !t.Inch() && HighStrengthSet(grade) && sized(structural, t.Diameter) > 0:
		return StructuralHexagon
	case t.Inch() && (!InchGrade(grade) || Structural(grade)) && heavyFlats(t.Diameter) > 0: // SAE grades have regular ones
		return HeavyHexagon
	}
	return Hexagon
}

// DriveSize returns what the tool on t must measure, mm: across the flats of
// a hexagon, or of the key for a socket head. Both metric hexagon series are
// in the field, so a size read off the nut wins. Sizes that no table lists
// are refused.
func (t Thread) DriveSize(h Head) (float64, error) {
	size := 0.0
	switch h {
	case Hexagon, OlderHexagon, StructuralHexagon, HeavyHexagon:
		size = t.Flats(h)
	case SocketHead:
		size = sized(keys, t.Diameter)
	default:
		return 0, refusal.New(refusal.Unknown, "head", fmt.Sprintf("Unknown head %q.", string(h)), "Choose one from the list.")
	}
	if size == 0 {
		return 0, refusal.New(refusal.Unknown, "head", fmt.Sprintf("No %s size is listed for %s.", h, t.Name),
			"Measure it across the flats and enter it.")
	}
	return size, nil
}

// A size table: diameters and what belongs to them, mm.
type sizeTable []struct{ d, size float64 }

// sized returns what a table has for d; zero where it lists none.
func sized(table sizeTable, d float64) float64 {
	for _, r := range table {
		if math.Abs(r.d-d) < 1e-6 {
			return r.size
		}
	}
	return 0
}

// Where the older metric hexagons differ.
var older = sizeTable{{10, 17}, {12, 19}, {14, 22}, {22, 32}}

// EN 14399 sets.
var structural = sizeTable{{12, 22}, {16, 27}, {20, 32}, {22, 36}, {24, 41}, {27, 46}, {30, 50}, {36, 60}}

// Hexagon keys: ISO 4762, ASME B18.3.
var keys = sizeTable{
	{3, 2.5}, {4, 3}, {5, 4}, {6, 5}, {8, 6}, {10, 8}, {12, 10}, {14, 12}, {16, 14}, {18, 14}, {20, 17}, {22, 17}, {24, 19}, {27, 19},
	{30, 22}, {33, 24}, {36, 27}, {42, 32}, {48, 36}, {56, 41}, {64, 46},
	{0.190 * inchMM, 5. / 32 * inchMM}, {1. / 4 * inchMM, 3. / 16 * inchMM}, {5. / 16 * inchMM, 1. / 4 * inchMM},
	{3. / 8 * inchMM, 5. / 16 * inchMM}, {7. / 16 * inchMM, 3. / 8 * inchMM}, {1. / 2 * inchMM, 3. / 8 * inchMM},
	{5. / 8 * inchMM, 1. / 2 * inchMM}, {3. / 4 * inchMM, 5. / 8 * inchMM}, {7. / 8 * inchMM, 3. / 4 * inchMM},
	{1 * inchMM, 3. / 4 * inchMM}, {1.25 * inchMM, 7. / 8 * inchMM}, {1.5 * inchMM, 1 * inchMM},
}

// Regular inch hexagons that are not 1.5·D: ASME B18.2.1, B18.2.2; #10 is the
// machine screw nut of ASME B18.6.3.
var regularInch = sizeTable{
	{0.190 * inchMM, 3. / 8 * inchMM}, {1. / 4 * inchMM, 7. / 16 * inchMM}, {5. / 16 * inchMM, 1. / 2 * inchMM},
	{7. / 16 * inchMM, 5. / 8 * inchMM}, {9. / 16 * inchMM, 13. / 16 * inchMM},
}

func regularFlats(d float64) float64 {
	if s := sized(regularInch, d); s > 0 {
		return s
	}
	return 1.5 * d
}

// heavyFlats is 1.5·D + 1/8 in from 1/2 in, and 15/16 in at 9/16 in.
func heavyFlats(d float64) float64 {
	switch {
	case d < 0.5*inchMM-1e-6:
		return 0
	case math.Abs(d-9./16*inchMM) < 1e-6:
		return 15. / 16 * inchMM
	}
	return 1.5*d + inchMM/8
}

// Flats returns the width of a hexagon of t, mm; zero where no table lists it.
func (t Thread) Flats(h Head) float64 {
	switch {
	case h == HeavyHexagon && t.Inch():
		return heavyFlats(t.Diameter)
	case h == Hexagon && t.Inch():
		return regularFlats(t.Diameter)
	case h == StructuralHexagon && !t.Inch():
		return sized(structural, t.Diameter)
	case h == OlderHexagon && !t.Inch():
		if s := sized(older, t.Diameter); s > 0 {
			return s
		}
		return t.row().flats
	case h == Hexagon:
		return t.row().flats
	}
	return 0
}

// row is that of a metric thread.
func (t Thread) row() metricRow {
	for _, r := range metricRows {
		if r.d == t.Diameter {
			return r
		}
	}
	return metricRow{}
}

// ClearanceHole returns the usual hole for t, mm: ISO 273 medium for metric,
// ASME B18.2.8 normal fit for inch threads (over the size by 1/32 in below 1/2 in,
// 1/16 to 7/8 in, 3/32 to 1-1/4 in, 1/8 beyond).
func (t Thread) ClearanceHole() float64 {
	if !t.Inch() {
		return t.row().hole
	}
	over := 1. / 8
	switch d := t.Diameter / inchMM; {
	case d < 0.5-1e-9:
		over = 1. / 32
	case d < 1-1e-9:
		over = 1. / 16
	case d < 1.25+1e-9:
		over = 3. / 32
	}
	return t.Diameter + over*inchMM
}

// FlangeHole returns the hole that pipe flanges are drilled with for t, mm: the
// size and 1/8 in for inch threads (ASME B16.5), ISO 273 medium for metric.
func (t Thread) FlangeHole() float64 {
	if t.Inch() {
		return t.Diameter + inchMM/8
	}
	return t.ClearanceHole()
}
