package thread

import "fmt"

// One metric size: pitches (ISO 261), hex across flats (ISO 4032 and ISO 272)
// and medium clearance hole (ISO 273), mm; zero where there is none. A size with
// two fine pitches has two rows.
type metricRow struct{ d, coarse, fine, flats, hole float64 }

func (r metricRow) coarseThread() Thread {
	return Thread{fmt.Sprintf("M%g", r.d), MetricCoarse, r.d, r.coarse}
}

func (r metricRow) fineThread() Thread {
	return Thread{fmt.Sprintf("M%gx%g", r.d, r.fine), MetricFine, r.d, r.fine}
}

var metricRows = []metricRow{
	{3, .5, 0, 5.5, 3.4}, {4, .7, 0, 7, 4.5}, {5, .8, 0, 8, 5.5}, {6, 1, 0, 10, 6.6},
	{8, 1.25, 1, 13, 9}, {10, 1.5, 1.25, 16, 11}, {10, 1.5, 1, 16, 11},
	{12, 1.75, 1.25, 18, 13.5}, {12, 1.75, 1.5, 18, 13.5}, {14, 2, 1.5, 21, 15.5},
	{16, 2, 1.5, 24, 17.5}, {18, 2.5, 1.5, 27, 20}, {20, 2.5, 1.5, 30, 22}, {22, 2.5, 1.5, 34, 24},
	{24, 3, 2, 36, 26}, {27, 3, 2, 41, 30}, {30, 3.5, 2, 46, 33}, {33, 3.5, 2, 50, 36},
	{36, 4, 3, 55, 39}, {39, 4, 3, 60, 42}, {42, 4.5, 3, 65, 45}, {45, 4.5, 3, 70, 48},
	{48, 5, 3, 75, 52}, {52, 5, 0, 80, 56}, {56, 5.5, 0, 85, 62}, {60, 5.5, 0, 90, 66},
	{64, 6, 0, 95, 70}, {72, 6, 0, 105, 78}, {80, 6, 0, 115, 86}, {90, 6, 0, 130, 96}, {100, 6, 0, 145, 107},
}

// One inch size, in whole, numerator and denominator; number is set for a
// numbered size.
type inchRow struct {
	number, whole, num, den int
	tpi                     float64
	series                  Series
}

func (r inchRow) inches() float64 {
	if r.number != 0 {
		return 0.060 + 0.013*float64(r.number)
	}
	x := float64(r.whole)
	if r.den != 0 {
		x += float64(r.num) / float64(r.den)
	}
	return x
}

func (r inchRow) thread() Thread {
	size := fmt.Sprint(r.whole)
	switch {
	case r.number != 0:
		size = fmt.Sprintf("#%d", r.number)
	case r.den != 0 && r.whole == 0:
		size = fmt.Sprintf("%d/%d", r.num, r.den)
	case r.den != 0:
		size = fmt.Sprintf("%d-%d/%d", r.whole, r.num, r.den)
	}
	suffix := string(r.series)
	if r.series == UN8 {
		suffix = "UN"
	}
	return Thread{fmt.Sprintf("%s-%g %s", size, r.tpi, suffix), r.series, r.inches() * 25.4, 25.4 / r.tpi}
}

var inchRows = []inchRow{
	{10, 0, 0, 0, 24, UNC}, {0, 0, 1, 4, 20, UNC}, {0, 0, 5, 16, 18, UNC}, {0, 0, 3, 8, 16, UNC},
	{0, 0, 7, 16, 14, UNC}, {0, 0, 1, 2, 13, UNC}, {0, 0, 9, 16, 12, UNC}, {0, 0, 5, 8, 11, UNC},
	{0, 0, 3, 4, 10, UNC}, {0, 0, 7, 8, 9, UNC}, {0, 1, 0, 0, 8, UNC}, {0, 1, 1, 8, 7, UNC},
	{0, 1, 1, 4, 7, UNC}, {0, 1, 3, 8, 6, UNC}, {0, 1, 1, 2, 6, UNC}, {0, 1, 3, 4, 5, UNC}, {0, 2, 0, 0, 4.5, UNC},
	{0, 1, 1, 8, 8, UN8}, {0, 1, 1, 4, 8, UN8}, {0, 1, 3, 8, 8, UN8}, {0, 1, 1, 2, 8, UN8}, {0, 1, 5, 8, 8, UN8},
	{0, 1, 3, 4, 8, UN8}, {0, 1, 7, 8, 8, UN8}, {0, 2, 0, 0, 8, UN8}, {0, 2, 1, 4, 8, UN8}, {0, 2, 1, 2, 8, UN8},
	{0, 2, 3, 4, 8, UN8}, {0, 3, 0, 0, 8, UN8}, {0, 3, 1, 4, 8, UN8}, {0, 3, 1, 2, 8, UN8}, {0, 3, 3, 4, 8, UN8}, {0, 4, 0, 0, 8, UN8},
	{10, 0, 0, 0, 32, UNF}, {0, 0, 1, 4, 28, UNF}, {0, 0, 5, 16, 24, UNF}, {0, 0, 3, 8, 24, UNF}, {0, 0, 7, 16, 20, UNF},
	{0, 0, 1, 2, 20, UNF}, {0, 0, 9, 16, 18, UNF}, {0, 0, 5, 8, 18, UNF}, {0, 0, 3, 4, 16, UNF}, {0, 0, 7, 8, 14, UNF},
	{0, 1, 0, 0, 12, UNF},
}
