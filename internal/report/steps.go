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

// groups lists each set of bolts with its stages, tools and rounds.
func (p page) groups() {
	for _, g := range p.r.Groups {
		p.section(strings.ToUpper(g.Name[:1]) + g.Name[1:])
		p.MultiCell(width, 5, g.Words, "", "L", false)
		if len(g.Stages) > 0 {
			p.stages(g.Stages)
		}
		if g.Band != "" {
			p.Ln(1)
			p.MultiCell(width, 5, g.Band, "", "L", false)
		}
		for _, said := range g.Compared {
			p.MultiCell(width, 5, said, "", "L", false)
		}
		for _, r := range g.Rounds {
			c := held
			if len(r.Moved) > 0 || !r.Counted {
				c = mind
			}
			p.bullet(c, r.Text)
		}
	}
}

func (p page) stages(list []Stage) {
	p.SetDrawColor(line.r, line.g, line.b)
	w := []float64{14, 16, 28, 48, 30, 42}
	p.ink(soft)
	p.row(w, []string{"stage", "share", "torque", "tools", "set to", "calibrated, due"}, "LRRLRR")
	p.ink(ink)
	for _, s := range list {
		set := ""
		if s.Setting > 0 {
			set = fmt.Sprintf("%.5g %s", s.Setting, s.Unit)
		}
		p.row(w, []string{fmt.Sprint(s.Number), fmt.Sprintf("%g %%", s.Share), fmt.Sprintf("%.5g N·m", s.Torque), s.Tools, set,
			strings.Trim(s.Calibrated+", "+s.Due, ", ")}, "LRRLRR")
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
		c, text := held, p.recipe(strings.TrimSuffix(s.Text, "."))
		if !s.Done {
			c = mind
			text = p.fill("{0} – open", text)
		}
		if s.Readings != "" {
			text += ": " + p.says(s.Readings)
			if s.Limit != "" {
				text += " (" + p.says(s.Limit) + ")"
			}
		}
		if s.Comes != "" {
			text += ", " + p.says(s.Comes)
		}
		if s.Held != "" {
			text = p.fill("{0}, held {1}", text, p.says(s.Held))
		}
		if len(s.Ticks) > 0 {
			text += ": " + p.each(s.Ticks, "; ", p.recipe)
		}
		if len(s.Marks) > 0 {
			text += " – " + p.each(s.Marks, "; ", p.says)
		}
		if n := len(s.Tries); n > 1 {
			text = p.fill("{0}, {#1} tries: {2}", text, n, p.each(s.Tries, p.says("; then "), p.says))
		} else if n == 1 {
			text = p.fill("{0}, tried: {1}", text, p.says(s.Tries[0]))
		}
		if s.Outside != "" {
			c = stop
			text = p.fill("{0}. {1} Because: {2}", text, p.says(sentence(s.Outside)), s.Reason)
		}
		if s.By != "" {
			text += ". " + s.By + ", " + p.says(s.At.Format("2 Jan 2006 15:04"))
		}
		if s.Released != "" {
			text = p.fill("{0}. Released by {1}", text, s.Released)
		}
		if p.past(265) {
			p.AddPage()
		}
		p.said().bullet(c, sentence(text))
	}
}
