// Package thread knows screw threads and the strengths of what carries them.
//
// Geometry, with d the major diameter and P the pitch, both in mm:
//
//	pitch diameter    d2 = d − 0.649519·P
//	minor diameter    d3 = d − 1.226869·P (metric), d − 1.299038·P (inch)
//	stress area       As = π/4·(d − 0.938194·P)² (metric), π/4·(d − 0.974279·P)² (inch)
//	root area         Ar = π/4·d3²
//	stress diameter   dS = √(4·As/π)
//
// Lengths are in mm, areas in mm², strengths in MPa. Sources: ISO 68-1, ISO 724
// and ISO 898-1 (metric), ASME B1.1 (inch); strengths ISO 898-1, ISO 3506, SAE
// J429, ASTM A193 and A320 (studs), EN 14399 and ASTM F3125 (structural sets,
// nominal); sizes across the flats and holes ISO 272, ISO 273, ISO 4762, EN 14399,
// ASME B18.2, B18.3 and B16.5. Valid for 60° threads of the listed series at room
// temperature; a grade past its last published size or below its first, and a
// size or pitch in no series, are refused.
package thread

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"sync"

	"dynacor/core/refusal"
)

// Series is the family a thread belongs to.
type Series string

// The series.
const (
	MetricCoarse Series = "metric coarse"
	MetricFine   Series = "metric fine"
	UNC          Series = "UNC"
	UNF          Series = "UNF"
	UN8          Series = "8UN"
)

// Thread is one size of one series. Diameter and Pitch are in mm.
type Thread struct {
	Name     string
	Series   Series
	Diameter float64
	Pitch    float64
}

// Inch reports whether t is an inch thread.
func (t Thread) Inch() bool { return t.Series == UNC || t.Series == UNF || t.Series == UN8 }

// PitchDiameter returns d2, mm.
func (t Thread) PitchDiameter() float64 { return t.Diameter - 0.649519*t.Pitch }

// MinorDiameter returns d3, mm.
func (t Thread) MinorDiameter() float64 {
	if t.Inch() {
		return t.Diameter - 1.299038*t.Pitch
	}
	return t.Diameter - 1.226869*t.Pitch
}

// StressArea returns As, mm².
func (t Thread) StressArea() float64 { return math.Pi / 4 * sq(t.StressDiameter()) }

// RootArea returns Ar, mm².
func (t Thread) RootArea() float64 { return math.Pi / 4 * sq(t.MinorDiameter()) }

// StressDiameter returns dS, mm.
func (t Thread) StressDiameter() float64 {
	if t.Inch() {
		return t.Diameter - 0.974279*t.Pitch
	}
	return t.Diameter - 0.938194*t.Pitch
}

func sq(x float64) float64 { return x * x }

// written takes out of a thread's name what is written and not meant.
var written = strings.NewReplacer(`"`, "", ",", ".")

// Parse reads a designation as people write it: "M16", "m16 x 1.5",
// "3/4-10 UNC", "3/4 UNC", "1 1/4-8UN", "1.25-8 UN". Sizes and pitches that
// are in no series are refused.
func Parse(s string) (Thread, error) {
	if t, ok := listed()[s]; ok {
		return t, nil
	}
	t := strings.ToUpper(strings.Join(strings.Fields(s), " "))
	t = strings.TrimSuffix(written.Replace(t), " IN")
	if size, pitch, ok := metricParts(t); ok {
		return metric(s, size, pitch)
	}
	if size, tpi, series, ok := inchParts(t); ok {
		return inch(s, size, tpi, series)
	}
	return Thread{}, unknown(s)
}

// listed are the threads by their own names: every plan reads one, which needs no
// reading then.
var listed = sync.OnceValue(func() map[string]Thread {
	out := map[string]Thread{}
	for _, t := range All() {
		out[t.Name] = t
	}
	return out
})

func unknown(s string) error {
	return refusal.New(refusal.Unknown, "thread", fmt.Sprintf("Unknown thread %q.", s),
		"Write it like M16, M16x1.5, 3/4-10 UNC or 1-1/4-8 UN.")
}

func metric(given, size, pitch string) (Thread, error) {
	d, err := strconv.ParseFloat(size, 64)
	if err != nil {
		return Thread{}, unknown(given)
	}
	p := 0.0
	if pitch != "" {
		if p, err = strconv.ParseFloat(pitch, 64); err != nil {
			return Thread{}, unknown(given)
		}
	}
	for _, r := range metricRows {
		if r.d != d {
			continue
		}
		if p == 0 || p == r.coarse {
			return r.coarseThread(), nil
		}
		if r.fine != 0 && p == r.fine {
			return r.fineThread(), nil
		}
	}
	return Thread{}, unknown(given)
}

func inch(given, size, tpi, series string) (Thread, error) {
	inches, ok := inchSize(size)
	if !ok {
		return Thread{}, unknown(given)
	}
	n := 0.0
	if tpi != "" {
		n, _ = strconv.ParseFloat(tpi, 64)
	} else if series == "" {
		return Thread{}, unknown(given) // "3/4" alone does not say which series
	}
	if series == "UN" {
		series = string(UN8)
	}
	for _, r := range inchRows {
		if math.Abs(r.inches()-inches) > 1e-9 || (n != 0 && n != r.tpi) {
			continue
		}
		if series != "" && series != string(r.series) {
			continue
		}
		return r.thread(), nil
	}
	return Thread{}, unknown(given)
}

// inchSize reads "#10", "3/4", "1-1/4", "1 1/4", "1.25" and "2" as inches.
func inchSize(s string) (float64, bool) {
	if strings.HasPrefix(s, "#") {
		n, err := strconv.Atoi(s[1:])
		return 0.060 + 0.013*float64(n), err == nil // ASME B1.1 numbered sizes
	}
	whole, frac := 0.0, s
	if i := strings.IndexAny(s, "- "); i >= 0 {
		w, err := strconv.ParseFloat(s[:i], 64)
		if err != nil {
			return 0, false
		}
		whole, frac = w, s[i+1:]
	}
	if a, b, ok := strings.Cut(frac, "/"); ok {
		x, err1 := strconv.ParseFloat(a, 64)
		y, err2 := strconv.ParseFloat(b, 64)
		if err1 != nil || err2 != nil || y == 0 {
			return 0, false
		}
		return whole + x/y, true
	}
	x, err := strconv.ParseFloat(frac, 64)
	return whole + x, err == nil
}

// All lists every thread the core knows, metric first, each series by size.
func All() []Thread {
	var out []Thread
	for i, r := range metricRows {
		if i == 0 || metricRows[i-1].d != r.d {
			out = append(out, r.coarseThread())
		}
		if r.fine != 0 {
			out = append(out, r.fineThread())
		}
	}
	for _, r := range inchRows {
		out = append(out, r.thread())
	}
	return out
}
