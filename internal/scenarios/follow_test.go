package scenarios

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/proof"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/judge"
)

func doneIs(s *work.State, a record.Act) bool {
	_, ok := s.Done(a)
	return ok
}

// follow does whatever is offered next, as a careful person would, until
// something is next.
func (g *stage) follow(where string, a act) {
	goal, ok := strings.CutPrefix(a.Follow, "until ")
	require.True(g.t, ok, "%s: follow %q", where, a.Follow)
	g.known(where, goal)
	if a.After.given {
		g.clock = g.clock.Add(a.After.Duration)
	}
	for n := 0; !g.reached(goal); n++ {
		require.Less(g.t, n, 3000, "%s: %s is never next; open: %v", where, goal, g.run.State.Open())
		require.NoError(g.t, g.step1(a), "%s: on the way to %s", where, goal)
	}
}

var stations = []string{"tool up", "tighten", "prove", "sign"}

// known refuses a goal that is none.
func (g *stage) known(where, goal string) {
	var n int
	_, isStep := g.run.State.Plan().Step(goal)
	_, err1 := fmt.Sscanf(goal, "round %d", &n)
	_, err2 := fmt.Sscanf(goal, "stage %d", &n)
	ok := isStep || goal == "signed" || slices.Contains(stations, goal) || slices.Contains(proof.Requirements(),
		proof.Requirement(goal)) || err1 == nil || err2 == nil
	require.True(g.t, ok, "%s: %q is nothing that can be next", where, goal)
}

func (g *stage) reached(goal string) bool {
	s := g.run.State
	next, ok := s.Next()
	st, _ := s.Plan().Step(next.Step)
	var n int
	switch {
	case goal == "signed":
		return s.Standing == record.Signed
	case slices.Contains(stations, goal):
		return string(s.Standing) == goal
	case !ok:
		return false
	case st.ID == goal || st.Proves == goal:
		return true
	}
	if _, err := fmt.Sscanf(goal, "round %d", &n); err == nil {
		return next.Round == n
	}
	if _, err := fmt.Sscanf(goal, "stage %d", &n); err == nil {
		group, _ := s.Plan().Result.Group(st.Group)
		return next.Round == 0 && next.Bolt > 0 && slices.Index(group.Stages, next.Share) == n-1
	}
	return false
}

// step1 does the one thing that is next.
func (g *stage) step1(a act) error {
	plain := act{As: a.As}
	s := g.run.State
	g.clock = g.clock.Add(time.Minute)
	if s.Standing == record.Sign {
		return g.signs()
	}
	next, ok := s.Next()
	if !ok {
		return fmt.Errorf("nothing is offered; open: %v", s.Open())
	}
	st, _ := s.Plan().Step(next.Step)
	if st.Station == recipe.ToolUp || st.Station == recipe.AtBolts {
		if took, err := g.takeTools(plain); took || err != nil {
			return err
		}
	}
	if next.Photo {
		_, err := g.add(plain, judge.NewEntry{Content: g.photo(st)})
		return err
	}
	d := s.Careful(next)
	as := g.qualified(st.ID)
	if next.Release {
		as = g.whoMay(st.Release, a.As)
	}
	if err := g.ready(plain, d); err != nil {
		return err
	}
	_, err := g.add(plain, judge.NewEntry{Content: d, As: as})
	return err
}

// takeTools chooses tools for the groups that have none: the one that was taken
// last, where it reaches, else the best of the crib.
func (g *stage) takeTools(a act) (took bool, err error) {
	for _, group := range g.run.Plan.Result.Groups {
		if !group.How.Tooled() || len(g.run.State.Tooling[group.Name].Stages) > 0 {
			continue
		}
		ways, err := g.app.Ways(ctx, g.people[a.As], g.joint, group.Name, nil, judge.Place{})
		if err != nil {
			return false, err
		}
		all := ways.All(group.Name)
		if len(all) == 0 {
			return false, ways.Left[0].Why
		}
		_, err = g.add(a, judge.NewEntry{Tools: &all[0].Choice})
		return true, err
	}
	return false, nil
}

// signs gives the next signature by whoever it falls to.
func (g *stage) signs() error {
	makes, checks := g.story.Makes, g.story.Checks
	if makes == "" {
		makes = "marta"
	}
	if checks == "" {
		checks = "ines"
	}
	by, part := makes, record.Made
	if len(g.run.State.Signatures) > 0 {
		by, part = checks, record.Checked
	}
	reason := ""
	if part == record.Checked && g.run.State.Outside() {
		reason = "looked at and accepted"
	}
	_, err := g.add(act{As: by}, judge.NewEntry{Content: record.Signature{Part: part, Reason: reason}})
	return err
}
