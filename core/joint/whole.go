package joint

import (
	"maps"

	"dynacor/core/recipe"
)

// Whole returns a joint and its recipe as they are worked with: the choices that follow
// from the nameplate made, the steps that repeat written out. It is the same when it is
// done again.
func Whole(in Input, r recipe.Recipe) (Input, recipe.Recipe) {
	row, found := r.Sheet.Plate(in.Type, in.Size)
	for _, c := range r.Choices {
		if option := row.Choices[c.Name]; found && c.Plate && c.When.Holds(in.Choices) && in.Choices[c.Name] != option {
			in.Choices = maps.Clone(in.Choices)
			if in.Choices == nil {
				in.Choices = map[string]string{}
			}
			in.Choices[c.Name] = option
		}
	}
	if len(r.Repeats) == 0 {
		return in, r
	}
	counts := map[string]float64{}
	row, _ = r.Sheet.Find(in.Type, in.Size, in.Choices)
	for _, x := range r.Repeats {
		if v := row.Values[x.Count]; len(v) > 0 {
			counts[x.Count] = v[0]
		}
		if g, ok := in.Values[x.Count]; ok && !g.IsZero() {
			counts[x.Count] = g.Aim().Value
		}
	}
	return in, r.Unroll(counts)
}
