package trying

import (
	"dynacor/core/drill"
	"dynacor/internal/contract"
)

// task answers with a task of a drill, drawn from its seed.
func task(a contract.DrillAsk) (any, error) {
	t, err := drill.New(drill.Kind(a.Kind), uint64(a.Seed))
	if err != nil {
		return nil, err
	}
	out := contract.DrillTask{Kind: a.Kind, Seed: a.Seed}
	switch t.Kind {
	case drill.NextBolt:
		n := t.Next
		out.Next = &contract.DrillNext{Bolts: n.Bolts, Order: n.Order.Words(), Start: n.Start, Stage: n.Stage, Stages: n.Stages, Share: n.Share,
			Pulled: n.Pulled}
	case drill.Convert:
		out.Convert = &contract.DrillConvert{Value: t.Convert.Value, From: string(t.Convert.From), To: string(t.Convert.To)}
	case drill.Click:
		out.Click = &contract.DrillClick{Click: t.Click.Click, Pace: t.Click.Pace}
	}
	return out, nil
}

// judged answers with what an answer is found to be.
func judged(a contract.DrillAnswer) (any, error) {
	t, err := drill.New(drill.Kind(a.Kind), uint64(a.Seed))
	if err != nil {
		return nil, err
	}
	j, err := t.Judge(a.Answer)
	return contract.DrillJudged{Holds: j.Holds, Right: j.Right, Why: j.Why}, err
}
