package server

import (
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/store"
	"dynacor/internal/views"
)

func personView(p store.Person) contract.Person {
	return contract.Person{ID: p.ID, Login: p.Login, Name: p.Name, Initials: p.Initials, Roles: roleViews(p.Roles)}
}

func siteView(s app.Site) contract.Site {
	return contract.Site{Name: s.Name, Outage: s.Outage, Day: s.Day, Days: s.Days, Shift: s.Shift, Until: s.Until,
		TorqueUnit: s.TorqueUnit, SayWhy: s.SayWhy,
		Areas: views.Each(s.Areas, areaView)}
}

func wallView(w app.Wall) contract.Wall {
	v := contract.Wall{Site: siteView(w.Site), Areas: []contract.WallArea{}, Next: views.Each(w.Next, todoView),
		Decisions: views.Each(w.Decisions, todoView), Devices: views.Each(w.Devices, deviceView), Figures: map[string]contract.Figure{}}
	for key, f := range w.Figures {
		v.Figures[key] = views.Figure(f)
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

func deviceView(d app.AtWork) contract.WallDevice {
	v := contract.WallDevice{ID: d.ID, Name: d.Name, By: d.By, Acts: d.Acts, Seen: d.Seen, Silent: d.Silent,
		Joints: views.Each(d.At, func(j store.Joint) contract.TaggedJoint { return contract.TaggedJoint{ID: j.ID, Tag: j.Tag} })}
	if d.Since != nil {
		v.Since = *d.Since
	}
	return v
}

func cardView(c app.JointCard) contract.JointCard {
	return contract.JointCard{ID: c.Joint.ID, Tag: c.Joint.Tag, Title: c.Joint.Title, Kind: c.Kind, Thread: c.Thread,
		Figure: c.Figure, State: contract.JointCardState(c.State), Text: c.Text, Station: c.Station, Levels: views.OrNone(c.Levels),
		Marks: views.Each(c.Marks, func(m string) contract.Mark { return contract.Mark(m) })}
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
