package server

import (
	"dynacor/core/friction"
	"dynacor/core/pass"
	"dynacor/core/plan"
	"dynacor/core/sequence"
	"dynacor/core/thread"
	"dynacor/internal/server/contract"
)

// words lists what the core knows, for the menus of the sentence.
func words() contract.Words {
	w := contract.Words{Grades: thread.Grades(), Fastenings: plan.Fastenings()}
	for _, t := range thread.All() {
		w.Threads = append(w.Threads, contract.ThreadWord{Name: t.Name, Series: string(t.Series)})
	}
	for _, g := range plan.GasketKinds() {
		w.Gaskets = append(w.Gaskets, contract.GasketWord{Name: g.Name, SeatingStress: g.SeatingStress})
	}
	for _, l := range friction.Lubricants() {
		w.Lubricants = append(w.Lubricants, contract.LubricantWord{Name: l.Name, Short: l.Short, Low: l.Low, Nominal: l.Nominal, High: l.High, Dry: l.Dry})
	}
	for _, p := range pass.Presets() {
		w.Presets = append(w.Presets, contract.PresetWord{Name: p.Name, Shares: p.Shares, Usual: p.Usual, Risk: p.Risk})
	}
	for _, p := range []sequence.Pattern{sequence.Cross4, sequence.Cross8, sequence.Star, sequence.Circular} {
		words, note := orderWords(p)
		w.Orders = append(w.Orders, contract.OrderWord{Name: string(p), Words: words, Note: note})
	}
	return w
}

// orderWords says an order, and where it goes.
func orderWords(p sequence.Pattern) (words, note string) {
	switch p {
	case sequence.Cross4:
		return "cross, four quarters", "opposite, then across; a multiple of 4 bolts"
	case sequence.Cross8:
		return "cross, eight eighths", "for large rings; a multiple of 8 bolts"
	case sequence.Star:
		return "star", "any number of bolts"
	case sequence.Circular:
		return "circular", "one after the other, clockwise"
	case sequence.Backward:
		return "counter-clockwise", "one after the other, the other way round"
	case sequence.Alternating:
		return "turn about", "one side and the other"
	case sequence.CentreOut:
		return "from the middle outward", "nearest the stiff middle first"
	}
	return string(p), ""
}
