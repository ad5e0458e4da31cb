package work

import (
	"fmt"
	"strings"
	"time"

	"dynacor/core/record"
	"dynacor/core/refusal"
)

// acceptGap refuses a gap of which nobody could tell what is missing.
func (s *State) acceptGap(c record.Gap) error {
	switch {
	case strings.TrimSpace(c.Why) == "":
		return refusal.New(refusal.NeedsReason, "why", "Nobody looks for it any more: why?", "Say that it was found empty, or is lost or wiped.")
	case c.Seen.IsZero() || c.Acts < 0:
		return refusal.New(refusal.Missing, "seen", "Nobody knows when it was last heard of.", "See the site's log.")
	}
	return nil
}

// gapWords says what is missing, with times as the record has them.
func gapWords(c record.Gap, zone *time.Location) string {
	const at = "2 Jan 2006 15:04"
	device := c.Device
	if device == "" {
		device = "a device"
	}
	seen := c.Seen.In(zone).Format(at)
	if c.Acts > 0 {
		seen = fmt.Sprintf("%s, when %d acts of this joint waited on it, the oldest of %s", seen, c.Acts, c.Since.In(zone).Format(at))
	}
	return fmt.Sprintf("%s of %s is lost: %s. Last heard of %s. What was done there and not sent is not in this record", device, c.By,
		record.Trim(c.Why), seen)
}
