package recipe

import (
	"fmt"
	"slices"

	"dynacor/core/refusal"
)

// Caution is what can go wrong at a step.
type Caution struct {
	Kind CautionKind
	Text string
	Why  string // the reason, in one sentence; empty where it says it itself
}

// CautionKind is what a caution is about; each has its word and its shape on the
// screen.
type CautionKind string

// The kinds of caution, after how ISO 3864 parts its signs: what can hurt
// somebody, what must not be done, what must be worn or held to. The fourth is
// the craft's own: what ruins the joint and is not seen afterwards.
const (
	Danger    CautionKind = "danger"
	Forbidden CautionKind = "forbidden"
	Required  CautionKind = "required"
	Spoils    CautionKind = "spoils the joint"
)

// CautionKinds lists them, the gravest first.
func CautionKinds() []CautionKind { return []CautionKind{Danger, Forbidden, Required, Spoils} }

// String is the caution as the record has it.
func (c Caution) String() string { return fmt.Sprintf("%s: %s", c.Kind, c.Text) }

func (c Caution) check(field string) error {
	if !slices.Contains(CautionKinds(), c.Kind) {
		return refusal.New(refusal.Unknown, field+".kind", fmt.Sprintf("Unknown kind of caution %q.", string(c.Kind)),
			"Choose danger, forbidden, required or spoils the joint.")
	}
	if c.Text == "" {
		return refusal.New(refusal.Missing, field+".text", "A caution says nothing.", "Say what can go wrong.")
	}
	return nil
}
