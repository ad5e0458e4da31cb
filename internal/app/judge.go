package app

import (
	"context"

	"github.com/google/uuid"

	"dynacor/core/work"
)

// JudgeReadings gives the verdict on readings as they are typed, taken after held
// minutes; nothing is stored.
func (a *App) JudgeReadings(ctx context.Context, runID uuid.UUID, step string, readings []float64, held float64) (work.Typed, error) {
	r, err := a.Run(ctx, runID)
	if err != nil {
		return work.Typed{}, err
	}
	return r.State.Judge(step, readings, held)
}
