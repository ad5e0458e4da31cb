package server

import (
	"context"
	"errors"
	"slices"

	"dynacor/core/joint"
	"dynacor/core/refusal"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/trying"
	"dynacor/internal/views"
)

// mostTogether is how many trials are made anew at once; each takes all processors for a while.
const mostTogether = 1

// GetBench answers with the rings of a joint as they are tried.
func (s *Server) GetBench(ctx context.Context, r contract.GetBenchRequestObject) (contract.GetBenchResponseObject, error) {
	j, rings, err := s.app.Bench(ctx, r.Joint)
	if err != nil {
		return nil, err
	}
	return contract.GetBench200JSONResponse{Joint: j.ID, Tag: j.Tag, Title: j.Title, About: nameplate(j.Draft), Version: j.Draft.Version,
		Rings: views.Each(rings, func(x app.Ring) contract.BenchRing {
			if x.Refused != nil {
				return contract.BenchRing{Group: x.Group, Refused: why(x.Refused)}
			}
			v := contract.BenchRing{Group: x.Group, Subject: trying.SubjectView(x.Subject), Way: trying.WayView(x.Way)}
			if m := x.Made; m != nil {
				made := trying.Made(m.Revision, m.Subject, m.Pulls, m.Residual, m.Pitch)
				v.Made = &made
			}
			return v
		})}, nil
}

// GetMoved answers with what moved in the check rounds of this site.
func (s *Server) GetMoved(ctx context.Context, _ contract.GetMovedRequestObject) (contract.GetMovedResponseObject, error) {
	list, err := s.app.Moved(ctx)
	if err != nil {
		return nil, err
	}
	return contract.GetMoved200JSONResponse{Rounds: views.Each(list, func(m app.Moved) contract.BenchRoundMoved {
		return contract.BenchRoundMoved{Kind: m.Title, Lubricant: m.Lubricant, Round: m.Round, Joints: m.Joints, Nuts: m.Nuts, Moved: m.Moved}
	})}, nil
}

func why(err error) string {
	if r, is := errors.AsType[*refusal.Error](err); is {
		return r.Text + " " + r.Way
	}
	return err.Error()
}

// TakeWay writes a way that was tried into the draft.
func (s *Server) TakeWay(ctx context.Context, r contract.TakeWayRequestObject) (contract.TakeWayResponseObject, error) {
	select {
	case s.trials <- struct{}{}:
		defer func() { <-s.trials }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	j, err := s.app.TakeWay(ctx, who(ctx), r.Joint, r.Body.Version, r.Body.Group, trying.Try(r.Body.Try, 1), r.Body.Way)
	v, err := s.answered(ctx, j, err)
	return contract.TakeWay200JSONResponse{JointAnswerJSONResponse: v}, err
}

// comparedViews lists what was compared on the Bench for the groups of a joint.
func comparedViews(in joint.Input, res joint.Result) []contract.BenchCompared {
	var out []contract.BenchCompared
	for _, g := range res.Groups {
		if k := in.Groups[g.Name].Compared; k != nil {
			out = append(out, trying.Compared(g.Name, *k, joint.StandsBy(g, *k)))
		}
	}
	return slices.Clip(out)
}
