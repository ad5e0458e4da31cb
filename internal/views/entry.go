package views

import (
	"fmt"
	"time"

	"dynacor/internal/id"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/internal/contract"
	"dynacor/internal/judge"
)

// NewEntry reads an entry as it is asked for.
func NewEntry(run id.UUID, b contract.NewEntry) (judge.NewEntry, error) {
	n := judge.NewEntry{From: b.From, Run: run, ID: b.ID, At: b.At, Off: time.Duration(b.Off * float64(time.Second)),
		Confirmed: b.Confirmed, Apart: b.Apart, Pin: b.Pin,
		As: b.As, Onto: b.Onto}
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
		n.Tools = &judge.ToolChoice{Group: c.Group, Wrench: c.Wrench, Hydraulic: c.Hydraulic, Tensioner: c.Tensioner, Pump: c.Pump,
			Gauge: c.Gauge, First: c.First, Multiplier: c.Multiplier, Second: c.Second,
			Offset: c.Offset, Angle: c.Angle, Extension: c.Extension, Socket: c.Socket, ByHand: HandTool(c.ByHand),
			Beside: Each(c.Beside, besideTool)}
	case contract.SettingContent:
		n.Content = record.Setting{Group: c.Group, Share: c.Share, Rig: c.Rig, Readings: c.Readings, Hand: c.Hand}
	case contract.UpsetContent:
		n.Content = record.Upset{Group: c.Group, What: record.UpsetKind(c.What), Note: c.Note}
	case contract.TroubleContent:
		n.Content = record.Trouble{Group: c.Group, Bolt: c.Bolt, What: record.TroubleKind(c.What), Remedy: record.Remedy(c.Remedy),
			Note: c.Note}
	case contract.CorrectionContent:
		x := record.Correction{Of: c.Of.String(), Reason: c.Reason}
		if c.Instead != nil {
			x.Instead = done(*c.Instead)
		}
		n.Content = x
	case contract.ReportContent:
		n.Content = record.Report{Tool: c.Tool, What: record.ReportKind(c.What), Note: c.Note}
	case contract.LubricantContent:
		n.Content = record.Lubricant{Group: c.Group, Is: c.Is, Note: c.Note}
	case contract.AnswerContent:
		n.Content = record.Answer{Tool: c.Tool, How: record.AnswerHow(c.How), Reason: c.Reason}
	case contract.RecheckContent:
		n.Content = record.Recheck{Tool: c.Tool, With: c.With, Group: c.Group, Bolts: c.Bolts, Readings: c.Readings}
	case contract.DecisionContent:
		n.Content = record.Decision{Reason: c.Reason, Tool: c.Tool}
	case contract.PauseContent:
		n.Content = record.Pause{Note: c.Note, HandOverTo: c.HandOverTo}
	case contract.ResumeContent:
		n.Content = record.Resume{Note: c.Note}
	case contract.StartedContent:
		n.Content = record.Started{Step: c.Step}
	case contract.PhotoContent:
		n.Content = record.Photo{Step: c.Step, Hash: c.Hash, What: c.What}
	case contract.SignatureContent:
		n.Content = record.Signature{Part: record.Part(c.Part), Reason: c.Reason}
	}
	return n, nil
}

// besideTool is a tool that works at the same time as the first.
func besideTool(c contract.ToolBeside) judge.ToolChoice {
	return judge.ToolChoice{Wrench: c.Wrench, Hydraulic: c.Hydraulic, Tensioner: c.Tensioner, Pump: c.Pump, Gauge: c.Gauge, First: c.First,
		Multiplier: c.Multiplier, Second: c.Second, Offset: c.Offset, Angle: c.Angle, Extension: c.Extension, Socket: c.Socket,
		ByHand: HandTool(c.ByHand)}
}

func done(c contract.DoneContent) record.Done {
	return record.Done{Moved: c.Moved, NoTurn: c.NoTurn, Angle: c.Angle, Reading: FromQuantity(c.Reading),
		Readings: c.Readings, Bolts: c.Bolts, Held: c.Held, Marks: c.Marks, Skipped: c.Skipped, Reason: c.Reason,
		Tried: c.Tried, LetGo: c.LetGo, Act: record.Act{Step: c.Step, Bolt: c.Bolt, Share: c.Share, Turn: c.Turn, Stroke: c.Stroke,
			Lock: c.Lock, Round: c.Round, Item: c.Item, Release: c.Release, Photo: c.Photo}}
}

// doneView is an act as it was done, for a screen that puts it right.
func doneView(c record.Done) *contract.DoneContent {
	return &contract.DoneContent{Kind: contract.Done, Step: c.Step, Bolt: c.Bolt, Share: c.Share, Turn: c.Turn, Stroke: c.Stroke,
		Lock: c.Lock, Round: c.Round, Moved: c.Moved, NoTurn: c.NoTurn, Angle: c.Angle, Reading: Quantity(c.Reading),
		Readings: c.Readings, Bolts: c.Bolts, Held: c.Held, Marks: c.Marks, Skipped: c.Skipped, Reason: c.Reason,
		Tried: c.Tried, LetGo: c.LetGo, Item: c.Item, Release: c.Release, Photo: c.Photo}
}
