package preload

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// GasketArea returns π/4·(OD² − ID²), mm².
func GasketArea(outside, inside float64) (float64, error) {
	if err := refusal.First(refusal.Positive("gasket.outer", outside, "mm"), refusal.Positive("gasket.inner", inside, "mm")); err != nil {
		return 0, err
	}
	if inside >= outside {
		return 0, refusal.Number(refusal.Contradicts, "gasket.outer", outside, inside, "mm",
			fmt.Sprintf("The gasket's outside %.5g mm is not above its inside %.5g mm.", outside, inside),
			"Read both diameters off the gasket.")
	}
	return math.Pi / 4 * (outside*outside - inside*inside), nil
}

// Seating returns the load per bolt, N, that presses a gasket of area (mm²)
// to the seating stress (MPa) with n bolts (ASME PCC-1 appendix O, Sg,min-S).
func Seating(stress, area float64, n int) float64 { return stress * area / float64(n) }

// AreaBasis is the bolt area that stresses are counted over.
type AreaBasis string

// The bases.
const (
	StressArea AreaBasis = "stress"
	RootArea   AreaBasis = "root"
)

// Limit is what held the bolt stress of a gasket balance.
type Limit string

// The limits.
const (
	NoLimit     Limit = "none"
	BoltMaximum Limit = "boltMax"
	BoltMinimum Limit = "boltMin"
	FlangeLimit Limit = "flange"
)

// Balance is a gasketed ring with its limits, all stresses in MPa: the gasket
// stress aimed at, the least that seats it, the least that keeps it tight in
// service and the most it bears; the bolt's least and most; the flange's most
// as a bolt stress; the pressure inside; the share of load left after
// relaxation (0.7 where nothing better is known).
type Balance struct {
	Thread                          thread.Thread
	Bolts                           int
	Outside, Inside                 float64 // of the gasket, mm
	Basis                           AreaBasis
	Aim, LeastSeat, LeastOperate    float64
	GasketMost                      float64
	BoltLeast, BoltMost, FlangeMost float64
	Pressure                        float64
	Kept                            float64
}

// Balanced is a gasket balance worked out: bolt stress MPa, load N, what held
// it, and the three checks.
type Balanced struct {
	Stress, Load           float64
	LimitedBy              Limit
	Seats, Operates, Whole bool
	Checks                 []Check
}

// Solve balances bolt, flange and gasket: Sb = SgT·Ag/(n·Ab), not above the
// bolt's most, not below its least, and never above the flange's limit. Then
//
//	seats:      Sb ≥ Sg,min,seat·Ag/(n·Ab)
//	in service: Sb ≥ (Sg,min,op·Ag + π/4·p·ID²)/(φ·n·Ab)
//	whole:      Sb ≤ Sg,max·Ag/(n·Ab)
//
// (ASME PCC-1 appendix O, the joint component approach.)
func (b Balance) Solve() (Balanced, error) {
	area, err := b.check()
	if err != nil {
		return Balanced{}, err
	}
	ab := b.Thread.StressArea()
	if b.Basis == RootArea {
		ab = b.Thread.RootArea()
	}
	all := float64(b.Bolts) * ab
	perGasket := area / all // bolt stress for one MPa on the gasket
	out := Balanced{Stress: b.Aim * perGasket, LimitedBy: NoLimit}
	if !unit.AtMost(out.Stress, b.BoltMost) {
		out.Stress, out.LimitedBy = b.BoltMost, BoltMaximum
	}
	if !unit.AtLeast(out.Stress, b.BoltLeast) {
		out.Stress, out.LimitedBy = b.BoltLeast, BoltMinimum
	}
	if !unit.AtMost(out.Stress, b.FlangeMost) {
		out.Stress, out.LimitedBy = b.FlangeMost, FlangeLimit
	}
	out.Load = out.Stress * ab
	end := math.Pi / 4 * b.Pressure * b.Inside * b.Inside
	out.Checks = []Check{
		AtLeast("Seats the gasket", out.Stress, b.LeastSeat*perGasket, "MPa"),
		AtLeast("Keeps it tight in service", out.Stress, (b.LeastOperate*area+end)/(b.Kept*all), "MPa"),
		AtMost("Does not crush it", out.Stress, b.GasketMost*perGasket, "MPa"),
		AtLeast("Above the bolt's least", out.Stress, b.BoltLeast, "MPa"),
		AtMost("Below the bolt's most", out.Stress, b.BoltMost, "MPa"),
		AtMost("Below the flange's limit", out.Stress, b.FlangeMost, "MPa"),
	}
	out.Seats, out.Operates, out.Whole = out.Checks[0].Holds, out.Checks[1].Holds, out.Checks[2].Holds
	return out, nil
}

func (b Balance) check() (area float64, err error) {
	if b.Bolts < 2 || b.Bolts > 1000 {
		return 0, refusal.Number(refusal.OutOfRange, "bolts", float64(b.Bolts), 2, "bolts",
			fmt.Sprintf("%d bolts; a gasketed ring has 2 to 1000.", b.Bolts), "Count the holes.")
	}
	if b.Basis != StressArea && b.Basis != RootArea {
		return 0, refusal.New(refusal.Unknown, "areaBasis", fmt.Sprintf("Unknown bolt area %q.", string(b.Basis)),
			"Choose the stress area or the root area.")
	}
	if area, err = GasketArea(b.Outside, b.Inside); err != nil {
		return 0, err
	}
	return area, refusal.First(
		refusal.Positive("gasketTarget", b.Aim, "MPa"), refusal.NotNegative("gasketSeat", b.LeastSeat, "MPa"),
		refusal.NotNegative("gasketOperate", b.LeastOperate, "MPa"), refusal.Positive("gasketMost", b.GasketMost, "MPa"),
		refusal.NotNegative("boltLeast", b.BoltLeast, "MPa"), refusal.Positive("boltMost", b.BoltMost, "MPa"),
		refusal.Positive("flangeMost", b.FlangeMost, "MPa"), refusal.NotNegative("pressure", b.Pressure, "MPa"),
		refusal.Fraction("kept", b.Kept), refusal.Rising("boltLeast", b.BoltLeast, b.BoltMost, "MPa"),
		refusal.Rising("gasketSeat", b.LeastSeat, b.GasketMost, "MPa"))
}

// Gasketed returns the target of a gasket balance on b, whose thread it takes:
// the rows of the balance, then those of the bolt while it is turned.
func Gasketed(b Bolt, balance Balance) (Target, error) {
	balance.Thread = b.Thread
	s, err := balance.Solve()
	if err != nil {
		return Target{}, err
	}
	t, err := b.loaded(s.Load)
	t.Checks = append(s.Checks, t.Checks...)
	return t, err
}
