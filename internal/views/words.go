package views

import "dynacor/core/recipe"

// stepWords are the heading of a kind of step, and the act as done.
func StepWords(d recipe.Does) (word, act string) {
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
