package words

import (
	"bytes"
	_ "embed"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"dynacor/core/refusal"
)

// The glossary has what the trade calls its things, in each language: of every term the forms
// that its word has in our sentences, one after the other with " / " between. A form that ends
// with "-" begins other words, one that begins with it ends them: "Schrauben-" is that of
// Schraubenkopf.
//
//go:embed glossary.csv
var glossary []byte

// Term is a term of the trade in one language.
type Term struct {
	Term string   `json:"term"` // in English, in small letters
	Is   []string `json:"is"`   // the forms of its word, as our sentences have them
	Own  []string `json:"own"`  // what a site says instead, form by form; empty: nothing
}

// Own is what a site says instead: by term, then by language, form by form; one form alone is
// said for all of them.
type Own map[string]map[string][]string

const between = " / "

// Limits of a site's glossary: far more than anybody says otherwise.
const (
	MostGlossary = 64 << 10 // bytes
	longestWord  = 60       // letters
)

type termRow struct {
	term string
	by   map[string][]string
}

var terms = sync.OnceValue(func() []termRow {
	head, rows, err := readTable(glossary)
	if err != nil {
		panic(err)
	}
	out := make([]termRow, len(rows))
	for i, row := range rows {
		out[i] = termRow{row[0], map[string][]string{}}
		for k, language := range head[1:] {
			out[i].by[language] = strings.Split(row[k+1], between)
		}
	}
	return out
})

// Languages are those that there are catalogues of, beside English.
func Languages() []string { return slices.Sorted(maps.Keys(read)) }

// Terms are the terms of a language, with what a site says instead.
func (o Own) Terms(language string) []Term {
	var out []Term
	for _, t := range terms() {
		if len(t.by[language]) > 0 {
			out = append(out, Term{t.term, t.by[language], o[t.term][language]})
		}
	}
	return out
}

// CSV writes the glossary as a site has it: what it says instead where it does, else ours.
func (o Own) CSV(w io.Writer) error {
	c := csv.NewWriter(w)
	lines := [][]string{append([]string{"term"}, Languages()...)}
	for _, t := range terms() {
		line := []string{t.term}
		for _, language := range Languages() {
			forms := t.by[language]
			if own := o[t.term][language]; len(own) > 0 {
				forms = own
			}
			line = append(line, strings.Join(forms, between))
		}
		lines = append(lines, line)
	}
	return c.WriteAll(lines)
}

// readTable reads a file of terms: its head, and its lines, each as long as the head.
func readTable(file []byte) (head []string, rows [][]string, err error) {
	in := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(file, []byte("\ufeff"))))
	in.FieldsPerRecord = -1
	if line, _, _ := bytes.Cut(file, []byte("\n")); bytes.Count(line, []byte(";")) > bytes.Count(line, []byte(",")) {
		in.Comma = ';' // as spreadsheets write it where the comma is the decimal mark
	}
	all, err := in.ReadAll()
	if err != nil {
		var at *csv.ParseError
		if errors.As(err, &at) {
			return nil, nil, refusal.New(refusal.Contradicts, "file", fmt.Sprintf("Line %d cannot be read as CSV.", at.Line),
				"Save it as CSV, in UTF-8.")
		}
		return nil, nil, err
	}
	if len(all) == 0 {
		return nil, nil, refusal.New(refusal.Missing, "file", "The file is empty.", "Take the glossary as it is and change that.")
	}
	for i, row := range all[1:] {
		if len(row) != len(all[0]) {
			return nil, nil, refusal.Number(refusal.Contradicts, "file", float64(len(row)), float64(len(all[0])), "columns",
				fmt.Sprintf("Line %d has %d columns, its head has %d.", i+2, len(row), len(all[0])), "Give each line all of them.")
		}
	}
	return all[0], all[1:], nil
}

// ReadGlossary reads what a site says instead of our terms, as CSV with a column for each
// language. Cells that are empty, or as ours, overrule nothing. Its errors are refusals and name
// the line.
func ReadGlossary(file []byte) (Own, error) {
	if len(file) > MostGlossary {
		return nil, refusal.Number(refusal.TooLarge, "file", float64(len(file)), MostGlossary, "bytes",
			fmt.Sprintf("The glossary has %d bytes; at most %d are read.", len(file), MostGlossary), "Is it the glossary?")
	}
	if !utf8.Valid(file) {
		return nil, refusal.New(refusal.Contradicts, "file", "The glossary is not written in UTF-8.", "Save it as CSV, in UTF-8.")
	}
	head, rows, err := readTable(file)
	if err != nil {
		return nil, err
	}
	for i, name := range head {
		if i == 0 && name != "term" || i > 0 && (!slices.Contains(Languages(), name) || slices.Contains(head[:i], name)) {
			return nil, refusal.New(refusal.Unknown, "file", fmt.Sprintf("Column %d is %q.", i+1, name),
				"Name the columns term, "+strings.Join(Languages(), ", ")+".")
		}
	}
	own := Own{}
	for i, row := range rows {
		if err := own.take(i+2, head, row); err != nil {
			return nil, err
		}
	}
	return own, nil
}

func (o Own) take(line int, head, row []string) error {
	at := slices.IndexFunc(terms(), func(t termRow) bool { return t.term == strings.ToLower(strings.TrimSpace(row[0])) })
	if at < 0 {
		return refusal.New(refusal.Unknown, "file", fmt.Sprintf("Line %d: the glossary has no term %q.", line, row[0]),
			"Take the glossary as it is and change that.")
	}
	t := terms()[at]
	if o[t.term] != nil {
		return refusal.New(refusal.Contradicts, "file", fmt.Sprintf("Line %d: %s is there twice.", line, t.term), "Leave one out.")
	}
	o[t.term] = map[string][]string{}
	for k, language := range head[1:] {
		cell := strings.TrimSpace(row[k+1])
		if cell == "" || cell == strings.Join(t.by[language], between) {
			continue
		}
		forms := strings.Split(cell, "/")
		for n := range forms {
			forms[n] = strings.TrimSpace(forms[n])
			if err := isWord(line, forms[n]); err != nil {
				return err
			}
		}
		if n := len(t.by[language]); len(forms) != 1 && len(forms) != n {
			return refusal.Number(refusal.Contradicts, "file", float64(len(forms)), float64(n), "forms",
				fmt.Sprintf("Line %d: %s has %d forms in %s; ours has %d.", line, t.term, len(forms), language, n),
				"Give one for each of "+strings.Join(t.by[language], between)+", or one for all.")
		}
		o[t.term][language] = forms
	}
	return nil
}

// isWord refuses what no sentence could have in the place of a word.
func isWord(line int, form string) error {
	letters := 0
	for _, r := range form {
		switch {
		case unicode.IsLetter(r):
			letters++
		case !unicode.Is(unicode.Mn, r) && !strings.ContainsRune(" -’'", r):
			return refusal.New(refusal.OutOfRange, "file", fmt.Sprintf("Line %d: %q has the sign %q.", line, form, r),
				"Use letters alone: numbers and signs are said by the program.")
		}
	}
	switch n := utf8.RuneCountInString(form); {
	case letters == 0:
		return refusal.New(refusal.Missing, "file", fmt.Sprintf("Line %d: a form has no letters.", line), "Give one for each of ours.")
	case n > longestWord:
		return refusal.Number(refusal.TooLarge, "file", float64(n), longestWord, "letters",
			fmt.Sprintf("Line %d: a form has %d letters; at most %d.", line, n, longestWord), "Say it shorter.")
	}
	return nil
}

// Overruled returns the phrases with a site's own words for its terms: in the sentences that say
// the term in English, and nowhere else, as a word may mean two things.
func (p *Phrases) Overruled(terms []Term) *Phrases {
	if p == nil || !slices.ContainsFunc(terms, func(t Term) bool { return len(t.Own) > 0 }) {
		return p
	}
	out := *p
	out.craft, out.patterns = make(map[string]string, len(p.craft)), slices.Clone(p.patterns)
	for key, says := range p.craft {
		out.craft[key] = overruled(key, says, terms)
	}
	for i := range out.patterns {
		out.patterns[i].says = out.craft[out.patterns[i].key]
	}
	return &out
}

// overruled is what a sentence says with the own words of the terms that its English has.
func overruled(key, says string, terms []Term) string {
	for _, t := range terms {
		if len(t.Own) > 0 && hasTerm(key, t.Term) {
			says = t.in(says)
		}
	}
	return says
}

// hasTerm reports whether a sentence has a word that begins with a term, outside its holes.
func hasTerm(key, term string) bool {
	key = strings.ToLower(key)
	for from := 0; ; {
		i := strings.Index(key[from:], term)
		if i < 0 {
			return false
		}
		from += i
		before, _ := utf8.DecodeLastRuneInString(key[:from])
		if !unicode.IsLetter(before) && strings.LastIndexByte(key[:from], '{') <= strings.LastIndexByte(key[:from], '}') {
			return true
		}
		from += len(term)
	}
}

// in says each word of a sentence, outside its holes, that is a form of the term.
func (t Term) in(says string) string {
	var out strings.Builder
	inHole := false
	for len(says) > 0 {
		n := strings.IndexFunc(says, func(r rune) bool { return !unicode.IsLetter(r) })
		switch {
		case n < 0:
			n = len(says)
		case n == 0:
			_, n = utf8.DecodeRuneInString(says)
			inHole = says[0] == '{' || inHole && says[0] != '}'
			out.WriteString(says[:n])
			says = says[n:]
			continue
		}
		if inHole {
			out.WriteString(says[:n])
		} else {
			out.WriteString(t.word(says[:n]))
		}
		says = says[n:]
	}
	return out.String()
}

// word is one word with the site's own for it: whole, by its beginning, or by its end.
func (t Term) word(word string) string {
	for i, form := range t.Is {
		own := strings.Trim(t.Own[min(i, len(t.Own)-1)], "-")
		begins, ends := strings.HasSuffix(form, "-"), strings.HasPrefix(form, "-")
		core := strings.Trim(form, "-")
		switch lower := strings.ToLower(word); {
		case begins && ends:
			if at := strings.Index(lower, core); at > 0 && at+len(core) < len(word) {
				return word[:at] + withFirst(own, unicode.ToLower) + word[at+len(core):]
			}
		case begins:
			if strings.HasPrefix(lower, strings.ToLower(core)) && len(word) > len(core) {
				return alike(own, word) + word[len(core):]
			}
		case ends:
			if strings.HasSuffix(lower, core) && len(word) > len(core) {
				return word[:len(word)-len(core)] + withFirst(own, unicode.ToLower)
			}
		case strings.EqualFold(word, form):
			return alike(own, word)
		}
	}
	return word
}

// alike is a word with a capital where another has one.
func alike(own, word string) string {
	if r, _ := utf8.DecodeRuneInString(word); unicode.IsUpper(r) {
		return withFirst(own, unicode.ToUpper)
	}
	return own
}
