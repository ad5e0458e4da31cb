package judge

import (
	"fmt"
	"strings"
	"time"

	"dynacor/core/refusal"
)

// What both judges refuse besides the core.

// Replaced refuses an entry of a run whose plan was replaced.
func Replaced() error {
	return &Error{Kind: Conflict, Code: "plan-replaced", Text: "A newer revision of this plan was issued; this run is closed.",
		Way: "Open the joint again."}
}

// Taken refuses another entry under the identity of one that is stored.
func Taken() error {
	return &Error{Kind: Conflict, Code: "entry-taken", Field: "id", Text: "Another entry with this identity is stored already.",
		Way: "Send it with a new identity."}
}

// StillOnto refuses what was prepared over another run than has so many entries.
func (n NewEntry) StillOnto(has int) error {
	if n.Onto == nil || *n.Onto == has {
		return nil
	}
	return &Error{Kind: Conflict, Code: "moved-on", Text: fmt.Sprintf("It was prepared over %d entries; the run has %d now.", *n.Onto, has),
		Way: "Look at what came since, then prepare it anew."}
}

// NotTogether refuses a login that nobody has, as it refuses a wrong PIN.
func NotTogether() error {
	return &Error{Kind: WrongPin, Code: "wrong-pin", Field: "pin", Text: "That name and PIN do not go together.",
		Way: "Check both and try again."}
}

// SayWhy refuses a signature without a word where the site asks for one with each.
func SayWhy() error {
	return refusal.New(refusal.NeedsReason, "reason", "A word goes with every signature at this site.", "Say what you saw.")
}

// TriedWith refuses to try bolts in doubt with a tool that is not in the crib, or out of date.
func TriedWith(tag string, there bool, due, now time.Time) error {
	switch {
	case strings.TrimSpace(tag) == "": // the core says so
		return nil
	case !there:
		return refusal.New(refusal.Unknown, "with", fmt.Sprintf("There is no %s in the crib.", tag), "Name the tag of a tool of the crib.")
	case !due.IsZero() && !now.Before(due.AddDate(0, 0, 1)):
		return refusal.New(refusal.OutOfDate, "with", fmt.Sprintf("%s is out of calibration since %s.", tag, due.Format("2 January 2006")),
			"Take another tool.")
	}
	return nil
}
