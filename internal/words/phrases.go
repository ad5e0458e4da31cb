// Package words says in the language of whoever reads it what the core, the server and the
// recipes say in English.
//
// What is stored, judged and signed is English and stays as it was said: a record is one text,
// whoever reads it. Saying it in another language is for the eye, where it leaves the program:
// in print here, on a screen in web/src/words, by the same catalogues and the same rules. A
// catalogue has the sentences of the sources as they stand there, with numbered holes: {0} for
// words, {#1} for a number; a word that is counted has its forms behind the number, as
// "{#0} <pull|pulls>". What it does not have stays English.
package words

import (
	"cmp"
	"embed"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strconv"
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
	units  = `N·m|cN·m|kN|°C|mm/m|bar/min|MPa|mm|km|µm|m|bar|psi|ft·lbf|in·lbf|ft·lb|in·lb|kgf·m|%|°|kg|g|l|min|h|s|K|N|GB|MB|kB`
	readIn = `mm/m|mm|µm|m|bar|psi|°C|kN|N·m|l|h` // in which several readings follow one another
	months = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec"

	// A pattern with less of its own letters would match sentences that it does not mean; one
	// with as many as firm is meant, whatever stands in its holes.
	least, firm = 2, 16

	// How deep sentences stand in one another.
	deepest = 6
)

var (
	hole    = regexp.MustCompile(`\{#?\d+\}`)
	amount  = regexp.MustCompile(`(\d)\.(\d+)(°| (?:` + units + `)(?:\PL|$))`)
	united  = regexp.MustCompile(`(?:\d |^)(?:` + units + `)(\PL|$)`)
	date    = regexp.MustCompile(`\b(\d{1,2}) (` + strings.ReplaceAll(months, " ", "|") + `)\b`)
	counted = regexp.MustCompile(`(?s)^(\d+ × )?(.*?\pL)( ` + number +
		`(?: ?(?:` + units + `)|(?:, ` + number + `)+ (?:` + readIn + `))?)?$`) // 2 × nuts; disc screw 6; gap 1.5, 2 mm
	ranged = regexp.MustCompile(`(\d)\.(\d+)( (?:to|and) ` + number + ` (?:` + units + `)(?:\PL|$))`)
	bare   = regexp.MustCompile(`^` + number + `$`) // in a list: 0.1, 0.2, 0.3 mm
	across = regexp.MustCompile(`(?s)^[,;:]|[,;:]$|[.;:] `)
	listed = regexp.MustCompile(`^` + number + ` \PN`)
	ended  = regexp.MustCompile(`^` + number + ` (?:` + readIn + `|\pL{3,})$`) // and the last of it: 1.4 threads
	stops  = regexp.MustCompile(`(?s)^(.+?)([.:!?]+)$`)
	common = regexp.MustCompile(`(^|[\s(])\p{Ll}{2,}`)

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
	language string // as "de"
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
		return New(language, all, ",")
	})
}

// New returns the phrases of the catalogue of a language; mark is the decimal mark of its locale.
func New(language string, craft map[string]string, mark string) *Phrases {
	p := &Phrases{language: language, craft: craft, mark: mark}
	if names := strings.Fields(craft[months]); len(names) == 12 {
		p.months = names
	}
	p.learn(craft)
	return p
}

// learn adds the sentences with holes of a catalogue to the patterns, the most telling first. One
// that is but holes for words would match anything.
func (p *Phrases) learn(craft map[string]string) {
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
	says, _ := p.Said(text)
	return says
}

// Said returns text in the language of p, and whether all of it is: what its catalogue lacks
// stays English.
func (p *Phrases) Said(text string) (says string, whole bool) {
	if p == nil || text == "" {
		return text, true
	}
	if says, known := (&asked{Phrases: p, heard: map[string]answer{}}).find(text, 0); known != unknown {
		return says, known == whollyKnown
	}
	return p.amounts(text), isName(text)
}

// Fill says a sentence of the catalogue with what was said before in its holes, in their order; in
// English where the catalogue has none.
func (p *Phrases) Fill(sentence string, holes ...any) string {
	says, known := sentence, false
	if p != nil {
		if says, known = p.exact(sentence); !known {
			says = sentence
		}
	}
	says = hole.ReplaceAllStringFunc(says, func(h string) string {
		at, err := strconv.Atoi(strings.Trim(h, "{#}"))
		if err != nil || at >= len(holes) {
			return h
		}
		return fmt.Sprint(holes[at])
	})
	if !known {
		return says
	}
	return p.agree(says)
}

// asked is one text that is said: what its parts are called is looked up once.
type asked struct {
	*Phrases
	heard map[string]answer
}

// known is how much of a text the catalogue has.
type known int

const (
	unknown known = iota
	partlyKnown
	whollyKnown
)

// with is what is known of two pieces together; a name need not be.
func (k known) with(other known, text string) known {
	if other == unknown && isName(text) {
		return k
	}
	return min(k, max(other, partlyKnown))
}

type answer struct {
	says  string
	known known
}

// find returns what text is called, and how much of it the catalogue knows.
func (p *asked) find(text string, depth int) (string, known) {
	if depth > deepest || text == "" {
		return "", unknown
	}
	if a, ok := p.heard[text]; ok {
		return a.says, a.known
	}
	says, known := p.look(text, depth)
	p.heard[text] = answer{says, known}
	return says, known
}

func (p *asked) look(text string, depth int) (string, known) {
	if says, ok := p.exact(text); ok {
		return says, whollyKnown
	}
	if says, known := p.filled(text, depth); known != unknown {
		return says, known
	}
	if small := withFirst(text, unicode.ToLower); small != text {
		if says, known := p.filled(small, depth); known != unknown {
			return withFirst(says, unicode.ToUpper), known
		}
	} else if says, known := p.filled(withFirst(text, unicode.ToUpper), depth); known != unknown {
		return says, known
	}
	if m := stops.FindStringSubmatch(text); m != nil {
		if says, known := p.find(m[1], depth+1); known != unknown {
			return says + m[2], known
		}
	} else if says, known := p.stopped(text, depth); known != unknown {
		return says, known
	}
	if says, known := p.headed(text, depth); known != unknown {
		return says, known
	}
	for _, by := range clauses {
		if says, known := p.each(text, by, by, true, depth); known != unknown {
			return says, known
		}
	}
	if m := counted.FindStringSubmatch(text); m != nil && m[1]+m[3] != "" {
		if says, known := p.find(m[2], depth+1); known != unknown {
			return m[1] + says + p.listed(m[3]), known
		}
	}
	for _, by := range parts {
		if says, known := p.each(text, by, cmp.Or(p.craft[by], by), false, depth); known != unknown {
			return says, known
		}
	}
	return "", unknown
}

// headed says a sentence of the catalogue, whatever clauses it has, with what it is of before it:
// layer 1, a part.
func (p *asked) headed(text string, depth int) (string, known) {
	head, rest, ok := strings.Cut(text, ": ")
	if !ok {
		return "", unknown
	}
	says, ok := p.exact(rest)
	if !ok {
		if says, ok = p.exact(rest + "."); ok {
			says = strings.TrimSuffix(says, ".")
		}
	}
	if !ok || !strings.ContainsAny(rest, ";:.") {
		return "", unknown
	}
	of, known := p.find(head, depth+1)
	if known == unknown {
		of = p.amounts(head)
	}
	return of + ": " + says, whollyKnown.with(known, head)
}

// stopped says a text that the catalogue has with a full stop.
func (p *asked) stopped(text string, depth int) (string, known) {
	says, ok := p.exact(text + ".")
	known := whollyKnown
	if !ok {
		says, known = p.filled(text+".", depth)
	}
	if says, cut := strings.CutSuffix(says, "."); cut {
		return says, known
	}
	return "", unknown
}

// each says the pieces of a text that by parts; where it is not loose, all of them or none.
func (p *asked) each(text, by, with string, loose bool, depth int) (string, known) {
	pieces := strings.Split(text, by)
	if len(pieces) < 2 {
		return "", unknown
	}
	last := len(pieces) - 1
	isNumber := func(s string) bool { return bare.MatchString(s) }
	numbers := by == ", " && listed.MatchString(pieces[last]) && len(slices.DeleteFunc(slices.Clone(pieces[1:last]), isNumber)) == 0
	any, all := numbers && isNumber(pieces[0]), whollyKnown
	if any && ended.MatchString(pieces[last]) {
		with = p.between()
	}
	for i, piece := range pieces {
		if numbers && i < last && isNumber(piece) {
			pieces[i] = strings.Replace(piece, ".", p.mark, 1)
			continue
		}
		says, known := p.find(piece, depth+1)
		any, all = any || known != unknown, all.with(known, piece)
		if known == unknown {
			if !loose && !isName(piece) {
				return "", unknown
			}
			says = p.amounts(piece)
		}
		pieces[i] = says
	}
	if !any {
		return "", unknown
	}
	return strings.Join(pieces, with), all
}

// listed writes numbers, one after the other.
func (p *Phrases) listed(numbers string) string {
	return strings.ReplaceAll(strings.ReplaceAll(numbers, ", ", p.between()), ".", p.mark)
}

// between is what stands between numbers: where a comma is their decimal mark, another sign.
func (p *Phrases) between() string {
	if p.mark == "," {
		return " · "
	}
	return ", "
}

func (p *Phrases) exact(text string) (string, bool) {
	if says, ok := p.craft[text]; ok {
		return says, true
	}
	if says, ok := p.craft[withFirst(text, unicode.ToLower)]; ok {
		return withFirst(says, unicode.ToUpper), true
	}
	if says, ok := p.craft[withFirst(text, unicode.ToUpper)]; ok {
		return says, true
	}
	says, ok := p.craft[" "+text] // that follows another
	return strings.TrimPrefix(says, " "), ok
}

// filled says a text that is a sentence with holes.
func (p *asked) filled(text string, depth int) (string, known) {
	for i := range p.patterns {
		x := &p.patterns[i]
		if !strings.Contains(text, x.needle) {
			continue
		}
		if m := x.match().FindStringSubmatch(text); m != nil {
			if says, known := p.fill(x, m, depth); known != unknown {
				return says, known
			}
		}
	}
	return "", unknown
}

// withFirst is a text whose first letter is another.
func withFirst(text string, as func(rune) rune) string {
	r, n := utf8.DecodeRuneInString(text)
	return string(as(r)) + text[n:]
}

func (p *asked) fill(x *pattern, m []string, depth int) (string, known) {
	by, all := make(map[string]string, len(x.holes)), whollyKnown
	for i, h := range x.holes {
		text := m[i+1]
		if h[1] == '#' {
			by[h] = strings.Replace(text, ".", p.mark, 1)
			continue
		}
		if _, whole := p.exact(text); !whole && x.own < firm && across.MatchString(text) {
			return "", unknown // it would say pieces of two clauses as one
		}
		says, known := p.find(text, depth+1)
		if known == unknown {
			if x.own < firm && !isName(text) {
				return "", unknown
			}
			says = p.amounts(text)
		}
		by[h], all = says, all.with(known, text)
	}
	return p.agree(hole.ReplaceAllStringFunc(x.says, func(h string) string { return by[h] })), all
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

// Prose reports whether a language would say a text otherwise: names, tags and numbers it would
// not.
func Prose(text string) bool { return !isName(strings.ToLower(text)) }

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
