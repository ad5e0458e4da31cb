package server

import (
	"github.com/google/uuid"

	"dynacor/core/figure"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/server/contract"
	"dynacor/internal/store"
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

func some(s string) *string {
	if s == "" {
		return nil
	}
	return &s
}

func text(s *string) string { return value(s) }

func quantity(q unit.Quantity) contract.Quantity {
	return contract.Quantity{Value: q.Value, Unit: string(q.Unit)}
}

func optional(q unit.Quantity) *contract.Quantity {
	if q.IsZero() {
		return nil
	}
	v := quantity(q)
	return &v
}

func fromQuantity(q contract.Quantity) unit.Quantity { return unit.Of(q.Value, unit.Unit(q.Unit)) }

func fromOptional(q *contract.Quantity) unit.Quantity {
	if q == nil {
		return unit.Quantity{}
	}
	return fromQuantity(*q)
}

func personView(p store.Person) contract.Person {
	v := contract.Person{ID: p.ID, Name: p.Name, Initials: p.Initials, Roles: []contract.Role{}}
	for _, r := range p.Roles {
		v.Roles = append(v.Roles, contract.Role(r))
	}
	return v
}

func siteView(s app.Site) contract.Site {
	v := contract.Site{Name: s.Name, Outage: s.Outage, Day: s.Day, Days: s.Days, Areas: []contract.SiteArea{}}
	for _, a := range s.Areas {
		v.Areas = append(v.Areas, contract.SiteArea{ID: a.ID, Name: a.Name})
	}
	return v
}

func wallView(w app.Wall) contract.Wall {
	v := contract.Wall{Site: siteView(w.Site), Areas: []contract.WallArea{}, Next: todos(w.Next), Decisions: todos(w.Decisions),
		Figures: map[string]contract.Figure{}}
	for key, f := range w.Figures {
		v.Figures[key] = figureView(f)
	}
	for _, c := range w.Cards {
		v.Counts.Total++
		switch c.State {
		case "signed":
			v.Counts.Signed++
		case "tighten", "check":
			v.Counts.InHand++
		case "prove", "sign":
			v.Counts.Waiting++
		case "stopped":
			v.Counts.Stopped++
		}
		if n := len(v.Areas); n == 0 || v.Areas[n-1].Name != c.Joint.AreaName {
			v.Areas = append(v.Areas, contract.WallArea{Name: c.Joint.AreaName, Joints: []contract.JointCard{}})
		}
		area := &v.Areas[len(v.Areas)-1]
		area.Joints = append(area.Joints, cardView(c))
	}
	return v
}

func cardView(c app.JointCard) contract.JointCard {
	v := contract.JointCard{ID: c.Joint.ID, Tag: c.Joint.Tag, Title: c.Joint.Title, Kind: c.Kind, Bolts: c.Bolts, Thread: c.Thread,
		Figure: c.Figure, State: contract.JointCardState(c.State), Text: c.Text, Station: c.Station, Levels: orNone(c.Levels),
		Marks: make([]contract.Mark, len(c.Marks))}
	for i, m := range c.Marks {
		v.Marks[i] = contract.Mark(m)
	}
	if c.Next > 0 {
		v.Next = &c.Next
	}
	return v
}

func todos(list []app.ToDo) []contract.ToDo {
	out := []contract.ToDo{}
	for _, t := range list {
		v := contract.ToDo{Title: t.Title, Text: t.Text, Detail: t.Detail, Grave: &t.Grave}
		if t.Station > 0 {
			v.Joint, v.Station = &t.Joint, &t.Station
		}
		out = append(out, v)
	}
	return out
}

func figureView(f figure.Figure) contract.Figure {
	v := contract.Figure{Shapes: []contract.FigureShape{}, Bolts: []contract.FigureBolt{}, Labels: []contract.FigureLabel{}, Clock: f.Clock}
	for _, x := range f.Shapes {
		v.Shapes = append(v.Shapes, contract.FigureShape{Role: contract.FigureShapeRole(x.Role), X: tenth(x.X), Y: tenth(x.Y),
			R: tenth(x.R), W: tenth(x.W), H: tenth(x.H)})
	}
	for _, b := range f.Bolts {
		v.Bolts = append(v.Bolts, contract.FigureBolt{Group: b.Group, Bolt: b.Bolt, X: tenth(b.X), Y: tenth(b.Y), R: tenth(b.R)})
	}
	for _, l := range f.Labels {
		v.Labels = append(v.Labels, contract.FigureLabel{Text: l.Text, X: tenth(l.X), Y: tenth(l.Y)})
	}
	return v
}

// tenth rounds a coordinate; a drawing shows no more.
func tenth(v float64) float64 { return unit.Round(v, 0.1) }
