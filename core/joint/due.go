package joint

import (
	"math"
	"time"

	"dynacor/core/recipe"
)

// Due returns between which times a joint that was made at a time is to be gone over again,
// by the hours its recipe gives that work; ok is false where it gives none.
func Due(r recipe.Recipe, madeAt time.Time) (from, until time.Time, ok bool) {
	for _, st := range r.Steps {
		if st.From != recipe.SinceMade || st.Limit == nil || madeAt.IsZero() {
			continue
		}
		for name, option := range r.Again {
			if st.When[name] != option {
				continue
			}
			w, err := st.Limit.Window(nil)
			if err != nil || math.IsInf(w.Low, 0) || math.IsInf(w.High, 0) {
				continue
			}
			hours := func(h float64) time.Time { return madeAt.Add(time.Duration(h * float64(time.Hour))) }
			return hours(w.Low), hours(w.High), true
		}
	}
	return from, until, false
}
