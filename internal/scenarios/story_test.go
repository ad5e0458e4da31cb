// Package scenarios plays stories of joints through the use cases and a real
// database, and holds the record to what must follow. A story tells acts of
// people and says nothing of types or routes, so it stays true when the code
// changes.
package scenarios

import (
	"fmt"
	"strings"
	"time"

	"github.com/goccy/go-yaml"

	"dynacor/core/unit"
)

// story is one file.
type story struct {
	Name   string
	Joint  jointOf
	People map[string][]string
	Tools  map[string]toolOf
	Start  string
	Makes  string // who signs that it was made
	Checks string // who signs that it was checked
	Acts   []act
}

type jointOf struct {
	Recipe  string
	Choices map[string]string
	Size    struct{ Type, Size string }
	Groups  map[string]boltsOf
}

type boltsOf struct {
	Count     int
	Thread    string
	Grade     string
	Lubricant string
	Torque    quantity
}

type toolOf struct {
	Kind       string
	From, To   quantity
	Calibrated string
	Due        string
}

// act is one act, or what must follow. Just one of what it can be is given.
type act struct {
	As        string
	Says      words
	ID        string
	Confirmed bool
	Twice     bool
	After     span

	Follow  string
	Pull    *pullOf
	Check   *checkOf
	Read    *readOf
	Leave   *leaveOf
	Trouble *troubleOf
	Correct *correctOf
	Tool    *toolAct
	Sign    string
	Answer  *answerOf
	Pause   *pauseOf
	Resume  string
	Decide  *string
	Plan    *planOf
	Reason  string
	Expect  *expectation
}

type (
	pullOf struct {
		Group   string
		Bolt    int
		Reading quantity
		NoTurn  bool `yaml:"noTurn"`
	}
	checkOf struct {
		Group string
		Bolt  int
		Moved bool
	}
	readOf struct {
		Step     string
		Readings []float64
		Held     *float64
		Reason   string
	}
	leaveOf   struct{ Step, Reason string }
	troubleOf struct {
		Group        string
		Bolt         int
		What, Remedy string
	}
	correctOf struct {
		Act    string
		To     *changeOf
		Reason string
	}
	changeOf struct {
		Reading  *quantity
		NoTurn   *bool `yaml:"noTurn"`
		Moved    *bool
		Readings []float64
		Held     *float64
		Reason   *string
	}
	toolAct  struct{ Take, Dropped, Held, Back string }
	answerOf struct{ Tool, Reason string }
	pauseOf  struct{ To, Note string }
	planOf   struct{ Work, Reason string }
)

// expectation is what must be so; what is not given is not looked at.
type expectation struct {
	Signable   *bool
	Signed     *[]string
	Open       []string
	NotOpen    []string `yaml:"notOpen"`
	Next       *nextOf
	Deviations *int
	Outside    *int
	Deviates   []int
	Holds      *bolts
	Anew       *bolts
	Doubtful   *bolts
	Record     string
	Either     []expectation
}

type nextOf struct {
	Group   string
	Bolt    int
	Station string
}

// words is one word, or several of which any will do.
type words []string

func (w *words) UnmarshalYAML(b []byte) error {
	var one string
	if yaml.Unmarshal(b, &one) == nil {
		*w = words{one}
		return nil
	}
	return yaml.Unmarshal(b, (*[]string)(w))
}

// bolts are those of the one group, or by group.
type bolts struct {
	list    []int
	byGroup map[string][]int
}

func (x *bolts) UnmarshalYAML(b []byte) error {
	if yaml.Unmarshal(b, &x.list) == nil {
		return nil
	}
	x.list = nil
	return yaml.Unmarshal(b, &x.byGroup)
}

// quantity is a number with its unit: "260 N·m".
type quantity struct{ unit.Quantity }

func (q *quantity) UnmarshalYAML(b []byte) error {
	var text string
	if err := yaml.Unmarshal(b, &text); err != nil {
		return err
	}
	var v float64
	var u string
	if _, err := fmt.Sscan(text, &v, &u); err != nil {
		return fmt.Errorf("%q is no number with a unit", text)
	}
	if _, err := unit.DimensionOf(unit.Unit(u)); err != nil {
		return err
	}
	q.Quantity = unit.Of(v, unit.Unit(u))
	return nil
}

// span is a time since the act before, or, below zero, behind it.
type span struct {
	time.Duration
	given bool
}

func (s *span) UnmarshalYAML(b []byte) (err error) {
	s.given = true
	s.Duration, err = time.ParseDuration(strings.TrimSpace(string(b)))
	return err
}
