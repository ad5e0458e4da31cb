package server

import (
	"fmt"

	"github.com/google/uuid"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/internal/app"
	"dynacor/internal/server/contract"
)

// newEntry reads an entry as it is asked for.
func newEntry(run uuid.UUID, b contract.NewEntry) (app.NewEntry, error) {
	n := app.NewEntry{Run: run, ID: b.ID, At: b.At, Confirmed: value(b.Confirmed), Pin: text(b.Pin), As: text(b.As)}
	what, err := b.Content.ValueByDiscriminator()
	if err != nil {
		return n, refusal.New(refusal.Unknown, "content", fmt.Sprintf("What it says cannot be read: %v.", err),
			"Correct it and send it again.")
	}
	switch c := what.(type) {
	case contract.DoneContent:
		n.Content = done(c)
	case contract.CautionContent:
		n.Content = record.Caution{Step: c.Step}
	case contract.ToolingContent:
		n.Tools = &app.ToolChoice{Group: c.Group, Wrench: text(c.Wrench), Multiplier: text(c.Multiplier), ByHand: handTool(c.ByHand)}
	case contract.SettingContent:
		n.Content = record.Setting{Group: c.Group, Share: c.Share}
	case contract.TroubleContent:
		n.Content = record.Trouble{Group: c.Group, Bolt: c.Bolt, What: record.TroubleKind(c.What), Remedy: record.Remedy(c.Remedy),
			Note: text(c.Note)}
	case contract.CorrectionContent:
		x := record.Correction{Of: c.Of.String(), Reason: c.Reason}
		if c.Instead != nil {
			x.Instead = done(*c.Instead)
		}
		n.Content = x
	case contract.ReportContent:
		n.Content = record.Report{Tool: c.Tool, What: record.ReportKind(c.What), Note: text(c.Note)}
	case contract.AnswerContent:
		n.Content = record.Answer{Tool: c.Tool, Reason: c.Reason}
	case contract.DecisionContent:
		n.Content = record.Decision{Reason: c.Reason, Tool: text(c.Tool)}
	case contract.PauseContent:
		n.Content = record.Pause{Note: text(c.Note), HandOverTo: text(c.HandOverTo)}
	case contract.ResumeContent:
		n.Content = record.Resume{Note: text(c.Note)}
	case contract.SignatureContent:
		n.Content = record.Signature{Part: record.Part(c.Part), Reason: text(c.Reason)}
	}
	return n, nil
}

func done(c contract.DoneContent) record.Done {
	return record.Done{
		Act: record.Act{Step: c.Step, Bolt: value(c.Bolt), Share: value(c.Share), Turn: value(c.Turn), Stroke: value(c.Stroke),
			Lock: value(c.Lock), Round: value(c.Round)},
		Moved: value(c.Moved), NoTurn: value(c.NoTurn), Reading: fromOptional(c.Reading), Readings: value(c.Readings),
		Bolts: value(c.Bolts),
		Held:  value(c.Held), Marks: value(c.Marks), Skipped: value(c.Skipped), Reason: text(c.Reason)}
}

// doneView is an act as it was done, for a screen that puts it right.
func doneView(c record.Done) *contract.DoneContent {
	v := &contract.DoneContent{Kind: contract.Done, Step: c.Step, Reading: optional(c.Reading), Reason: some(c.Reason)}
	for _, n := range []struct {
		to **int
		v  int
	}{{&v.Bolt, c.Bolt}, {&v.Stroke, c.Stroke}, {&v.Round, c.Round}} {
		if n.v != 0 {
			*n.to = &n.v
		}
	}
	for _, x := range []struct {
		to **float64
		v  float64
	}{{&v.Share, c.Share}, {&v.Turn, c.Turn}, {&v.Held, c.Held}} {
		if x.v != 0 {
			*x.to = &x.v
		}
	}
	for _, b := range []struct {
		to **bool
		v  bool
	}{{&v.Lock, c.Lock}, {&v.Moved, c.Moved}, {&v.NoTurn, c.NoTurn}, {&v.Skipped, c.Skipped}} {
		if b.v {
			*b.to = &b.v
		}
	}
	if len(c.Readings) > 0 {
		v.Readings = &c.Readings
	}
	if len(c.Bolts) > 0 {
		v.Bolts = &c.Bolts
	}
	if len(c.Marks) > 0 {
		v.Marks = &c.Marks
	}
	return v
}
