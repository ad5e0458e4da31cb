// Package drill trains hands and eyes: short tasks, each with an answer that is
// judged and, where it is wrong, with why.
//
// A task is drawn from a seed and from what a site has, its tools and its recipes
// (Material), so that it is the same wherever it is asked and judged. What is right is
// what the rest of the core says: the faces of package crib, the orders of package
// sequence, the parts of package recipe, the units of package unit, the stories of package
// trace, the gaps of package proof and the chains of package tool. A number is right within
// what people read off a scale, 1 %; a face within half of its smallest step; a stop within
// what a hand needs, and wrong before the click. When a drill is due again follows from how
// it went (Remember). Angles are in degrees, times in s.
package drill

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"dynacor/core/refusal"
)

// Kind is what is trained.
type Kind string

// The kinds.
const (
	SetIt    Kind = "set it"
	ReadIt   Kind = "read it"
	NextBolt Kind = "which bolt next"
	Parts    Kind = "order the parts"
	Pressure Kind = "hold the pressure"
	Wrong    Kind = "what is wrong here"
	Click    Kind = "one click and stop"
	Convert  Kind = "convert it"
)

// Kinds lists them.
func Kinds() []Kind {
	return []Kind{SetIt, ReadIt, NextBolt, Parts, Pressure, Wrong, Click, Convert}
}

// Check refuses a drill that there is not.
func (k Kind) Check() error {
	if slices.Contains(Kinds(), k) {
		return nil
	}
	return refusal.New(refusal.Unknown, "drill", fmt.Sprintf("There is no drill %q.", string(k)), "Choose one from the list.")
}

// Answer is what somebody answers: what of it counts follows from the kind.
type Answer struct {
	Value float64  // a bolt, a number, a setting, which of the options from 0, or when the hand stopped, s
	Order []string // parts, in the order in which they were laid
	Moves []Move   // of the regulator
}

// Judged is what an answer is found to be. Why says it in words, for a right one
// too; Right, and Order of parts, is what the answer was to be.
type Judged struct {
	Holds bool
	Right float64
	Order []string
	Why   string
}

// Task is one question. Of its kinds one is set.
type Task struct {
	Kind    Kind
	Seed    uint64
	Face    Facing // to be set, or read
	Next    Next
	Parts   Order
	Press   Regulator
	Wrong   Flawed
	Click   Stop
	Convert Conversion
}

// New draws a task from what a site has.
func New(k Kind, seed uint64, m Material) (Task, error) {
	if err := k.Check(); err != nil {
		return Task{}, err
	}
	r := rand.New(rand.NewPCG(seed, uint64(len(k))))
	out := Task{Kind: k, Seed: seed}
	var err error
	switch k {
	case SetIt:
		out.Face, err = newSetting(r, m)
	case ReadIt:
		out.Face, err = newReading(r, m)
	case NextBolt:
		out.Next = newNext(r)
	case Parts:
		out.Parts, err = newOrder(r, m)
	case Pressure:
		out.Press = newRegulator(r, m)
	case Wrong:
		out.Wrong, err = newFlawed(r, m)
	case Click:
		out.Click = newStop(r)
	case Convert:
		out.Convert = newConversion(r)
	}
	return out, err
}

// Judge finds what an answer is.
func (t Task) Judge(a Answer) (Judged, error) {
	if err := refusal.Finite("answer", a.Value); err != nil {
		return Judged{}, err
	}
	switch t.Kind {
	case SetIt:
		return t.Face.judgeSetting(a.Value)
	case ReadIt:
		return t.Face.judgeReading(a.Value)
	case NextBolt:
		return t.Next.judge(a.Value), nil
	case Parts:
		return t.Parts.judge(a.Order), nil
	case Pressure:
		return t.Press.judge(a.Moves)
	case Wrong:
		return t.Wrong.judge(a.Value), nil
	case Convert:
		return t.Convert.judge(a.Value)
	case Click:
		return t.Click.judge(a.Value), nil
	}
	return Judged{}, t.Kind.Check()
}
