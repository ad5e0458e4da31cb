package server

import (
	"github.com/google/uuid"

	"dynacor/core/plan"
	"dynacor/core/run"
	"dynacor/internal/server/contract"
)

func parseID(s string) uuid.UUID {
	id, _ := uuid.Parse(s) // ids of entries come from the database as UUIDs
	return id
}

func value[T any](p *T) T {
	var zero T
	if p == nil {
		return zero
	}
	return *p
}

// plainContent reads an entry that needs nothing looked up.
func plainContent(kind run.Kind, c contract.EntryContent) run.Content {
	switch kind {
	case run.KindCaution:
		if step := value(c.Step); step != "" {
			return run.Caution{Step: step}
		}
		return run.Caution{Points: plan.Cautions()}
	case run.KindStep:
		return run.Step{Step: value(c.Step), Bolt: value(c.Bolt), Share: value(c.Share), Turn: value(c.Turn), Stroke: value(c.Stroke), Lock: value(c.Lock), Round: value(c.Round),
			Readings: value(c.Readings), Held: value(c.Held), Bolts: value(c.Bolts), Marks: value(c.Marks), Moved: value(c.Moved), Reading: fromOptional(c.Reading), Confirmed: value(c.Confirmed), Skipped: value(c.Skipped), Reason: value(c.Reason)}
	case run.KindPull:
		return run.Pull{Bolt: value(c.Bolt), Pass: value(c.Pass), NoTurn: value(c.NoTurn), Reading: fromOptional(c.Reading), Confirmed: value(c.Confirmed)}
	case run.KindCheck:
		return run.Check{Bolt: value(c.Bolt), Round: value(c.Round), Moved: value(c.Moved), Reading: fromOptional(c.Reading), Confirmed: value(c.Confirmed)}
	case run.KindTrouble:
		return run.Trouble{Bolt: value(c.Bolt), What: run.TroubleKind(value(c.Trouble)), Remedy: run.Remedy(value(c.Remedy)), Note: value(c.Note), Step: value(c.Step)}
	case run.KindPause:
		return run.Pause{Note: value(c.Note), HandOverTo: value(c.HandOverTo)}
	case run.KindResume:
		return run.Resume{Note: value(c.Note)}
	case run.KindMeasurement:
		return run.Measurement{Phase: run.Phase(value(c.Phase)), Gaps: value(c.Gaps)}
	case run.KindDecision:
		return run.Decision{Reason: value(c.Reason)}
	case run.KindSignature:
		return run.Signature{Part: run.Part(value(c.Part)), Reason: value(c.Reason)}
	}
	return nil
}
