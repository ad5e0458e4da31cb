package server

import (
	"dynacor/core/friction"
	"dynacor/core/pass"
	"dynacor/core/preload"
	"dynacor/core/stay"
	"dynacor/core/thread"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/views"
)

// sentenceWords lists what the core knows, and the site of its own, for the menus of the
// sentence.
func sentenceWords(own []app.OwnFigure) contract.Words {
	w := contract.Words{Grades: thread.Grades()}
	for _, t := range thread.All() {
		w.Threads = append(w.Threads, contract.ThreadWord{Name: t.Name, Series: string(t.Series)})
	}
	for _, f := range own {
		if f.Lubricant != nil && f.Usable() {
			l := lubricantWord(f.Lubricant.Lubricant)
			l.Trial = len(f.Lubricant.Readings) > 0
			w.Lubricants = append(w.Lubricants, l)
		}
	}
	w.Lubricants = append(w.Lubricants, views.Each(friction.Lubricants(), lubricantWord)...)
	for _, p := range pass.Presets() {
		w.Presets = append(w.Presets, contract.PresetWord{Name: p.Name, Shares: p.Shares, Usual: p.Usual, Risk: p.Risk})
	}
	for _, m := range preload.Materials() {
		w.Bases = append(w.Bases, contract.BaseWord{Name: m.Name, Derate: m.Derate})
	}
	for _, m := range stay.Materials() {
		w.Materials = append(w.Materials, contract.MaterialWord{Name: m.Name, Tensile: m.Tensile, Bears: m.Bears})
	}
	return w
}

// furtherWords says what work that follows is.
func furtherWords(work string) contract.FurtherWork {
	v := contract.FurtherWork{Work: work, Act: "Plan it: " + work, Words: "Its recipe leads it, as a plan of its own."}
	switch work {
	case "re-torque":
		v.Act, v.Words = "Turn it to its torque again", "Round at the value it was made to, cold and without pressure, 4 to 24 h after, "+
			"until nothing moves."
	case "loosen":
		v.Act, v.Words = "Loosen it", "Back a quarter turn all round in the order it was made in, then off by hand."
	case "re-check":
		v.Act, v.Words = "Go over it again", "Round at the value until nothing moves, after it has run."
	case "take off", "draw off":
		v.Act, v.Words = "Take it off", "Undone step by step, as its recipe has it."
	case "make", "fit", "tighten":
		v.Act, v.Words = "Make it anew", "By the plan it was made by before, with what is used once taken new."
	}
	return v
}
