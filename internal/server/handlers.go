package server

import (
	"bytes"
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/google/uuid"

	"dynacor/core/run"
	"dynacor/internal/app"
	"dynacor/internal/report"
	"dynacor/internal/server/contract"
	"dynacor/internal/store"
)

var _ contract.StrictServerInterface = (*Server)(nil)

// SignIn begins a session.
func (s *Server) SignIn(ctx context.Context, r contract.SignInRequestObject) (contract.SignInResponseObject, error) {
	p, err := s.app.SignIn(ctx, r.Body.Login, r.Body.Pin)
	if err != nil {
		return nil, err
	}
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, err
	}
	s.sessions.Put(ctx, sessionPerson, p.ID.String())
	s.sessions.Put(ctx, sessionRoles, strings.Join(p.Roles, " "))
	v, err := s.session(ctx, p)
	return contract.SignIn200JSONResponse{SessionAnswerJSONResponse: contract.SessionAnswerJSONResponse(v)}, err
}

// SignOut ends the session.
func (s *Server) SignOut(ctx context.Context, _ contract.SignOutRequestObject) (contract.SignOutResponseObject, error) {
	return contract.SignOut204Response{}, s.sessions.Destroy(ctx)
}

// GetSession says who is signed in.
func (s *Server) GetSession(ctx context.Context, _ contract.GetSessionRequestObject) (contract.GetSessionResponseObject, error) {
	p, err := s.app.Person(ctx, who(ctx).ID)
	if err != nil {
		return nil, err
	}
	v, err := s.session(ctx, p)
	return contract.GetSession200JSONResponse{SessionAnswerJSONResponse: contract.SessionAnswerJSONResponse(v)}, err
}

func (s *Server) session(ctx context.Context, p store.Person) (contract.Session, error) {
	site, err := s.app.Site(ctx)
	return contract.Session{Person: personView(p), Site: siteView(site)}, err
}

// GetWall shows every joint.
func (s *Server) GetWall(ctx context.Context, _ contract.GetWallRequestObject) (contract.GetWallResponseObject, error) {
	w, err := s.app.Wall(ctx, who(ctx))
	return contract.GetWall200JSONResponse(wallView(w)), err
}

// GetWords lists what the words of a sentence can be.
func (s *Server) GetWords(context.Context, contract.GetWordsRequestObject) (contract.GetWordsResponseObject, error) {
	return contract.GetWords200JSONResponse(words()), nil
}

// AddJoint makes a new joint.
func (s *Server) AddJoint(ctx context.Context, r contract.AddJointRequestObject) (contract.AddJointResponseObject, error) {
	j, err := s.app.AddJoint(ctx, who(ctx), r.Body.Area, r.Body.Tag, r.Body.Title, text(r.Body.Recipe))
	if err != nil {
		return nil, err
	}
	return contract.AddJoint200JSONResponse{JointAnswerJSONResponse: contract.JointAnswerJSONResponse(s.jointView(ctx, j))}, nil
}

// GetJoint shows a joint.
func (s *Server) GetJoint(ctx context.Context, r contract.GetJointRequestObject) (contract.GetJointResponseObject, error) {
	j, err := s.app.Joint(ctx, r.Joint)
	if err != nil {
		return nil, err
	}
	return contract.GetJoint200JSONResponse{JointAnswerJSONResponse: contract.JointAnswerJSONResponse(s.jointView(ctx, j))}, nil
}

// SaveDraft stores a sentence and answers what it comes to.
func (s *Server) SaveDraft(ctx context.Context, r contract.SaveDraftRequestObject) (contract.SaveDraftResponseObject, error) {
	d, err := s.app.SaveDraft(ctx, who(ctx), r.Joint, r.Body.Version, planInput(r.Body.Input))
	if err != nil {
		return nil, err
	}
	return contract.SaveDraft200JSONResponse(draftView(d)), nil
}

// IssuePlan freezes the draft.
func (s *Server) IssuePlan(ctx context.Context, r contract.IssuePlanRequestObject) (contract.IssuePlanResponseObject, error) {
	reason := ""
	if r.Body.Reason != nil {
		reason = *r.Body.Reason
	}
	j, err := s.app.Issue(ctx, who(ctx), r.Joint, r.Body.Version, r.Body.Pin, reason)
	if err != nil {
		return nil, err
	}
	return contract.IssuePlan200JSONResponse{JointAnswerJSONResponse: contract.JointAnswerJSONResponse(s.jointView(ctx, j))}, nil
}

// FollowPlan issues the plan for the work that follows on a signed flange.
func (s *Server) FollowPlan(ctx context.Context, r contract.FollowPlanRequestObject) (contract.FollowPlanResponseObject, error) {
	j, err := s.app.Follow(ctx, who(ctx), r.Joint, r.Body.Work, r.Body.Pin, r.Body.Reason)
	if err != nil {
		return nil, err
	}
	return contract.FollowPlan200JSONResponse{JointAnswerJSONResponse: contract.JointAnswerJSONResponse(s.jointView(ctx, j))}, nil
}

// FindWays lists how the passes can be reached.
func (s *Server) FindWays(ctx context.Context, r contract.FindWaysRequestObject) (contract.FindWaysResponseObject, error) {
	ways, err := s.app.Ways(ctx, r.Joint, text(r.Body.Group), handTool(r.Body.ByHand))
	if err != nil {
		return nil, err
	}
	out := contract.Ways{Ways: []contract.Way{}}
	for _, w := range ways {
		out.Ways = append(out.Ways, wayView(w))
	}
	return contract.FindWays200JSONResponse(out), nil
}

// AddEntry stores an entry of a run.
func (s *Server) AddEntry(ctx context.Context, r contract.AddEntryRequestObject) (contract.AddEntryResponseObject, error) {
	n, stored, err := s.add(ctx, r.Run, *r.Body, false)
	if err != nil {
		return nil, err
	}
	e := near // the screen has the rest already
	if _, correction := n.Content.(run.Correction); correction {
		e = far // it changes lines further back
	}
	return contract.AddEntry200JSONResponse(s.runView(ctx, stored, e)), nil
}

// add stores an entry of a ring's run, or of one that a recipe leads.
func (s *Server) add(ctx context.Context, runID uuid.UUID, b contract.NewEntry, led bool) (app.NewEntry, app.Run, error) {
	n := app.NewEntry{Run: runID, ID: b.ID, At: b.At, Pin: text(b.Pin), As: text(b.As), Led: led}
	var err error
	if n.Content, err = s.content(ctx, runID, b); err != nil {
		return n, app.Run{}, err
	}
	stored, err := s.app.AddEntry(ctx, who(ctx), n)
	return n, stored, err
}

// JudgeGaps gives the verdict on gaps that are not stored.
func (s *Server) JudgeGaps(ctx context.Context, r contract.JudgeGapsRequestObject) (contract.JudgeGapsResponseObject, error) {
	g, err := s.app.JudgeGaps(ctx, r.Joint, r.Body.Gaps)
	return contract.JudgeGaps200JSONResponse{Spread: g.Spread, Limit: g.Limit, Tilt: g.Tilt, Parallel: g.Parallel, OpenSide: run.Clock(g.OpenSide)}, err
}

// content reads what an entry says. Tools are looked up, and a correction
// looks up what it corrects.
func (s *Server) content(ctx context.Context, runID uuid.UUID, n contract.NewEntry) (run.Content, error) {
	switch run.Kind(n.Kind) {
	case run.KindTooling:
		if !who(ctx).Is(app.Fitter) {
			return run.Tooling{}, nil // refused where roles are checked
		}
		return s.app.Choose(ctx, runID, text(n.Content.Group), text(n.Content.Wrench), text(n.Content.Multiplier), handTool(n.Content.ByHand))
	case run.KindCorrection:
		c := run.Correction{Reason: text(n.Content.Reason)}
		if n.Of != nil {
			c.Of = n.Of.String()
		}
		if n.Strike != nil && *n.Strike || n.Instead == nil {
			return c, nil
		}
		kind, err := s.app.KindOf(ctx, runID, c.Of)
		if err != nil {
			return nil, err
		}
		c.Instead = plainContent(kind, *n.Instead)
		return c, nil
	}
	return plainContent(run.Kind(n.Kind), n.Content), nil
}

// GetRecord writes the record out as a file.
func (s *Server) GetRecord(ctx context.Context, r contract.GetRecordRequestObject) (contract.GetRecordResponseObject, error) {
	rec, err := s.app.Record(ctx, r.Joint, value(r.Params.Revision))
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	f := file{name: fmt.Sprintf("%s plan %d.%s", strings.ReplaceAll(rec.Tag, "/", "-"), rec.Revision, r.Format)}
	switch r.Format {
	case "pdf":
		f.kind, err = "application/pdf", report.PDF(&b, rec)
	case "csv":
		f.kind, err = "text/csv; charset=utf-8", report.CSV(&b, rec)
	default:
		f.kind, err = "application/json", report.JSON(&b, rec)
	}
	f.body = b.Bytes()
	return f, err
}

// file is a record as it is downloaded.
type file struct {
	name, kind string
	body       []byte
}

func (f file) VisitGetRecordResponse(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", f.kind)
	w.Header().Set("Content-Disposition", fmt.Sprintf("attachment; filename=%q", f.name))
	w.Header().Set("Cache-Control", "no-store")
	_, err := w.Write(f.body)
	return err
}
