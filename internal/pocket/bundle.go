// Package pocket judges at a joint where there is no server: a device has with it what the
// server gave, and the same core. What it says is what the server would have said of what it
// knew; the server judges again when an entry comes, and is the one that counts.
//
// A signature, and a step that asks for somebody's PIN, is judged as if the PIN were right: no
// PIN is on a device.
package pocket

import (
	"time"

	"dynacor/internal/id"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/internal/form"
	"dynacor/internal/judge"
)

// Form is how a Bundle is made: a program does not read one of another.
const Form = 1

// Bundle is what a device takes along of a joint.
type Bundle struct {
	Form    int
	Core    string // the version of the core that judged when it was made
	Joint   Joint
	Plan    Plan // the newest that was issued; of none there is nothing to judge
	Entries []Entry
	Me      Person
	People  []Person          // who works here, and what they may sign for
	Names   map[string]string // of everybody in the run, by id
	Tools   []judge.Tool      // of the crib, as this person finds them at this joint
	SayWhy  bool              // a word goes with every signature
	Drills  []string          // that are passed before this kind of joint is made
}

// Joint is whose run it is.
type Joint struct {
	ID  id.UUID
	Tag string
}

// Plan is an issued revision and its run, as they are stored.
type Plan struct {
	Run      id.UUID
	Revision int
	Input    string // as internal/form writes it
	Result   string
	Recipe   recipe.Recipe
	IssuedBy id.UUID
	IssuedAt time.Time
	Closed   bool
	Fault    string
}

// Entry is an entry as it is stored.
type Entry struct {
	record.Entry
	Kind record.Kind
	Body string
}

// Written is an entry as a bundle has it.
func Written(e record.Entry) (Entry, error) {
	body, err := form.WriteContent(e.Content)
	out := Entry{Entry: e, Kind: e.Content.Kind(), Body: body}
	out.Content = nil
	return out, err
}

// read is what Written wrote.
func (e Entry) read() (record.Entry, error) {
	c, err := form.ReadContent(e.Kind, e.Body)
	out := e.Entry
	out.Content = c
	return out, err
}

// Person is somebody who works at the site.
type Person struct {
	ID             id.UUID
	Login          string
	Roles          []string
	Qualifications []string
}

func (p Person) who() judge.Who {
	return judge.Who{ID: p.ID, Roles: p.Roles, Qualifications: p.Qualifications}
}

// may are the roles and qualifications.
func (p Person) may() []string { return append(append([]string{}, p.Roles...), p.Qualifications...) }
