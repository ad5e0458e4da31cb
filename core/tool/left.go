package tool

import (
	"fmt"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// left names every tool that is in no chain, with the reason.
func (s *search) left() []Left {
	var out []Left
	unless := func(used bool, tag string, why func() error) {
		if !used {
			out = append(out, Left{tag, why()})
		}
	}
	for i, w := range s.Wrenches {
		unless(s.used.wrenches[i], w.Tag, func() error { return s.whyWrench(i) })
	}
	for i, m := range s.Multipliers {
		unless(s.used.multipliers[i], m.Tag, func() error {
			_, err := m.carry(s.need.Torque, "", m.DriveIn)
			return orUnmatched("multiplier", m.Tag, err)
		})
	}
	for i, a := range s.Adapters {
		unless(s.used.adapters[i], a.Tag, func() error { return s.whyAdapter(a) })
	}
	for i, o := range s.Offsets {
		unless(s.used.offsets[i], o.Tag, func() error {
			_, err := o.carry(s.need.Torque, o.DriveIn)
			return orUnmatched("offset", o.Tag, err)
		})
	}
	for i, k := range s.Sockets {
		unless(s.used.sockets[i], k.Tag, func() error { return s.whySocket(k) })
	}
	return out
}

// whyWrench says why wrench i is in no chain: held back, out of range alone,
// or with nothing that fits its drive.
func (s *search) whyWrench(i int) error {
	if s.free[i] != nil {
		return s.free[i]
	}
	_, err := Chain{Wrench: s.Wrenches[i]}.Set(1, s.need.Torque, s.today)
	return orUnmatched("wrench", s.Wrenches[i].Tag, err)
}

func (s *search) whyAdapter(a Adapter) error {
	_, err := a.carry(s.need.Torque, a.DriveIn)
	if err == nil && a.DriveIn == a.DriveOut {
		err = refusal.New(refusal.Contradicts, "adapter", fmt.Sprintf("%s is %s in on both sides; it adapts nothing.", a.Tag, a.DriveIn),
			"")
	}
	return orUnmatched("adapter", a.Tag, err)
}

func (s *search) whySocket(k Socket) error {
	if s.need.Size == 0 {
		return refusal.New(refusal.Missing, "socket", "No size was asked for.", "Enter the size across the flats.")
	}
	if !s.suits(k) {
		what := func(inside bool) string {
			if inside {
				return "key"
			}
			return "hexagon"
		}
		return refusal.Number(refusal.Contradicts, "socket", k.Size, s.need.Size, string(unit.Millimetre),
			fmt.Sprintf("%s is for a %s of %.4g mm; here is a %s of %.4g mm.", k.Tag, what(k.Inside), k.Size, what(s.need.Inside),
				s.need.Size), "Take the size that fits.")
	}
	_, err := k.carry(s.need.Torque, k.Drive)
	return orUnmatched("socket", k.Tag, err)
}

// orUnmatched is err, or that nothing in the crib goes with the tool.
func orUnmatched(field, tag string, err error) error {
	if err != nil {
		return err
	}
	return refusal.New(refusal.Contradicts, field, fmt.Sprintf("Nothing in the crib goes with %s at this torque.", tag),
		"Fetch an adapter, or another tool.")
}
