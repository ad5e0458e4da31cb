package thread

import (
	"slices"
	"strings"
)

// What a designation is made of, read by hand: a library of patterns is a tenth of what a
// device takes along.

// metricParts takes "M16X1.5" apart; pitch is empty where none is said.
func metricParts(t string) (size, pitch string, ok bool) {
	rest, ok := strings.CutPrefix(t, "M")
	if !ok {
		return "", "", false
	}
	size, rest = digits(strings.TrimPrefix(rest, " "))
	if size == "" || rest == "" {
		return size, "", size != ""
	}
	rest = strings.TrimPrefix(rest, " ")
	for _, by := range []string{"X", "×", "*"} {
		if after, cut := strings.CutPrefix(rest, by); cut {
			pitch, rest = decimal(strings.TrimPrefix(after, " "))
			return size, pitch, pitch != "" && rest == ""
		}
	}
	return "", "", false
}

// inchParts takes "1 1/4-8 UN" apart; tpi and series are empty where they are not said.
func inchParts(t string) (size, tpi, series string, ok bool) {
	size, rest := inchWritten(t)
	if size == "" {
		return "", "", "", false
	}
	if after, cut := strings.CutPrefix(strings.TrimPrefix(rest, " "), "-"); cut {
		if tpi, rest = decimal(strings.TrimPrefix(after, " ")); tpi == "" {
			return "", "", "", false
		}
	}
	series = strings.TrimPrefix(rest, " ")
	return size, tpi, series, slices.Contains([]string{"", "UNC", "UNF", "UN", "8UN"}, series)
}

// inchWritten is a size as it is written: #8, 1-1/4 or 1 1/4, 3/4, 1.25.
func inchWritten(t string) (size, rest string) {
	if after, cut := strings.CutPrefix(t, "#"); cut {
		number, rest := digits(after)
		if number == "" {
			return "", t
		}
		return "#" + number, rest
	}
	whole, after := digits(t)
	if whole == "" {
		return "", t
	}
	if after != "" && (after[0] == '-' || after[0] == ' ') {
		if part, rest := fraction(after[1:]); part != "" {
			return whole + after[:1] + part, rest
		}
	}
	if part, rest := fraction(t); part != "" {
		return part, rest
	}
	return decimal(t)
}

func fraction(s string) (part, rest string) {
	over, after := digits(s)
	if over == "" || !strings.HasPrefix(after, "/") {
		return "", s
	}
	under, rest := digits(after[1:])
	if under == "" {
		return "", s
	}
	return over + "/" + under, rest
}

func decimal(s string) (number, rest string) {
	number, rest = digits(s)
	if number == "" || !strings.HasPrefix(rest, ".") {
		return number, rest
	}
	if places, after := digits(rest[1:]); places != "" {
		return number + "." + places, after
	}
	return number, rest
}

func digits(s string) (number, rest string) {
	n := 0
	for n < len(s) && '0' <= s[n] && s[n] <= '9' {
		n++
	}
	return s[:n], s[n:]
}
