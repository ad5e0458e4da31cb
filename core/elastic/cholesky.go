package elastic

import "math"

// triangle is the lower triangle L of a positive definite matrix L·Lᵀ, row by
// row without what is above its diagonal.
//
// Gonum's would do as well, but it sums in another order on machines that have
// instructions for it, and a joint must come out the same, to the last digit,
// on a server and in a browser (docs/decisions/elastic.md).
type triangle struct {
	size int
	rows []float64
}

// factorised returns the triangle of the rows and columns of m that belong to
// some bolts; false where they are not positive definite.
func factorised(m [][]float64, members []int) (*triangle, bool) {
	k := len(members)
	t := &triangle{size: k, rows: make([]float64, k*(k+1)/2)}
	for a, i := range members {
		own := t.row(a)
		for b := range a + 1 {
			v := m[i][members[b]]
			for x, l := range t.row(b)[:b] {
				v -= l * own[x]
			}
			if b < a {
				own[b] = v / t.row(b)[b]
				continue
			}
			if !(v > 0) {
				return nil, false
			}
			own[a] = math.Sqrt(v)
		}
	}
	return t, true
}

func (t *triangle) row(a int) []float64 { return t.rows[a*(a+1)/2 : (a+1)*(a+2)/2] }

// solve overwrites v, the right side of L·Lᵀ·x = v, with x.
func (t *triangle) solve(v []float64) {
	for a := range t.size {
		row := t.row(a)
		for x, l := range row[:a] {
			v[a] -= l * v[x]
		}
		v[a] /= row[a]
	}
	for a := t.size - 1; a >= 0; a-- {
		row := t.row(a)
		v[a] /= row[a]
		for x, l := range row[:a] {
			v[x] -= l * v[a]
		}
	}
}
