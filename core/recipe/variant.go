package recipe

import "maps"

// Asked lists the choices that are made in a variant: those whose When holds.
func (r Recipe) Asked(choices map[string]string) []Choice {
	var out []Choice
	for _, c := range r.Choices {
		if c.When.Holds(choices) {
			out = append(out, c)
		}
	}
	return out
}

// FirstVariant chooses the first option of every choice: what a recipe is drawn as where no
// joint has chosen.
func (r Recipe) FirstVariant() map[string]string {
	out := map[string]string{}
	for _, c := range r.Choices {
		if c.When.Holds(out) {
			out[c.Name] = c.Options[0]
		}
	}
	return out
}

// Variants lists every combination of the recipe's choices; one empty when
// there are none.
func (r Recipe) Variants() []map[string]string {
	all := []map[string]string{{}}
	for _, c := range r.Choices {
		var next []map[string]string
		for _, sofar := range all {
			if !c.When.Holds(sofar) {
				next = append(next, sofar)
				continue
			}
			for _, o := range c.Options {
				one := maps.Clone(sofar)
				one[c.Name] = o
				next = append(next, one)
			}
		}
		all = next
	}
	return all
}
