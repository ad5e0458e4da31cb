package report

import (
	"fmt"
	"strings"
)

// values lists what the plan was made with and where it is from.
func (p page) values() {
	if len(p.r.Values) == 0 {
		return
	}
	p.section("Values")
	w := []float64{88, 40, 50}
	for _, v := range p.r.Values {
		p.row(w, []string{v.Name, v.Value, v.Source}, "LRL")
	}
}

// groups lists each set of bolts with its stages and tools.
func (p page) groups() {
	for _, g := range p.r.Groups {
		p.section(strings.ToUpper(g.Name[:1]) + g.Name[1:])
		p.MultiCell(width, 5, g.Words, "", "L", false)
		if len(g.Passes) > 0 {
			p.stages(g.Passes)
		}
	}
}

// steps lists every step, station by station: who did it, when, what was read.
func (p page) steps() {
	station := ""
	for _, s := range p.r.Steps {
		if s.Station != station {
			station = s.Station
			p.section(strings.ToUpper(station[:1]) + station[1:])
		}
		c, text := held, strings.TrimSuffix(s.Text, ".")
		if !s.Done {
			c = mind
			text += " – open"
		}
		if s.Readings != "" {
			text += ": " + s.Readings
			if s.Limit != "" {
				text += " (" + s.Limit + ")"
			}
		}
		if len(s.Marks) > 0 {
			text += " – " + strings.Join(s.Marks, "; ")
		}
		if s.Tries > 1 {
			text += fmt.Sprintf(", %d tries", s.Tries)
		}
		if s.Outside != "" {
			c = stop
			text += ". " + sentence(s.Outside) + " Because: " + s.Reason
		}
		if s.By != "" {
			text += ". " + s.By + ", " + s.At.Format("2 Jan 15:04")
		}
		if p.GetY() > 265 {
			p.AddPage()
		}
		p.bullet(c, sentence(text))
	}
}
