// Package drill trains hands and eyes: short tasks, each with an answer that is
// judged and, where it is wrong, with why.
//
// A task is drawn from a seed, so that it is the same wherever it is asked and
// judged: which bolt is next on a ring after an interruption (the orders of the
// package sequence), what a value is in another unit (the package unit), and how
// soon a hand stops at the click. A number is right within what people read off a
// scale, 1 %; a stop is right within what a hand needs, and wrong before the
// click. Angles are in degrees, times in s.
package drill

import (
	"fmt"
	"math/rand/v2"

	"dynacor/core/refusal"
)

// Kind is what is trained.
type Kind string

// The kinds.
const (
	NextBolt Kind = "which bolt next"
	Convert  Kind = "convert it"
	Click    Kind = "one click and stop"
)

// Kinds lists them.
func Kinds() []Kind { return []Kind{NextBolt, Convert, Click} }

// Judged is what an answer is found to be. Why says it in words, for a right one
// too; Right is what the answer was to be.
type Judged struct {
	Holds bool
	Right float64
	Why   string
}

// Task is one question. Of its kinds one is set.
type Task struct {
	Kind    Kind
	Seed    uint64
	Next    Next
	Convert Conversion
	Click   Stop
}

// New draws a task.
func New(k Kind, seed uint64) (Task, error) {
	r := rand.New(rand.NewPCG(seed, uint64(len(k))))
	out := Task{Kind: k, Seed: seed}
	switch k {
	case NextBolt:
		out.Next = newNext(r)
	case Convert:
		out.Convert = newConversion(r)
	case Click:
		out.Click = newStop(r)
	default:
		return Task{}, refusal.New(refusal.Unknown, "drill", fmt.Sprintf("There is no drill %q.", string(k)), "Choose one from the list.")
	}
	return out, nil
}

// Judge finds what an answer is: a bolt, a number, or when the hand stopped, s.
func (t Task) Judge(answer float64) (Judged, error) {
	if err := refusal.Finite("answer", answer); err != nil {
		return Judged{}, err
	}
	switch t.Kind {
	case NextBolt:
		return t.Next.judge(answer), nil
	case Convert:
		return t.Convert.judge(answer)
	case Click:
		return t.Click.judge(answer), nil
	}
	return Judged{}, refusal.New(refusal.Unknown, "drill", fmt.Sprintf("There is no drill %q.", string(t.Kind)), "Choose one from the list.")
}
