package proof

import (
	"fmt"
	"strings"
)

// Rule is what a mark is held against; empty fields ask nothing.
type Rule struct {
	Of       string // what it is read on
	Alike    string // the set in which all are alike
	Opposite string // the other mark, across from which it points: hours of the clock
	Unlike   string // the other mark that it differs from
	Is       string // what it must say
}

// Mismatch names two marks that do not go together, with what each says.
type Mismatch struct {
	Of, Says       string
	Other, Against string // the other mark and what it says, or what the paper has
	Reason         string
}

// JudgeMarks compares marks by their rules: alike within a set, across from one
// another, different, or what the paper has. Case and spaces do not count. It returns
// the first that does not match; nil where all do.
func JudgeMarks(rules []Rule, found map[string]string) *Mismatch {
	first := map[string]Rule{} // of each set
	for _, r := range rules {
		says := found[r.Of]
		no := func(other, against, format string, args ...any) *Mismatch {
			return &Mismatch{Of: r.Of, Says: says, Other: other, Against: against, Reason: fmt.Sprintf(format, args...)}
		}
		if v, err := JudgeParts([]string{plain(says)}, []string{plain(r.Is)}); r.Is != "" && (err != nil || !v.Holds) {
			return no("the paper", r.Is, "The %s reads %q; it must read %q.", r.Of, says, r.Is)
		}
		if r.Unlike != "" && plain(says) == plain(found[r.Unlike]) {
			return no(r.Unlike, found[r.Unlike], "The %s and the %s both read %q; they must differ.", r.Of, r.Unlike, says)
		}
		if r.Opposite != "" {
			v, err := phase(says, found[r.Opposite])
			if err != nil || !v.Holds {
				return no(r.Opposite, found[r.Opposite], "The %s points to %s, the %s to %s; they must be across from one another.", r.Of, says,
					r.Opposite, found[r.Opposite])
			}
		}
		if r.Alike == "" {
			continue
		}
		if o, there := first[r.Alike]; !there {
			first[r.Alike] = r
		} else if plain(found[o.Of]) != plain(says) {
			return no(o.Of, found[o.Of], "The %s reads %q, the %s %q; they must be alike.", o.Of, found[o.Of], r.Of, says)
		}
	}
	return nil
}

// phase judges two hours of the clock.
func phase(one, other string) (Verdict, error) {
	a, err := hour(one)
	if err != nil {
		return Verdict{}, err
	}
	b, err := hour(other)
	if err != nil {
		return Verdict{}, err
	}
	return JudgePhase(30*a, 30*b)
}

func hour(says string) (float64, error) {
	var h float64
	if _, err := fmt.Sscanf(strings.TrimSpace(says), "%g o’clock", &h); err == nil {
		return h, nil
	}
	_, err := fmt.Sscanf(strings.TrimSpace(says), "half past %g", &h)
	return h + 0.5, err
}

// plain is a mark without what does not count.
func plain(s string) string { return strings.ToLower(strings.Join(strings.Fields(s), "")) }
