package work

import (
	"fmt"

	"dynacor/core/derive"
	"dynacor/core/joint"
	"dynacor/core/reading"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/unit"
)

// OfStep is whose numbers those of a step are.
func OfStep(id string) string { return "step/" + id }

// Derive returns where the limits of what is read at the steps are from, and what
// readings that are kept come to.
func (s *State) Derive() ([]derive.Derivation, error) {
	var out []derive.Derivation
	for i := range s.plan.steps {
		st := &s.plan.steps[i]
		if len(st.reads) == 0 {
			continue
		}
		known := func(name string) (unit.Quantity, bool) { return s.known(name, i+1) }
		value := func(name string) (q unit.Quantity, text, from string) {
			if _, given := s.plan.aims[name]; given {
				return s.plan.need(name)
			}
			q, _ = s.known(name, i+1)
			return q, name, "as it was read"
		}
		var kept []Answered
		x, done := s.Done(record.Act{Step: st.ID})
		if c, _ := x.Content.(record.Done); done && st.Sample == "" && len(x.Readings) > 0 && !c.Skipped {
			kept, _ = s.answers(st, i, x.Readings)
		}
		for k := range st.reads {
			r := &st.reads[k]
			missing := false
			if r.Limit != nil {
				for _, name := range r.Limit.Names() {
					_, ok := known(name)
					missing = missing || !ok && name != r.Limit.Over
				}
			}
			if r.Limit != nil && !missing {
				limits, err := r.Limit.Derive(OfStep(st.ID), NumberOf(k), value)
				if err != nil {
					return nil, err
				}
				out = append(out, limits...)
			}
			if k < len(kept) {
				out = append(out, s.comes(st, r, k, kept[k], known)...)
			}
		}
	}
	return out, nil
}

// NumberOf is what stands behind the key of a number of a step's read, counted from 0.
func NumberOf(read int) string {
	if read == 0 {
		return ""
	}
	return fmt.Sprintf("/%d", read+1)
}

// comes is where an answer is from.
func (s *State) comes(st *step, r *read, k int, a Answered, known func(string) (unit.Quantity, bool)) []derive.Derivation {
	g, missing := s.given(r, known)
	if missing != "" {
		return nil
	}
	switch r.Form {
	case reading.Plain:
		return a.Window.Derive(OfStep(st.ID), NumberOf(k), a.Raw)
	case reading.Plane:
		w := recipe.Window{Unit: unit.Millimetre, Even: a.Window.High, Over: g.Over, Round: true}
		for _, f := range r.fields {
			w.Spots = append(w.Spots, f.Name)
		}
		return w.Derive(OfStep(st.ID), NumberOf(k), a.Raw)
	}
	return r.Form.Derive(OfStep(st.ID), "spread"+NumberOf(k), a.Raw, g)
}

// need is what a need comes to, what it is called, and where that is from.
func (p *Plan) need(name string) (q unit.Quantity, text, from string) {
	for _, v := range p.Result.Values {
		if v.Need.Name == name {
			return p.aims[name], v.Need.Text, fromOf(v)
		}
	}
	return p.aims[name], name, ""
}

func fromOf(v joint.Value) string {
	switch {
	case v.Worked != "":
		return v.Worked
	case v.Hand:
		return "typed"
	}
	return "the maker's sheet"
}
