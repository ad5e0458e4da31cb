package thread

import (
	"fmt"

	"dynacor/core/refusal"
)

// Head is the shape a tool takes hold of.
type Head string

// The heads and nuts whose sizes are tabled.
const (
	Hexagon      Head = "hexagon"               // ISO 4032 and ISO 272, metric
	OlderHexagon Head = "hexagon, older series" // as Hexagon, but for M10, M12, M14 and M22
	HeavyHexagon Head = "heavy hexagon"         // ASME B18.2.2, inch
	SocketHead   Head = "socket head"           // ISO 4762 hexagon socket, metric
)

// Heads lists them.
func Heads() []Head { return []Head{Hexagon, OlderHexagon, HeavyHexagon, SocketHead} }

// Inside reports whether a bit is put into the head, not a socket over it.
func (h Head) Inside() bool { return h == SocketHead }

// DriveSize returns what the tool on t must measure, mm: across the flats of
// a hexagon, or of the key for a socket head. Both metric hexagon series are
// in the field, so a size read off the nut wins. Sizes that no table lists
// are refused.
func (t Thread) DriveSize(h Head) (float64, error) {
	size := 0.0
	switch h {
	case Hexagon:
		if !t.Inch() {
			size = t.AcrossFlats()
		}
	case OlderHexagon:
		if !t.Inch() {
			size = olderFlats(t.Diameter, t.AcrossFlats())
		}
	case HeavyHexagon:
		if t.Inch() {
			size = t.AcrossFlats()
		}
	case SocketHead:
		if !t.Inch() {
			size = keySize(t.Diameter)
		}
	default:
		return 0, refusal.New(refusal.Unknown, "head", fmt.Sprintf("Unknown head %q.", string(h)), "Choose one from the list.")
	}
	if size == 0 {
		return 0, refusal.New(refusal.Unknown, "head", fmt.Sprintf("No %s size is listed for %s.", h, t.Name),
			"Measure it across the flats and enter it.")
	}
	return size, nil
}

func olderFlats(d, now float64) float64 {
	switch d {
	case 10:
		return 17
	case 12:
		return 19
	case 14:
		return 22
	case 22:
		return 32
	}
	return now
}

func keySize(d float64) float64 {
	switch d {
	case 5:
		return 4
	case 6:
		return 5
	case 8:
		return 6
	case 10:
		return 8
	case 12:
		return 10
	case 16:
		return 14
	case 20:
		return 17
	case 24:
		return 19
	case 30:
		return 22
	case 36:
		return 27
	}
	return 0
}

// AcrossFlats returns the width of the hex of t, mm: the metric series of
// ISO 272, heavy hex 1.5·D + 1/8 in (ASME B18.2.2) for inch threads.
func (t Thread) AcrossFlats() float64 {
	if t.Inch() {
		return 1.5*t.Diameter + 25.4/8
	}
	for _, r := range metricRows {
		if r.d == t.Diameter {
			return r.flats
		}
	}
	return 0
}

// ClearanceHole returns the usual hole for t, mm: ISO 273 medium for metric,
// ASME B18.2.8 normal fit for inch threads (1/16 in over the size below 1 in,
// 3/32 to 1-1/2 in, 1/8 beyond).
func (t Thread) ClearanceHole() float64 {
	if t.Inch() {
		switch d := t.Diameter / 25.4; {
		case d < 1-1e-9:
			return t.Diameter + 25.4/16
		case d < 1.5+1e-9:
			return t.Diameter + 25.4*3/32
		default:
			return t.Diameter + 25.4/8
		}
	}
	for _, r := range metricRows {
		if r.d == t.Diameter {
			return r.hole
		}
	}
	return 0
}

// BearingDiameter returns the outside diameter dw of the face that turns,
// 0.95 of the width across flats, mm.
func (t Thread) BearingDiameter() float64 { return 0.95 * t.AcrossFlats() }
