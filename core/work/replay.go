package work

import (
	"slices"

	"dynacor/core/bench"
	"dynacor/core/record"
	"dynacor/core/unit"
)

// Replay lists the pulls of a group as the record has them, in their order, and
// the residual torques that were read of its bolts. What was struck out, undone
// or only tried is left out.
func (s *State) Replay(group string) (pulls []bench.Pull, residual []bench.Residual) {
	for i := range s.lines.list {
		l := &s.lines.list[i]
		c, ok := l.Content.(record.Done)
		if !ok || !l.counted || c.Skipped || l.Tried {
			continue
		}
		st, _, ok := s.plan.step(c.Step)
		if !ok {
			continue
		}
		switch {
		case c.Bolt > 0 && st.owner >= 0 && s.plan.owners[st.owner].group.Name == group && st.group.How.Tooled() && !c.Lock:
			pulls = append(pulls, pullOf(c, l))
		case st.Sample != "" && st.Sample == group && st.Limit != nil && st.Limit.Unit == unit.NewtonMetre:
			g, _ := s.plan.Result.Group(group)
			for k, at := range c.Bolts {
				if k < len(l.Readings) && g.Torque > 0 {
					residual = append(residual, bench.Residual{Bolt: at, Ratio: l.Readings[k] / g.Torque})
				}
			}
		}
	}
	return slices.Clip(pulls), residual
}

func pullOf(c record.Done, l *Line) bench.Pull {
	p := bench.Pull{Bolt: c.Bolt, Share: c.Share, Round: c.Round, Moved: c.Moved, Angle: c.Angle}
	if p.Share == 0 {
		p.Share = 100
	}
	if t := l.Tool; t != nil && !c.Reading.IsZero() && t.Setting.Value > 0 {
		if read, err := c.Reading.In(t.Setting.Unit); err == nil { // what is in no unit of it was refused when it was typed
			p.Ratio = read / t.Setting.Value
		}
	}
	return p
}
