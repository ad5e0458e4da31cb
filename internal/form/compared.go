package form

import (
	"dynacor/core/bench"
	"dynacor/core/elastic"
	"dynacor/core/sequence"
)

// How a comparison is kept with the plan that was made by it.
type (
	comparedForm struct {
		Subject subjectForm   `json:"subject"`
		Ways    []outcomeForm `json:"ways"`
		Taken   int           `json:"taken"`
		Runs    int           `json:"runs"`
		Seed    uint64        `json:"seed"`
	}
	figureForm struct {
		Low    float64      `json:"low"`
		Middle float64      `json:"middle"`
		High   float64      `json:"high"`
		Origin bench.Origin `json:"origin"`
		From   string       `json:"from"`
	}
	subjectForm struct {
		Bolts      int        `json:"bolts"`
		Circle     figureForm `json:"circle"`
		Gasket     figureForm `json:"gasket"`
		Flange     figureForm `json:"flange"`
		Bolt       figureForm `json:"bolt"`
		Friction   figureForm `json:"friction"`
		Tool       figureForm `json:"tool"`
		Kept       figureForm `json:"kept"`
		Load       float64    `json:"load"`
		LikelyLow  float64    `json:"likelyLow,omitzero"`
		LikelyHigh float64    `json:"likelyHigh,omitzero"`
		Needed     float64    `json:"needed,omitzero"`
		Crushes    float64    `json:"crushes,omitzero"`
		Limit      float64    `json:"limit,omitzero"`
		First      float64    `json:"first,omitzero"`
		Pull       figureForm `json:"pull"`
		Pass       figureForm `json:"pass"`
	}
	wayForm struct {
		School string           `json:"school,omitzero"`
		Shares []float64        `json:"shares,omitempty"`
		Order  sequence.Pattern `json:"order"`
		Start  int              `json:"start"`
		Tools  int              `json:"tools"`
		Rounds int              `json:"rounds"`
		Every  int              `json:"every"`
	}
	likelyForm struct {
		Low    float64 `json:"low"`
		Middle float64 `json:"middle"`
		High   float64 `json:"high"`
	}
	shareForm struct {
		Low    float64      `json:"low"`
		All    float64      `json:"all"`
		High   float64      `json:"high"`
		Mostly bench.Varied `json:"mostly,omitzero"`
	}
	outcomeForm struct {
		Way     wayForm    `json:"way"`
		Pulls   likelyForm `json:"pulls"`
		Minutes likelyForm `json:"minutes"`
		Lowest  likelyForm `json:"lowest"`
		Highest likelyForm `json:"highest"`
		Spread  likelyForm `json:"spread"`
		Rounds  likelyForm `json:"rounds"`
		Still   shareForm  `json:"still"`
		Seats   shareForm  `json:"seats"`
		Crushed shareForm  `json:"crushed"`
		Loose   shareForm  `json:"loose"`
		Remarks []string   `json:"remarks,omitempty"`
	}
)

func comparedOf(k *bench.Kept) *comparedForm {
	if k == nil {
		return nil
	}
	s := k.Subject
	out := &comparedForm{Taken: k.Taken, Runs: k.Runs, Seed: k.Seed, Subject: subjectForm{Bolts: s.Bolts, Circle: figureForm(s.Circle),
		Gasket: figureForm(s.Gasket), Flange: figureForm(s.Flange), Bolt: figureForm(s.Bolt), Friction: figureForm(s.Friction),
		Tool: figureForm(s.Tool), Kept: figureForm(s.Kept), Load: s.Load, LikelyLow: s.LikelyLow, LikelyHigh: s.LikelyHigh, Needed: s.Needed,
		Crushes: s.Crushes, Limit: s.Limit, First: s.First, Pull: figureForm(s.Pull), Pass: figureForm(s.Pass)}}
	for _, o := range k.Ways {
		out.Ways = append(out.Ways, outcomeForm{wayForm(o.Way), likelyForm(o.Pulls), likelyForm(o.Minutes), likelyForm(o.Lowest),
			likelyForm(o.Highest), likelyForm(o.Spread), likelyForm(o.Rounds), shareForm(o.Still), shareForm(o.Seats), shareForm(o.Crushed),
			shareForm(o.Loose), o.Remarks})
	}
	return out
}

func (f *comparedForm) kept() *bench.Kept {
	if f == nil {
		return nil
	}
	s := f.Subject
	out := &bench.Kept{Taken: f.Taken, Runs: f.Runs, Seed: f.Seed, Subject: bench.Subject{Bolts: s.Bolts, Circle: bench.Figure(s.Circle),
		Gasket: bench.Figure(s.Gasket), Flange: bench.Figure(s.Flange), Bolt: bench.Figure(s.Bolt), Friction: bench.Figure(s.Friction),
		Tool: bench.Figure(s.Tool), Kept: bench.Figure(s.Kept), Load: s.Load, LikelyLow: s.LikelyLow, LikelyHigh: s.LikelyHigh,
		Needed: s.Needed, Crushes: s.Crushes, Limit: s.Limit, First: s.First, Pull: bench.Figure(s.Pull), Pass: bench.Figure(s.Pass)}}
	for _, o := range f.Ways {
		out.Ways = append(out.Ways, bench.Outcome{Way: bench.Way(o.Way), Pulls: elastic.Likely(o.Pulls), Minutes: elastic.Likely(o.Minutes),
			Lowest: elastic.Likely(o.Lowest), Highest: elastic.Likely(o.Highest), Spread: elastic.Likely(o.Spread),
			Rounds: elastic.Likely(o.Rounds), Still: bench.Share(o.Still), Seats: bench.Share(o.Seats), Crushed: bench.Share(o.Crushed),
			Loose: bench.Share(o.Loose), Remarks: o.Remarks})
	}
	return out
}
