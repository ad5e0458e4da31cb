package elastic

import (
	"dynacor/core/pass"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Of returns a school's schedule for the simulator, its shares taken of load,
// N. A go that is repeated until nothing moves is made once; the check rounds,
// at most rounds of them, go on with it. Turns without a load are refused:
// what they bring cannot be said without the joint's stiffness at snug.
func Of(s pass.Schedule, load float64, rounds int) (Schedule, error) {
	if err := refusal.Positive("load", load, string(unit.Newton)); err != nil {
		return Schedule{}, err
	}
	out := Schedule{Name: s.Name, CheckOrder: s.CheckOrder, MostRounds: rounds}
	for _, g := range s.Passes {
		if g.Turn > 0 {
			return Schedule{}, refusal.New(refusal.Contradicts, "passes", "A pass by turns has no load to simulate.",
				"Compare schools that go by torque.")
		}
		out.Passes = append(out.Passes, Pass{Target: load * g.Share / 100, Order: g.Order})
	}
	return out, nil
}
