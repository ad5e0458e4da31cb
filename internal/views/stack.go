package views

import (
	"dynacor/core/figure"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/contract"
	"dynacor/internal/judge"
)

// Stack shows the parts of a variant along their axis; nil where none are drawn.
func Stack(r recipe.Recipe, choices map[string]string) *contract.Stack {
	s, ok := figure.StackOf(r, choices)
	if !ok {
		return nil
	}
	v := contract.Stack{First: s.First, Last: s.Last, Up: s.Up, Length: s.Length, Half: s.Half,
		Parts: Each(s.Parts, func(p figure.StackPart) contract.StackPart {
			return contract.StackPart{Name: p.Name, Facing: p.Facing, Way: p.Way, Match: p.Match, For: p.For, Count: p.Count, From: p.From,
				To: p.To, Lines: Each(p.Lines, func(o figure.Outline) contract.Outline {
					return contract.Outline{Along: o.Along, Across: o.Across, Mark: o.Mark}
				})}
		})}
	return &v
}

// Photos lists the photographs of a run that stand.
func Photos(st *work.State, names judge.Names) []contract.PhotoLine {
	out := []contract.PhotoLine{}
	for _, l := range st.Lines() {
		c, ok := l.Content.(record.Photo)
		if !ok {
			continue
		}
		out = append(out, contract.PhotoLine{Entry: ParseID(l.Entry.ID), Step: c.Step, Hash: c.Hash, What: c.What, By: names[l.Entry.Person],
			At: l.Entry.AtTool, Width: c.Width, Height: c.Height})
	}
	return out
}
