package server

import (
	"context"

	"dynacor/core/trace"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/store"
	"dynacor/internal/views"
)

// OpenReadings lists what linked tools read that somebody has to say something of.
func (s *Server) OpenReadings(ctx context.Context, r contract.OpenReadingsRequestObject) (contract.OpenReadingsResponseObject, error) {
	list, linked, err := s.app.OpenReadings(ctx, r.Run)
	return contract.OpenReadings200JSONResponse{Readings: views.Each(list, linkedView), Linked: views.OrNone(linked)}, err
}

// OfferedReadings lists what instruments read lately.
func (s *Server) OfferedReadings(ctx context.Context, r contract.OfferedReadingsRequestObject) (contract.OfferedReadingsResponseObject, error) {
	list, there, err := s.app.Offered(ctx, unit.Unit(r.Params.Unit))
	out := contract.OfferedReadings200JSONResponse{There: there}
	for _, x := range list {
		out.Readings = append(out.Readings, contract.OfferedReading{ID: x.ID, Tool: x.Tool, At: x.At, Value: x.Value, Unit: string(x.Unit)})
	}
	out.Readings = views.OrNone(out.Readings)
	return out, err
}

// GetReading shows what a linked tool read.
func (s *Server) GetReading(ctx context.Context, r contract.GetReadingRequestObject) (contract.GetReadingResponseObject, error) {
	x, err := s.app.Reading(ctx, r.Reading)
	return contract.GetReading200JSONResponse(linkedView(x)), err
}

// SettleReading says what a reading is that nothing became of by itself.
func (s *Server) SettleReading(ctx context.Context, r contract.SettleReadingRequestObject) (contract.SettleReadingResponseObject, error) {
	err := s.app.SettleReading(ctx, who(ctx), r.Reading, r.Body.Run, r.Body.Claim, r.Body.Reason)
	return contract.SettleReading204Response{}, err
}

// MakeToolKey gives a tool a key to sign in with.
func (s *Server) MakeToolKey(ctx context.Context, r contract.MakeToolKeyRequestObject) (contract.MakeToolKeyResponseObject, error) {
	key, err := s.app.MakeToolKey(ctx, who(ctx), r.Tool)
	return contract.MakeToolKey200JSONResponse{Key: key}, err
}

// DropToolKey takes a tool's key away.
func (s *Server) DropToolKey(ctx context.Context, r contract.DropToolKeyRequestObject) (contract.DropToolKeyResponseObject, error) {
	return contract.DropToolKey204Response{}, s.app.DropToolKey(ctx, who(ctx), r.Tool)
}

func linkedView(x app.LinkedReading) contract.LinkedReading {
	v := readingView(x.Reading)
	v.Trace = views.Each(x.Trace, func(p trace.Point) []float64 { return []float64{p.Angle, p.Torque} })
	v.Story, v.Why = string(x.Story.Kind), x.Story.Why
	v.Target, v.Low, v.High = x.Aim.Value, x.Aim.Low, x.Aim.High
	return v
}

func readingView(x store.Reading) contract.LinkedReading {
	return contract.LinkedReading{ID: x.ID, Tool: x.Tool, At: x.AtTool, Value: x.Value, Unit: x.Unit, Angle: x.Angle,
		Verdict: contract.LinkedReadingVerdict(x.Verdict), Says: x.Says, Trace: [][]float64{}}
}

func linkView(l app.ToolLink) *contract.ToolLink {
	v := contract.ToolLink{Since: l.Since, Readings: views.Each(l.Readings, readingView),
		Lines: views.Each(l.Lines, func(b store.BadLine) contract.BadLine {
			return contract.BadLine{At: b.At, Says: b.Says, Line: b.Line, More: b.More}
		})}
	if l.Seen != nil {
		v.Seen = *l.Seen
	}
	return &v
}
