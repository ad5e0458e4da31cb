package words

import (
	"regexp"
	"strconv"
	"strings"

	"golang.org/x/text/feature/plural"
	"golang.org/x/text/language"
)

// In a catalogue the forms of a word that is counted stand in angle brackets behind its number,
// "{#0} <pull|pulls>": as many as the language has for whole numbers, by the rules of Unicode
// (CLDR). Polish has three: one, a few, many.
var (
	formsOf  = regexp.MustCompile(`<([^<>|]*\|[^<>]*)>`)
	numberIn = regexp.MustCompile(number)

	pluralForms = map[string][]plural.Form{
		"pl": {plural.One, plural.Few, plural.Many},
	}
	twoForms = []plural.Form{plural.One, plural.Other}
)

// agree chooses the form that goes with the number before it.
func (p *Phrases) agree(says string) string {
	if !strings.Contains(says, "|") {
		return says
	}
	var out strings.Builder
	from := 0
	for _, at := range formsOf.FindAllStringSubmatchIndex(says, -1) {
		before := numberIn.FindAllString(says[:at[0]], -1)
		if len(before) == 0 {
			continue
		}
		out.WriteString(says[from:at[0]] + p.form(before[len(before)-1], strings.Split(says[at[2]:at[3]], "|")))
		from = at[1]
	}
	return out.String() + says[from:]
}

func (p *Phrases) form(number string, forms []string) string {
	last := forms[len(forms)-1]
	n, err := strconv.Atoi(strings.TrimLeft(number, "-+−"))
	if err != nil {
		return last // 1.5
	}
	order, ok := pluralForms[p.language]
	if !ok {
		order = twoForms
	}
	is := plural.Cardinal.MatchPlural(language.Make(p.language), n, 0, 0, 0, 0)
	for i, f := range order {
		if f == is && i < len(forms) {
			return forms[i]
		}
	}
	return last
}
