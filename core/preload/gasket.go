package preload

import (
	"fmt"
	"math"
	"slices"

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
// relaxation (0.7 where nothing better is known). A flange's limit of zero is not known;
// Window leaves out whatever is zero.
type Balance struct {
	Thread                          thread.Thread
	Bolts                           int
	Outside, Inside                 float64 // of the gasket, mm
	Hole                            float64 // of a full-face gasket, mm: each bolt passes through one; zero: it lies inside the bolts
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
	p, err := b.parts()
	if err == nil {
		err = b.targeted()
	}
	if err != nil {
		return Balanced{}, err
	}
	out := Balanced{Stress: b.Aim * p.area / p.bolts, LimitedBy: NoLimit}
	if !unit.AtMost(out.Stress, b.BoltMost) {
		out.Stress, out.LimitedBy = b.BoltMost, BoltMaximum
	}
	if !unit.AtLeast(out.Stress, b.BoltLeast) {
		out.Stress, out.LimitedBy = b.BoltLeast, BoltMinimum
	}
	if b.FlangeMost > 0 && !unit.AtMost(out.Stress, b.FlangeMost) {
		out.Stress, out.LimitedBy = b.FlangeMost, FlangeLimit
	}
	out.Load = out.Stress * p.bolt
	out.Checks = b.rows(out.Stress, p.area/p.bolts, (b.LeastOperate*p.area+p.end)/(b.Kept*p.bolts), 1, "MPa")
	if b.FlangeMost == 0 {
		out.Checks = slices.DeleteFunc(out.Checks, func(c Check) bool { return c.Key == Flange })
	}
	out.Seats, out.Operates, out.Whole = out.Checks[0].Holds, out.Checks[1].Holds, out.Checks[2].Holds
	return out, nil
}

// The rows of a balance, by key.
const (
	Seats    = "seats"
	Operates = "service"
	Crushes  = "crush"
	Least    = "boltLeast"
	Most     = "boltMost"
	Flange   = "flange"
)

// rows holds a value against all limits: perGasket is what one MPa on the gasket is,
// operate what service asks for, perBolt what one MPa in a bolt is, all in u.
func (b Balance) rows(value, perGasket, operate, perBolt float64, u string) []Check {
	return []Check{
		AtLeast("Seats the gasket", value, b.LeastSeat*perGasket, u).by(Seats, b.LeastSeat),
		AtLeast("Keeps it tight in service", value, operate, u).by(Operates, b.LeastOperate),
		AtMost("Does not crush it", value, b.GasketMost*perGasket, u).by(Crushes, b.GasketMost),
		AtLeast("Above the bolt's least", value, b.BoltLeast*perBolt, u).by(Least, b.BoltLeast),
		AtMost("Below the bolt's most", value, b.BoltMost*perBolt, u).by(Most, b.BoltMost),
		AtMost("Below the flange's limit", value, b.FlangeMost*perBolt, u).by(Flange, b.FlangeMost),
	}
}

// by returns c with its key and the stress behind its limit.
func (c Check) by(key string, stress float64) Check {
	c.Key, c.Stress = key, stress
	return c
}

// Window holds a load (N) of each bolt against the limits that are known, all in N a
// bolt. Without a pressure nothing is said of service; a least, most or flange limit
// of zero is not known.
func (b Balance) Window(load float64) ([]Check, error) {
	p, err := b.parts()
	if err != nil {
		return nil, err
	}
	n := float64(b.Bolts)
	all := b.rows(load, p.area/n, (b.LeastOperate*p.area+p.end)/(b.Kept*n), p.bolt, "N")
	return slices.DeleteFunc(all, func(c Check) bool {
		switch c.Key {
		case Operates:
			return b.Pressure == 0
		case Least:
			return b.BoltLeast == 0
		case Most:
			return b.BoltMost == 0
		case Flange:
			return b.FlangeMost == 0
		}
		return false
	}), nil
}

// Area returns what the gasket is pressed on, mm².
func (b Balance) Area() (float64, error) {
	area, err := GasketArea(b.Outside, b.Inside)
	area -= float64(b.Bolts) * math.Pi / 4 * b.Hole * b.Hole
	if err == nil && area <= 0 {
		err = refusal.Number(refusal.Contradicts, "gasket.outer", b.Outside, b.Hole, "mm",
			fmt.Sprintf("%d holes of %.4g mm leave nothing of a gasket of %.5g by %.5g mm.", b.Bolts, b.Hole, b.Outside, b.Inside),
			"Read both diameters off the gasket.")
	}
	return area, err
}

// balanced is what a balance is worked out with: areas of gasket, of one bolt and of
// all, mm², and the end force of the pressure, N.
type balanced struct{ area, bolt, bolts, end float64 }

func (b Balance) parts() (p balanced, err error) {
	if p.area, err = b.check(); err != nil {
		return p, err
	}
	p.bolt = b.Thread.StressArea()
	if b.Basis == RootArea {
		p.bolt = b.Thread.RootArea()
	}
	p.bolts = float64(b.Bolts) * p.bolt
	p.end = math.Pi / 4 * b.Pressure * b.Inside * b.Inside
	return p, nil
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
	if area, err = b.Area(); err != nil {
		return 0, err
	}
	err = refusal.First(
		refusal.NotNegative("gasketSeat", b.LeastSeat, "MPa"), refusal.NotNegative("gasketOperate", b.LeastOperate, "MPa"),
		refusal.Positive("gasketMost", b.GasketMost, "MPa"), refusal.NotNegative("boltLeast", b.BoltLeast, "MPa"),
		refusal.NotNegative("boltMost", b.BoltMost, "MPa"), refusal.NotNegative("flangeMost", b.FlangeMost, "MPa"),
		refusal.NotNegative("pressure", b.Pressure, "MPa"), refusal.Fraction("kept", b.Kept),
		refusal.Rising("gasketSeat", b.LeastSeat, b.GasketMost, "MPa"))
	if err == nil && b.BoltMost > 0 {
		err = refusal.Rising("boltLeast", b.BoltLeast, b.BoltMost, "MPa")
	}
	return area, err
}

// targeted refuses a balance that cannot be solved for what is aimed at.
func (b Balance) targeted() error {
	return refusal.First(refusal.Positive("gasketTarget", b.Aim, "MPa"), refusal.Positive("boltMost", b.BoltMost, "MPa"))
}
