package server

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"time"

	"dynacor/core/person"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/pocket"
	"dynacor/internal/report"
	"dynacor/internal/store"
	"dynacor/internal/views"
)

var _ contract.StrictServerInterface = (*Server)(nil)

// SignIn begins a session.
func (s *Server) SignIn(ctx context.Context, r contract.SignInRequestObject) (contract.SignInResponseObject, error) {
	p, err := s.app.SignIn(ctx, r.Body.Login, r.Body.Pin, address(ctx))
	if err != nil {
		return nil, err
	}
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, err
	}
	s.sessions.Put(ctx, sessionPerson, p.ID.String())
	v, err := s.session(ctx, p)
	return contract.SignIn200JSONResponse{SessionAnswerJSONResponse: contract.SessionAnswerJSONResponse(v)}, err
}

// SignOut ends the session.
func (s *Server) SignOut(ctx context.Context, _ contract.SignOutRequestObject) (contract.SignOutResponseObject, error) {
	s.app.Secure(ctx, app.SignedOut, who(ctx).ID, "", address(ctx), "")
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
	return contract.Session{Person: personView(p), Site: siteView(site), Once: p.PinOnce, LeastPin: person.LeastPin(p.Roles),
		Locale: contract.Locale(p.Locale), TorqueUnit: p.TorqueUnit, Now: time.Now()}, err
}

// GetWall shows every joint.
func (s *Server) GetWall(ctx context.Context, _ contract.GetWallRequestObject) (contract.GetWallResponseObject, error) {
	w, err := s.app.Wall(ctx, who(ctx))
	return contract.GetWall200JSONResponse(wallView(w)), err
}

// GetWords lists what the words of a sentence can be.
func (s *Server) GetWords(ctx context.Context, _ contract.GetWordsRequestObject) (contract.GetWordsResponseObject, error) {
	own, err := s.app.OwnFigures(ctx)
	return contract.GetWords200JSONResponse(sentenceWords(own)), err
}

// answered is what a joint is answered with.
func (s *Server) answered(ctx context.Context, j app.Joint, err error) (contract.JointAnswerJSONResponse, error) {
	if err != nil {
		return contract.JointAnswerJSONResponse{}, err
	}
	v, err := s.jointView(ctx, j)
	return contract.JointAnswerJSONResponse(v), err
}

// AddJoint makes a new joint.
func (s *Server) AddJoint(ctx context.Context, r contract.AddJointRequestObject) (contract.AddJointResponseObject, error) {
	j, err := s.app.AddJoint(ctx, who(ctx), r.Body.Area, r.Body.Tag, r.Body.Title, r.Body.Recipe)
	v, err := s.answered(ctx, j, err)
	return contract.AddJoint200JSONResponse{JointAnswerJSONResponse: v}, err
}

// GetJoint shows a joint.
func (s *Server) GetJoint(ctx context.Context, r contract.GetJointRequestObject) (contract.GetJointResponseObject, error) {
	j, err := s.app.Joint(ctx, r.Joint)
	v, err := s.answered(ctx, j, err)
	return contract.GetJoint200JSONResponse{JointAnswerJSONResponse: v}, err
}

// SaveDraft stores a sentence and answers what it comes to.
func (s *Server) SaveDraft(ctx context.Context, r contract.SaveDraftRequestObject) (contract.SaveDraftResponseObject, error) {
	j, err := s.app.SaveDraft(ctx, who(ctx), r.Joint, r.Body.Version, jointInput(r.Body.Input))
	v, err := s.answered(ctx, j, err)
	return contract.SaveDraft200JSONResponse{JointAnswerJSONResponse: v}, err
}

// IssuePlan freezes the draft.
func (s *Server) IssuePlan(ctx context.Context, r contract.IssuePlanRequestObject) (contract.IssuePlanResponseObject, error) {
	j, err := s.app.Issue(ctx, who(ctx), r.Joint, r.Body.Version,
		app.Issuing{Run: r.Body.Run, Pin: r.Body.Pin, Reason: r.Body.Reason})
	v, err := s.answered(ctx, j, err)
	return contract.IssuePlan200JSONResponse{JointAnswerJSONResponse: v}, err
}

// FollowPlan issues the plan for the work that follows on a signed joint.
func (s *Server) FollowPlan(ctx context.Context, r contract.FollowPlanRequestObject) (contract.FollowPlanResponseObject, error) {
	j, err := s.app.Follow(ctx, who(ctx), r.Joint, r.Body.Work,
		app.Issuing{Run: r.Body.Run, Pin: r.Body.Pin, Reason: r.Body.Reason})
	v, err := s.answered(ctx, j, err)
	return contract.FollowPlan200JSONResponse{JointAnswerJSONResponse: v}, err
}

// FindWays lists how the stages of a group can be reached.
func (s *Server) FindWays(ctx context.Context, r contract.FindWaysRequestObject) (contract.FindWaysResponseObject, error) {
	b := r.Body
	ways, err := s.app.Ways(ctx, who(ctx), r.Joint, b.Group, views.HandTool(b.ByHand), views.Place(*b))
	if err != nil {
		return nil, err
	}
	return contract.FindWays200JSONResponse(views.Ways(ways, b.Group)), nil
}

// AddEntry stores an entry of a run.
func (s *Server) AddEntry(ctx context.Context, r contract.AddEntryRequestObject) (contract.AddEntryResponseObject, error) {
	n, err := views.NewEntry(r.Run, *r.Body)
	if err != nil {
		return nil, err
	}
	stored, err := s.app.AddEntry(ctx, who(ctx), n)
	if err != nil {
		return nil, err
	}
	names, err := s.app.Names(ctx, stored)
	if err != nil {
		return nil, err
	}
	return contract.AddEntry200JSONResponse(views.Stored(who(ctx), stored, names, n, r.Body.Known, time.Now())), nil
}

// JudgeReadings gives the verdict on readings that are not stored.
func (s *Server) JudgeReadings(ctx context.Context, r contract.JudgeReadingsRequestObject) (contract.JudgeReadingsResponseObject, error) {
	v, err := s.app.JudgeReadings(ctx, r.Run, r.Body.Step, r.Body.Readings, views.Held(r.Body.Held))
	return contract.JudgeReadings200JSONResponse(views.Verdict(v)), err
}

// JudgeRig refuses what a gauge may not read while a hydraulic wrench is rigged up.
func (s *Server) JudgeRig(ctx context.Context, r contract.JudgeRigRequestObject) (contract.JudgeRigResponseObject, error) {
	err := s.app.JudgeRig(ctx, r.Run, views.Rig(*r.Body))
	return contract.JudgeRig204Response{}, err
}

// TakeAlong answers with what a device needs to judge at a joint by itself.
func (s *Server) TakeAlong(ctx context.Context, r contract.TakeAlongRequestObject) (contract.TakeAlongResponseObject, error) {
	b, err := s.app.Along(ctx, who(ctx), r.Joint)
	return along(b), err
}

// along is a bundle as it is written out.
type along pocket.Bundle

func (b along) VisitTakeAlongResponse(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", "application/json")
	return json.NewEncoder(w).Encode(b)
}

// GetDrawing writes a joint's drawing as SVG.
func (s *Server) GetDrawing(ctx context.Context, r contract.GetDrawingRequestObject) (contract.GetDrawingResponseObject, error) {
	d, err := s.app.Drawing(ctx, r.Joint, r.Params.Labels == "order")
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	err = report.SVG(&b, d)
	return file{name: strings.ReplaceAll(d.Tag, "/", "-") + ".svg", kind: "image/svg+xml", body: b.Bytes()}, err
}

// GetRecord writes the record out as a file.
func (s *Server) GetRecord(ctx context.Context, r contract.GetRecordRequestObject) (contract.GetRecordResponseObject, error) {
	rec, err := s.app.Record(ctx, r.Joint, r.Params.Revision)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	f := file{name: report.FileName(rec) + "." + string(r.Format)}
	switch r.Format {
	case "pdf":
		to, err := s.app.Reader(ctx, reads(ctx))
		if err != nil {
			return nil, err
		}
		f.kind = "application/pdf"
		if err := report.PDF(&b, rec.For(to)); err != nil {
			return nil, err
		}
	case "csv":
		f.kind, err = "text/csv; charset=utf-8", report.CSV(&b, rec)
	default:
		f.kind, err = "application/json", report.JSON(&b, rec)
	}
	f.body = b.Bytes()
	s.app.Secure(ctx, app.Exported, who(ctx).ID, "", address(ctx), f.name)
	return f, err
}

// ofPlan asks for the numbers of the newest plan instead of the draft's.
const ofPlan = "plan"

// GetNumbers says where the numbers of a joint come from.
func (s *Server) GetNumbers(ctx context.Context, r contract.GetNumbersRequestObject) (contract.GetNumbersResponseObject, error) {
	_, list, err := s.app.Numbers(ctx, r.Joint, string(r.Params.Of) == ofPlan)
	if err != nil {
		return nil, err
	}
	return contract.GetNumbers200JSONResponse{Numbers: views.Each(list, func(n report.Number) contract.Number {
		return contract.Number{Of: n.Of, Key: n.Key, Name: n.Name, Formula: n.Formula, Numbers: n.Numbers, Comes: n.Comes, Source: n.Source,
			Valid: n.Valid, Uncertain: n.Uncertain, Changes: n.Changes,
			Symbols: views.Each(n.Symbols, func(x report.Symbol) contract.NumberSymbol {
				return contract.NumberSymbol{Sign: x.Sign, Name: x.Name, Amount: x.Amount, From: x.From, Key: x.Key}
			})}
	})}, nil
}

// PrintNumbers writes the same to print.
func (s *Server) PrintNumbers(ctx context.Context, r contract.PrintNumbersRequestObject) (contract.PrintNumbersResponseObject, error) {
	j, list, err := s.app.Numbers(ctx, r.Joint, string(r.Params.Of) == ofPlan)
	if err != nil {
		return nil, err
	}
	to, err := s.reader(ctx)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	err = report.NumbersPDF(&b, j.Tag, j.Title, to, list)
	return file{name: strings.ReplaceAll(j.Tag, "/", "-") + " numbers.pdf", kind: "application/pdf", body: b.Bytes()}, err
}

func (f file) VisitPrintNumbersResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
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

func (f file) VisitGetDrawingResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
}
