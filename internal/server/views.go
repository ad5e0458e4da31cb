package server

import (
	"github.com/google/uuid"

	"dynacor/core/figure"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/server/contract"
	"dynacor/internal/store"
)

// each writes a list as another; one that is not there as an empty one.
func each[A, B any](list []A, view func(A) B) []B {
	out := make([]B, len(list))
	for i, x := range list {
		out[i] = view(x)
	}
	return out
}

// orNone writes a list that is not there as an empty one.
func orNone[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

func parseID(s string) uuid.UUID {
	id, _ := uuid.Parse(s) // ids of entries come from the database as UUIDs
	return id
}

func quantity(q unit.Quantity) contract.Quantity {
	return contract.Quantity{Value: q.Value, Unit: string(q.Unit)}
}

func fromQuantity(q contract.Quantity) unit.Quantity { return unit.Of(q.Value, unit.Unit(q.Unit)) }

func personView(p store.Person) contract.Person {
	return contract.Person{ID: p.ID, Login: p.Login, Name: p.Name, Initials: p.Initials, Roles: roleViews(p.Roles)}
}

func siteView(s app.Site) contract.Site {
	return contract.Site{Name: s.Name, Outage: s.Outage, Day: s.Day, Days: s.Days, Shift: s.Shift, Until: s.Until,
		TorqueUnit: s.TorqueUnit, SayWhy: s.SayWhy,
		Areas: each(s.Areas, areaView)}
}

func wallView(w app.Wall) contract.Wall {
	v := contract.Wall{Site: siteView(w.Site), Areas: []contract.WallArea{}, Next: each(w.Next, todoView),
		Decisions: each(w.Decisions, todoView), Figures: map[string]contract.Figure{}}
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
	return contract.JointCard{ID: c.Joint.ID, Tag: c.Joint.Tag, Title: c.Joint.Title, Kind: c.Kind, Thread: c.Thread,
		Figure: c.Figure, State: contract.JointCardState(c.State), Text: c.Text, Station: c.Station, Levels: orNone(c.Levels),
		Marks: each(c.Marks, func(m string) contract.Mark { return contract.Mark(m) })}
}

func todoView(t app.ToDo) contract.ToDo {
	v := contract.ToDo{Title: t.Title, Text: t.Text, Detail: t.Detail, Grave: t.Grave, Station: t.Station}
	if t.Station > 0 {
		v.Joint = t.Joint
	}
	if t.Tool {
		v.Tool = t.Title
	}
	return v
}

func figureView(f figure.Figure) contract.Figure {
	return contract.Figure{Clock: f.Clock,
		Shapes: each(f.Shapes, func(x figure.Shape) contract.FigureShape {
			return contract.FigureShape{Role: contract.FigureShapeRole(x.Role), X: tenth(x.X), Y: tenth(x.Y), R: tenth(x.R), W: tenth(x.W),
				H: tenth(x.H)}
		}),
		Bolts: each(f.Bolts, func(b figure.Place) contract.FigureBolt {
			return contract.FigureBolt{Group: b.Group, Bolt: b.Bolt, X: tenth(b.X), Y: tenth(b.Y), R: tenth(b.R)}
		}),
		Labels: each(f.Labels, func(l figure.Label) contract.FigureLabel {
			return contract.FigureLabel{Text: l.Text, X: tenth(l.X), Y: tenth(l.Y)}
		})}
}

// tenth rounds a coordinate; a drawing shows no more.
func tenth(v float64) float64 { return unit.Round(v, 0.1) }
