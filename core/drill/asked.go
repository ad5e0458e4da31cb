package drill

import (
	"fmt"
	"time"

	"dynacor/core/refusal"
)

// The bounds of how long a drill that was passed counts, months.
const (
	leastMonths = 1
	mostMonths  = 60
)

// CheckMonths refuses a time for which nobody keeps what they learnt, or none.
func CheckMonths(months int) error {
	if months >= leastMonths && months <= mostMonths {
		return nil
	}
	return refusal.Number(refusal.OutOfRange, "months", float64(months), mostMonths, "months",
		fmt.Sprintf("A drill that was passed counts for %d to %d months, not %d.", leastMonths, mostMonths, months),
		"Give a number between them.")
}

// Until is the last day for which a drill that is passed now counts.
func Until(now time.Time, months int) time.Time { return now.AddDate(0, months, 0) }
