package scenarios

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/proof"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/app"
	"dynacor/internal/store"
)

// differs says what is not as expected; empty where all is.
func (g *stage) differs(x expectation) string {
	s := g.run.State
	if x.Signable != nil {
		if is := len(s.Open()) == 0 && s.Standing != record.Signed; is != *x.Signable {
			return fmt.Sprintf("signable is %t; open: %v", is, opened(s))
		}
	}
	if x.Signed != nil {
		is := []string{}
		for _, sig := range s.Signatures {
			is = append(is, string(sig.Part))
		}
		if !slices.Equal(is, *x.Signed) {
			return fmt.Sprintf("signed are %v", is)
		}
	}
	for _, word := range x.Open {
		if !g.isOpen(word) {
			return fmt.Sprintf("%q is not open; open: %v", word, opened(s))
		}
	}
	for _, word := range x.NotOpen {
		if g.isOpen(word) {
			return fmt.Sprintf("%q is open", word)
		}
	}
	if x.Next != nil {
		next, _ := s.Next()
		st, _ := s.Plan().Step(next.Step)
		n := *x.Next
		if (n.Group != "" && n.Group != st.Group) || (n.Bolt != 0 && n.Bolt != next.Bolt) ||
			(n.Station != "" && n.Station != string(s.Standing)) {
			return fmt.Sprintf("next is %+v of %s at %s", next, st.Group, s.Standing)
		}
	}
	for _, diff := range []string{g.deviating(x), g.boltsAre("holds", x.Holds, s.Holds()), g.boltsAre("anew", x.Anew, s.Anew()),
		g.doubtful(x), g.recorded(x)} {
		if diff != "" {
			return diff
		}
	}
	if len(x.Either) == 0 {
		return ""
	}
	var all []string
	for _, e := range x.Either {
		diff := g.differs(e)
		if diff == "" {
			return ""
		}
		all = append(all, diff)
	}
	return "none of either: " + strings.Join(all, "; ")
}

func opened(s *work.State) []string {
	var out []string
	for _, o := range s.Open() {
		out = append(out, o.Kind+" "+o.Step.ID)
	}
	return out
}

func (g *stage) isOpen(word string) bool {
	s := g.run.State
	kinds := []string{work.OpenTrouble, work.OpenDoubt, work.OpenDecision}
	_, isStep := s.Plan().Step(word)
	known := isStep || slices.Contains(kinds, word) || slices.Contains(proof.Requirements(), proof.Requirement(word))
	require.True(g.t, known, "%q is nothing that can be open", word)
	return slices.ContainsFunc(s.Open(), func(o work.Open) bool {
		return o.Kind == word || (o.Kind == work.OpenStep && (o.Step.ID == word || o.Step.Proves == word))
	})
}

func (g *stage) deviating(x expectation) string {
	list := g.run.State.Deviations()
	outside := 0
	on := map[int]bool{}
	var texts []string
	for _, d := range list {
		on[d.Bolt] = true
		texts = append(texts, d.Text)
		if d.Outside {
			outside++
		}
	}
	least := func(is int, want *int) bool {
		return want == nil || (*want == 0 && is == 0) || (*want > 0 && is >= *want)
	}
	if !least(len(list), x.Deviations) || !least(outside, x.Outside) {
		return fmt.Sprintf("%d deviations, %d outside: %q", len(list), outside, texts)
	}
	for _, b := range x.Deviates {
		if !on[b] {
			return fmt.Sprintf("no deviation names bolt %d: %q", b, texts)
		}
	}
	return ""
}

func (g *stage) doubtful(x expectation) string {
	_, is := g.run.State.Doubted()
	return g.boltsAre("doubtful", x.Doubtful, is)
}

// boltsAre compares bolts by the group whose bolts they are.
func (g *stage) boltsAre(what string, want *bolts, is map[string][]int) string {
	if want == nil {
		return ""
	}
	own := g.run.Plan.Result.Own()
	by := want.byGroup
	if by == nil {
		require.Len(g.t, own, 1, "%s: this joint's bolts go by group", what)
		by = map[string][]int{own[0].Name: want.list}
	}
	for name, list := range by {
		group, ok := g.run.Plan.Result.Group(name)
		require.True(g.t, ok, "no group %s", name)
		if group.Of != "" {
			name = group.Of
		}
		if sorted := slices.Sorted(slices.Values(list)); !slices.Equal(sorted, is[name]) && len(sorted)+len(is[name]) > 0 {
			return fmt.Sprintf("%s of %s are %v", what, name, is[name])
		}
	}
	return ""
}

func (g *stage) recorded(x expectation) string {
	if x.Record == "" {
		return ""
	}
	r, err := g.app.Record(ctx, g.joint, 0)
	require.NoError(g.t, err)
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	require.NoError(g.t, e.Encode(r))
	if !strings.Contains(b.String(), x.Record) {
		return fmt.Sprintf("%q does not stand on the record", x.Record)
	}
	return ""
}

// close makes the checks that every story ends with.
func (g *stage) close() {
	again, err := app.New(g.store, time.Now).Run(ctx, g.run.Head.ID)
	require.NoError(g.t, err)
	one, all := g.run.State, again.State
	require.Equal(g.t, one.Standing, all.Standing, "the fold of all at once")
	require.Equal(g.t, one.Offered(), all.Offered())
	require.Equal(g.t, one.Bolts(), all.Bolts())
	require.Equal(g.t, one.Open(), all.Open())
	require.Equal(g.t, one.Deviations(), all.Deviations())
	require.Equal(g.t, one.Holds(), all.Holds())
	require.Equal(g.t, len(one.Signatures), len(all.Signatures))
	found, err := g.store.Audit(ctx, store.Against{})
	require.NoError(g.t, err)
	require.Empty(g.t, found.Faults)
	g.nothingStands()
}

// nothingStands holds the record to its law: no entry that touches a bolt leaves
// an earlier proof or signature standing.
func (g *stage) nothingStands() {
	s := g.run.State
	last := map[string]int{} // by group: the last entry that touched a bolt
	for _, l := range s.Lines() {
		if group, touches := touched(s, l); touches {
			last[group] = l.Entry.Seq
		}
	}
	any := 0
	if len(last) > 0 {
		any = slices.Max(slices.Collect(maps.Values(last)))
	}
	for _, st := range s.Plan().Steps() {
		if st.Station != recipe.Prove || st.Tightens() {
			continue
		}
		if l, ok := s.Done(record.Act{Step: st.ID}); ok {
			require.Greater(g.t, l.Entry.Seq, any, "%s still stands", st.ID)
		}
	}
	for _, sig := range s.Signatures {
		require.Greater(g.t, sig.Entry.Seq, any, "the signature still stands")
	}
}

// touched returns the group of the bolt that an entry touched.
func touched(s *work.State, l work.Line) (group string, ok bool) {
	switch c := l.Entry.Content.(type) {
	case record.Done:
		st, _ := s.Plan().Step(c.Step)
		return st.Group, c.Bolt > 0
	case record.Twice:
		st, _ := s.Plan().Step(c.Step)
		return st.Group, c.Bolt > 0
	case record.Trouble:
		return c.Group, true
	case record.Correction:
		for _, of := range s.Lines() {
			was, is := of.Entry.Content.(record.Done)
			if of.Entry.ID != c.Of || !is || was.Bolt == 0 {
				continue
			}
			st, _ := s.Plan().Step(was.Step)
			now, put := c.Instead.(record.Done)
			return st.Group, !put || (now.Moved && !was.Moved)
		}
	}
	return "", false
}
