// Package trace says what a tool's trace, torque against angle, tells of a pull: that it
// went as it should, or the likely story of one that did not, with its reason.
//
//	slope          least squares over a stretch, N·m/°
//	running        the torque of the first third of the angle: the nut goes down the thread
//	last slope     of the last sixth; the one before it, of the sixth before
//	yielding       last slope below 0.5 of the one before it, at or above 0.7 of the target
//	bottomed       last slope above 3 times the steepest third before it
//	galled         the torque falls and rises again by more than 0.15 of the peak
//	cross-threaded running torque above 0.25 of the target
//	stopped early  the peak below the window
//
// Source: torque against angle in VDI 2230 and ISO 16047; the shares are ours. A story is a
// help to look, never a verdict: the maker's instructions and whoever looks at the bolt
// come first.
package trace

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// MostPoints is how many points a trace may have.
const MostPoints = 2000

// Point is one of a trace: the angle from its beginning, degrees, and the torque there, in
// the tool's unit.
type Point struct{ Angle, Torque float64 }

// Kind is what a trace tells.
type Kind string

// The stories.
const (
	Good          Kind = "good"
	StoppedEarly  Kind = "stopped early"
	Yielding      Kind = "yielding"
	Bottomed      Kind = "bottomed"
	Galled        Kind = "galled"
	CrossThreaded Kind = "cross-threaded"
	TooShort      Kind = "too short" // to tell anything
)

// Story is what a trace tells, and why.
type Story struct {
	Kind Kind
	Why  string
}

// leastPoints is how many points tell anything.
const leastPoints = 12

// Check refuses what is no trace: too many points, angles that go back, what is no number.
func Check(points []Point) error {
	if len(points) > MostPoints {
		return refusal.Number(refusal.TooLarge, "trace", float64(len(points)), MostPoints, "points",
			fmt.Sprintf("%d points; at most %d are taken.", len(points), MostPoints), "Send every second one.")
	}
	for i, p := range points {
		field := fmt.Sprintf("trace.%d", i)
		if err := refusal.First(refusal.Finite(field, p.Angle), refusal.Finite(field, p.Torque)); err != nil {
			return err
		}
		if i > 0 && p.Angle < points[i-1].Angle {
			return refusal.Number(refusal.Contradicts, field, p.Angle, points[i-1].Angle, "°", "The angle goes back.",
				"Send the points in their order.")
		}
	}
	return nil
}

// Tell returns the story of a pull that was to reach target, at least low, in u, the unit of
// its torques. It refuses what is no trace.
func Tell(points []Point, target, low float64, u unit.Unit) (Story, error) {
	if err := refusal.First(Check(points), refusal.Positive("target", target, ""), refusal.Positive("low", low, "")); err != nil {
		return Story{}, err
	}
	if len(points) < leastPoints || points[len(points)-1].Angle <= points[0].Angle {
		return Story{TooShort, fmt.Sprintf("%d points over %.3g° tell nothing.", len(points), span(points))}, nil
	}
	peak := 0.0
	for _, p := range points {
		peak = math.Max(peak, p.Torque)
	}
	if s, bad := running(points, target, u); bad {
		return s, nil
	}
	if s, bad := falls(points, peak, u); bad {
		return s, nil
	}
	if s, bad := ends(points, peak, target, u); bad {
		return s, nil
	}
	if peak < low {
		return Story{StoppedEarly, fmt.Sprintf("It rose evenly and was let go at %.4g %s; at least %.4g %s were to be reached.",
			peak, u, low, u)}, nil
	}
	return Story{Good, fmt.Sprintf("It rose evenly over %.3g°.", span(points))}, nil
}

func span(points []Point) float64 {
	if len(points) == 0 {
		return 0
	}
	return points[len(points)-1].Angle - points[0].Angle
}

// part returns the points of a stretch of the angle, from and to as shares of it.
func part(points []Point, from, to float64) []Point {
	a, w := points[0].Angle, span(points)
	var out []Point
	for _, p := range points {
		if p.Angle >= a+from*w && p.Angle <= a+to*w {
			out = append(out, p)
		}
	}
	return out
}

// slope is that of the line through points, least squares.
func slope(points []Point) float64 {
	n := float64(len(points))
	if n < 2 {
		return 0
	}
	var x, y, xx, xy float64
	for _, p := range points {
		x, y = x+p.Angle, y+p.Torque
	}
	x, y = x/n, y/n
	for _, p := range points {
		xx, xy = xx+(p.Angle-x)*(p.Angle-x), xy+(p.Angle-x)*(p.Torque-y)
	}
	if xx == 0 {
		return 0
	}
	return xy / xx
}

// The shares by which stories are told apart.
const (
	hardRunning = 0.25
	fallsBy     = 0.15
	flattens    = 0.5
	nearTarget  = 0.7
	steepens    = 3.0
)

// running tells of a nut that goes hard from its beginning.
func running(points []Point, target float64, u unit.Unit) (Story, bool) {
	third := part(points, 0, 1.0/3)
	mean := 0.0
	for _, p := range third {
		mean += p.Torque / float64(len(third))
	}
	if mean > hardRunning*target && slope(third) < slope(part(points, 1.0/3, 1)) {
		return Story{CrossThreaded, fmt.Sprintf("It takes %.4g %s to run the nut down, before it bears: %.0f %% of the target.", mean, u,
			100*mean/target)}, true
	}
	return Story{}, false
}

// falls tells of a torque that falls on the way and rises again.
func falls(points []Point, peak float64, u unit.Unit) (Story, bool) {
	highest, lowest := 0.0, math.Inf(1)
	for _, p := range points {
		switch {
		case p.Torque >= highest && highest-lowest > fallsBy*peak:
			return Story{Galled, fmt.Sprintf("It fell from %.4g to %.4g %s and rose again: it sticks and lets go.", highest, lowest, u)}, true
		case p.Torque >= highest:
			highest, lowest = p.Torque, p.Torque
		default:
			lowest = math.Min(lowest, p.Torque)
		}
	}
	return Story{}, false
}

// ends tells of the last stretch: it flattens, or it gets far steeper.
func ends(points []Point, peak, target float64, u unit.Unit) (Story, bool) {
	top := points
	for i, p := range points { // what comes after the peak is the hand letting go
		if p.Torque == peak {
			top = points[:i+1]
		}
	}
	last, before := slope(part(top, 5.0/6, 1)), slope(part(top, 4.0/6, 5.0/6))
	steepest := math.Max(slope(part(top, 0, 1.0/3)), math.Max(slope(part(top, 1.0/3, 2.0/3)), before))
	switch {
	case before > 0 && last < flattens*before && peak >= nearTarget*target:
		return Story{Yielding, fmt.Sprintf("At the end it rises by %.3g %s a degree where it rose by %.3g %s: bolt or part gives.", last, u,
			before, u)}, true
	case steepest > 0 && last > steepens*steepest:
		return Story{Bottomed, fmt.Sprintf("At the end it rises by %.3g %s a degree where it rose by %.3g %s at most: it bears on the ground of its hole.",
			last, u, steepest, u)}, true
	}
	return Story{}, false
}
