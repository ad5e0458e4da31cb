package server

import (
	"dynacor/core/friction"
	"dynacor/core/pass"
	"dynacor/core/recipe"
	"dynacor/core/sequence"
	"dynacor/core/thread"
	"dynacor/internal/server/contract"
)

// words lists what the core knows, for the menus of the sentence.
func words() contract.Words {
	w := contract.Words{Grades: thread.Grades()}
	for _, t := range thread.All() {
		w.Threads = append(w.Threads, contract.ThreadWord{Name: t.Name, Series: string(t.Series)})
	}
	for _, l := range friction.Lubricants() {
		w.Lubricants = append(w.Lubricants, contract.LubricantWord{Name: l.Name, Short: l.Short, Low: l.Low, Nominal: l.Nominal,
			High: l.High, Dry: l.Dry})
	}
	for _, p := range pass.Presets() {
		w.Presets = append(w.Presets, contract.PresetWord{Name: p.Name, Shares: p.Shares, Usual: p.Usual, Risk: p.Risk})
	}
	return w
}

// stepWords are the heading of a kind of step, and the act as done.
func stepWords(d recipe.Does) (word, act string) {
	switch d {
	case recipe.Check:
		return "Check", "It is so"
	case recipe.Match:
		return "Match", "It matches"
	case recipe.Lubricate:
		return "Lubricate", "Lubricated"
	case recipe.KeepDry:
		return "Keep dry", "It is dry"
	case recipe.Place:
		return "Bring together", "Together"
	case recipe.Lock:
		return "Lock", "Locked and on"
	case recipe.Mark:
		return "Mark", "Marked"
	case recipe.Measure:
		return "Measure", "Keep the reading"
	case recipe.Adjust:
		return "Adjust and measure", "Keep the reading"
	case recipe.Charge:
		return "Charge", "Keep the reading"
	case recipe.Test:
		return "Test", "Keep the reading"
	case recipe.Wait:
		return "Wait", "Keep the time"
	}
	return string(d), "Done"
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
