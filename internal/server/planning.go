package server

import (
	"bytes"
	"context"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	ics "github.com/arran4/golang-ical"

	"dynacor/core/planning"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/report"
	"dynacor/internal/views"
)

// startOf is how many lines of a file are shown with its columns.
const startOf = 4

// LookAtImport says what the columns of a file are likely to be.
func (s *Server) LookAtImport(ctx context.Context, r contract.LookAtImportRequestObject) (contract.LookAtImportResponseObject, error) {
	l, err := s.app.LookAtImport(ctx, r.Body.File)
	if err != nil {
		return nil, err
	}
	return contract.LookAtImport200JSONResponse{Lines: len(l.Table.Lines), Before: l.Before,
		Start: l.Table.Lines[:min(startOf, len(l.Table.Lines))],
		Columns: views.Each(l.Columns, func(c planning.Column) contract.ImportColumn {
			return contract.ImportColumn{Heading: c.Heading, Field: string(c.Field), Unit: string(c.Unit)}
		}),
		Offers: views.Each(l.Offers, func(o planning.Offer) contract.ImportOffer {
			return contract.ImportOffer{Field: string(o.Field), Text: o.Text, Unit: string(o.Unit),
				Needed: slices.Contains(planning.Needed(), o.Field)}
		})}, nil
}

// mostRows is how many lines an import is answered with.
const mostRows = 1000

// ImportJoints takes the joints of a file in, or says what would come of it.
func (s *Server) ImportJoints(ctx context.Context, r contract.ImportJointsRequestObject) (contract.ImportJointsResponseObject, error) {
	fields := views.Each(r.Body.Columns, func(f string) planning.Field { return planning.Field(f) })
	out, err := s.app.Import(ctx, who(ctx), r.Body.File, fields, r.Body.Try)
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(out.Rows, func(x, y app.ImportRow) int {
		return b2i(x.What != app.ImportWrong) - b2i(y.What != app.ImportWrong)
	})
	return contract.ImportJoints200JSONResponse{Fresh: out.Count[app.ImportNew], Changed: out.Count[app.ImportChanged],
		Same: out.Count[app.ImportSame], Issued: out.Count[app.ImportIssued], Wrong: out.Count[app.ImportWrong],
		Rows: views.Each(out.Rows[:min(mostRows, len(out.Rows))], func(x app.ImportRow) contract.ImportRow {
			v := contract.ImportRow{Line: x.Line, Tag: x.Tag, What: contract.ImportRowWhat(x.What)}
			v.Wrong = views.OrNone(v.Wrong)
			for _, w := range x.Wrong {
				v.Wrong = append(v.Wrong, struct {
					Column string `json:"column"`
					Text   string `json:"text"`
				}{w.Column, w.Text})
			}
			return v
		})}, nil
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

// ListJoints writes all joints as a table.
func (s *Server) ListJoints(ctx context.Context, r contract.ListJointsRequestObject) (contract.ListJointsResponseObject, error) {
	t, err := s.app.List(ctx)
	if err != nil {
		return nil, err
	}
	f, err := table("joints", "Joints", string(r.Format), t)
	s.app.Secure(ctx, app.Exported, who(ctx).ID, "", address(ctx), f.name)
	return f, err
}

func (f file) VisitListJointsResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
}

// PackRecords writes the signed records as one document.
func (s *Server) PackRecords(ctx context.Context, r contract.PackRecordsRequestObject) (contract.PackRecordsResponseObject, error) {
	list, site, err := s.app.Pack(ctx, r.Params.Area)
	if err != nil {
		return nil, err
	}
	to, err := s.app.Reader(ctx, reads(ctx))
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	err = report.Pack(&b, site.Name, site.Outage, to, list)
	s.app.Secure(ctx, app.Exported, who(ctx).ID, "", address(ctx), "signed records")
	return file{name: "signed records.pdf", kind: "application/pdf", body: b.Bytes()}, err
}

func (f file) VisitPackRecordsResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
}

// PrintCards writes the cards that hang at joints.
func (s *Server) PrintCards(ctx context.Context, r contract.PrintCardsRequestObject) (contract.PrintCardsResponseObject, error) {
	var joints []uuid.UUID
	if r.Params.Joint != uuid.Nil {
		joints = []uuid.UUID{r.Params.Joint}
	}
	at := s.origin(ctx)
	list, site, err := s.app.JointCards(ctx, r.Params.Area, joints, func(id uuid.UUID) string { return at + "/joint/" + id.String() })
	if err != nil {
		return nil, err
	}
	to, err := s.reader(ctx)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	err = report.Cards(&b, site.Name, to, int(r.Params.On), list)
	return file{name: "cards.pdf", kind: "application/pdf", body: b.Bytes()}, err
}

func (f file) VisitPrintCardsResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
}

// PrintKit writes a joint's parts and kit to print.
func (s *Server) PrintKit(ctx context.Context, r contract.PrintKitRequestObject) (contract.PrintKitResponseObject, error) {
	c, site, err := s.app.KitCard(ctx, r.Joint, s.origin(ctx)+"/joint/"+r.Joint.String())
	if err != nil {
		return nil, err
	}
	to, err := s.reader(ctx)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	err = report.KitPDF(&b, site.Name, to, c)
	return file{name: strings.ReplaceAll(c.Tag, "/", "-") + " kit.pdf", kind: "application/pdf", body: b.Bytes()}, err
}

func (f file) VisitPrintKitResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
}

// origin is the address that this server is reached at: the first that the settings name,
// else the one of the request.
func (s *Server) origin(ctx context.Context) string {
	if len(s.origins) > 0 {
		return strings.TrimSuffix(s.origins[0], "/")
	}
	c, ok := ctx.(*gin.Context)
	if !ok {
		return ""
	}
	scheme := "http"
	if s.sessions.Cookie.Secure {
		scheme = "https"
	}
	return scheme + "://" + c.Request.Host
}

// NewCalendar gives whoever asks a private address for what is due.
func (s *Server) NewCalendar(ctx context.Context, _ contract.NewCalendarRequestObject) (contract.NewCalendarResponseObject, error) {
	token, err := s.app.NewCalendar(ctx, who(ctx))
	return contract.NewCalendar200JSONResponse{Path: "/api/calendar/" + token}, err
}

// DropCalendar takes it away.
func (s *Server) DropCalendar(ctx context.Context, _ contract.DropCalendarRequestObject) (contract.DropCalendarResponseObject, error) {
	return contract.DropCalendar204Response{}, s.app.DropCalendar(ctx, who(ctx))
}

// GetCalendar writes what is due as a calendar.
func (s *Server) GetCalendar(ctx context.Context, r contract.GetCalendarRequestObject) (contract.GetCalendarResponseObject, error) {
	list, site, err := s.app.Calendar(ctx, strings.TrimSuffix(r.Token, ".ics"))
	if err != nil {
		return nil, err
	}
	cal := ics.NewCalendar()
	cal.SetProductId("-//Dynacor//due//EN")
	cal.SetMethod(ics.MethodPublish)
	cal.SetXWRCalName(site + ": due")
	for _, d := range list {
		e := cal.AddEvent(uuid.NewSHA1(uuid.NameSpaceURL, []byte(d.ID)).String() + "@dynacor")
		e.SetDtStampTime(d.From)
		e.SetSummary(d.What)
		e.SetDescription(d.Words)
		if d.Day {
			e.SetAllDayStartAt(d.From)
			e.SetAllDayEndAt(d.From.AddDate(0, 0, 1))
			continue
		}
		e.SetStartAt(d.From)
		e.SetEndAt(d.Until)
	}
	return file{name: "due.ics", kind: "text/calendar; charset=utf-8", body: []byte(cal.Serialize())}, nil
}

func (f file) VisitGetCalendarResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
}
