package app

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/internal/judge"
	"dynacor/internal/store"
)

// OfferedFor is how long what an instrument read is offered to whoever measures; HeardLately
// since when an instrument counts as there.
const (
	OfferedFor  = 10 * time.Minute
	HeardLately = 5 * time.Minute
)

// mostOffered is how many readings are offered at once.
const mostOffered = 6

// OfferedReading is what an instrument read, in the unit that is asked for.
type OfferedReading struct {
	ID    uuid.UUID
	Tool  string
	At    time.Time
	Value float64
	Unit  unit.Unit
}

// instruments are the kinds of tools that read something that is written down.
func instruments() (out []string) {
	for _, k := range crib.Kinds() {
		if k.Reads() {
			out = append(out, string(k))
		}
	}
	return out
}

// Offered lists what instruments read lately that goes into a unit, the newest first; there
// reports whether one was heard.
func (a *App) Offered(ctx context.Context, in unit.Unit) (list []OfferedReading, there bool, err error) {
	there, err = a.store.HeardKind(ctx, instruments(), a.now().Add(-HeardLately))
	if err != nil {
		return nil, false, err
	}
	if !there {
		return nil, false, nil
	}
	rows, err := a.store.OfferedReadings(ctx, a.now().Add(-OfferedFor), 10*mostOffered)
	if err != nil {
		return nil, there, err
	}
	for _, r := range rows {
		if v, err := unit.Convert(r.Value, unit.Unit(r.Unit), in); err == nil && len(list) < mostOffered {
			list = append(list, OfferedReading{ID: r.ID, Tool: r.Tool, At: r.Got, Value: figures(v), Unit: in})
		}
	}
	return list, there, nil
}

// figures rounds to as many figures as a screen shows of a reading.
func figures(v float64) float64 {
	if v == 0 || math.IsInf(v, 0) || math.IsNaN(v) {
		return v
	}
	at := math.Pow(10, 5-math.Floor(math.Log10(math.Abs(v))))
	return math.Round(v*at) / at
}

// sent looks up the readings that an entry says were sent by instruments, and names these; it
// refuses one that is another's already, and one that is not among what is entered. Each is
// one of the values: named twice, it is not among what is left.
func (a *App) sent(ctx context.Context, entry uuid.UUID, ids []uuid.UUID, values []unit.Quantity) (by string, err error) {
	rows, err := a.store.Readings(ctx, ids)
	if err != nil {
		return "", err
	}
	var tags []string
	left := slices.Clone(values)
	for _, id := range ids {
		i := slices.IndexFunc(rows, func(r store.Reading) bool { return r.ID == id })
		if i < 0 {
			return "", refusal.New(refusal.Unknown, "from", "That reading is not known here, or is named twice.", "Type it.")
		}
		r := rows[i]
		rows = slices.Delete(rows, i, i+1)
		if r.Verdict != ReadOffered && !(r.Verdict == ReadClaimed && r.Target == entry.String()) { // the same entry again may
			return "", refusal.New(refusal.Contradicts, "from", fmt.Sprintf("%s's reading of %g %s is %s: %s", r.Tool, r.Value, r.Unit,
				r.Verdict, r.Says), "Measure again, or type it.")
		}
		k := slices.IndexFunc(left, func(q unit.Quantity) bool { return sameReading(r, q) })
		if k < 0 {
			return "", refusal.New(refusal.Contradicts, "from", fmt.Sprintf("%s read %g %s; that is none of what is entered.", r.Tool,
				r.Value, r.Unit), "Take it anew, or leave it out.")
		}
		left = slices.Delete(left, k, k+1)
		if !slices.Contains(tags, r.Tool) {
			tags = append(tags, r.Tool)
		}
	}
	by = strings.Join(tags, " + ")
	if len(ids) < len(values) {
		by += fmt.Sprintf(", %d of %d", len(ids), len(values))
	}
	return by, nil
}

// sameReading reports whether what is entered is what an instrument read, in its unit.
func sameReading(r store.Reading, q unit.Quantity) bool {
	x, err := unit.Convert(r.Value, unit.Unit(r.Unit), q.Unit)
	return err == nil && unit.AtMost(math.Abs(figures(x)-q.Value), 1e-9*math.Abs(q.Value))
}

// within gives each of some values a unit.
func within(values []float64, of func(i int) unit.Unit) []unit.Quantity {
	out := make([]unit.Quantity, len(values))
	for i, v := range values {
		out[i] = unit.Of(v, of(i))
	}
	return out
}

// takes names the instruments of an entry in it, where readings were sent.
func (a *App) takes(ctx context.Context, c *cell, n *judge.NewEntry) (err error) {
	if len(n.From) == 0 {
		return nil
	}
	switch x := n.Content.(type) {
	case record.Done:
		units := c.acts.Units(x.Step)
		if x.Bolt > 0 || len(units) == 0 {
			break
		}
		x.Taken, err = a.sent(ctx, n.ID, n.From, within(x.Readings, func(i int) unit.Unit { return units[min(i, len(units)-1)] }))
		n.Content = x
		return err
	case record.Setting:
		t, there := c.stageTool(x)
		if !there {
			break
		}
		x.Taken, err = a.sent(ctx, n.ID, n.From, within(x.Readings, func(int) unit.Unit { return t.Setting.Unit }))
		n.Content = x
		return err
	}
	return refusal.New(refusal.Contradicts, "from", "Nothing is measured by this act.", "Leave it out.")
}

// claimed notes of an entry's readings what they were taken for.
func (a *App) claimed(ctx context.Context, n judge.NewEntry, r Run) error {
	if len(n.From) == 0 {
		return nil
	}
	words := "taken for a rig's gauge"
	if x, done := n.Content.(record.Done); done {
		words = "taken for: " + r.State.Describe(x.Act)
	}
	return a.store.ClaimReadings(ctx, n.From, &n.Run, n.ID, ReadClaimed, words)
}

// stageTool is the tool that a setting is of.
func (c *cell) stageTool(x record.Setting) (*record.StageTool, bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.state == nil {
		return nil, false
	}
	return c.state.StageTool(x.Group, x.Share, x.Hand)
}
