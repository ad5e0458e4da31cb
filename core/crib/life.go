package crib

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// EntryKind is the kind of an entry in a tool's life.
type EntryKind string

// The kinds of entries.
const (
	KindEntered  EntryKind = "entered" // it was there before lives were kept
	KindBought   EntryKind = "bought"
	KindChecked  EntryKind = "checked"
	KindAdjusted EntryKind = "adjusted"
	KindLent     EntryKind = "lent"
	KindReturned EntryKind = "returned"
	KindHurt     EntryKind = "hurt" // dropped, or overloaded
	KindHeld     EntryKind = "held"
	KindBack     EntryKind = "back" // in service
	KindScrapped EntryKind = "scrapped"
	KindChanged  EntryKind = "changed" // its data
	KindFiled    EntryKind = "filed"   // a paper of it
)

// Entry is one thing that happened to a tool. On is the day, or the time, when it did.
type Entry struct {
	ID       string
	Seq      int // from 1
	On       time.Time
	AtServer time.Time
	Person   string
	Content  Content
}

// Content is what an entry says.
type Content interface{ Kind() EntryKind }

// Entered is what was known of a tool when its life began to be kept.
type Entered struct {
	Calibrated, Due, Good time.Time // days, and when it was last found good; zero where that is not known
	Held, Place           string
}

// Bought brings a tool into the crib.
type Bought struct{ From, Place string }

// Checked is a check on a tester, or by eye where there is nothing to read.
type Checked struct {
	Lab         string // who checked it
	Certificate string // its number; empty: a check of our own
	Paper       string // the certificate as a file, SHA-256, hex; empty: none
	Renews      bool   // a calibration: the interval begins anew
	Limit       float64
	Unit        unit.Unit // of Marks
	FullScale   float64   // errors are of it; 0: of the reading
	Marks       []Mark
	Looked      bool // by eye: Good says what was found
	Good        bool
	Note        string
	Tester      string // that sent its readings itself; empty: they were typed
}

// Mark is one setting of a check, with what the tester gave.
type Mark struct {
	At       float64
	Readings []float64
}

// Adjusted says that a tool was set right: what it did before is not what it does now.
type Adjusted struct{ What string }

// Lent gives a tool to somebody; Joint is where it goes, if that was said.
type Lent struct{ To, Joint, Note string }

// Returned brings it back.
type Returned struct{ Place, Note string }

// Harm is what happened to a tool that nobody may trust any more.
type Harm string

// What a tool is held back for by itself.
const (
	Dropped    Harm = "dropped"
	Overloaded Harm = "overloaded"
	Doubtful   Harm = "doubtful"  // said to be wrong, by whoever uses it
	FoundOff   Harm = "found off" // at its check
)

// Hurt says that a tool was dropped, overloaded, or seems to be wrong. It is held back
// until it is checked.
type Hurt struct {
	What  Harm
	Joint string // its tag, where it happened at one
	Note  string
}

// Held takes a tool out of use for a reason that is no doubt of what it did.
type Held struct{ Why string }

// Back ends that.
type Back struct{ Why string }

// Scrapped ends its life.
type Scrapped struct{ Why string }

// Filed adds a paper: a plate, a manual, the maker's chart.
type Filed struct{ Title, Paper string }

// Changed says that its data were changed, what and why.
type Changed struct{ What, Why string }

// Kind names the kind of entry that each content makes.
func (Entered) Kind() EntryKind  { return KindEntered }
func (Bought) Kind() EntryKind   { return KindBought }
func (Checked) Kind() EntryKind  { return KindChecked }
func (Adjusted) Kind() EntryKind { return KindAdjusted }
func (Lent) Kind() EntryKind     { return KindLent }
func (Returned) Kind() EntryKind { return KindReturned }
func (Hurt) Kind() EntryKind     { return KindHurt }
func (Held) Kind() EntryKind     { return KindHeld }
func (Back) Kind() EntryKind     { return KindBack }
func (Scrapped) Kind() EntryKind { return KindScrapped }
func (Changed) Kind() EntryKind  { return KindChanged }
func (Filed) Kind() EntryKind    { return KindFiled }

// Hold is why a tool may not be used.
type Hold struct {
	Why   string
	At    time.Time
	By    string
	Entry string
	Harm  Harm      // empty: it is held for another reason
	Doubt bool      // what it did before is in doubt, too: it is checked before it goes back
	Since time.Time // it was good then; what it touched since is in doubt; zero: nobody knows since when
}

// Loan is where a tool is that is not in the crib.
type Loan struct {
	To, Joint string
	Since     time.Time
}

// State is a tool at one moment.
type State struct {
	Bought     time.Time // day; zero where it is not known
	Calibrated time.Time // day of the last calibration; zero: none
	Due        time.Time // last day it may be used; zero: none
	Good       time.Time // when it was last found good; zero: never
	Held       *Hold
	Adjusted   time.Time // when it was last set right; zero: never
	Lent       *Loan
	Place      string
	Scrapped   string // why; empty: it is there
	Entries    int
	last       time.Time
}

// Begun is the state of a tool of which no life is kept yet.
func Begun(e Entered) State {
	s := State{Calibrated: e.Calibrated, Due: e.Due, Good: e.Good, Place: e.Place}
	if s.Good.IsZero() {
		s.Good = e.Calibrated
	}
	if e.Held != "" {
		s.Held = &Hold{Why: e.Held, Doubt: true, Since: s.Good}
	}
	return s
}

// Fold makes the state of a tool from its entries, in their order.
func Fold(t Tool, entries []Entry) State {
	var s State
	for _, e := range entries {
		s = s.Then(t, e)
	}
	return s
}

// Then returns the state after one more entry; s itself stays as it is.
func (s State) Then(t Tool, e Entry) State {
	switch c := e.Content.(type) {
	case Entered:
		s = Begun(c)
	case Bought:
		s.Bought, s.Place = e.On, c.Place
	case Checked:
		s.checked(t, e, c)
	case Adjusted:
		s.Adjusted = e.On
	case Lent:
		s.Lent = &Loan{c.To, c.Joint, e.On}
	case Returned:
		s.Lent = nil
		if c.Place != "" {
			s.Place = c.Place
		}
	case Hurt:
		s.hold(e, c.words(), c.What)
	case Held:
		s.hold(e, c.Why, "")
	case Back:
		s.Held = nil
	case Scrapped:
		s.Scrapped, s.Lent = c.Why, nil
	}
	s.Entries++
	s.last = e.On
	return s
}

// hold keeps the graver of two reasons: a doubt is not lifted by another word.
func (s *State) hold(e Entry, why string, harm Harm) {
	if s.Held != nil && s.Held.Doubt {
		if harm != "" {
			held := *s.Held
			held.Why += "; " + why
			s.Held = &held
		}
		return
	}
	s.Held = &Hold{Why: why, At: e.On, By: e.Person, Entry: e.ID, Harm: harm, Doubt: harm != "", Since: s.Good}
}

// Cleared returns what the last entry of a tool's life lifted: the doubt, and what the
// check found. ok is false where it is no good check, or where the tool was set right after
// it came into doubt: then the check says nothing of what it did before.
func Cleared(t Tool, entries []Entry) (h Hold, found string, ok bool) {
	n := len(entries) - 1
	if n < 0 {
		return h, "", false
	}
	c, is := entries[n].Content.(Checked)
	before := Fold(t, entries[:n])
	if !is || before.Held == nil || !before.Held.Doubt || !before.AsFound() {
		return h, "", false
	}
	f, err := c.Found()
	return *before.Held, f.Text, err == nil && f.Holds
}

// checked takes a check: good, and the tool is in service; not, and it is held.
func (s *State) checked(t Tool, e Entry, c Checked) {
	f, err := c.Found()
	if err != nil {
		return // refused before it was stored
	}
	if !f.Holds {
		s.hold(e, "at its check: "+f.Text, FoundOff)
		return
	}
	s.Good, s.Held = e.On, nil
	if c.Renews {
		s.Calibrated = day(e.On)
		s.Due = time.Time{}
		if t.Months > 0 {
			s.Due = s.Calibrated.AddDate(0, t.Months, 0)
		}
	}
}

func day(t time.Time) time.Time { return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC) }

func (c Hurt) words() string {
	out := string(c.What)
	if c.Joint != "" {
		out += " at " + c.Joint
	}
	if c.Note != "" {
		out += ": " + c.Note
	}
	return out
}

// InQuestion is since when what the tool made is in question, or would be: since it was
// last good.
func (s State) InQuestion() time.Time {
	if s.Held != nil && s.Held.Doubt {
		return s.Held.Since
	}
	return s.Good
}

// AsFound reports whether a good check now would say what the tool did before: nothing
// was set right on it since it was last good.
func (s State) AsFound() bool { return s.Adjusted.IsZero() || !s.Adjusted.After(s.Good) }

// Accept says whether an entry may be added to the life of a tool as it stands.
func (s State) Accept(t Tool, e Entry, now time.Time) error {
	if s.Scrapped != "" {
		return refusal.New(refusal.NotNow, "kind", fmt.Sprintf("%s was scrapped: %s.", t.Tag, trim(s.Scrapped)),
			"A tool that is in the crib after all is entered with a tag of its own.")
	}
	if s.Entries == 0 {
		switch e.Content.(type) {
		case Bought, Entered:
		default:
			return refusal.New(refusal.NotNow, "kind", fmt.Sprintf("%s is not in the crib yet.", t.Tag), "Enter it first.")
		}
	}
	if err := s.dated(t, e, now); err != nil {
		return err
	}
	switch c := e.Content.(type) {
	case Entered, Bought:
		if s.Entries > 0 {
			return refusal.New(refusal.NotNow, "kind", fmt.Sprintf("%s is in the crib already.", t.Tag), "")
		}
		return nil
	case Checked:
		return s.acceptCheck(t, c)
	case Adjusted:
		return says("what", c.What, "What was set right?", "Say what was adjusted, and by how much.")
	case Lent:
		return s.acceptLent(t, c)
	case Returned:
		if s.Lent == nil {
			return refusal.New(refusal.NotNow, "kind", fmt.Sprintf("%s is in the crib.", t.Tag), "")
		}
		return nil
	case Hurt:
		if !slices.Contains([]Harm{Dropped, Overloaded, Doubtful}, c.What) {
			return refusal.New(refusal.Unknown, "what", fmt.Sprintf("Unknown harm %q.", string(c.What)), "Say dropped, overloaded or doubtful.")
		}
		return nil
	case Held:
		return says("why", c.Why, fmt.Sprintf("Why is %s held?", t.Tag), "Say it in a few words: whoever looks for it reads them.")
	case Back:
		return s.acceptBack(t, c)
	case Scrapped:
		return says("why", c.Why, fmt.Sprintf("Why is %s scrapped?", t.Tag), "Say it in a few words.")
	case Filed:
		if c.Paper == "" {
			return refusal.New(refusal.Missing, "file", "There is no file.", "Choose a PDF or a picture.")
		}
		return says("title", c.Title, "The paper has no title.", "Say what it is.")
	case Changed:
		return says("why", c.Why, fmt.Sprintf("Why are the data of %s changed?", t.Tag), "Say where the new ones are from.")
	}
	return refusal.New(refusal.Unknown, "kind", "Unknown kind of entry.", "")
}

func says(field, text, ask, way string) error {
	if strings.TrimSpace(text) == "" {
		return refusal.New(refusal.NeedsReason, field, ask, way)
	}
	return nil
}

// dated refuses what lies ahead, and what lies before the tool was bought.
func (s State) dated(t Tool, e Entry, now time.Time) error {
	switch {
	case e.On.After(now.Add(10 * time.Minute)):
		return refusal.New(refusal.OutOfRange, "on", fmt.Sprintf("%s lies ahead.", e.On.Format("2 January 2006")), "Look at the date.")
	case !s.Bought.IsZero() && day(e.On).Before(day(s.Bought)):
		return refusal.New(refusal.OutOfRange, "on", fmt.Sprintf("%s lies before %s was bought, on %s.", e.On.Format("2 January 2006"), t.Tag,
			s.Bought.Format("2 January 2006")), "Look at the date; a certificate from before belongs to another tool.")
	case e.On.Before(now.AddDate(-30, 0, 0)):
		return refusal.New(refusal.OutOfRange, "on", fmt.Sprintf("%s is more than 30 years ago.", e.On.Format("2 January 2006")),
			"Look at the date.")
	}
	if c, ok := e.Content.(Checked); ok && s.Held != nil && s.Held.Doubt && !s.Held.At.IsZero() && c.Marks != nil && e.On.Before(s.Held.At) {
		return refusal.New(refusal.OutOfRange, "on", fmt.Sprintf("%s is held since %s; a check from before says nothing of that.", t.Tag,
			s.Held.At.Format("2 January 2006, 15:04")), "Check it now.")
	}
	return nil
}

func (s State) acceptLent(t Tool, c Lent) error {
	switch {
	case s.Held != nil:
		return refusal.New(refusal.NotNow, "kind", fmt.Sprintf("%s is held back: %s.", t.Tag, trim(s.Held.Why)), "Give another one.")
	case s.Lent != nil:
		return refusal.New(refusal.NotNow, "kind", fmt.Sprintf("%s is out already.", t.Tag), "Take it back first.")
	case c.To == "":
		return refusal.New(refusal.Missing, "to", "Who takes it?", "Name somebody.")
	}
	return nil
}

func (s State) acceptBack(t Tool, c Back) error {
	switch {
	case s.Held == nil:
		return refusal.New(refusal.NotNow, "kind", fmt.Sprintf("%s is in service.", t.Tag), "")
	case s.Held.Doubt:
		return refusal.New(refusal.NotNow, "kind", fmt.Sprintf("%s is held back: %s. Words do not make it good.", t.Tag, trim(s.Held.Why)),
			"Check it: a good check puts it back.")
	}
	return says("why", c.Why, fmt.Sprintf("%s was held: %s.", t.Tag, trim(s.Held.Why)), "Say what was done about it.")
}

func trim(text string) string { return strings.TrimSuffix(strings.TrimSpace(text), ".") }
