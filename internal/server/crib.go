package server

import (
	"bytes"
	"context"
	"math"
	"net/http"
	"net/url"
	"strings"

	"dynacor/core/crib"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/report"
	"dynacor/internal/sheets"
	"dynacor/internal/views"
)

// GetCrib shows the board.
func (s *Server) GetCrib(ctx context.Context, _ contract.GetCribRequestObject) (contract.GetCribResponseObject, error) {
	list, err := s.app.Crib(ctx)
	if err != nil {
		return nil, err
	}
	v := contract.Crib{Tools: views.Each(list, cribToolView), From: math.Inf(1)}
	for _, t := range v.Tools {
		v.Out += b2i(t.Lent != "")
		v.Held += b2i(t.Standing == contract.CribToolStandingHeld)
		v.Soon += b2i(t.Standing == contract.CribToolStandingSoon)
		v.Over += b2i(t.Standing == contract.CribToolStandingOver)
		if t.Torque && t.Standing != contract.CribToolStandingScrapped {
			v.From, v.To = math.Min(v.From, t.Rated), math.Max(v.To, t.High)
		}
	}
	if v.To == 0 {
		v.From, v.To = 1, 1000
	}
	people, err := s.app.Working(ctx)
	for _, p := range people {
		v.People = append(v.People, struct {
			ID   string `json:"id"`
			Name string `json:"name"`
		}{p.ID.String(), p.Name})
	}
	v.People = views.OrNone(v.People)
	return contract.GetCrib200JSONResponse(v), err
}

func cribToolView(t app.CribTool) contract.CribTool {
	v := contract.CribTool{Tag: t.Data.Tag, Kind: string(t.Data.Kind), Face: string(t.Data.Face), Name: t.Data.Name, Text: t.Data.Text(),
		Standing: contract.CribToolStanding(t.Standing()), Torque: t.Reach.Torque, Rated: t.Reach.Rated, Low: t.Reach.Low,
		High: t.Reach.High, Reach: t.Reach.Words, Due: t.Due.Words, Held: t.Tool.HeldBack, Lent: t.Lent, LentJoint: t.Tool.LentJoint,
		Place: t.Tool.Place}
	if t.Tool.Due != nil {
		v.DueOn = contract.Date{Time: *t.Tool.Due}
	}
	return v
}

// GetToolKinds says what is asked of a tool.
func (s *Server) GetToolKinds(_ context.Context, _ contract.GetToolKindsRequestObject) (contract.GetToolKindsResponseObject, error) {
	var out contract.GetToolKinds200JSONResponse
	for _, k := range crib.Kinds() {
		faces := []crib.Face{""}
		if k == crib.Wrench {
			faces = crib.Faces()
		}
		for _, f := range faces {
			v := contract.ToolKind{Kind: string(k), Face: string(f), Text: crib.Tool{Kind: k, Face: f}.Text(),
				Falls: f == crib.Ring || f == crib.Screwdriver, Inside: k == crib.Socket, Chart: k == crib.Hydraulic, Measures: k.Measures()}
			v.Fields = views.Each(crib.Fields(k, f), func(x crib.Field) contract.ToolField {
				return contract.ToolField{Name: x.Name, Text: x.Text, Unit: x.Unit, Own: x.Own, Options: x.Options, Number: x.Number, Whole: x.Whole,
					Needed: x.Needed, Usual: x.Usual(k, f)}
			})
			out.Kinds = append(out.Kinds, v)
		}
	}
	return out, nil
}

// DraftTool says what is wrong with a tool's data so far.
func (s *Server) DraftTool(ctx context.Context, r contract.DraftToolRequestObject) (contract.DraftToolResponseObject, error) {
	t, faults, err := s.app.DraftTool(ctx, toolData(r.Body.Data), r.Body.New)
	if err != nil {
		return nil, err
	}
	out := contract.DraftTool200JSONResponse{Faces: []contract.Face{}}
	for _, f := range faults {
		p := problemOf(f)
		out.Faults = append(out.Faults, struct {
			Field string `json:"field"`
			Text  string `json:"text"`
		}{p.Field, strings.TrimSpace(p.Detail + " " + p.Way)})
	}
	if out.Faults = views.OrNone(out.Faults); len(faults) == 0 {
		out.Faces, out.Reach = faceViews(t), t.Reach().Words
	}
	return out, nil
}

// faceViews are a tool's face where it is checked.
func faceViews(t crib.Tool) []contract.Face {
	out := []contract.Face{}
	for _, at := range t.FaceMarks() {
		if shown, err := t.Shows(at); err == nil {
			out = append(out, views.Face(t, shown))
		}
	}
	return out
}

// AddTool brings a tool into the crib.
func (s *Server) AddTool(ctx context.Context, r contract.AddToolRequestObject) (contract.AddToolResponseObject, error) {
	n := app.NewTool{Data: toolData(r.Body.Data), ID: r.Body.ID, From: r.Body.From, Place: r.Body.Place}
	if r.Body.Bought != nil {
		n.Bought = r.Body.Bought.Time
	}
	if r.Body.Check != nil {
		c := checkOf(*r.Body.Check)
		if n.Check = &c; r.Body.CheckedOn == nil {
			return nil, refusal.New(refusal.Missing, "checkedOn", "When was it calibrated?", "Enter the date of the certificate.")
		}
		n.On = r.Body.CheckedOn.Time
	}
	if err := s.app.AddTool(ctx, who(ctx), n); err != nil {
		return nil, err
	}
	v, err := s.toolCard(ctx, n.Data.Tag)
	return contract.AddTool200JSONResponse{ToolAnswerJSONResponse: contract.ToolAnswerJSONResponse(v)}, err
}

// GetTool shows one tool.
func (s *Server) GetTool(ctx context.Context, r contract.GetToolRequestObject) (contract.GetToolResponseObject, error) {
	v, err := s.toolCard(ctx, r.Tool)
	return contract.GetTool200JSONResponse{ToolAnswerJSONResponse: contract.ToolAnswerJSONResponse(v)}, err
}

// LiveTool adds to the life of a tool.
func (s *Server) LiveTool(ctx context.Context, r contract.LiveToolRequestObject) (contract.LiveToolResponseObject, error) {
	n := app.NewLife{ID: r.Body.ID}
	if r.Body.On != nil {
		n.On = *r.Body.On
	}
	b := r.Body
	switch b.Kind {
	case contract.NewLifeKindChecked:
		if b.Check == nil {
			return nil, refusal.New(refusal.Missing, "check", "The check has no readings.", "Enter what the tester gave.")
		}
		n.Content, n.From = checkOf(*b.Check), b.Check.From
	case contract.NewLifeKindAdjusted:
		n.Content = crib.Adjusted{What: b.Note}
	case contract.NewLifeKindLent:
		n.Content = crib.Lent{To: b.To, Joint: strings.TrimSpace(b.Joint), Note: b.Note}
	case contract.NewLifeKindReturned:
		n.Content = crib.Returned{Place: b.Place, Note: b.Note}
	case contract.NewLifeKindDropped, contract.NewLifeKindOverloaded, contract.NewLifeKindDoubtful:
		n.Content = crib.Hurt{What: crib.Harm(b.Kind), Joint: strings.TrimSpace(b.Joint), Note: b.Note}
	case contract.NewLifeKindHeld:
		n.Content = crib.Held{Why: b.Note}
	case contract.NewLifeKindBack:
		n.Content = crib.Back{Why: b.Note}
	case contract.NewLifeKindScrapped:
		n.Content = crib.Scrapped{Why: b.Note}
	case contract.NewLifeKindFiled:
		n.Content = crib.Filed{Title: b.Title, Paper: b.Paper}
	case contract.NewLifeKindChanged:
		n.Content = crib.Changed{Why: b.Note}
		if b.Data != nil {
			d := toolData(*b.Data)
			n.Data = &d
		}
	}
	if err := s.app.LiveTool(ctx, who(ctx), r.Tool, n); err != nil {
		return nil, err
	}
	v, err := s.toolCard(ctx, r.Tool)
	return contract.LiveTool200JSONResponse{ToolAnswerJSONResponse: contract.ToolAnswerJSONResponse(v)}, err
}

func checkOf(b contract.CheckInput) crib.Checked {
	c := crib.Checked{Lab: strings.TrimSpace(b.Lab), Certificate: strings.TrimSpace(b.Certificate), Paper: b.Paper, Renews: b.Renews,
		Unit: unit.Unit(b.Unit), Looked: b.Looked, Good: b.Good, Note: strings.TrimSpace(b.Note)}
	for _, m := range b.Marks {
		c.Marks = append(c.Marks, crib.Mark{At: m.At, Readings: m.Readings})
	}
	return c
}

func toolData(d contract.ToolData) crib.Tool {
	t := crib.Tool{Tag: strings.TrimSpace(d.Tag), Name: strings.TrimSpace(d.Name), Serial: strings.TrimSpace(d.Serial),
		Kind: crib.Kind(d.Kind), Face: crib.Face(d.Face), Unit: unit.Unit(d.Unit), Least: d.Least, Most: d.Most,
		Scale: tool.Scale{First: d.First, Major: d.Major, Minor: d.Minor}, Falls: d.Falls, Ratio: d.Ratio, DriveIn: d.DriveIn,
		DriveOut: d.DriveOut, Length: d.Length, Angle: d.Angle, Size: d.Size, Inside: d.Inside, Accuracy: d.Accuracy / 100,
		PressureUnit: unit.Unit(d.PressureUnit), Graduation: d.Graduation, PressureMost: d.PressureMost, RamArea: d.RAMArea,
		Stroke: d.Stroke, Months: d.Months, Pulls: d.Pulls}
	for _, r := range d.Chart {
		t.Chart = append(t.Chart, tool.Row{Pressure: r.Pressure, Torque: r.Torque})
	}
	return t
}

func toolDataView(t crib.Tool) contract.ToolData {
	v := contract.ToolData{Tag: t.Tag, Name: t.Name, Serial: t.Serial, Kind: string(t.Kind), Face: string(t.Face), Unit: string(t.Unit),
		Least: t.Least, Most: t.Most, First: t.Scale.First, Major: t.Scale.Major, Minor: t.Scale.Minor, Falls: t.Falls, Ratio: t.Ratio,
		DriveIn: t.DriveIn, DriveOut: t.DriveOut, Length: t.Length, Angle: t.Angle, Size: t.Size, Inside: t.Inside,
		Accuracy: math.Round(1e8*t.Accuracy) / 1e6, PressureUnit: string(t.PressureUnit), Graduation: t.Graduation,
		PressureMost: t.PressureMost, RAMArea: t.RamArea, Stroke: t.Stroke, Months: t.Months, Pulls: t.Pulls}
	v.Chart = views.Each(t.Chart, func(r tool.Row) contract.ChartRow { return contract.ChartRow{Pressure: r.Pressure, Torque: r.Torque} })
	return v
}

func (s *Server) toolCard(ctx context.Context, tag string) (contract.ToolCard, error) {
	c, err := s.app.ToolCard(ctx, tag)
	if err != nil {
		return contract.ToolCard{}, err
	}
	_, in := c.Data.Marks()
	v := contract.ToolCard{Tool: cribToolView(c.CribTool), Data: toolDataView(c.Data), Marks: views.OrNone(c.Marks), Unit: string(in),
		Accuracy: 100 * c.Data.Judged(crib.Checked{}).Limit, Measures: c.Data.Kind.Measures(), CheckReadings: crib.ReadingsToCheck,
		CalibrationReadings: crib.ReadingsToCalibrate, Count: c.Count, AsFound: c.State.AsFound(),
		Life: views.Each(c.Life, lifeView), Touched: views.Each(c.Touched, touchView)}
	v.Since, v.Faces, v.Speaks = c.Since, faceViews(c.Data), app.Speaks(c.Data)
	if l, ok, err := s.app.ToolLink(ctx, tag); err != nil {
		return v, err
	} else if ok {
		v.Link = linkView(l)
	}
	if h := c.State.Held; h != nil {
		v.HeldSince, v.Doubt = h.At, h.Doubt
		names, err := s.app.Names(ctx)
		if err != nil {
			return v, err
		}
		v.HeldBy = names[h.By]
	}
	return v, nil
}

// JudgeCheck judges what was read so far of a check.
func (s *Server) JudgeCheck(ctx context.Context, r contract.JudgeCheckRequestObject) (contract.JudgeCheckResponseObject, error) {
	c, f, err := s.app.JudgeCheck(ctx, r.Tool, checkOf(r.Body.Check))
	return contract.JudgeCheck200JSONResponse(foundView(c, f)), err
}

func foundView(c crib.Checked, f crib.Found) contract.CheckFound {
	marks := views.Each(f.Marks, func(m crib.AtMark) contract.CheckMark {
		return contract.CheckMark{At: m.At, Readings: views.OrNone(m.Readings), Errors: views.OrNone(m.Errors), Worst: m.Worst, Spread: m.Spread,
			Holds: m.Holds}
	})
	return contract.CheckFound{Holds: f.Holds, Text: f.Text, Unit: string(c.Unit), Marks: marks}
}

func lifeView(l app.LifeLine) contract.LifeLine {
	v := contract.LifeLine{ID: l.Entry.ID, Seq: l.Entry.Seq, Kind: string(l.Entry.Content.Kind()), On: l.Entry.On, By: l.By, What: l.What,
		Note: l.Note, Paper: l.Paper}
	if f := l.Found; f != nil {
		found := foundView(l.Entry.Content.(crib.Checked), *f)
		v.Found = &found
	}
	return v
}

func touchView(t app.Touch) contract.Touch {
	return contract.Touch{Joint: t.Joint.ID, Tag: t.Joint.Tag, Title: t.Joint.Title, Run: t.Run.ID, Revision: t.Run.Revision, Last: t.Last,
		Pulls: t.Pulls, Made: t.Words(), State: contract.TouchState(t.State), Words: t.Says(), Signed: t.Signed,
		Sample: views.Each(t.Doubt.Sample, views.GroupBolts)}
}

// KeepPaper keeps a paper of a tool.
func (s *Server) KeepPaper(ctx context.Context, r contract.KeepPaperRequestObject) (contract.KeepPaperResponseObject, error) {
	f, err := s.app.KeepPaper(ctx, who(ctx), r.Body.File)
	return contract.KeepPaper200JSONResponse{Hash: f.Hash}, err
}

// ImportTools reads tools from a list.
func (s *Server) ImportTools(ctx context.Context, r contract.ImportToolsRequestObject) (contract.ImportToolsResponseObject, error) {
	rows, taken, err := s.app.ImportTools(ctx, who(ctx), r.Body.File, r.Body.Take)
	if err != nil {
		return nil, err
	}
	v := contract.ToolImport{Taken: taken, Columns: app.ToolColumns()}
	for _, x := range rows {
		row := struct {
			Line  int                         `json:"line"`
			Tag   string                      `json:"tag"`
			What  contract.ToolImportRowsWhat `json:"what"`
			Wrong []struct {
				Column string `json:"column"`
				Text   string `json:"text"`
			} `json:"wrong"`
		}{Line: x.Line, Tag: x.Tag, What: contract.ToolImportRowsWhat(x.What)}
		for _, w := range x.Wrong {
			row.Wrong = append(row.Wrong, struct {
				Column string `json:"column"`
				Text   string `json:"text"`
			}{w.Column, w.Text})
		}
		row.Wrong = views.OrNone(row.Wrong)
		v.Rows = append(v.Rows, row)
	}
	v.Rows = views.OrNone(v.Rows)
	return contract.ImportTools200JSONResponse(v), nil
}

// ListTools writes all tools as a table.
func (s *Server) ListTools(ctx context.Context, r contract.ListToolsRequestObject) (contract.ListToolsResponseObject, error) {
	t, err := s.app.ToolList(ctx)
	if err != nil {
		return nil, err
	}
	f, err := table("tools", "Tools", string(r.Format), t)
	s.app.Secure(ctx, app.Exported, who(ctx).ID, "", address(ctx), f.name)
	return f, err
}

// PrintLabels writes the labels of tools.
func (s *Server) PrintLabels(ctx context.Context, r contract.PrintLabelsRequestObject) (contract.PrintLabelsResponseObject, error) {
	at := s.origin(ctx)
	list, site, err := s.app.Labels(ctx, r.Params.Tool, func(tag string) string { return at + "/crib/" + url.PathEscape(tag) })
	if err != nil {
		return nil, err
	}
	to, err := s.reader(ctx)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	err = report.Labels(&b, site.Name, to, list)
	return file{name: "tools.pdf", kind: "application/pdf", body: b.Bytes()}, err
}

func (f file) VisitPrintLabelsResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
}

// table is a table as a file of a format.
func table(name, title, format string, t sheets.Table) (file, error) {
	var b bytes.Buffer
	var err error
	f := file{name: name + "." + format}
	if format == "xlsx" {
		f.kind, err = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", sheets.XLSX(&b, title, t)
	} else {
		f.kind, err = "text/csv; charset=utf-8", sheets.CSV(&b, t)
	}
	f.body = b.Bytes()
	return f, err
}

func (f file) VisitListToolsResponse(w http.ResponseWriter) error { return f.VisitGetRecordResponse(w) }
