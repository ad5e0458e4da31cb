package derive

import (
	"fmt"
	"math"
)

// Comes is what the derivation comes to, with its unit; loads from 1 kN on in kN.
func (d Derivation) Comes() string {
	v := d.Result()
	if d.Unit == "N" && math.Abs(v) >= 1000 {
		return Amount(v/1000, "kN")
	}
	return Amount(v, d.Unit)
}

// Uncertainty says how uncertain the number is, and what makes the most of it.
func (d Derivation) Uncertainty() string {
	u, largest := d.Uncertain()
	if largest < 0 {
		return "No uncertainty is counted: what goes in is taken as it is."
	}
	return fmt.Sprintf("± %s %% in nineteen of twenty; most of it is the %s.", Digits(math.Round(1000*u)/10), d.Symbols[largest].Name)
}

// Changes says what would change the number most.
func (d Derivation) Changes() string {
	i, follows := d.Most()
	if i < 0 {
		return "Nothing changes it a little: it goes in steps."
	}
	word := "more"
	if follows < 0 {
		word = "less"
	}
	return fmt.Sprintf("1 %% more of %s, the %s: %s %% %s.", d.Symbols[i].Sign, d.Symbols[i].Name,
		Digits(math.Round(100*math.Abs(follows))/100),
		word)
}
