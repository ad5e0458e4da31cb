package record

import (
	"slices"
	"strings"
)

// Deviation is something the record shows first. Outside marks one that is
// outside a limit or was left undone, which the checker must answer with a
// reason. Entry is empty where the plan itself deviates.
type Deviation struct {
	Entry   string
	Group   string
	Bolt    int
	Outside bool
	Text    string
}

// AnyOutside reports whether one of the deviations is outside a limit.
func AnyOutside(list []Deviation) bool {
	return slices.ContainsFunc(list, func(d Deviation) bool { return d.Outside })
}

// Done says what was done about a trouble.
func (r Remedy) Done() string {
	switch r {
	case Replaced:
		return "bolt replaced and begun anew"
	case Loosened:
		return "bolt loosened and begun anew"
	case Upped:
		return "brought up to its turn, once, by its mark"
	case Leave:
		return "left for the end of the stage"
	}
	return "tried again"
}

// Trim takes the full stop off a sentence that goes on.
func Trim(text string) string { return strings.TrimSuffix(text, ".") }
