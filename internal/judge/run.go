// Package judge is what both judges of a run share, the server and a device that took a joint
// along: what an entry asks for, whether its person may, which tools it chooses, and how the run
// is told. Values in, values out: it knows neither the database nor HTTP, and asks no clock.
package judge

import (
	"time"

	"dynacor/internal/id"

	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/core/work"
)

// Head is the head of a run: where its chain of entries stands.
type Head struct {
	ID       id.UUID
	Joint    id.UUID
	Revision int
	BegunAt  time.Time
	HeadSeq  int
	HeadHash []byte
	Closed   bool // a newer revision was issued; nothing is added any more
}

// Plan is an issued revision: frozen with what went in, what came out and the
// core's version. What of the result is its recipe's own data is not in it.
type Plan struct {
	Joint       id.UUID
	Revision    int
	Input       joint.Input
	Result      joint.Result
	CoreVersion string
	Reason      string
	IssuedBy    id.UUID
	IssuedAt    time.Time
	Hash        []byte
	Fault       string // where what is stored is not what was issued: what
	Unreadable  bool   // and nothing can be told from it
}

// Run is a run with the plan it follows and its state.
type Run struct {
	Head   Head
	Plan   Plan
	State  *work.State
	Fault  string      // where what is stored is not what was stored: what; State is what holds of it
	Before *work.State // the state without the entry that was stored just now; nil: none was
}

// Standing is where the run stands, for the record: or that its plan was
// replaced before it was signed.
func (r Run) Standing() string {
	if r.Fault != "" {
		return "does not hold"
	}
	if r.Head.Closed && r.State.Standing != record.Signed {
		return "replaced by a newer plan"
	}
	return r.State.Standing.Words()
}

// Words says what is done in the run: its kind of joint and its variant.
func (r Run) Words() string {
	p := r.State.Plan()
	if v := joint.Variant(p.Recipe, p.Choices); v != "" {
		return p.Recipe.Title + ", " + v
	}
	return p.Recipe.Title
}

// SignedAt is when the run's record was signed; ok is false where it is not.
func (r Run) SignedAt() (time.Time, bool) {
	if r.State.Standing != record.Signed {
		return time.Time{}, false
	}
	list := r.State.Signatures
	return list[len(list)-1].Entry.AtServer, true
}
