package work

import (
	"fmt"
	"slices"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/thread"
)

// KitStep is the step in which everything is laid out, before anything else.
const KitStep = "kit"

// kitted puts the kit of a joint before its steps: parts, tools with the sizes that
// follow from its bolts, materials, what is worn. What is not there is said, and holds
// the start.
func kitted(steps []recipe.Step, in joint.Input, r recipe.Recipe, res joint.Result) []recipe.Step {
	if r.Kit == nil {
		return steps
	}
	s := recipe.Step{ID: KitStep, Does: recipe.Check, Station: recipe.LayOut, Text: "Everything is laid out at the joint",
		Voided: []string{recipe.Nothing}}
	for _, t := range Kit(in, r, res) {
		s.Ticks = append(s.Ticks, recipe.Tick{Text: t.Text})
	}
	return append([]recipe.Step{s}, steps...)
}

// Thing is one thing of a joint's kit: a part, a tool, a material, something worn.
type Thing struct {
	Kind string
	Text string
}

// The kinds of things.
const (
	KitPart     = "part"
	KitTool     = "tool"
	KitMaterial = "material"
	KitWear     = "wear"
)

// Kit lists what is laid out at a joint, parts first.
func Kit(in joint.Input, r recipe.Recipe, res joint.Result) []Thing {
	if r.Kit == nil {
		return nil
	}
	var out []Thing
	for _, p := range r.Parts {
		if p.Match == "" || !p.When.Holds(in.Choices) || r.Undoes.Is(in.Choices) {
			continue // what is taken apart has its parts in it
		}
		text := p.Name
		if p.Count > 1 {
			text = fmt.Sprintf("%d × %s", p.Count, p.Name)
		}
		out = append(out, Thing{KitPart, text})
	}
	add := func(kind, text string) {
		if !slices.Contains(out, Thing{kind, text}) {
			out = append(out, Thing{kind, text})
		}
	}
	if !r.Kit.NoSockets {
		for _, text := range sizes(res) {
			add(KitTool, text)
		}
	}
	for _, list := range []struct {
		kind   string
		things []recipe.Thing
	}{{KitTool, r.Kit.Tools}, {KitMaterial, r.Kit.Materials}, {KitWear, r.Kit.Wear}} {
		if list.kind == KitMaterial {
			for _, g := range res.Groups {
				if g.How == recipe.ByTorque && g.Lubrication != "" && !g.IsDry && !g.Stands {
					add(KitMaterial, g.Lubrication)
				}
			}
		}
		for _, t := range list.things {
			if t.When.Holds(in.Choices) {
				add(list.kind, recipe.Told(t.Text, func(need string) string { return told(res, need) }))
			}
		}
	}
	return out
}

// sizes are the tools that take hold of the bolts, each said once, with what it is for.
func sizes(res joint.Result) []string {
	var tools []string
	groups := map[string][]string{}
	for _, g := range res.Groups {
		tool := sized(g, res)
		if tool == "" {
			continue
		}
		if len(groups[tool]) == 0 {
			tools = append(tools, tool)
		}
		groups[tool] = append(groups[tool], g.Name)
	}
	for i, tool := range tools {
		tools[i] = tool + " for the " + words(groups[tool])
	}
	return tools
}

// sized is the tool that takes hold of a group's bolts, by its size; empty where no
// thread is known, or nothing takes hold of them.
func sized(g joint.Group, res joint.Result) string {
	t, err := thread.Parse(g.Thread)
	if err != nil || g.How == recipe.NotTorqued {
		return ""
	}
	head := g.Head
	if owner, ok := res.Group(g.Of); ok && head == "" {
		head = owner.Head
	}
	if head == "" {
		head = t.HeadOf(g.Grade)
	}
	size, err := t.DriveSize(head)
	if err != nil {
		return ""
	}
	byHand := g.How == recipe.ByTurns || g.How == recipe.ByHand
	what := "socket"
	switch {
	case head.Inside() && byHand:
		what = "hex key"
	case head.Inside():
		what = "hex bit"
	case byHand:
		what = "spanner"
	case g.How == recipe.ByPressure:
		what = "impact socket"
	}
	return fmt.Sprintf("%s %.4g mm", what, size)
}
