package views

import (
	"slices"

	"dynacor/core/work"
	"dynacor/internal/contract"
)

// GroupBolts names bolts of a group.
func GroupBolts(g work.GroupBolts) contract.GroupBolts {
	return contract.GroupBolts{Group: g.Group, Bolts: g.Bolts}
}

// doubtViews are the doubts of a run that are open.
func Doubts(st *work.State) []contract.Doubt {
	var out []contract.Doubt
	for _, d := range st.Doubts() {
		if d.State == work.DoubtStands || d.State == work.DoubtLater {
			continue
		}
		v := contract.Doubt{Tool: d.Tool, State: contract.DoubtState(d.State), Words: d.Says(), Sample: Each(d.Sample, GroupBolts),
			Made: work.Words(d.Made)}
		out = slices.DeleteFunc(out, func(x contract.Doubt) bool { return x.Tool == d.Tool }) // the newest counts
		out = append(out, v)
	}
	return out
}

// MadeWith is a tool, and what was made with it.
func MadeWith(m work.MadeWith) contract.MadeWith {
	return contract.MadeWith{Tool: m.Tool, Made: work.Words(m.Made), Due: contract.Date{Time: m.Due}}
}
