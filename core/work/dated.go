package work

import (
	"fmt"
	"time"

	"dynacor/core/record"
)

// FarBack is how long an entry may wait on a device before its date is asked about: longer
// than a weekend in a pit without a network.
const FarBack = 72 * time.Hour

// dated says what is odd about the date of an entry that is stored at a time; empty for
// nothing.
func (p *Plan) dated(e record.Entry, stored time.Time) string {
	const as = "2 Jan 2006 15:04"
	switch {
	case !p.IssuedAt.IsZero() && e.AtTool.Before(p.IssuedAt.Truncate(time.Second)):
		return fmt.Sprintf("it is dated %s, before its plan was issued, %s", e.AtTool.Format(as),
			p.IssuedAt.In(e.AtTool.Location()).Format(as))
	case !stored.IsZero() && stored.Sub(e.AtTool) > FarBack:
		return fmt.Sprintf("it is dated %s, %.0f days before it was stored", e.AtTool.Format(as), stored.Sub(e.AtTool).Hours()/24)
	}
	return ""
}
