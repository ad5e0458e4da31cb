package server

import (
	"context"
	"time"

	"dynacor/core/drill"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/trying"
	"dynacor/internal/views"
)

// GetDrills answers with the drills as whoever asks finds them.
func (s *Server) GetDrills(ctx context.Context, _ contract.GetDrillsRequestObject) (contract.GetDrillsResponseObject, error) {
	d, err := s.app.Drills(ctx, who(ctx))
	return contract.GetDrills200JSONResponse{Drills: views.Each(d.Drills, progressView),
		Asked: views.Each(d.Asked, func(x app.DrillAsked) contract.DrillAsked {
			return contract.DrillAsked{Recipe: x.Recipe, Title: x.Title, Kind: contract.DrillKind(x.Kind), Months: x.Months, By: x.By, At: x.At}
		}),
		Kinds: views.Each(d.Recipes, func(e app.Edition) contract.DrillJoint {
			return contract.DrillJoint{Recipe: e.ID, Title: e.Title}
		})}, err
}

// BeginDrill begins a go at a drill.
func (s *Server) BeginDrill(ctx context.Context, r contract.BeginDrillRequestObject) (contract.BeginDrillResponseObject, error) {
	g, err := s.app.BeginDrill(ctx, who(ctx), drill.Kind(r.Body.Kind))
	return contract.BeginDrill200JSONResponse{ID: g.ID, Kind: contract.DrillKind(g.Kind), Seed: int(g.Seed),
		Material: materialView(g.Material)}, err
}

// EndDrill ends a go.
func (s *Server) EndDrill(ctx context.Context, r contract.EndDrillRequestObject) (contract.EndDrillResponseObject, error) {
	p, err := s.app.EndDrill(ctx, who(ctx), r.Go, views.Each(r.Body.Answers, trying.Given))
	return contract.EndDrill200JSONResponse(progressView(p)), err
}

// AskDrill asks for a drill to be passed before a kind of joint is made.
func (s *Server) AskDrill(ctx context.Context, r contract.AskDrillRequestObject) (contract.AskDrillResponseObject, error) {
	return contract.AskDrill204Response{}, s.app.AskDrill(ctx, who(ctx), r.Body.Recipe, drill.Kind(r.Body.Kind), r.Body.Months)
}

// UnaskDrill asks for it no more.
func (s *Server) UnaskDrill(ctx context.Context, r contract.UnaskDrillRequestObject) (contract.UnaskDrillResponseObject, error) {
	return contract.UnaskDrill204Response{}, s.app.UnaskDrill(ctx, who(ctx), r.Recipe, drill.Kind(r.Drill))
}

func materialView(m app.Material) contract.DrillMaterial {
	return contract.DrillMaterial{Tools: trying.ToolsView(m.Tools), Stacks: views.Each(m.Stacks, func(x drill.Stack) contract.DrillStack {
		r := m.Recipes[x.Recipe]
		return contract.DrillStack{Recipe: x.Recipe, Title: x.Title, Stack: *views.Stack(r, r.FirstVariant())}
	})}
}

// mostWent is how many goes are told of a drill: the latest.
const mostWent = 8

func progressView(p app.Progress) contract.DrillProgress {
	v := contract.DrillProgress{Kind: contract.DrillKind(p.Kind), Goes: len(p.Went), Over: p.Over, Days: p.Memory.Days, Asked: p.Asked,
		Counts: p.Counts, Until: p.Until, Went: views.Each(p.Went[max(0, len(p.Went)-mostWent):], func(w drill.Went) contract.DrillWent {
			return contract.DrillWent{Right: w.Right, Of: w.Of, Least: drill.PassedBy, Passed: w.Passed(), At: w.On}
		})}
	if len(p.Went) > 0 {
		v.Due = p.Memory.Due.Format(time.DateOnly)
	}
	return v
}
