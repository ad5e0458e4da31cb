package recipes_test

import (
	"flag"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

var update = flag.Bool("update", false, "write the acts of the recipes anew; hold them against the page before they are kept")

// one writes a step as the page does: where, what kind, its forms, who holds it, whether it
// cannot be left, what is ticked and compared.
func one(p *work.Plan, s recipe.Step) string {
	var out strings.Builder
	fmt.Fprintf(&out, "%s, %s: %s", s.Station, s.Does, s.ID)
	say := func(format string, args ...any) { fmt.Fprintf(&out, " · "+format, args...) }
	if s.Must || s.Does == recipe.Test {
		say("MUST")
	}
	if s.By != "" {
		say("by %s", s.By)
	}
	if s.Release != "" {
		say("HOLD %s", s.Release)
	}
	if s.Beyond != "" {
		say("beyond: HOLD %s", s.Beyond)
	}
	if s.Group != "" {
		say("%s", s.Group)
	}
	if n := len(s.Ticks); n > 0 {
		say("{%d}", n)
	}
	for _, r := range s.All() {
		if !r.When.Holds(p.Choices) {
			continue
		}
		form := "R"
		if r.Form != "" {
			form += " " + string(r.Form)
		}
		if r.Limit != nil {
			form += " " + r.Limit.Words()
		}
		say("%s", strings.TrimSpace(form))
	}
	if s.Back != "" {
		say("else back to %s", s.Back)
	}
	for _, m := range p.Recipe.MarksOf(s, p.Choices) {
		switch {
		case m.Alike != "":
			say("%s alike", m.Of)
		case m.Opposite != "":
			say("%s across from %s", m.Of, m.Opposite)
		case m.Is != "":
			say("%s is %s", m.Of, m.Is)
		}
	}
	if s.Photo != "" {
		say("photo: %s", s.Photo)
	}
	return out.String()
}

// told are the variants whose acts are written out: the first of each recipe, and for
// each option of each choice the first that has it.
func told(r recipe.Recipe) []map[string]string {
	var out []map[string]string
	has := map[string]bool{}
	for _, choices := range r.Variants() {
		new := len(out) == 0
		for name, option := range choices {
			new = new || !has[name+option]
		}
		if !new {
			continue
		}
		for name, option := range choices {
			has[name+option] = true
		}
		out = append(out, choices)
	}
	return out
}

// Each kind's acts in their order, with their forms, holds and musts, are what the page
// of the kind has; the golden files were held against it line by line.
func TestTheActsOfEveryRecipe(t *testing.T) {
	for _, r := range shipped(t) {
		var out strings.Builder
		before := ""
		for _, choices := range told(r) {
			p := plan(t, r, maps.Clone(choices))
			var list strings.Builder
			for _, s := range p.Steps() {
				if s.Does != recipe.Sign {
					list.WriteString(one(p, s) + "\n")
				}
			}
			if list.String() == before {
				continue
			}
			before = list.String()
			fmt.Fprintf(&out, "%s\n%s\n", strings.TrimSpace("# "+variant(p.Choices)), before)
		}
		path := filepath.Join("testdata", "acts", r.ID+".txt")
		if *update {
			require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o755))
			require.NoError(t, os.WriteFile(path, []byte(out.String()), 0o644))
		}
		want, err := os.ReadFile(path)
		require.NoError(t, err)
		require.Equal(t, string(want), out.String(), r.ID)
	}
}

// What comes later is kept back by what is first, and nothing is signed before the end.
func TestTheFirstStepKeepsTheOthersBack(t *testing.T) {
	for _, r := range shipped(t) {
		for _, choices := range told(r) {
			p := plan(t, r, choices)
			h := worktest.New(t, p)
			first := h.Next()
			for h.Next().Step == first.Step {
				h.Do(h.Next())
			}
			late := h.Next()
			fresh := worktest.New(t, p)
			require.ErrorIs(t, fresh.Try(fresh.Done(late)), &refusal.Error{Code: refusal.NotNext}, r.ID)
			require.ErrorIs(t, fresh.Try(record.Signature{Part: record.Made}), &refusal.Error{Code: refusal.NotNow, Field: "open"})
		}
	}
}
