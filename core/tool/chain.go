package tool

import (
	"errors"
	"fmt"
	"math"
	"sort"
	"time"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Wrench is a click or dial wrench as the crib knows it. Rated values and
// scale are in Unit; Length is from the drive to the grip's middle, mm.
type Wrench struct {
	Tag         string
	Name        string
	RatedMin    float64
	RatedMax    float64
	Unit        unit.Unit
	Scale       Scale
	Drive       string // drive square, in
	Length      float64
	Accuracy    float64 // of reading, fraction
	Due         time.Time
	HeldBack    string // why it may not be used, empty when it may
	Handwritten bool   // entered by hand, not from the crib
}

// Multiplier is a torque multiplier. OutputMax is in N·m.
type Multiplier struct {
	Tag       string
	Name      string
	Ratio     float64
	OutputMax float64
	DriveIn   string
	DriveOut  string
	Accuracy  float64
	HeldBack  string
}

// Chain is a wrench with or without a multiplier in front of it.
type Chain struct {
	Wrench     Wrench
	Multiplier *Multiplier
}

// Setting is how one pass is set on a chain.
type Setting struct {
	Chain    Chain
	Pass     int       // from 1
	Torque   float64   // what the pass asks for, N·m
	Unit     unit.Unit // of Shown and Reading
	Reading  Reading
	Lands    float64 // what the nut gets, N·m
	Error    float64 // percent of the pass's exact torque
	Accuracy float64 // of the chain, fraction
	Force    float64 // on the handle, N; zero when the length is not known
}

// Set returns how chain is set for a pass of torque (N·m). It refuses what is
// out of calibration, held back, or outside a rating.
func (c Chain) Set(pass int, torque float64, today time.Time) (Setting, error) {
	w := c.Wrench
	if err := refusal.Positive("torque", torque, string(unit.NewtonMetre)); err != nil {
		return Setting{}, err
	}
	if err := w.free(today); err != nil {
		return Setting{}, err
	}
	atWrench, ratio, accuracy := torque, 1.0, w.Accuracy
	if m := c.Multiplier; m != nil {
		if err := m.carries(torque, w); err != nil {
			return Setting{}, err
		}
		var err error
		if atWrench, err = Behind(torque, m.Ratio); err != nil {
			return Setting{}, err
		}
		ratio, accuracy = m.Ratio, Together(w.Accuracy, m.Accuracy)
	}
	exact, err := unit.Convert(atWrench, unit.NewtonMetre, w.Unit)
	if err != nil {
		return Setting{}, err
	}
	low, ok, err := Usable(w.RatedMin, w.RatedMax, exact)
	if err != nil {
		return Setting{}, err
	}
	if !ok {
		return Setting{}, w.outside(exact, low)
	}
	r, err := w.Scale.Read(exact)
	if err != nil {
		return Setting{}, refusal.At("wrench", err)
	}
	if !unit.AtMost(r.Shown, w.RatedMax) { // rounded past the last mark
		r, _ = w.Scale.Read(w.RatedMax)
	}
	shown, err := unit.Convert(r.Shown, w.Unit, unit.NewtonMetre)
	if err != nil {
		return Setting{}, err
	}
	s := Setting{Chain: c, Pass: pass, Torque: torque, Unit: w.Unit, Reading: r, Lands: shown * ratio, Accuracy: accuracy}
	s.Error = 100 * (s.Lands - torque) / torque
	if w.Length > 0 {
		s.Force = shown / (w.Length / 1000)
	}
	return s, nil
}

// free refuses a wrench that is held back or past the last day of its
// calibration.
func (w Wrench) free(today time.Time) error {
	if w.HeldBack != "" {
		return refusal.New(refusal.NotNow, "wrench", fmt.Sprintf("%s is held back: %s.", w.Tag, w.HeldBack), "Take another wrench.")
	}
	if !w.Due.IsZero() && !today.Before(w.Due.AddDate(0, 0, 1)) {
		return refusal.New(refusal.OutOfDate, "wrench",
			fmt.Sprintf("%s is out of calibration since %s.", w.Tag, w.Due.Format("2 January 2006")), "Take another wrench, or have this one checked.")
	}
	return nil
}

func (w Wrench) outside(setting, low float64) error {
	if setting < low {
		return refusal.Number(refusal.OutOfRange, "wrench", setting, low, string(w.Unit),
			fmt.Sprintf("%s would be set to %.4g %s; below %.4g %s it does not hold its accuracy.", w.Tag, setting, w.Unit, low, w.Unit),
			"Take a smaller wrench.")
	}
	return refusal.Number(refusal.OutOfRange, "wrench", setting, w.RatedMax, string(w.Unit),
		fmt.Sprintf("%s would be set to %.4g %s; it ends at %.4g %s.", w.Tag, setting, w.Unit, w.RatedMax, w.Unit),
		"Take a larger wrench or a multiplier.")
}

func (m Multiplier) carries(torque float64, w Wrench) error {
	if m.HeldBack != "" {
		return refusal.New(refusal.NotNow, "multiplier", fmt.Sprintf("%s is held back: %s.", m.Tag, m.HeldBack), "Take another multiplier.")
	}
	if !unit.AtMost(torque, m.OutputMax) {
		return refusal.Number(refusal.OutOfRange, "multiplier", torque, m.OutputMax, string(unit.NewtonMetre),
			fmt.Sprintf("%s gives at most %.4g N·m; %.4g N·m are needed.", m.Tag, m.OutputMax, torque), "Take a larger multiplier.")
	}
	if m.DriveIn != "" && w.Drive != "" && m.DriveIn != w.Drive {
		return refusal.New(refusal.Contradicts, "multiplier",
			fmt.Sprintf("%s takes a %s in drive; %s has %s in.", m.Tag, m.DriveIn, w.Tag, w.Drive), "Take a wrench with the multiplier's drive.")
	}
	return nil
}

// Setup is a way to make every pass of a plan: the chain of the last pass and
// a setting for each.
type Setup struct {
	Chain    Chain
	Settings []Setting
	Refused  error // why this chain cannot do it; Settings are then empty
}

// Fit sets chain for each pass of torques (N·m). The last pass must be within
// the chain's rating. A pass too low for it takes the chain's wrench alone,
// else the best of helpers; when none reaches it, the setup is refused.
func Fit(c Chain, torques []float64, helpers []Wrench, today time.Time) Setup {
	out := Setup{Chain: c}
	if len(torques) == 0 {
		out.Refused = refusal.New(refusal.Missing, "passes", "The plan has no passes.", "Lay the joint out first.")
		return out
	}
	settings := make([]Setting, len(torques))
	last := len(torques) - 1
	for i := last; i >= 0; i-- {
		s, err := c.Set(i+1, torques[i], today)
		if err != nil && i < last && errors.Is(err, &refusal.Error{Code: refusal.OutOfRange}) {
			s, err = lower(c, i+1, torques[i], helpers, today, err)
		}
		if err != nil {
			out.Refused = err
			return out
		}
		settings[i] = s
	}
	out.Settings = settings
	return out
}

// lower finds another tool for a pass that c cannot be set for.
func lower(c Chain, pass int, torque float64, helpers []Wrench, today time.Time, because error) (Setting, error) {
	if c.Multiplier != nil {
		if s, err := (Chain{Wrench: c.Wrench}).Set(pass, torque, today); err == nil {
			return s, nil
		}
	}
	var best Setting
	found := false
	for _, w := range helpers {
		s, err := Chain{Wrench: w}.Set(pass, torque, today)
		if err != nil {
			continue
		}
		if !found || offMiddle(s) < offMiddle(best) {
			best, found = s, true
		}
	}
	if !found {
		var r *refusal.Error
		if errors.As(because, &r) {
			e := *r
			e.Text = fmt.Sprintf("Pass %d: %s", pass, r.Text)
			return Setting{}, &e
		}
		return Setting{}, because
	}
	return best, nil
}

// offMiddle is how far a setting lies from the middle of its wrench's range,
// 0 in the middle, 1 at either end.
func offMiddle(s Setting) float64 {
	w := s.Chain.Wrench
	low, err := Lowest(w.RatedMin, w.RatedMax)
	if err != nil || w.RatedMax <= low {
		return 1
	}
	return math.Abs(2*(s.Reading.Shown-low)/(w.RatedMax-low) - 1)
}

// Ways fits every wrench, alone and with every multiplier, to the passes and
// ranks them: those that reach the value first; lighter on the hand, fewer
// parts, nearer the middle of the range, better accuracy. Refused ones come
// last, each with its reason; a multiplier that is not needed is left out. A
// wrench that is not marked in prefer, the unit the joint's torque was given
// in, ranks lower: reading one unit and setting another wrecks joints.
func Ways(wrenches []Wrench, multipliers []Multiplier, torques []float64, prefer unit.Unit, today time.Time) []Setup {
	var ways []Setup
	for _, w := range wrenches {
		alone := Fit(Chain{Wrench: w}, torques, wrenches, today)
		ways = append(ways, alone)
		if alone.Refused == nil && alone.force() <= HeavyHandForce {
			continue
		}
		for i := range multipliers {
			if s := Fit(Chain{w, &multipliers[i]}, torques, wrenches, today); s.Refused == nil {
				ways = append(ways, s)
			}
		}
	}
	sort.SliceStable(ways, func(i, j int) bool { return ways[i].rank(prefer) < ways[j].rank(prefer) })
	return ways
}

func (s Setup) force() float64 {
	if len(s.Settings) == 0 {
		return 0
	}
	return s.Settings[len(s.Settings)-1].Force
}

func (s Setup) rank(prefer unit.Unit) float64 {
	if s.Refused != nil {
		return 1e6
	}
	last := s.Settings[len(s.Settings)-1]
	r := offMiddle(last) + 10*last.Accuracy
	if last.Force > HeavyHandForce {
		r += 10
	}
	if s.Chain.Multiplier != nil {
		r += 2
	}
	if s.Chain.Wrench.Unit != prefer {
		r += 3
	}
	for _, t := range s.Settings {
		if t.Chain.Wrench.Tag != s.Chain.Wrench.Tag {
			r += 0.5
			break
		}
	}
	return r
}
