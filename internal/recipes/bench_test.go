package recipes_test

import (
	"testing"

	"dynacor/core/job"
)

// BenchmarkFollow lays every recipe out once: what the Wall does for each run
// after a start.
func BenchmarkFollow(b *testing.B) {
	type laidOut struct {
		in  job.Input
		res job.Result
		at  int
	}
	all := shipped(b)
	var list []laidOut
	for i, r := range all {
		for _, choices := range r.Variants() {
			if row := r.Sheet.Rows[0]; row.When.Holds(choices) {
				in := laid(r, row, choices)
				res, err := job.Compute(in, r)
				if err != nil {
					b.Fatal(err)
				}
				list = append(list, laidOut{in, res, i})
				break
			}
		}
	}
	for i := 0; b.Loop(); i++ {
		l := list[i%len(list)]
		if _, err := job.Follow(l.in, all[l.at], l.res); err != nil {
			b.Fatal(err)
		}
	}
}
