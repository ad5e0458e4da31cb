package recipe

import (
	"fmt"

	"dynacor/core/refusal"
)

// Kit is what is laid out at a joint before anything else, beside its parts and the
// tools whose sizes follow from its bolts.
type Kit struct {
	Tools     []Thing
	Materials []Thing
	Wear      []Thing // what protects whoever works here
	NoSockets bool    // the sizes of the bolts' tools are named among the tools
}

// Thing is one thing of a kit.
type Thing struct {
	Text string // a need in braces is what it comes to
	When When
}

// Things lists a kit's own things by what they are, in order.
func (k Kit) things() []struct {
	name string
	list []Thing
} {
	return []struct {
		name string
		list []Thing
	}{{"tools", k.Tools}, {"materials", k.Materials}, {"wear", k.Wear}}
}

func (c checker) checkKit() {
	if c.r.Kit == nil {
		return
	}
	for _, part := range c.r.Kit.things() {
		for i, t := range part.list {
			field := fmt.Sprintf("kit.%s.%d", part.name, i)
			if t.Text == "" {
				c.holds(refusal.New(refusal.Missing, field, "A thing of the kit has no name.", "Say what it is."))
			}
			c.holds(refusal.First(c.told(field, t.Text), c.when(field+".when", t.When)))
		}
	}
}
