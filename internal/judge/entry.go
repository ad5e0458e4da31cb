package judge

import (
	"errors"
	"fmt"
	"reflect"
	"strings"
	"time"

	"dynacor/internal/id"

	"dynacor/core/person"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
)

// NewEntry is an entry as it is asked for. Tools is set instead of Content where
// tools are chosen.
type NewEntry struct {
	Run       id.UUID
	ID        id.UUID
	At        time.Time
	Off       time.Duration // what the device's clock is behind the server's, as far as it knows
	Confirmed bool
	Apart     bool // what somebody else has done meanwhile is kept as done a second time
	Content   record.Content
	Tools     *ToolChoice
	From      []id.UUID // readings of instruments that are among what was read
	Pin       string    // for a signature, and for a step that asks for a qualified person
	As        string    // who put that PIN to a step: their login; empty: whoever is signed in
	Onto      *int      // how many entries the run had when it was prepared; nil: it does not matter
}

// Plain reports whether an entry does nothing but say what was done.
func (n NewEntry) Plain() bool {
	switch n.Content.(type) {
	case record.Done, record.Setting:
		return n.Pin == ""
	}
	return false
}

// LeastOff is what a clock may be off before that is mended: less is said by nobody's watch.
const LeastOff = 2 * time.Minute

// When is when it was done, by the server's clock where the device's is known to be off.
func (n NewEntry) When() time.Time {
	if n.Off.Abs() < LeastOff {
		return n.At.UTC()
	}
	return n.At.Add(n.Off).UTC()
}

// ByDevice is that by the device's clock, where it is another.
func (n NewEntry) ByDevice() time.Time {
	if n.Off.Abs() < LeastOff {
		return time.Time{}
	}
	return n.At.UTC()
}

// Says reports whether an entry asks for what is stored; what the server fills
// in apart.
func (n NewEntry) Says(stored record.Content) bool {
	switch s := stored.(type) {
	case record.Tooling:
		return n.Tools != nil && n.Tools.Group == s.Group && n.Tools.are(s.Hands())
	case record.Caution:
		c, ok := n.Content.(record.Caution)
		return ok && c.Step == s.Step
	case record.Report:
		c, ok := n.Content.(record.Report)
		return ok && c.Tool == s.Tool && c.What == s.What && c.Note == s.Note
	case record.Photo:
		c, ok := n.Content.(record.Photo)
		return ok && c.Hash == s.Hash && c.Step == s.Step && c.What == s.What
	case record.Done:
		c, ok := n.Content.(record.Done)
		c.Qualified = s.Qualified
		if len(n.From) > 0 {
			c.Taken = s.Taken
		}
		return ok && reflect.DeepEqual(c, s)
	case record.Twice:
		return n.Apart && n.Says(s.Done)
	case record.Setting:
		c, ok := n.Content.(record.Setting)
		if len(n.From) > 0 {
			c.Taken = s.Taken
		}
		return ok && reflect.DeepEqual(c, s)
	}
	return reflect.DeepEqual(n.Content, stored)
}

// Accepted returns an entry as it is taken by a run as it stands: one of whoever was apart from
// the others as done a second time, where one of them has done it.
func (n NewEntry) Accepted(s *work.State, e record.Entry, f work.Facts) (record.Entry, error) {
	f.Apart = n.Apart
	err := s.Accept(e, f)
	var no *refusal.Error
	if done, ok := e.Content.(record.Done); ok && n.Apart && errors.As(err, &no) && no.Code == refusal.Twice {
		e.Content = record.Twice{Done: done}
		err = s.Accept(e, f)
	}
	return e, err
}

// Tidy drops what says nothing, so that an entry is the same however it
// was written.
func Tidy(c record.Content) record.Content {
	switch c := c.(type) {
	case record.Done:
		return tidyDone(c)
	case record.Correction:
		if d, ok := c.Instead.(record.Done); ok {
			c.Instead = tidyDone(d)
		}
		return record.Correction{Of: c.Of, Instead: c.Instead, Reason: strings.TrimSpace(c.Reason)}
	case record.Decision:
		return record.Decision{Tool: c.Tool, Reason: strings.TrimSpace(c.Reason)}
	case record.Lubricant:
		return record.Lubricant{Group: c.Group, Is: strings.TrimSpace(c.Is), Note: strings.TrimSpace(c.Note)}
	case record.Answer:
		return record.Answer{Tool: c.Tool, How: c.How, Reason: strings.TrimSpace(c.Reason)}
	case record.Recheck:
		c.With = strings.TrimSpace(c.With)
		return c
	case record.Photo:
		return record.Photo{Step: c.Step, Hash: c.Hash, What: strings.TrimSpace(c.What)}
	case record.Signature:
		return record.Signature{Part: c.Part, Reason: strings.TrimSpace(c.Reason)}
	}
	return c
}

func tidyDone(c record.Done) record.Done {
	c = work.ByAngle(c)
	c.Reason = strings.TrimSpace(c.Reason)
	if len(c.Readings) == 0 {
		c.Readings = nil
	}
	if len(c.Bolts) == 0 {
		c.Bolts = nil
	}
	if len(c.Marks) == 0 {
		c.Marks = nil
	}
	return c
}

// May says whether who has the role for what the entry is. Who checks a joint
// is the run's to say.
func May(who Who, n NewEntry) error {
	need := []string{person.Fitter}
	switch c := n.Content.(type) {
	case record.Done:
		if c.Release { // whose PIN it is says whether they may
			return nil
		}
		if c.Bolt == 0 {
			need = []string{person.Fitter, person.Inspector}
		}
	case record.Caution, record.Report, record.Lubricant, record.Correction, record.Pause, record.Resume, record.Trouble, record.Started,
		record.Photo, record.Recheck:
		need = []string{person.Fitter, person.Inspector}
	case record.Decision:
		need = []string{person.Engineer}
	case record.Answer:
		need = []string{person.Engineer}
		if c.How == record.Good {
			return refusal.New(refusal.NotNow, "how", "Only a check of the tool says that it was good.", "Have the tool checked in the Crib.")
		}
	case record.Signature:
		if c.Part == record.Checked {
			return nil
		}
	}
	if who.Is(need...) {
		return nil
	}
	return &Error{Kind: NotAllowed, Code: "not-yours", Text: fmt.Sprintf("This is for a %s to do.", strings.Join(need, " or ")),
		Way: "Ask one."}
}

// makes reports whether an entry is the making of a joint: a tool is chosen or set for it, a bolt
// pulled, a step done by whoever makes it, or it is signed for as made. What is looked at, told or
// put right is not.
func (n NewEntry) makes(who Who) bool {
	switch c := n.Content.(type) {
	case record.Done:
		return !c.Release && (c.Bolt > 0 || !who.Is(person.Inspector))
	case record.Signature:
		return c.Part == record.Made
	case record.Tooling, record.Setting:
		return true
	}
	return n.Tools != nil
}

// Drilled refuses the making of a joint to whoever lacks one of the drills that are asked for
// before its kind is made.
func Drilled(who Who, asked []string, n NewEntry) error {
	lacks := person.Lacks(who.Qualifications, asked)
	if len(lacks) == 0 || !n.makes(who) {
		return nil
	}
	return &Error{Kind: NotAllowed, Code: "drill", Text: fmt.Sprintf("Before this kind of joint is made, the drill “%s” is passed.", lacks[0]),
		Way: "Do it on the Bench, under Drills: it takes a few minutes."}
}

// Asks is the qualification an entry asks for; empty for none. Whoever keeps a reading that
// is outside puts their PIN to it where the step says who that is. of is what an entry of the
// run says; nil where there is none.
func Asks(p *work.Plan, what record.Content, pin bool, of func(id string) record.Content) string {
	step := ""
	switch what := what.(type) {
	case record.Done:
		st, _ := p.Step(what.Step)
		switch {
		case what.Release:
			return st.Release
		case pin && what.Reason != "" && (st.By == "" || what.Item > 0):
			return st.Beyond
		case what.Item > 0:
			return ""
		}
		step = what.Step
	case record.Correction:
		if was, ok := of(what.Of).(record.Done); ok {
			step = was.Step
		}
	}
	s, _ := p.Step(step)
	return s.By
}
