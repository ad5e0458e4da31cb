package work

import (
	"dynacor/core/derive"
	"dynacor/core/joint"
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
		if st.Limit == nil {
			continue
		}
		limits, err := st.Limit.Derive(OfStep(st.ID), s.plan.need)
		if err != nil {
			return nil, err
		}
		out = append(out, limits...)
		if x, ok := s.Done(record.Act{Step: st.ID}); ok {
			c, _ := x.Content.(record.Done)
			win, _ := s.WindowAt(st.ID, c.Bolts)
			out = append(out, win.Derive(OfStep(st.ID), x.Readings)...)
		}
	}
	return out, nil
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
