package tool

import (
	"fmt"
	"math"
	"sort"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Row is one line of a hydraulic wrench's chart: the gauge's pressure and the
// torque it gives, in the chart's own units.
type Row struct{ Pressure, Torque float64 }

// Chart is the torque–pressure chart of one tool, rising in both columns. A
// chart belongs to its tool: another one's is wrong.
type Chart []Row

// Check refuses fewer than two rows and rows that do not rise.
func (c Chart) Check() error {
	if len(c) < 2 {
		return refusal.Number(refusal.Missing, "chart", float64(len(c)), 2, "rows",
			fmt.Sprintf("A chart of %d rows; it needs at least two.", len(c)), "Enter the tool's own chart.")
	}
	for i, r := range c {
		if err := refusal.First(refusal.Positive(fmt.Sprintf("chart.%d.pressure", i), r.Pressure, ""),
			refusal.Positive(fmt.Sprintf("chart.%d.torque", i), r.Torque, "")); err != nil {
			return err
		}
		if i > 0 && (r.Pressure <= c[i-1].Pressure || r.Torque <= c[i-1].Torque) {
			return refusal.Number(refusal.Contradicts, "chart", r.Torque, c[i-1].Torque, "",
				fmt.Sprintf("Row %d (%g, %g) does not rise above row %d (%g, %g).", i+1, r.Pressure, r.Torque, i, c[i-1].Pressure,
					c[i-1].Torque), "Enter the rows with pressure and torque both rising.")
		}
	}
	return nil
}

// Stall is a gauge reading at which the tool stalls, and the torque there.
type Stall struct{ Pressure, Torque float64 }

// At returns the gauge reading for torque: linear between the chart's rows and
// never beyond them, rounded to the gauge's graduation, halves up, and inward
// at the chart's ends. Torque is what that reading gives.
func (c Chart) At(torque, graduation float64) (Stall, error) {
	if err := refusal.First(c.Check(), refusal.Positive("torque", torque, ""), refusal.Positive("graduation", graduation, "")); err != nil {
		return Stall{}, err
	}
	first, last := c[0], c[len(c)-1]
	if !unit.AtLeast(torque, first.Torque) {
		return Stall{}, c.outside(torque, first.Torque, "Take a smaller tool.")
	}
	if !unit.AtMost(torque, last.Torque) {
		return Stall{}, c.outside(torque, last.Torque, "Take a larger tool.")
	}
	p := unit.Round(c.pressure(torque), graduation)
	if !unit.AtLeast(p, first.Pressure) {
		p = math.Ceil(first.Pressure/graduation*(1-unit.Tolerance)) * graduation
	}
	if !unit.AtMost(p, last.Pressure) {
		p = math.Floor(last.Pressure/graduation*(1+unit.Tolerance)) * graduation
	}
	if !unit.AtLeast(p, first.Pressure) || !unit.AtMost(p, last.Pressure) {
		return Stall{}, refusal.Number(refusal.TooLarge, "graduation", graduation, last.Pressure-first.Pressure, "",
			fmt.Sprintf("No mark of a gauge in steps of %g lies on the chart from %g to %g.", graduation, first.Pressure,
				last.Pressure), "Take a finer gauge.")
	}
	return Stall{p, c.torque(p)}, nil
}

func (c Chart) outside(torque, limit float64, way string) error {
	return refusal.Number(refusal.OutOfRange, "torque", torque, limit, "",
		fmt.Sprintf("%.5g is outside the chart, which goes from %.5g to %.5g.", torque, c[0].Torque, c[len(c)-1].Torque), way)
}

// pressure and torque interpolate, holding to the end rows past the ends,
// where only a tolerance can have led.
func (c Chart) pressure(torque float64) float64 {
	i := c.above(func(r Row) bool { return r.Torque >= torque })
	a, b := c[i-1], c[i]
	return a.Pressure + (math.Min(math.Max(torque, a.Torque), b.Torque)-a.Torque)*(b.Pressure-a.Pressure)/(b.Torque-a.Torque)
}

func (c Chart) torque(pressure float64) float64 {
	i := c.above(func(r Row) bool { return r.Pressure >= pressure })
	a, b := c[i-1], c[i]
	return a.Torque + (math.Min(math.Max(pressure, a.Pressure), b.Pressure)-a.Pressure)*(b.Torque-a.Torque)/(b.Pressure-a.Pressure)
}

// above returns the first row that is reached, at least the second and at
// most the last.
func (c Chart) above(reached func(Row) bool) int {
	i := sort.Search(len(c), func(i int) bool { return reached(c[i]) })
	return min(max(i, 1), len(c)-1)
}

// In returns the chart with its pressures in another unit.
func (c Chart) In(from, to unit.Unit) (Chart, error) {
	out := make(Chart, len(c))
	for i, r := range c {
		p, err := unit.Convert(r.Pressure, from, to)
		if err != nil {
			return nil, refusal.At("gauge", err)
		}
		out[i] = Row{p, r.Torque}
	}
	return out, nil
}

// Gives returns the torque that a pressure gives: linear between the chart's rows. It
// refuses what lies beyond them, and a chart that is none.
func (c Chart) Gives(pressure float64) (float64, error) {
	if err := refusal.First(c.Check(), refusal.Positive("pressure", pressure, "")); err != nil {
		return 0, err
	}
	if first, last := c[0].Pressure, c[len(c)-1].Pressure; !unit.AtLeast(pressure, first) || !unit.AtMost(pressure, last) {
		return 0, refusal.Number(refusal.OutOfRange, "pressure", pressure, last, "",
			fmt.Sprintf("%.5g is outside the chart, which goes from %.5g to %.5g.", pressure, first, last), "Read the gauge again.")
	}
	return c.torque(pressure), nil
}
