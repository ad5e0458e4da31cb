package drill

import (
	"math"
	"time"
)

// Went is how a drill went.
type Went struct {
	On    time.Time
	Right int
	Of    int
}

// Tasks is how many tasks are one go at a drill, and PassedBy how many of them are right where it is passed.
const (
	Tasks    = 5
	PassedBy = 4
)

// Passed reports whether a drill was passed.
func (w Went) Passed() bool { return w.Of >= Tasks && w.Right*Tasks >= PassedBy*w.Of }

// grade is how well it went, as the formula asks for it: 1 again, 2 hard, 3 good.
func (w Went) grade() float64 {
	switch {
	case w.Of > 0 && w.Right >= w.Of:
		return 3
	case w.Passed():
		return 2
	}
	return 1
}

// Memory is how well somebody knows a drill.
type Memory struct {
	Stability  float64 // days after which 9 of 10 are still known
	Difficulty float64 // 1 easy, 10 hard
	Days       int     // until it is due, from when it was last done
	Due        time.Time
}

// weights are the published defaults of the sixth version of the free spaced repetition scheduler.
func weights() [21]float64 {
	return [21]float64{0.212, 1.2931, 2.3065, 8.2956, 6.4133, 0.8334, 3.0194, 0.001, 1.8722, 0.1666, 0.796, 1.4835, 0.0614, 0.2629, 1.6483,
		0.6014, 1.8729, 0.5425, 0.0912, 0.0658, 0.1542}
}

// The bounds of what is remembered: stability in days, and the longest interval, days.
const (
	leastStable = 0.001
	mostStable  = 36_500
	longest     = 365
)

// Remember returns when a drill is due again, by how it went so far, oldest first. It is the published formula
// of the free spaced repetition scheduler (FSRS 6, by its default weights w, for 9 of 10 known):
//
//	S₀ = w[g−1]                            D₀ = w₄ − e^(w₅(g−1)) + 1
//	R  = (1 + f·t/S)^(−w₂₀)                f  = 0.9^(−1/w₂₀) − 1
//	S′ = S(1 + e^w₈(11−D)S^(−w₉)(e^(w₁₀(1−R)) − 1)·h)      known; h = w₁₅ where it was hard
//	S′ = w₁₁D^(−w₁₂)((S+1)^w₁₃ − 1)e^(w₁₄(1−R)), at most S/e^(w₁₇w₁₈)      not known
//	S′ = S·S^(−w₁₉)e^(w₁₇(g−3+w₁₈)), at least S where known                on the same day
//	D′ = w₇D₀(4) + (1−w₇)(D − w₆(g−3)(10−D)/9)
//
// with g the grade: 3 all right, 2 passed, 1 not. An interval is S in whole days, 1 to 365. Days are those of
// the times' own zone.
func Remember(went []Went) Memory {
	var m Memory
	var last time.Time
	for i, x := range went {
		if g := x.grade(); i == 0 {
			m.Stability, m.Difficulty = weights()[int(g)-1], math.Min(10, math.Max(1, firstDifficulty(g)))
		} else {
			m = m.after(float64(days(last, x.On)), g)
		}
		last = x.On
	}
	if len(went) > 0 {
		m.Days = int(math.Min(longest, math.Max(1, math.Round(m.Stability))))
		m.Due = time.Date(last.Year(), last.Month(), last.Day()+m.Days, 0, 0, 0, 0, last.Location())
	}
	return m
}

// days is how many midnights lie between two times; none where they are turned round.
func days(from, to time.Time) int {
	y, m, d := from.Date()
	ty, tm, td := to.Date()
	return max(0, int(time.Date(ty, tm, td, 0, 0, 0, 0, time.UTC).Sub(time.Date(y, m, d, 0, 0, 0, 0, time.UTC)).Hours()/24))
}

func firstDifficulty(g float64) float64 {
	w := weights()
	return w[4] - math.Exp(w[5]*(g-1)) + 1
}

func (m Memory) after(t, g float64) Memory {
	w := weights()
	s, d := m.Stability, m.Difficulty
	known := math.Pow(1+(math.Pow(0.9, -1/w[20])-1)*t/s, -w[20])
	var next float64
	switch {
	case t == 0:
		rise := math.Pow(s, -w[19]) * math.Exp(w[17]*(g-3+w[18]))
		if g >= 2 {
			rise = math.Max(1, rise)
		}
		next = s * rise
	case g == 1:
		next = w[11] * math.Pow(d, -w[12]) * (math.Pow(s+1, w[13]) - 1) * math.Exp(w[14]*(1-known))
		next = math.Min(next, s/math.Exp(w[17]*w[18]))
	default:
		hard := 1.0
		if g == 2 {
			hard = w[15]
		}
		next = s * (1 + math.Exp(w[8])*(11-d)*math.Pow(s, -w[9])*(math.Exp((1-known)*w[10])-1)*hard)
	}
	d -= w[6] * (g - 3) * (10 - d) / 9
	d = w[7]*firstDifficulty(4) + (1-w[7])*d
	return Memory{Stability: math.Min(mostStable, math.Max(leastStable, next)), Difficulty: math.Min(10, math.Max(1, d))}
}
