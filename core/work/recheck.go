package work

import (
	"fmt"
	"slices"
	"strings"

	"dynacor/core/proof"
	"dynacor/core/record"
	"dynacor/core/refusal"
)

// sampled are bolts of an owner that are tried before a doubt is lifted.
type sampled struct {
	owner int
	bolts []int
	tried []int // of these
}

// sampleOf chooses the bolts that are tried for a doubt: a tenth of those in doubt, at
// least two, those that moved in a round first (package proof).
func (s *State) sampleOf(d doubt) (out []sampled) {
	for o := range s.plan.owners {
		bolts := s.boltsIn(d, o)
		if len(bolts) == 0 {
			continue
		}
		n, err := proof.SampleCount(len(bolts), proof.SampleShare, proof.SampleAtLeast)
		if err != nil {
			continue
		}
		var worst []int
		for _, b := range s.worst[o].moved {
			if k := slices.Index(bolts, b); k >= 0 {
				worst = append(worst, k+1)
			}
		}
		picked, err := proof.SampleOf(len(bolts), n, worst)
		if err != nil {
			continue
		}
		x := sampled{owner: o}
		for _, k := range picked {
			x.bolts = append(x.bolts, bolts[k-1])
		}
		slices.Sort(x.bolts)
		out = append(out, x)
	}
	return out
}

// GroupBolts are bolts of a group.
type GroupBolts struct {
	Group string
	Bolts []int
}

// recheck takes bolts as tried: all of a sample within, and the doubt is lifted.
func (s *State) recheck(at int, c record.Recheck) {
	s.note(at)
	o, known := s.plan.owner[c.Group]
	if !known {
		return
	}
	v, err := s.rechecked(o, c)
	if err != nil {
		return
	}
	l := &s.lines.list[at]
	l.Readings, l.counted = c.Readings, true
	if !v.Holds {
		l.Outside = v.Reason
	}
	for k := range s.doubts {
		d := &s.doubts[k]
		if d.tool != c.Tool || d.stands != "" || len(d.sample) == 0 {
			continue
		}
		if !v.Holds {
			d.sample, d.short = nil, true
			continue
		}
		left := 0
		d.sample = slices.Clone(d.sample)
		for i := range d.sample {
			p := &d.sample[i]
			if p.owner == o {
				p.tried = append(slices.Clip(p.tried), c.Bolts...)
			}
			for _, b := range p.bolts {
				if !slices.Contains(p.tried, b) {
					left++
				}
			}
		}
		if left == 0 {
			d.stands = "a sample was tried with " + c.With + ", and holds"
		}
	}
}

// rechecked judges readings of bolts by the usual window of what is left of a torque.
func (s *State) rechecked(owner int, c record.Recheck) (proof.Residual, error) {
	g := s.plan.owners[owner].group
	target := g.Torque
	if len(g.Torques) > 0 {
		target = g.Torques[len(g.Torques)-1]
	}
	v, err := proof.JudgeResidual(c.Readings, target, proof.ResidualLow, proof.ResidualHigh)
	if err == nil && !v.Holds {
		v.Reason = fmt.Sprintf("%d of %d lie outside %.4g to %.4g N·m", len(v.Failed), len(c.Readings), proof.ResidualLow*target,
			proof.ResidualHigh*target)
	}
	return v, err
}

func (s *State) acceptRecheck(c record.Recheck, f Facts) error {
	o, known := s.plan.owner[c.Group]
	if !known {
		return refusal.New(refusal.Unknown, "group", fmt.Sprintf("%q is no group of this joint.", c.Group), "Choose one of the plan's.")
	}
	i := slices.IndexFunc(s.Doubts(), func(d Doubt) bool { return d.Tool == c.Tool && d.State == DoubtSample })
	if i < 0 {
		return refusal.New(refusal.NotNow, "tool", fmt.Sprintf("No bolts are to be tried because of %s.", c.Tool),
			"An engineer says first that a sample is tried.")
	}
	var open []int
	for _, x := range s.Doubts()[i].Sample {
		if x.Group == c.Group {
			open = x.Bolts
		}
	}
	if !slices.Equal(open, c.Bolts) {
		return refusal.New(refusal.NotTheSame, "bolts", fmt.Sprintf("Bolts %s are to be tried.", numbers(open)), "Try just these, in their order.")
	}
	if len(c.Readings) != len(c.Bolts) {
		return refusal.Number(refusal.Missing, "readings", float64(len(c.Readings)), float64(len(c.Bolts)), "readings",
			fmt.Sprintf("%d readings for %d bolts.", len(c.Readings), len(c.Bolts)), "Enter one for each bolt.")
	}
	if strings.TrimSpace(c.With) == "" {
		return refusal.New(refusal.Missing, "with", "With which tool were they tried?", "Name its tag.")
	}
	if c.With == c.Tool {
		return refusal.New(refusal.NotTheSame, "with", fmt.Sprintf("%s is what is in doubt.", c.Tool), "Try them with another tool.")
	}
	if why, held := f.Held[c.With]; held {
		return refusal.New(refusal.NotNow, "with", fmt.Sprintf("%s is held back: %s.", c.With, record.Trim(why)), "Take another tool.")
	}
	_, err := s.rechecked(o, c)
	return err
}

func numbers(list []int) string {
	var out []string
	for _, n := range list {
		out = append(out, fmt.Sprint(n))
	}
	return strings.Join(out, ", ")
}

// groupWords names bolts by their groups: "bolts 1, 7 of the studs".
func groupWords(list []GroupBolts) string {
	var out []string
	for _, x := range list {
		word := "bolts"
		if len(x.Bolts) == 1 {
			word = "bolt"
		}
		out = append(out, fmt.Sprintf("%s %s of the %s", word, numbers(x.Bolts), x.Group))
	}
	return strings.Join(out, "; ")
}
