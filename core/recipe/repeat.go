package recipe

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"dynacor/core/refusal"
)

// Repeat is steps, and the groups they make, that are gone through once for each of
// something: layers, sizes, ends. They stand in the recipe once.
type Repeat struct {
	Name   string   // one of them: layer
	Count  string   // the need that holds how many there are; empty: Each
	Each   []string // their names, where they differ by name: M8, M10
	First  string   // the first step that is repeated
	Last   string   // and the last
	Also   []string // steps elsewhere that are done once for each, one after the other
	Groups []string // the groups that each has of its own
	Needs  []string // the needs that each has of its own
}

// MostRepeats is how often steps are gone through at most.
const MostRepeats = 24

// Named says which of them: "layer 2", "M10".
func (x Repeat) named(i int) string {
	if len(x.Each) > 0 {
		return x.Each[i]
	}
	return fmt.Sprintf("%s %d", x.Name, i+1)
}

// Unroll writes the repeats of a recipe out, so many of each by its need; those that
// are not given once. What is repeated has "layer 2" behind its name, step and group.
func (r Recipe) Unroll(counts map[string]float64) Recipe {
	for _, x := range r.Repeats {
		n := len(x.Each)
		if n == 0 {
			n = int(min(max(counts[x.Count], 1), MostRepeats))
		}
		r = r.unroll(x, n)
	}
	r.Repeats = nil
	return r
}

func (r Recipe) unroll(x Repeat, n int) Recipe {
	from := slices.IndexFunc(r.Steps, func(s Step) bool { return s.ID == x.First })
	to := slices.IndexFunc(r.Steps, func(s Step) bool { return s.ID == x.Last })
	if from < 0 || to < from {
		return r
	}
	ids := map[string]bool{}
	for _, s := range r.Steps[from : to+1] {
		ids[s.ID] = true
	}
	for _, id := range x.Also {
		ids[id] = true
	}
	every := func(list []string, own []string) (out []string) { // a step outside that names one of a group names all
		for _, name := range list {
			if !slices.Contains(own, name) {
				out = append(out, name)
				continue
			}
			for i := range n {
				out = append(out, with(name, x.named(i)))
			}
		}
		return out
	}
	own := append(slices.Clone(x.Groups), slices.Sorted(maps.Keys(ids))...)
	var steps []Step
	outside := func(list []Step) {
		for _, s := range list {
			if slices.Contains(x.Also, s.ID) {
				for i := range n {
					steps = append(steps, x.one(s, i, ids, own))
				}
				continue
			}
			s.For, s.Voided = every(s.For, own), every(s.Voided, own)
			steps = append(steps, s)
		}
	}
	outside(r.Steps[:from])
	for i := range n {
		for _, s := range r.Steps[from : to+1] {
			steps = append(steps, x.one(s, i, ids, own))
		}
	}
	outside(r.Steps[to+1:])
	r.Steps, r.Needs, r.Groups = steps, x.needs(r.Needs, n), x.groups(r.Groups, n)
	if r.Sheet != nil {
		sheet := *r.Sheet
		sheet.Rows = slices.Clone(sheet.Rows)
		for i := range sheet.Rows {
			sheet.Rows[i] = x.row(sheet.Rows[i], n)
		}
		r.Sheet = &sheet
	}
	return r
}

// one is a step as it is done for one of them.
func (x Repeat) one(s Step, i int, ids map[string]bool, own []string) Step {
	rename := func(name string, among []string) string {
		if slices.Contains(among, name) {
			return with(name, x.named(i))
		}
		return name
	}
	s.ID, s.Text = with(s.ID, x.named(i)), capital(x.named(i))+": "+s.Text
	s.Group, s.Sample = rename(s.Group, x.Groups), rename(s.Sample, x.Groups)
	if ids[s.Back] {
		s.Back = with(s.Back, x.named(i))
	}
	s.For, s.Voided = slices.Clone(s.For), slices.Clone(s.Voided)
	for k := range s.For {
		s.For[k] = rename(s.For[k], x.Groups)
	}
	for k := range s.Voided {
		s.Voided[k] = rename(s.Voided[k], own)
	}
	if s.Block != "" {
		s.Block = with(s.Block, x.named(i))
	}
	if s.Limit != nil {
		s.Limit = x.limit(*s.Limit, i)
	}
	s.Reads = slices.Clone(s.Reads)
	for k := range s.Reads {
		if l := s.Reads[k].Limit; l != nil {
			s.Reads[k].Limit = x.limit(*l, i)
		}
	}
	return s
}

// limit is a limit that follows from what each has of its own.
func (x Repeat) limit(l Limit, i int) *Limit {
	for _, name := range []*string{&l.Of, &l.HighOf, &l.EvenOf, &l.Plus, &l.Over} {
		if slices.Contains(x.Needs, *name) {
			*name = with(*name, x.named(i))
		}
	}
	return &l
}

func (x Repeat) needs(list []Need, n int) (out []Need) {
	for _, need := range list {
		if !slices.Contains(x.Needs, need.Name) {
			out = append(out, need)
			continue
		}
		for i := range n {
			one := need
			one.Name, one.Text = with(need.Name, x.named(i)), need.Text+", "+x.named(i)
			out = append(out, one)
		}
	}
	return out
}

func (x Repeat) groups(list []Group, n int) (out []Group) {
	for _, g := range list {
		if !slices.Contains(x.Groups, g.Name) {
			out = append(out, g)
			continue
		}
		for i := range n {
			one := g
			one.Name = with(g.Name, x.named(i))
			if slices.Contains(x.Groups, g.Of) {
				one.Of = with(g.Of, x.named(i))
			}
			if slices.Contains(x.Groups, g.Was) {
				one.Was = with(g.Was, x.named(i))
			}
			if slices.Contains(x.Needs, g.Value) {
				one.Value = with(g.Value, x.named(i))
			}
			out = append(out, one)
		}
	}
	return out
}

// row gives what a sheet says of one to each; what it says of "bolts, M10" stays.
func (x Repeat) row(r Row, n int) Row {
	r.Values, r.Bolts = spread(x, x.Needs, r.Values, n), spread(x, x.Groups, r.Bolts, n)
	r.Threads, r.Grades, r.For = spread(x, x.Groups, r.Threads, n), spread(x, x.Groups, r.Grades, n), spread(x, x.Groups, r.For, n)
	return r
}

func spread[V any](x Repeat, own []string, m map[string]V, n int) map[string]V {
	if m == nil {
		return nil
	}
	out := maps.Clone(m)
	for _, name := range own {
		v, ok := m[name]
		if !ok {
			continue
		}
		delete(out, name)
		for i := range n {
			if _, there := out[with(name, x.named(i))]; !there {
				out[with(name, x.named(i))] = v
			}
		}
	}
	return out
}

// whole is the name of what is repeated, where a sheet speaks of one of them: bolts, of
// "bolts, M10".
func (r Recipe) whole(name string) string {
	for _, x := range r.Repeats {
		for _, each := range x.Each {
			base, ok := strings.CutSuffix(name, ", "+each)
			if ok && (slices.Contains(x.Groups, base) || slices.Contains(x.Needs, base)) {
				return base
			}
		}
	}
	return name
}

func with(name, which string) string { return name + ", " + which }

func capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

// checkRepeats refuses a repeat without an end, or of what is not there.
func (c checker) checkRepeats() {
	for i, x := range c.r.Repeats {
		c.holds(c.repeat(fmt.Sprintf("repeats.%d", i), x))
	}
}

func (c checker) repeat(field string, x Repeat) error {
	at := func(id string) int { return slices.IndexFunc(c.r.Steps, func(s Step) bool { return s.ID == id }) }
	switch n, counted := c.needs[x.Count]; {
	case x.Name == "":
		return refusal.New(refusal.Missing, field+".name", "What is repeated has no name.", "Say what one of them is: a layer.")
	case len(x.Each) == 0 && (!counted || n.Unit != "" || n.Rule != nil):
		return refusal.New(refusal.Missing, field+".count", fmt.Sprintf("The %s is repeated without end: %q is no value that counts.", x.Name,
			x.Count), "Name the value that holds how many there are, or name each.")
	case len(x.Each) > MostRepeats:
		return refusal.Number(refusal.TooLarge, field+".each", float64(len(x.Each)), MostRepeats, "", fmt.Sprintf(
			"%d of them; at most %d are gone through.", len(x.Each), MostRepeats), "Make two recipes of it.")
	case at(x.First) < 0 || at(x.Last) < at(x.First):
		return refusal.New(refusal.Unknown, field+".first", fmt.Sprintf("%q to %q are no steps one after the other.", x.First, x.Last),
			"Name the first step that is repeated, and the last.")
	}
	for _, name := range x.Groups {
		if _, ok := c.groups[name]; !ok {
			return refusal.New(refusal.Unknown, field+".groups", fmt.Sprintf("No group is named %q.", name), "Name one of the recipe's groups.")
		}
	}
	for _, name := range x.Needs {
		if _, ok := c.needs[name]; !ok || name == x.Count {
			return refusal.New(refusal.Unknown, field+".needs", fmt.Sprintf("No value is named %q.", name), "Name one of the recipe's values.")
		}
	}
	for k, s := range c.r.Steps {
		inside := k >= at(x.First) && k <= at(x.Last)
		if slices.Contains(x.Groups, s.Sample) && !inside && !slices.Contains(x.Also, s.ID) {
			return refusal.New(refusal.Contradicts, fmt.Sprintf("steps.%d.sample", k), fmt.Sprintf(
				"%q samples %s, of which there are several.", s.ID, s.Sample), "Name the step under also.")
		}
		if slices.Contains(x.Groups, s.Group) != (inside && s.Group != "") && (s.Group != "" && (inside || slices.Contains(x.Groups, s.Group))) {
			return refusal.New(refusal.Contradicts, fmt.Sprintf("steps.%d.group", k), fmt.Sprintf(
				"%q works on %s, and one of the two is repeated without the other.", s.ID, s.Group), "Repeat both, or neither.")
		}
	}
	return nil
}
