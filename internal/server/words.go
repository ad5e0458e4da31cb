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
	for _, o := range []struct {
		p           sequence.Pattern
		words, note string
	}{
		{sequence.Cross4, "cross, four quarters", "opposite, then across; a multiple of 4 bolts"},
		{sequence.Cross8, "cross, eight eighths", "for large rings; a multiple of 8 bolts"},
		{sequence.Star, "star", "any number of bolts"},
		{sequence.Circular, "circular", "one after the other, clockwise"},
	} {
		w.Orders = append(w.Orders, contract.OrderWord{Name: string(o.p), Words: o.words, Note: o.note})
	}
	return w
}
