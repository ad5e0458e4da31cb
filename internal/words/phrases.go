// Package words says in the language of whoever reads it what the core, the server and the
// recipes say in English.
//
// What is stored, judged and signed is English and stays as it was said: a record is one text,
// whoever reads it. Saying it in another language is for the eye, where it leaves the program:
// in print here, on a screen in web/src/words, by the same catalogues and the same rules. A
// catalogue has the sentences of the sources as they stand there, with numbered holes: {0} for
// words, {#1} for a number. What it does not have stays English.
package words

import (
	"cmp"
	"embed"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"
)

// craft is what the program says, recipes what the recipes that ship with it say.
//
//go:embed craft/*.json recipes/*.json
var catalogues embed.FS

const (
	number = `([-+−]?\d(?:[\d.,]*\d)?)`
	units  = `N·m|cN·m|kN|°C|mm/m|bar/min|MPa|mm|µm|m|bar|psi|ft·lbf|in·lbf|ft·lb|in·lb|kgf·m|%|°|kg|g|l|min|h|s|K|N|GB|MB|kB`
	months = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec"

	// A pattern with less of its own letters would match sentences that it does not mean; one
	// with as many as firm is meant, whatever stands in its holes.
	least, firm = 2, 16

	// How deep sentences stand in one another.
	deepest = 6
)

var (
	hole    = regexp.MustCompile(`\{#?\d+\}`)
	amount  = regexp.MustCompile(`(\d)\.(\d+)( (?:` + units + `)(?:\PL|$))`)
	united  = regexp.MustCompile(`(?:\d |^)(?:` + units + `)(\PL|$)`)
	date    = regexp.MustCompile(`\b(\d{1,2}) (` + strings.ReplaceAll(months, " ", "|") + `)\b`)
	counted = regexp.MustCompile(`(?s)^(\d+ × )?(.*?\pL)( ` + number + `(?: ?(?:` + units + `))?)?$`) // 2 × nuts; disc screw 6; charge 1.5 bar
	ranged  = regexp.MustCompile(`(\d)\.(\d+)( (?:to|and) ` + number + ` (?:` + units + `)(?:\PL|$))`)
	bare    = regexp.MustCompile(`^` + number + `$`) // in a list: 0.1, 0.2, 0.3 mm
	across  = regexp.MustCompile(`(?s)^[,;:]|[,;:]$|[.;:] `)
	listed  = regexp.MustCompile(`^` + number + ` \PN`)
	stops   = regexp.MustCompile(`(?s)^(.+?)([.:!?]+)$`)
	common  = regexp.MustCompile(`(^|[\s(])\p{Ll}{2,}`)

	clauses = []string{". ", "; ", ": "}
	parts   = []string{", ", " · ", " and ", " or ", " + "}
)

// pattern is a sentence with holes.
type pattern struct {
	key, says string
	holes     []string
	needle    string // a part of it that must be in what it matches
	own       int    // letters
	match     func() *regexp.Regexp
}

// Phrases are the sentences of one language. They may be used from several goroutines.
type Phrases struct {
	craft    map[string]string
	patterns []pattern
	mark     string // decimal
	months   []string
}

// For returns the phrases of a locale like "de-AT"; nil, which says everything as it is, for
// English and for one that nobody knows.
func For(locale string) *Phrases {
	language, _, _ := strings.Cut(locale, "-")
	read, ok := read[language]
	switch {
	case !ok:
		return nil
	case locale == "es-MX":
		p := *read()
		p.mark = "."
		return &p
	}
	return read()
}

// Languages that there are catalogues of.
var read = map[string]func() *Phrases{"de": once("de"), "es": once("es"), "pl": once("pl")}

func once(language string) func() *Phrases {
	return sync.OnceValue(func() *Phrases {
		all := map[string]string{}
		for _, of := range []string{"recipes", "craft"} {
			b, err := catalogues.ReadFile(of + "/" + language + ".json")
			if err != nil {
				panic(err)
			}
			if err := json.Unmarshal(b, &all); err != nil {
				panic(fmt.Errorf("the catalogue %s of %s: %w", of, language, err))
			}
		}
		return New(all, ",")
	})
}

// New returns the phrases of a catalogue; mark is the decimal mark of its locale.
func New(craft map[string]string, mark string) *Phrases {
	p := &Phrases{craft: craft, mark: mark}
	if names := strings.Fields(craft[months]); len(names) == 12 {
		p.months = names
	}
	for key, says := range craft {
		if !strings.Contains(key, "{") {
			continue
		}
		x := patternOf(key, says)
		if x.own >= least || !slices.ContainsFunc(x.holes, func(h string) bool { return h[1] != '#' }) {
			p.patterns = append(p.patterns, x)
		}
	}
	slices.SortFunc(p.patterns, func(a, b pattern) int { return cmp.Or(b.own-a.own, strings.Compare(a.key, b.key)) })
	return p
}

func patternOf(key, says string) pattern {
	x := pattern{key: key, says: says, holes: hole.FindAllString(key, -1)}
	expr := strings.Builder{}
	expr.WriteString("(?s)^")
	for i, part := range hole.Split(key, -1) {
		if len(part) > len(x.needle) {
			x.needle = part
		}
		for _, r := range part {
			if unicode.IsLetter(r) {
				x.own++
			}
		}
		expr.WriteString(regexp.QuoteMeta(part))
		if i < len(x.holes) {
			if x.holes[i][1] == '#' {
				expr.WriteString(number)
			} else {
				expr.WriteString("(.+?)")
			}
		}
	}
	expr.WriteString("$")
	x.match = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(expr.String()) })
	return x
}

// Say returns text in the language of p; what its catalogue lacks stays as it is.
func (p *Phrases) Say(text string) string {
	if p == nil || text == "" {
		return text
	}
	if says, ok := (&asked{Phrases: p, heard: map[string]answer{}}).find(text, 0); ok {
		return says
	}
	return p.amounts(text)
}

// asked is one text that is said: what its parts are called is looked up once.
type asked struct {
	*Phrases
	heard map[string]answer
}

type answer struct {
	says string
	ok   bool
}

// find returns what text is called, and whether the catalogue knows it.
func (p *asked) find(text string, depth int) (string, bool) {
	if depth > deepest || text == "" {
		return "", false
	}
	if a, ok := p.heard[text]; ok {
		return a.says, a.ok
	}
	says, ok := p.look(text, depth)
	p.heard[text] = answer{says, ok}
	return says, ok
}

func (p *asked) look(text string, depth int) (string, bool) {
	if says, ok := p.exact(text); ok {
		return says, true
	}
	if says, ok := p.filled(text, depth); ok {
		return says, true
	}
	if small := withFirst(text, unicode.ToLower); small != text {
		if says, ok := p.filled(small, depth); ok {
			return withFirst(says, unicode.ToUpper), true
		}
	} else if says, ok := p.filled(withFirst(text, unicode.ToUpper), depth); ok {
		return says, true
	}
	if m := stops.FindStringSubmatch(text); m != nil {
		if says, ok := p.find(m[1], depth+1); ok {
			return says + m[2], true
		}
	}
	for _, by := range clauses {
		if says, ok := p.each(text, by, by, true, depth); ok {
			return says, true
		}
	}
	for _, by := range parts {
		if says, ok := p.each(text, by, cmp.Or(p.craft[by], by), false, depth); ok {
			return says, true
		}
	}
	if m := counted.FindStringSubmatch(text); m != nil && m[1]+m[3] != "" {
		if says, ok := p.find(m[2], depth+1); ok {
			return m[1] + says + strings.Replace(m[3], ".", p.mark, 1), true
		}
	}
	return "", false
}

// each says the pieces of a text that by parts; where it is not loose, all of them or none.
func (p *asked) each(text, by, with string, loose bool, depth int) (string, bool) {
	pieces := strings.Split(text, by)
	if len(pieces) < 2 {
		return "", false
	}
	last := len(pieces) - 1
	isNumber := func(s string) bool { return bare.MatchString(s) }
	numbers := by == ", " && listed.MatchString(pieces[last]) && len(slices.DeleteFunc(slices.Clone(pieces[1:last]), isNumber)) == 0
	known := numbers && isNumber(pieces[0])
	for i, piece := range pieces {
		if numbers && i < last && isNumber(piece) {
			pieces[i] = strings.Replace(piece, ".", p.mark, 1)
			continue
		}
		says, ok := p.find(piece, depth+1)
		known = known || ok
		if !ok {
			if !loose && !isName(piece) {
				return "", false
			}
			says = p.amounts(piece)
		}
		pieces[i] = says
	}
	return strings.Join(pieces, with), known
}

func (p *Phrases) exact(text string) (string, bool) {
	if says, ok := p.craft[text]; ok {
		return says, true
	}
	if says, ok := p.craft[withFirst(text, unicode.ToLower)]; ok {
		return withFirst(says, unicode.ToUpper), true
	}
	says, ok := p.craft[withFirst(text, unicode.ToUpper)]
	return says, ok
}

// filled says a text that is a sentence with holes.
func (p *asked) filled(text string, depth int) (string, bool) {
	for i := range p.patterns {
		x := &p.patterns[i]
		if !strings.Contains(text, x.needle) {
			continue
		}
		if m := x.match().FindStringSubmatch(text); m != nil {
			if says, ok := p.fill(x, m, depth); ok {
				return says, true
			}
		}
	}
	return "", false
}

// withFirst is a text whose first letter is another.
func withFirst(text string, as func(rune) rune) string {
	r, n := utf8.DecodeRuneInString(text)
	return string(as(r)) + text[n:]
}

func (p *asked) fill(x *pattern, m []string, depth int) (string, bool) {
	by := make(map[string]string, len(x.holes))
	for i, h := range x.holes {
		text := m[i+1]
		if h[1] == '#' {
			by[h] = strings.Replace(text, ".", p.mark, 1)
			continue
		}
		if x.own < firm && across.MatchString(text) {
			return "", false // it would say pieces of two clauses as one
		}
		says, ok := p.find(text, depth+1)
		if !ok {
			if x.own < firm && !isName(text) {
				return "", false
			}
			says = p.amounts(text)
		}
		by[h] = says
	}
	return hole.ReplaceAllStringFunc(x.says, func(h string) string { return by[h] }), true
}

// amounts writes the decimal marks and the months of what is no sentence of the catalogue.
func (p *Phrases) amounts(text string) string {
	if p.months != nil {
		text = date.ReplaceAllStringFunc(text, func(d string) string {
			day, month, _ := strings.Cut(d, " ")
			return day + " " + p.months[slices.Index(strings.Fields(months), month)]
		})
	}
	if p.mark == "." {
		return text
	}
	for _, of := range []*regexp.Regexp{amount, ranged} {
		text = of.ReplaceAllString(text, "${1}"+p.mark+"${2}${3}")
	}
	return text
}

// isName reports whether text is of names, tags and numbers: nothing that a language would say
// otherwise.
func isName(text string) bool { return !common.MatchString(united.ReplaceAllString(text, "0$1")) }

// Paper returns what is printed on where a locale is at home.
func Paper(locale string) string {
	switch locale {
	case "en-US", "en-CA", "es-MX":
		return "Letter"
	}
	return "A4"
}
