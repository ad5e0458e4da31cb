package tool

import (
	"fmt"
	"time"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Drives lists the drive squares, in.
func Drives() []string { return []string{"1/4", "3/8", "1/2", "3/4", "1", "1-1/2"} }

// Wrench is a click or dial wrench as the crib knows it. Rated values and
// scale are in Unit; Length is from the drive to the grip's middle, mm.
type Wrench struct {
	Tag         string
	Name        string
	RatedMin    float64
	RatedMax    float64
	Unit        unit.Unit
	Scale       Scale
	Drive       string // drive square, in; empty when not known
	Length      float64
	Accuracy    float64 // of reading, fraction; zero counts as UsualAccuracy
	Due         time.Time
	HeldBack    string // why it may not be used, empty when it may
	Handwritten bool   // entered by hand, not from the crib
	Face        string // how it shows its setting, for who draws it; empty: ring and thimble
	Falls       bool   // its main marks rise toward the hand
}

// Multiplier is a torque multiplier. OutputMax is in N·m; Ratio is the torque
// ratio on its plate.
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

// Adapter goes from one drive square to another. Limit, N·m, is that of its
// smaller side.
type Adapter struct {
	Tag, Name         string
	DriveIn, DriveOut string
	Limit             float64
	HeldBack          string
}

// OffsetEnd is a crow-foot or other offset end: its length from drive to
// socket, mm, and its angle from straight ahead, degrees.
type OffsetEnd struct {
	Tag, Name         string
	Length, Angle     float64
	DriveIn, DriveOut string
	Limit             float64 // N·m
	HeldBack          string
}

// Extension is a straight extension: it changes no setting (in line), and bears what its
// maker states, N·m.
type Extension struct {
	Tag, Name string
	Drive     string  // on both sides, in
	Length    float64 // mm
	Limit     float64
	HeldBack  string
}

// Socket is a socket, or a bit where Inside is set. Limit, N·m, is zero where
// its maker states none.
type Socket struct {
	Tag, Name string
	Size      float64 // across the flats, mm
	Inside    bool
	Drive     string
	Limit     float64
	HeldBack  string
}

// fits reports whether two drives go together; one that is not known is taken
// to fit.
func fits(a, b string) bool { return a == b || a == "" || b == "" }

// usableToday refuses a tool that is held back or past the last day of its
// calibration.
func usableToday(field, tag, heldBack string, due, today time.Time) error {
	if heldBack != "" {
		return refusal.New(refusal.NotNow, field, fmt.Sprintf("%s is held back: %s.", tag, heldBack), fmt.Sprintf("Take another %s.",
			field))
	}
	if !due.IsZero() && !today.Before(due.AddDate(0, 0, 1)) {
		return refusal.New(refusal.OutOfDate, field, fmt.Sprintf("%s is out of calibration since %s.", tag, due.Format("2 January 2006")),
			fmt.Sprintf("Take another %s, or have this one checked.", field))
	}
	return nil
}

// accuracy returns that of w; its class's where nothing else is known.
func (w Wrench) accuracy() float64 {
	if w.Accuracy != 0 {
		return w.Accuracy
	}
	most, _ := unit.Convert(w.RatedMax, w.Unit, unit.NewtonMetre) // a unit that is unknown is refused where it is set
	return UsualAccuracy(most)
}

func (w Wrench) free(today time.Time) error {
	if err := usableToday("wrench", w.Tag, w.HeldBack, w.Due, today); err != nil {
		return err
	}
	if err := refusal.NotNegative("wrench", w.Accuracy, ""); err != nil {
		return err
	}
	return refusal.NotNegative("wrench", w.Length, "mm")
}

// marked refuses a wrench whose scale has no mark in the range it is used in.
func (w Wrench) marked() error {
	low, err := Lowest(w.RatedMin, w.RatedMax)
	if err != nil {
		return refusal.At("wrench", err)
	}
	r, err := w.Scale.Read(max(low, w.Scale.First))
	if err != nil {
		return refusal.At("wrench", err)
	}
	_, err = w.inside(r, low)
	return err
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

// Each carry returns the drive at the link's far end, or why it cannot stand
// there: torque, N·m, is what its limit is held against.

func (a Adapter) carry(torque float64, drive string) (string, error) {
	if err := linkFree("adapter", a.Tag, a.HeldBack, a.DriveIn, drive); err != nil {
		return "", err
	}
	return a.DriveOut, withinLimit("adapter", a.Tag, torque, a.Limit)
}

func (o OffsetEnd) carry(torque float64, drive string) (string, error) {
	if err := linkFree("offset", o.Tag, o.HeldBack, o.DriveIn, drive); err != nil {
		return "", err
	}
	return o.DriveOut, withinLimit("offset", o.Tag, torque, o.Limit)
}

func (x Extension) carry(torque float64, drive string) (string, error) {
	if err := linkFree("extension", x.Tag, x.HeldBack, x.Drive, drive); err != nil {
		return "", err
	}
	return x.Drive, withinLimit("extension", x.Tag, torque, x.Limit)
}

func (s Socket) carry(torque float64, drive string) (string, error) {
	if err := linkFree("socket", s.Tag, s.HeldBack, s.Drive, drive); err != nil {
		return "", err
	}
	if s.Limit == 0 {
		return "", nil
	}
	return "", withinLimit("socket", s.Tag, torque, s.Limit)
}

func (m Multiplier) carry(torque float64, wrench, drive string) (string, error) {
	if m.HeldBack != "" {
		return "", refusal.New(refusal.NotNow, "multiplier", fmt.Sprintf("%s is held back: %s.", m.Tag, m.HeldBack),
			"Take another multiplier.")
	}
	if err := refusal.NotNegative("multiplier", m.Accuracy, ""); err != nil {
		return "", err
	}
	if err := refusal.First(refusal.Positive("multiplier", m.OutputMax, string(unit.NewtonMetre)), m.enough(torque)); err != nil {
		return "", err
	}
	if !fits(m.DriveIn, drive) {
		return "", refusal.New(refusal.Contradicts, "multiplier", fmt.Sprintf("%s takes a %s in drive; %s has %s in.", m.Tag, m.DriveIn,
			wrench, drive), "Take a wrench with the multiplier's drive.")
	}
	return m.DriveOut, nil
}

func (m Multiplier) enough(torque float64) error {
	if unit.AtMost(torque, m.OutputMax) {
		return nil
	}
	return refusal.Number(refusal.OutOfRange, "multiplier", torque, m.OutputMax, string(unit.NewtonMetre),
		fmt.Sprintf("%s gives at most %.4g N·m; %.4g N·m are needed.", m.Tag, m.OutputMax, torque), "Take a larger multiplier.")
}

func linkFree(field, tag, heldBack, takes, drive string) error {
	if heldBack != "" {
		return refusal.New(refusal.NotNow, field, fmt.Sprintf("%s is held back: %s.", tag, heldBack), fmt.Sprintf("Take another %s.",
			field))
	}
	if !fits(takes, drive) {
		return refusal.New(refusal.Contradicts, field, fmt.Sprintf("%s takes a %s in drive; here is %s in.", tag, takes, drive),
			"Put an adapter between them.")
	}
	return nil
}

func withinLimit(field, tag string, torque, limit float64) error {
	if err := refusal.Positive(field, limit, string(unit.NewtonMetre)); err != nil {
		return err
	}
	if unit.AtMost(torque, limit) {
		return nil
	}
	return refusal.Number(refusal.OutOfRange, field, torque, limit, string(unit.NewtonMetre),
		fmt.Sprintf("%s bears %.4g N·m; %.4g N·m would go through it.", tag, limit, torque), fmt.Sprintf("Take a larger %s.", field))
}
