package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"dynacor/core/record"
	"dynacor/internal/form"
	"dynacor/internal/seal"
)

// Evidence is a run with all that its record rests on, as it is stored: who has it and the
// site's public key needs nothing else to say whether it is what was signed.
type Evidence struct {
	Head    Run               `json:"head"`
	Plan    planRow           `json:"plan"`
	Entries []entryRow        `json:"entries"`
	Facts   []Fact            `json:"facts"`
	Recipe  string            `json:"recipe"`          // the file
	Seal    *Seal             `json:"seal,omitempty"`  // the newest of this run
	Names   map[string]string `json:"names,omitempty"` // of people in it of whom no fact was kept; not sealed
	Photos  []Photo           `json:"photos,omitempty"`
}

// Evidence gathers that of a run whose head was read.
func (s *Store) Evidence(ctx context.Context, head Run) (e Evidence, err error) {
	e.Head = head
	if e.Plan, err = one[planRow](s.pool.Query(ctx, "select "+planColumns+" from plans where joint = $1 and revision = $2", head.Joint,
		head.Revision)); err != nil {
		return e, err
	}
	if e.Entries, err = all[entryRow](s.pool.Query(ctx, selectEntry+"where run = $1 and seq <= $2 order by seq", head.ID,
		head.HeadSeq)); err != nil {
		return e, err
	}
	if e.Photos, err = s.photosOf(ctx, e.Entries); err != nil {
		return e, err
	}
	x, err := one[Seal](s.pool.Query(ctx, `select number, body, signature from seals where run = $1 and seq <= $2
		order by seq desc limit 1`, head.ID, head.HeadSeq))
	switch {
	case err == nil:
		e.Seal = &x
	case !errors.Is(err, ErrNotFound):
		return e, err
	}
	if e.Facts, err = s.factsOf(ctx, e); err != nil {
		return e, err
	}
	if in, err := form.ReadInput(e.Plan.Input); err == nil {
		r, err := s.Recipe(ctx, in.Recipe, in.Edition)
		if err != nil && !errors.Is(err, ErrNotFound) {
			return e, err
		}
		e.Recipe = r.Body
	}
	e.utc()
	e.Names, err = s.unknownNames(ctx, e)
	return e, err
}

// factsOf returns the facts that a run rests on: those it names, and of the site, the area
// and the joint those that were sealed, else the newest.
func (s *Store) factsOf(ctx context.Context, e Evidence) ([]Fact, error) {
	var hashes [][]byte
	need := func(on []byte) {
		for ; len(on) >= sha256.Size; on = on[sha256.Size:] {
			if !slices.ContainsFunc(hashes, func(h []byte) bool { return bytes.Equal(h, on[:sha256.Size]) }) {
				hashes = append(hashes, on[:sha256.Size])
			}
		}
	}
	need(e.Plan.Rests)
	for _, r := range e.Entries {
		need(r.Rests)
	}
	var newest []Fact
	if says, ok := e.sealed(); ok {
		for _, text := range says.Record.Rests {
			b, _ := hex.DecodeString(text)
			need(b)
		}
	} else {
		var err error
		if newest, err = meaning(ctx, s.pool, e.Head.Joint); err != nil {
			return nil, err
		}
	}
	list, err := all[Fact](s.pool.Query(ctx, "select "+factColumns+" from facts where hash = any($1) order by number", hashes))
	for _, f := range newest {
		if !slices.ContainsFunc(list, func(x Fact) bool { return x.Number == f.Number }) {
			list = append(list, f)
		}
	}
	slices.SortFunc(list, func(x, y Fact) int { return x.Number - y.Number })
	return list, err
}

func (e Evidence) sealed() (s Sealed, ok bool) {
	if e.Seal == nil {
		return s, false
	}
	s, err := e.Seal.Says()
	return s, err == nil && s.Record != nil
}

// people are the ids of those in a run.
func (e Evidence) people() []uuid.UUID {
	out := []uuid.UUID{e.Plan.IssuedBy}
	add := func(id uuid.UUID) {
		if !slices.Contains(out, id) {
			out = append(out, id)
		}
	}
	for _, r := range e.Entries {
		add(r.Person)
		c, err := form.ReadContent(record.Kind(r.Kind), r.Body)
		if err != nil {
			continue
		}
		switch x := c.(type) {
		case record.Correction:
			c = x.Instead
		case record.Twice:
			c = x.Done
		}
		if d, ok := c.(record.Done); ok && d.Qualified != "" {
			if id, err := uuid.Parse(d.Qualified); err == nil {
				add(id)
			}
		}
	}
	return out
}

func (s *Store) unknownNames(ctx context.Context, e Evidence) (map[string]string, error) {
	m, err := meant(e.Facts)
	if err != nil {
		return nil, nil // Check says so
	}
	var ids []uuid.UUID
	for _, id := range e.people() {
		if _, known := m.People[id.String()]; !known {
			ids = append(ids, id)
		}
	}
	if len(ids) == 0 {
		return nil, nil
	}
	rows, err := all[struct {
		ID   uuid.UUID
		Name string
	}](s.pool.Query(ctx, "select id, name from people where id = any($1)", ids))
	out := map[string]string{}
	for _, r := range rows {
		out[r.ID.String()] = r.Name
	}
	return out, err
}

// Meaning returns what the facts say, and the names of everybody in the run.
func (e Evidence) Meaning() (Meant, error) {
	m, err := meant(e.Facts)
	for id, name := range e.Names {
		if _, known := m.People[id]; !known {
			m.People[id] = name
		}
	}
	return m, err
}

// Planned returns the plan.
func (e Evidence) Planned() Plan { return e.Plan.plan() }

// Told returns the entries up to the first that cannot be read, their times in a zone.
func (e Evidence) Told(zone *time.Location) (out []record.Entry) {
	for _, r := range e.Entries {
		x, err := r.entry()
		if err != nil {
			return out
		}
		x.AtTool, x.AtServer = x.AtTool.In(zone), x.AtServer.In(zone)
		if !x.AtDevice.IsZero() {
			x.AtDevice = x.AtDevice.In(zone)
		}
		out = append(out, x)
	}
	return out
}

// utc writes all times alike, so that the same evidence is always the same text.
func (e *Evidence) utc() {
	e.Head.BegunAt, e.Plan.IssuedAt = e.Head.BegunAt.UTC(), e.Plan.IssuedAt.UTC()
	for i := range e.Entries {
		if at := e.Entries[i].AtDevice; at != nil {
			utc := at.UTC()
			e.Entries[i].AtDevice = &utc
		}
		e.Entries[i].AtTool, e.Entries[i].AtServer = e.Entries[i].AtTool.UTC(), e.Entries[i].AtServer.UTC()
	}
	for i := range e.Facts {
		e.Facts[i].At = e.Facts[i].At.UTC()
	}
}

// Check recomputes all of it, and says what does not hold; and what the seal says, where
// it is one of the keys'. No keys: the seal is not looked at.
func (e Evidence) Check(keys ...seal.Public) (faults []string, says Sealed, sealed bool) {
	fault := func(format string, args ...any) { faults = append(faults, fmt.Sprintf(format, args...)) }
	facts, rested := map[string]Fact{}, map[string]bool{}
	rests := func(on []byte, what string) {
		for ; len(on) >= sha256.Size; on = on[sha256.Size:] {
			hash := string(on[:sha256.Size])
			rested[hash] = true
			if _, there := facts[hash]; !there {
				fault("%s: what was known of whom and what it names is missing", what)
			}
		}
	}
	for _, f := range e.Facts {
		if !bytes.Equal(f.Hash, f.sum()) {
			fault("fact %d, of %s %s, does not match its hash", f.Number, f.Kind, f.Subject)
		}
		facts[string(f.Hash)] = f
	}
	c := chain{run: e.Head.ID}
	if why := c.begin(e.Plan); why != "" {
		fault("%s", why)
	}
	rests(e.Plan.Rests, "the plan")
	for _, r := range e.Entries {
		if why := c.follow(r); why != "" {
			fault("entry %d: %s", r.Seq, why)
		}
		rests(r.Rests, fmt.Sprintf("entry %d", r.Seq))
		if hash := photoOf(r); hash != "" {
			i := slices.IndexFunc(e.Photos, func(p Photo) bool { return p.Hash == hash })
			switch {
			case i < 0:
				fault("entry %d: the photograph that it names is missing", r.Seq)
			case HashOf(e.Photos[i].Bytes) != hash:
				fault("entry %d: the photograph is not the one that was taken", r.Seq)
			}
		}
	}
	if why := c.ends(e.Head); why != "" {
		fault("%s", why)
	}
	if m, err := meant(e.Facts); err != nil {
		fault("%v", err)
	} else if sum := sha256.Sum256([]byte(e.Recipe)); m.Recipe != "" && m.Recipe != hex.EncodeToString(sum[:]) {
		fault("the recipe is not the one that the plan was issued by")
	}
	if e.Seal == nil || len(keys) == 0 {
		return faults, says, false
	}
	if !slices.ContainsFunc(keys, func(k seal.Public) bool { return k.Holds([]byte(e.Seal.Body), e.Seal.Signature) }) {
		fault("its seal was not made with the site’s key, or changed since")
		return faults, says, false
	}
	if says, sealed = e.sealed(); !sealed {
		fault("its seal is not one of a record")
		return faults, says, false
	}
	x := says.Record
	switch {
	case x.Run != e.Head.ID || x.Joint != e.Head.Joint || x.Revision != e.Head.Revision:
		fault("its seal is that of another record, %s, plan %d", x.Tag, x.Revision)
	case x.Plan != hex.EncodeToString(e.Plan.Hash):
		fault("the plan is not the one that was sealed")
	case x.Seq < 1 || x.Seq > len(e.Entries) || x.Head != hex.EncodeToString(e.Entries[x.Seq-1].Hash):
		fault("entry %d is not the one that was sealed", x.Seq)
	case x.Seq < len(e.Entries):
		fault("what came after entry %d is not sealed, %d more: anybody may have written it", x.Seq, len(e.Entries)-x.Seq)
	}
	for _, text := range x.Rests {
		b, err := hex.DecodeString(text)
		if err != nil || len(b) != sha256.Size {
			fault("what its seal rests on cannot be read")
			continue
		}
		rests(b, "its seal")
	}
	// Anybody can write a fact that matches its hash: those count that something sealed rests on.
	for _, f := range e.Facts {
		if !rested[string(f.Hash)] {
			fault("fact %d, of %s %s, is none that was sealed", f.Number, f.Kind, f.Subject)
		}
	}
	return faults, says, len(faults) == 0
}
