package elastic_test

import (
	"runtime"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/elastic"
)

// pipe is a 24-bolt flange with a spiral gasket.
func pipe() elastic.Ring {
	return elastic.Ring{Bolts: 24, BoltCircle: 800, Foundation: 2600, Stiffness: 60e9, Bolt: 1.9e-6}
}

func cross(n int) []int {
	q := n / 4
	var order []int
	for k := range q {
		order = append(order, 1+k, 1+k+2*q, 1+k+q, 1+k+3*q)
	}
	return order
}

func staged(n int, target float64, shares ...float64) elastic.Schedule {
	s := elastic.Schedule{Name: "staged", MostRounds: 5}
	for _, p := range shares {
		s.Passes = append(s.Passes, elastic.Pass{Target: target * p / 100, Order: cross(n)})
	}
	return s
}

// 10 000 runs of 24 bolts, three passes and the check rounds; beside it, in the
// same run, a bare loop that does nothing but as many rank-one updates of all
// loads, without friction, tool, contact or rounds to decide about, on as many
// workers.
func BenchmarkSimulate10000x24(b *testing.B) {
	r, s := pipe(), staged(24, 148_000, 30, 60, 100)
	sc := elastic.Scatter{Friction: 0.25, Tool: 0.04}
	workers := runtime.GOMAXPROCS(0)
	var d elastic.Distribution
	var full, bare time.Duration
	b.ReportAllocs()
	for b.Loop() {
		t0 := time.Now()
		var err error
		d, err = r.Simulate(s, sc, elastic.Trials{Runs: 10_000, Seed: 1, Workers: workers})
		require.NoError(b, err)
		full += time.Since(t0)
		b.StopTimer()
		t0 = time.Now()
		updates(r.Bolts, int(d.Pulls*10_000), workers)
		bare += time.Since(t0)
		b.StartTimer()
	}
	b.ReportMetric(d.Pulls, "pulls/run")
	b.ReportMetric(d.Moves, "moves/run")
	b.ReportMetric(float64(bare)/float64(b.N), "bare-ns/op")
	b.ReportMetric(float64(full)/float64(bare), "times-bare")
}

var sink float64

// updates makes count rank-one updates of n loads.
func updates(n, count, workers int) {
	done := make(chan float64)
	for range workers {
		go func() {
			f := make([]float64, n)
			by := make([][]float64, n)
			for i := range by {
				by[i] = make([]float64, n)
				for j := range by[i] {
					by[i][j] = -0.1 / float64(1+max(i-j, j-i))
				}
				by[i][i] = 1
			}
			for k := range count / workers {
				i := k % n
				rise := 1000 - f[i]
				g := by[i]
				x := f[:len(g)]
				for j, v := range g {
					x[j] += v * rise
				}
			}
			done <- f[0]
		}()
	}
	for range workers {
		sink += <-done
	}
}
