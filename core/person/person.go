// Package person knows who works at a site: the roles there are, the names people sign
// in with, and what a PIN must be.
//
// The rules are ours: whoever may issue a plan, or change who may do what, needs a
// longer PIN than whoever pulls a bolt with gloves on.
package person

import (
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode"

	"dynacor/core/refusal"
)

// The roles.
const (
	Fitter        = "fitter"
	Inspector     = "inspector"
	Engineer      = "engineer"
	Planner       = "planner"
	CribKeeper    = "crib keeper"
	Administrator = "administrator"
)

// Roles lists them.
func Roles() []string {
	return []string{Fitter, Inspector, Engineer, Planner, CribKeeper, Administrator}
}

// The lengths of names, in letters.
const (
	mostLogin = 40
	mostName  = 60
	mostMay   = 40
)

// Person is someone as they are entered.
type Person struct {
	Login          string
	Name           string
	Initials       string
	Roles          []string
	Qualifications []string
}

// Tidy returns p with what nobody means taken out: spaces at the ends, capitals in the
// name that is signed in with, doubles. Initials that are not given are the name's.
func (p Person) Tidy() Person {
	p.Login = strings.ToLower(strings.TrimSpace(p.Login))
	p.Name, p.Initials = strings.Join(strings.Fields(p.Name), " "), strings.Join(strings.Fields(p.Initials), " ")
	if p.Initials == "" {
		var out []string
		for _, word := range strings.FieldsFunc(p.Name, func(r rune) bool { return unicode.IsSpace(r) }) {
			out = append(out, strings.ToUpper(string([]rune(word)[:1]))+".")
		}
		p.Initials = strings.Join(out, " ")
	}
	p.Roles, p.Qualifications = once(p.Roles), once(p.Qualifications)
	return p
}

func once(list []string) []string {
	out := []string{}
	for _, s := range list {
		if s = strings.TrimSpace(s); s != "" && !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	return out
}

// Check refuses someone without a name, with a name to sign in by that nobody can type
// in gloves, without a role, or with one that there is not.
func (p Person) Check() error {
	if p.Login == "" || strings.ContainsFunc(p.Login, func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) &&
			r != '.' && r != '-'
	}) {
		return refusal.New(refusal.Unknown, "login", "A name to sign in with is of letters, digits, dots and dashes.",
			"Shorten it to one word.")
	}
	for _, x := range []struct {
		field, is, what string
		most            int
	}{{"login", p.Login, "name to sign in with", mostLogin}, {"name", p.Name, "name", mostName}, {"initials", p.Initials, "initials",
		mostLogin}} {
		n := len([]rune(x.is))
		if n == 0 {
			return refusal.New(refusal.Missing, x.field, fmt.Sprintf("The %s is missing.", x.what), "Give it.")
		}
		if n > x.most {
			return refusal.Number(refusal.TooLarge, x.field, float64(n), float64(x.most), "letters",
				fmt.Sprintf("The %s has %d letters; up to %d are kept.", x.what, n, x.most), "Shorten it.")
		}
	}
	if len(p.Roles) == 0 {
		return refusal.New(refusal.Missing, "roles", fmt.Sprintf("%s has no role and may do nothing.", p.Name), "Give one or more.")
	}
	for _, r := range p.Roles {
		if !slices.Contains(Roles(), r) {
			return refusal.New(refusal.Unknown, "roles", fmt.Sprintf("There is no role %q.", r), "Choose of: "+strings.Join(Roles(),
				", ")+".")
		}
	}
	for _, q := range p.Qualifications {
		if len([]rune(q)) > mostMay {
			return refusal.Number(refusal.TooLarge, "qualifications", float64(len([]rune(q))), mostMay, "letters",
				fmt.Sprintf("%q is too long.", q), "Name it as the recipe does.")
		}
	}
	return nil
}

// ByDrill is the qualification of whoever passed a drill where that is asked for.
func ByDrill(drill string) string { return "drill: " + drill }

// Lacks lists those of the drills that are asked for which somebody with these
// qualifications has not passed, or not lately enough.
func Lacks(qualifications, asked []string) []string {
	var out []string
	for _, d := range asked {
		if !slices.Contains(qualifications, ByDrill(d)) {
			out = append(out, d)
		}
	}
	return out
}

// The shortest PINs, and the longest.
const (
	leastPin     = 4 // of whoever pulls, checks, plans or keeps the crib
	leastLongPin = 6 // of whoever issues plans, or says who may do what
	mostPin      = 60
)

// LeastPin is how short a PIN of somebody with these roles may be.
func LeastPin(roles []string) int {
	if slices.Contains(roles, Engineer) || slices.Contains(roles, Administrator) {
		return leastLongPin
	}
	return leastPin
}

// CheckPin refuses a PIN that is too short for the roles, too long, or the first that
// anybody would try.
func CheckPin(pin, login string, roles []string) error {
	n, least := len([]rune(pin)), LeastPin(roles)
	if n < least {
		return refusal.Number(refusal.TooSmall, "pin", float64(n), float64(least), "signs",
			fmt.Sprintf("A PIN of %d signs; a %s needs %d or more.", n, strings.Join(roles, " and "), least), "Take a longer one.")
	}
	if n > mostPin {
		return refusal.Number(refusal.TooLarge, "pin", float64(n), mostPin, "signs", fmt.Sprintf("A PIN of %d signs; %d are the most.", n,
			mostPin),
			"Take a shorter one.")
	}
	if steps(pin) || strings.EqualFold(pin, login) {
		return refusal.New(refusal.Contradicts, "pin", "That is the first that anybody would try.",
			"Take one that is not a row, and not your name.")
	}
	return nil
}

// steps reports whether each sign of a PIN follows the one before by the same step: 1111,
// 1234, 9876.
func steps(pin string) bool {
	r := []rune(pin)
	for i := 2; i < len(r); i++ {
		if r[i]-r[i-1] != r[1]-r[0] {
			return false
		}
	}
	d := r[1] - r[0]
	return d >= -1 && d <= 1
}

// How often a PIN may be wrong before there is a pause, and how long the pauses are.
const (
	freeTries    = 5           // of one name
	freeHere     = 50          // from one address, whatever the name
	firstPause   = time.Minute // it doubles with each further one
	longestPause = 15 * time.Minute
)

// Pause is how long a name waits after so many wrong PINs in a row.
func Pause(wrong int) time.Duration { return pause(wrong - freeTries) }

// PauseHere is how long an address waits after so many, whatever the names.
func PauseHere(wrong int) time.Duration {
	if wrong < freeHere {
		return 0
	}
	return pause((wrong - freeHere) / freeTries)
}

// pause doubles with each step past zero; before there is none.
func pause(past int) time.Duration {
	if past < 0 {
		return 0
	}
	return min(firstPause<<min(past, 10), longestPause)
}
