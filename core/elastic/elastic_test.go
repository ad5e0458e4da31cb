package elastic_test

import (
	"errors"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/integrate/quad"
	"gonum.org/v1/gonum/mat"
	"pgregory.net/rapid"

	"dynacor/core/elastic"
	"dynacor/core/pass"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

func drawn(t *rapid.T) elastic.Ring {
	return elastic.Ring{
		Bolts: rapid.IntRange(2, 32).Draw(t, "n"), BoltCircle: rapid.Float64Range(80, 1500).Draw(t, "circle"),
		Foundation: rapid.Float64Range(50, 20_000).Draw(t, "k"), Stiffness: rapid.Float64Range(1e8, 1e12).Draw(t, "EI"), Bolt: 1.5e-6,
	}
}

func round(n int) []int {
	order := make([]int, n)
	for i := range order {
		order[i] = i + 1
	}
	return order
}

// The closed form is the sum over the images, taken until it no longer changes.
func TestClosureIsTheSumOfItsImages(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := drawn(t)
		l, c := r.Lambda(), math.Pi*r.BoltCircle
		s := rapid.Float64Range(0, c).Draw(t, "s")
		w := func(x float64) float64 {
			return l / (2 * r.Foundation) * math.Exp(-l*x) * (math.Cos(l*x) + math.Sin(l*x))
		}
		sum := 0.0
		for j := 0.0; j*l*c < 60; j++ {
			sum += w(s+j*c) + w(c-s+j*c)
		}
		require.InDelta(t, sum, r.Closure(s), 1e-9*r.Closure(0))
	})
}

// A long ring is an infinite beam: λ/(2k) under the load. A rigid one closes
// all round alike: 1/(kC).
func TestClosureAtItsLimits(t *testing.T) {
	long := elastic.Ring{Bolts: 4, BoltCircle: 20_000, Foundation: 1000, Stiffness: 1e9, Bolt: 1e-6}
	require.InEpsilon(t, long.Lambda()/2000, long.Closure(0), 1e-9)
	rigid := elastic.Ring{Bolts: 4, BoltCircle: 300, Foundation: 1000, Stiffness: 1e15, Bolt: 1e-6}
	for _, s := range []float64{0, 100, 400, math.Pi * 150} {
		require.InEpsilon(t, 1/(1000*math.Pi*300), rigid.Closure(s), 2e-3)
	}
	rapid.Check(t, func(t *rapid.T) { // what the foundation bears all round is the load
		r := drawn(t)
		c := math.Pi * r.BoltCircle
		whole := 2 * quad.Fixed(r.Closure, 0, c/2, 400, quad.Legendre{}, 0)
		require.InEpsilon(t, 1/r.Foundation, whole, 1e-6)
	})
}

func TestComplianceIsSymmetricAndPositiveDefinite(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := drawn(t)
		c := r.Compliance()
		m := mat.NewSymDense(r.Bolts, nil)
		for i := range c {
			for j := range c {
				require.Equal(t, c[i][j], c[j][i])
				m.SetSym(i, j, c[i][j])
			}
		}
		var e mat.EigenSym
		require.True(t, e.Factorize(m, false))
		values := e.Values(nil)
		require.Greater(t, values[0], -1e-12*values[len(values)-1], "positive, as far as rounding tells")
		for i := range c {
			m.SetSym(i, i, c[i][i]+r.Bolt)
		}
		var chol mat.Cholesky
		require.True(t, chol.Factorize(m))
	})
}

// λ → ∞: each bolt keeps what it was given, in any order.
func TestNoInteractionWhereBoltsDoNotFeelEachOther(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := drawn(t)
		r.Stiffness = 1e-3
		order := rapid.Permutation(round(r.Bolts)).Draw(t, "order")
		o, err := r.Run(elastic.Schedule{Passes: []elastic.Pass{{Target: 5e4, Order: order}}}, nil)
		require.NoError(t, err)
		for _, f := range o.Loads[0] {
			require.InEpsilon(t, 5e4, f, 1e-9)
		}
		require.InDelta(t, 1, o.Final.Ratio, 1e-9)
	})
}

func TestEqualBoltsTightenedTogetherGiveEqualLoads(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := drawn(t)
		o, err := r.Run(elastic.Schedule{Passes: []elastic.Pass{{Target: 2e4, Order: round(r.Bolts), Together: r.Bolts},
			{Target: 5e4, Order: round(r.Bolts), Together: r.Bolts}}}, nil)
		require.NoError(t, err)
		for _, f := range o.Loads[1] {
			require.InEpsilon(t, 5e4, f, 1e-9)
		}
		for _, w := range o.Closures {
			require.InEpsilon(t, o.Closures[0], w, 1e-9)
		}
	})
}

// Rounds at one target converge to it from above, and then move nothing.
func TestRoundsSettle(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := drawn(t)
		order := rapid.Permutation(round(r.Bolts)).Draw(t, "order")
		s := elastic.Schedule{Passes: []elastic.Pass{{Target: 5e4, Order: order}}, MostRounds: elastic.MostRounds, Still: 1e-7}
		o, err := r.Run(s, nil)
		require.NoError(t, err)
		if !o.Still {
			giving := 0.0 // of the joint when all bolts pull as one
			for _, w := range r.Compliance()[0] {
				giving += math.Abs(w)
			}
			require.Greater(t, giving, 8*r.Bolt, "only joints far softer than their bolts take longer than anybody would go on")
			return
		}
		require.GreaterOrEqual(t, o.Final.Least, 5e4*(1-1e-6))
		s.MostRounds, s.Passes = 1, append(s.Passes, rounds(r.Bolts, o.Rounds)...)
		again, err := r.Run(s, nil)
		require.NoError(t, err)
		require.True(t, again.Still || o.Rounds >= elastic.MostPasses, "once still, another round moves nothing either")
	})
}

// rounds is as many circular passes at the target of TestRoundsSettle.
func rounds(n, count int) []elastic.Pass {
	var p []elastic.Pass
	for range min(count, elastic.MostPasses-1) {
		p = append(p, elastic.Pass{Target: 5e4, Order: round(n)})
	}
	return p
}

// Two bolts by hand: after the second is brought to T the first has T(1 − c/m),
// m = w(0) + δB, c = w(C/2).
func TestTwoBoltsByHand(t *testing.T) {
	r := elastic.Ring{Bolts: 2, BoltCircle: 120, Foundation: 900, Stiffness: 5e10, Bolt: 2e-6}
	m, c := r.Closure(0)+r.Bolt, r.Closure(math.Pi*60)
	require.Positive(t, c)
	var pulls []elastic.Pulled
	o, err := r.Run(elastic.Schedule{Passes: []elastic.Pass{{Target: 3e4, Order: []int{1, 2}}}},
		func(p elastic.Pulled) { pulls = append(pulls, p) })
	require.NoError(t, err)
	require.InEpsilon(t, 3e4*(1-c/m), o.Loads[0][0], 1e-9)
	require.InEpsilon(t, 3e4, o.Loads[0][1], 1e-12)
	require.Len(t, pulls, 2)
	require.InEpsilon(t, 3e4*m, pulls[0].Advance, 1e-9, "the first nut goes down by what bolt and joint give")
	require.Equal(t, []int{2}, pulls[1].Bolts)
	require.Zero(t, pulls[0].Loads[1], "the second is loose until its turn")
}

// At the bolts the line round the ring is what Run gives; over the whole ring
// the foundation bears what the bolts pull.
func TestClosureAroundTheRing(t *testing.T) {
	r := pipe()
	o, err := r.Run(staged(24, 1e5, 30, 60, 100), nil)
	require.NoError(t, err)
	loads := o.Loads[len(o.Loads)-1]
	line, err := r.Around(loads, 24*40)
	require.NoError(t, err)
	sum, pulled := 0.0, 0.0
	for i, w := range line {
		sum += w
		if i%40 == 0 {
			require.InEpsilon(t, o.Closures[i/40], w, 1e-9)
			pulled += loads[i/40]
		}
	}
	require.InEpsilon(t, pulled, sum/(24*40)*math.Pi*800*r.Foundation, 1e-3)
	for _, bad := range []struct {
		loads  []float64
		places int
	}{{loads[:3], 10}, {loads, 0}, {loads, 1e6}, {append([]float64{-1}, loads[1:]...), 10}} {
		_, err := r.Around(bad.loads, bad.places)
		require.Error(t, err)
	}
}

// Turning the whole joint turns the result.
func TestResultsTurnWithTheJoint(t *testing.T) {
	r := pipe()
	order := cross(24)
	turned := make([]int, 24)
	for i, b := range order {
		turned[i] = (b-1+5)%24 + 1
	}
	a, err := r.Run(elastic.Schedule{Passes: []elastic.Pass{{Target: 1e5, Order: order}}}, nil)
	require.NoError(t, err)
	b, err := r.Run(elastic.Schedule{Passes: []elastic.Pass{{Target: 1e5, Order: turned}}}, nil)
	require.NoError(t, err)
	for i := range 24 {
		require.InEpsilon(t, a.Loads[0][i], b.Loads[0][(i+5)%24], 1e-9)
	}
}

func TestRelaxationKeepsItsShare(t *testing.T) {
	r := pipe()
	full, err := r.Run(elastic.Schedule{Passes: []elastic.Pass{{Target: 1e5, Order: cross(24), Together: 2},
		{Target: 1e5, Order: []int{1}}}}, nil)
	require.NoError(t, err)
	less, err := r.Run(elastic.Schedule{Relaxation: 0.9, Passes: []elastic.Pass{{Target: 1e5, Order: cross(24), Together: 2},
		{Target: 1e3, Order: []int{1}}}}, nil)
	require.NoError(t, err)
	for i := range 24 {
		require.InEpsilon(t, 0.9*full.Loads[0][i], less.Loads[1][i], 1e-9)
	}
}

// One pass at these loads leaves every bolt at the target, which the package
// Run confirms bolt by bolt.
func TestOnePassLeavesAllAtTheTarget(t *testing.T) {
	r := pipe()
	loads, err := r.OnePass(cross(24), 1e5)
	require.NoError(t, err)
	var passes []elastic.Pass
	for _, b := range cross(24) {
		passes = append(passes, elastic.Pass{Target: loads[b-1], Order: []int{b}})
	}
	o, err := r.Run(elastic.Schedule{Passes: passes}, nil)
	require.NoError(t, err)
	require.InDelta(t, 1, o.Final.Ratio, 1e-9)
	require.InEpsilon(t, 1e5, o.Final.Mean, 1e-9)
	require.Greater(t, loads[0], 1e5, "the first is brought higher")
	require.InEpsilon(t, 1e5, loads[23], 1e-9, "the last is not")
	for _, order := range [][]int{nil, {1, 2}, append(round(23), 1), append(round(23), 25)} {
		_, err := r.OnePass(order, 1e5)
		require.Error(t, err)
	}
}

func TestFewestPullsForASpread(t *testing.T) {
	r := pipe()
	schools := []elastic.Schedule{staged(24, 1e5, 100), staged(24, 1e5, 30, 60, 100),
		{Name: "pairs", Passes: []elastic.Pass{{Target: 1e5, Order: cross(24), Together: 2}}, MostRounds: 5}}
	loose, err := r.LeastPulls(schools, 3)
	require.NoError(t, err)
	require.Equal(t, 24, loose.Pulls, "nearly any single pass will do")
	tight, err := r.LeastPulls(schools, 1.05)
	require.NoError(t, err)
	require.Greater(t, tight.Pulls, 24)
	require.LessOrEqual(t, tight.Spread.Ratio, 1.05*(1+1e-9))
	for i, s := range schools { // no school does it sooner
		alone, err := r.LeastPulls(schools[i:i+1], 1.05)
		if err == nil {
			require.GreaterOrEqual(t, alone.Pulls, tight.Pulls, s.Name)
		}
	}
	_, err = r.LeastPulls(schools, 1.0000001)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange, Field: "wanted"})
	var no *refusal.Error
	require.True(t, errors.As(err, &no))
	require.Greater(t, no.Limit, 1.0, "says how near it came")
	for _, wanted := range []float64{0.9, 0, math.NaN()} {
		_, err = r.LeastPulls(schools, wanted)
		require.Error(t, err)
	}
}

func TestComparingSchools(t *testing.T) {
	r := pipe()
	got, err := r.Compare([]elastic.Schedule{staged(24, 1e5, 100), staged(24, 1e5, 30, 60, 100)}, elastic.Scatter{Friction: 0.2,
		Tool: 0.04}, elastic.Trials{Runs: 50, Seed: 2}, elastic.Effort{Pull: 30, Pass: 300})
	require.NoError(t, err)
	require.Len(t, got, 2)
	require.InDelta(t, (30*float64(got[1].Once.Pulls)+300*float64(len(got[1].Once.Loads)))/60, got[1].Minutes, 1e-9)
	require.Greater(t, got[1].Minutes, got[0].Minutes)
	require.Greater(t, got[0].Many.Spread.High, got[0].Once.Final.Deviation)
	_, err = r.Compare(nil, elastic.Scatter{}, elastic.Trials{Runs: 1}, elastic.Effort{})
	require.Error(t, err)
	_, err = r.Compare([]elastic.Schedule{{}}, elastic.Scatter{}, elastic.Trials{Runs: 1}, elastic.Effort{Pull: -1})
	require.Error(t, err)
}

// Quarters first, by the names of the craft, is the worked case of that name.
func TestASchoolIsSimulated(t *testing.T) {
	p, err := pass.SchoolNamed("quarters first")
	require.NoError(t, err)
	plan, err := p.Schedule(12, sequence.Cross4, 1, 1)
	require.NoError(t, err)
	s, err := elastic.Of(plan, 66_000, 1)
	require.NoError(t, err)
	r := elastic.Ring{Bolts: 12, BoltCircle: 355, Foundation: 1900, Stiffness: 21e9, Bolt: 1.75e-6}
	o, err := r.Run(s, nil)
	require.NoError(t, err)
	require.Len(t, o.Loads, 5)
	require.InEpsilon(t, 32334.28801591529, o.Loads[3][0], 1e-6, "the four lose half when the others come")
	require.InEpsilon(t, 58355.10088781175, o.Loads[4][0], 1e-6)
	require.Equal(t, 4*3+8+12, o.Pulls)

	p, err = pass.SchoolNamed("even turns")
	require.NoError(t, err)
	plan, err = p.Schedule(2, "", 1, 1)
	require.NoError(t, err)
	_, err = elastic.Of(plan, 66_000, 1)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "passes"})
	_, err = elastic.Of(plan, 0, 1)
	require.Error(t, err)
}

func TestWhatCannotBeSimulated(t *testing.T) {
	good := staged(24, 1e5, 30, 60, 100)
	for _, c := range []struct {
		name string
		ring func(*elastic.Ring)
		plan func(*elastic.Schedule)
		code refusal.Code
	}{
		{"one bolt", func(r *elastic.Ring) { r.Bolts = 1 }, nil, refusal.OutOfRange},
		{"no foundation", func(r *elastic.Ring) { r.Foundation = 0 }, nil, refusal.NotPositive},
		{"no stiffness", func(r *elastic.Ring) { r.Stiffness = math.NaN() }, nil, refusal.NotANumber},
		{"rubber bolt", func(r *elastic.Ring) { r.Bolt = 2 }, nil, refusal.TooLarge},
		{"nothing but gasket", func(r *elastic.Ring) { r.Foundation, r.Bolt = 1e-3, 1e-9 }, nil, refusal.Contradicts},
		{"no passes", nil, func(s *elastic.Schedule) { s.Passes = nil }, refusal.Missing},
		{"too many passes", nil, func(s *elastic.Schedule) { s.Passes = make([]elastic.Pass, 61) }, refusal.TooLarge},
		{"an empty pass", nil, func(s *elastic.Schedule) { s.Passes = []elastic.Pass{{Target: 1}} }, refusal.Missing},
		{"off the ring", nil, func(s *elastic.Schedule) { s.Passes = []elastic.Pass{{Target: 1, Order: []int{25}}} }, refusal.OutOfRange},
		{"two tools on one bolt", nil, func(s *elastic.Schedule) {
			s.Passes = []elastic.Pass{{Target: 1, Order: []int{1, 1}, Together: 2}}
		}, refusal.Contradicts},
		{"more tools than bolts", nil, func(s *elastic.Schedule) { s.Passes = []elastic.Pass{{Target: 1, Order: []int{1}, Together: 25}} },
			refusal.TooLarge},
		{"endless rounds", nil, func(s *elastic.Schedule) { s.MostRounds = 201 }, refusal.OutOfRange},
		{"grows", nil, func(s *elastic.Schedule) { s.Relaxation = 1.2 }, refusal.TooLarge},
		{"check order off the ring", nil, func(s *elastic.Schedule) { s.CheckOrder = []int{0} }, refusal.OutOfRange},
	} {
		r, s := pipe(), good
		if c.ring != nil {
			c.ring(&r)
		}
		if c.plan != nil {
			c.plan(&s)
		}
		_, err := r.Run(s, nil)
		require.ErrorIs(t, err, &refusal.Error{Code: c.code}, c.name)
		_, err = r.Simulate(s, elastic.Scatter{}, elastic.Trials{Runs: 1})
		require.ErrorIs(t, err, &refusal.Error{Code: c.code}, c.name)
	}
	for _, sc := range []elastic.Scatter{{Friction: 1}, {Tool: -0.1}, {Friction: math.Inf(1)}} {
		_, err := pipe().Simulate(good, sc, elastic.Trials{Runs: 1})
		require.Error(t, err, "%v", sc)
	}
	for _, runs := range []int{0, -1, elastic.MostRuns + 1} {
		_, err := pipe().Simulate(good, elastic.Scatter{}, elastic.Trials{Runs: runs})
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange, Field: "runs"})
	}
	require.Equal(t, 0.01, elastic.UsualStill)
	require.Equal(t, elastic.Spread{}, elastic.SpreadOf(nil))
	loose := elastic.SpreadOf([]float64{0, 10, 10})
	require.Equal(t, 1, loose.Loose)
	require.Zero(t, loose.Ratio)
}

func FuzzRun(f *testing.F) {
	f.Add(8, 240.0, 4200.0, 9.1e9, 1.62e-6, 81000.0, 0.88, []byte{1, 5, 3, 7, 2, 6, 4, 8})
	f.Add(16, 470.0, 64.0, 77e9, 9e-7, 60000.0, 1.0, []byte{1, 9, 5, 13, 1})
	f.Add(2, 1e-15, 1e15, 1e-15, 1e-15, 1e15, 1e-15, []byte{1, 2})
	f.Add(0, math.NaN(), -1.0, math.Inf(1), 0.0, -5.0, 2.0, []byte{})
	f.Fuzz(func(t *testing.T, n int, circle, k, ei, bolt, target, kept float64, order []byte) {
		if n > 40 || len(order) > 200 {
			return // only slower
		}
		p := elastic.Pass{Target: target}
		for _, b := range order {
			p.Order = append(p.Order, int(b))
		}
		r := elastic.Ring{Bolts: n, BoltCircle: circle, Foundation: k, Stiffness: ei, Bolt: bolt}
		s := elastic.Schedule{Passes: []elastic.Pass{p, p}, Relaxation: kept, MostRounds: 2}
		o, err := r.Run(s, nil)
		if err != nil {
			return
		}
		for _, loads := range o.Loads {
			for _, v := range loads {
				if !(v >= 0) || math.IsInf(v, 0) {
					t.Fatalf("%+v %+v gave %v", r, s, loads)
				}
			}
		}
		if _, err := r.Simulate(s, elastic.Scatter{Friction: 0.3, Tool: 0.05}, elastic.Trials{Runs: 2, Seed: 1}); err != nil {
			t.Fatal(err)
		}
	})
}

func ExampleRing_Run() {
	r := elastic.Ring{Bolts: 8, BoltCircle: 240, Foundation: 4200, Stiffness: 9.1e9, Bolt: 1.62e-6}
	cross := []int{1, 5, 3, 7, 2, 6, 4, 8}
	o, _ := r.Run(elastic.Schedule{Passes: []elastic.Pass{{Target: 16_200, Order: cross}, {Target: 48_600, Order: cross},
		{Target: 81_000, Order: cross}}, MostRounds: 5}, nil)
	fmt.Printf("%d rounds; %.1f to %.1f kN\n", o.Rounds, o.Final.Least/1000, o.Final.Most/1000)
	// Output: 2 rounds; 81.0 to 82.3 kN
}
