package server

import (
	"cmp"

	"dynacor/core/friction"
	"dynacor/core/pass"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/sequence"
	"dynacor/core/stay"
	"dynacor/core/thread"
	"dynacor/internal/app"
	"dynacor/internal/server/contract"
)

// words lists what the core knows, and the site of its own, for the menus of the
// sentence.
func words(own []app.OwnFigure) contract.Words {
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
	w.Lubricants = append(w.Lubricants, each(friction.Lubricants(), lubricantWord)...)
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

// stepWords are the heading of a kind of step, and the act as done.
func stepWords(d recipe.Does) (word, act string) {
	if w, ok := wordsOfSteps[d]; ok {
		return w[0], w[1]
	}
	return string(d), "Done"
}

var wordsOfSteps = map[recipe.Does][2]string{
	recipe.Check: {"Check", "It is so"}, recipe.Match: {"Match", "It matches"}, recipe.Lubricate: {"Lubricate", "Lubricated"},
	recipe.KeepDry: {"Keep dry", "It is dry"}, recipe.Place: {"Bring together", "Together"}, recipe.Lock: {"Lock", "Locked and on"},
	recipe.Mark: {"Mark", "Marked"}, recipe.Measure: {"Measure", "Keep the reading"},
	recipe.Adjust: {"Adjust and measure", "Keep the reading"}, recipe.Charge: {"Charge", "Keep the reading"},
	recipe.Test: {"Test", "Keep the reading"}, recipe.Wait: {"Wait", "Keep the time"},
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

// orderWords says an order.
func orderWords(p sequence.Pattern) string { return cmp.Or(wordsOfOrders[p], string(p)) }

var wordsOfOrders = map[sequence.Pattern]string{
	sequence.Cross4: "cross, four quarters", sequence.Apart4: "cross, foursomes apart",
	sequence.Cross8: "cross, eight eighths", sequence.Circular: "circular",
	sequence.Backward: "counter-clockwise", sequence.Alternating: "turn about", sequence.CentreOut: "from the middle outward",
}
