package store

import (
	"bytes"
	"context"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/internal/seal"

	"dynacor/internal/form"
)

// Fault is a place where what is stored is not what was stored.
type Fault struct {
	Of       string // a joint's tag, or what else it is about: "person edda", "seal 12"
	Joint    uuid.UUID
	Revision int // of the plan; 0 where it is about none
	Seq      int // of the entry, 0 for the plan
	Entry    uuid.UUID
	What     string
}

func (f Fault) String() string {
	where := f.Of
	if f.Revision > 0 {
		where += fmt.Sprintf(", plan %d", f.Revision)
	}
	if f.Seq > 0 {
		where += fmt.Sprintf(", entry %d", f.Seq)
	}
	if f.Entry != uuid.Nil {
		where += " (" + f.Entry.String() + ")"
	}
	return where + ": " + f.What
}

// Audited is what an audit read and found.
type Audited struct {
	Faults                       []Fault // the first mostFaults of them
	More                         int     // further ones
	Plans, Entries, Facts, Seals int
	Journal                      int // lines of the second place
	Began, Ended                 time.Time
}

// mostFaults is how many faults are kept: whoever has so many needs no list.
const mostFaults = 1000

// Against is what an audit holds the database to beside itself.
type Against struct {
	Keys    []seal.Public // the site's; none: those that the database names
	Journal string        // folder of the second place; empty: there is none
}

// Audit recomputes everything that is chained and sealed and names what does not hold:
// plans and entries, the facts they rest on and the rows these are about, the seals and
// each head that was ever sealed or written to the second place. All of it is read as it
// stood at one moment, run by run: what is stored meanwhile is not looked at.
func (s *Store) Audit(ctx context.Context, by Against) (Audited, error) {
	a := auditor{by: by, out: Audited{Began: time.Now()}, facts: map[string]factKey{}, newest: map[factKey]Fact{},
		sealed: map[uuid.UUID][]SealedHead{}, seals: map[int]string{}}
	asOf := pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly}
	err := pgx.BeginTxFunc(ctx, s.pool, asOf, func(tx pgx.Tx) error {
		a.tx = tx
		for _, part := range []func(context.Context) error{a.readFacts, a.rowsOfFacts, a.readSeals, a.readJournal, a.readRuns, a.readPhotos,
			a.readLives} {
			if err := part(ctx); err != nil {
				return err
			}
		}
		return nil
	})
	a.out.Ended = time.Now()
	return a.out, err
}

type factKey struct {
	kind    FactKind
	subject string
}

type auditor struct {
	tx     pgx.Tx
	by     Against
	out    Audited
	facts  map[string]factKey // by hash
	newest map[factKey]Fact
	last   Fact
	sealed map[uuid.UUID][]SealedHead // every head that was sealed or told elsewhere
	seals  map[int]string             // sums of the seals by number
}

func (a *auditor) fault(f Fault) {
	if len(a.out.Faults) < mostFaults {
		a.out.Faults = append(a.out.Faults, f)
	} else {
		a.out.More++
	}
}

// readSeals follows the chain of seals and gathers each head that was sealed.
func (a *auditor) readSeals(ctx context.Context) error {
	trusted := a.by.Keys
	rows, err := a.tx.Query(ctx, "select key from seal_keys")
	if err != nil {
		return err
	}
	named, err := pgx.CollectRows(rows, pgx.RowTo[[]byte])
	if err != nil {
		return err
	}
	for _, b := range named {
		switch {
		case len(b) != len(seal.Public{}):
			a.fault(Fault{Of: fmt.Sprintf("key %x", b), What: "it is no key"})
		case len(a.by.Keys) == 0:
			trusted = append(trusted, seal.Public(b))
		case !slices.Contains(trusted, seal.Public(b)):
			a.fault(Fault{Of: fmt.Sprintf("key %x", b), What: "it is not the site’s"})
		}
	}
	for _, k := range a.by.Keys {
		if !slices.ContainsFunc(named, func(b []byte) bool { return bytes.Equal(b, k[:]) }) {
			a.fault(Fault{Of: "key " + k.String(), What: "it is the site’s, and the database does not name it"})
		}
	}
	list, err := a.tx.Query(ctx, "select number, body, signature from seals order by number")
	if err != nil {
		return err
	}
	before := Seal{}
	for list.Next() {
		x, err := pgx.RowToStructByName[Seal](list)
		if err != nil {
			list.Close()
			return err
		}
		a.seal(x, before, trusted)
		before = x
		a.out.Seals++
	}
	return list.Err()
}

func (a *auditor) seal(x, before Seal, trusted []seal.Public) {
	of := fmt.Sprintf("seal %d", x.Number)
	if !slices.ContainsFunc(trusted, func(k seal.Public) bool { return k.Holds([]byte(x.Body), x.Signature) }) {
		a.fault(Fault{Of: of, What: "it was not made with the site’s key, or changed since"})
		return
	}
	says, err := x.Says()
	if err != nil {
		a.fault(Fault{Of: of, What: "it cannot be read"})
		return
	}
	prev := ""
	if before.Number > 0 {
		prev = before.sum()
	}
	switch {
	case x.Number != before.Number+1:
		a.fault(Fault{Of: of, What: "a seal before this one is missing"})
	case says.Number != x.Number || says.Prev != prev:
		a.fault(Fault{Of: of, What: "it does not follow the one before it"})
	}
	a.seals[x.Number] = x.sum()
	if says.Record != nil {
		a.sealed[says.Record.Run] = append(a.sealed[says.Record.Run], says.Record.SealedHead,
			SealedHead{Run: says.Record.Run, Head: says.Record.Plan})
	}
	for _, h := range says.Heads {
		a.sealed[h.Run] = append(a.sealed[h.Run], h)
	}
	if says.Facts > 0 {
		hash, err := hex.DecodeString(says.Fact)
		if _, there := a.facts[string(hash)]; err != nil || !there {
			a.fault(Fault{Of: of, What: fmt.Sprintf("fact %d, which it sealed, is gone or another", says.Facts)})
		}
	}
}

// underWay is how long an entry may be on its way to the database.
const underWay = 30 * time.Second

// readJournal holds what was written to the second place to the database.
func (a *auditor) readJournal(context.Context) error {
	if a.by.Journal == "" {
		return nil
	}
	return seal.ReadJournal(a.by.Journal, func(l seal.Line) error {
		if l.At.After(a.out.Began.Add(-underWay)) {
			return nil // it may have been stored since this audit began
		}
		a.out.Journal++
		if l.Seal > 0 {
			x := Seal{Number: l.Seal, Body: l.Body, Signature: l.Signature}
			if a.seals[l.Seal] != x.sum() {
				a.fault(Fault{Of: fmt.Sprintf("seal %d", l.Seal), What: "it is not the one that was written to the second place"})
			}
			return nil
		}
		id, err := uuid.Parse(l.Run)
		if err != nil {
			return err
		}
		a.sealed[id] = append(a.sealed[id], SealedHead{Run: id, Seq: l.Seq, Head: hex.EncodeToString(l.Hash)})
		return nil
	})
}

// readRuns follows the chain of each run.
func (a *auditor) readRuns(ctx context.Context) error {
	joints, err := all[Joint](a.tx.Query(ctx, selectJoint))
	if err != nil {
		return err
	}
	tags := map[uuid.UUID]string{}
	for _, j := range joints {
		tags[j.ID] = j.Tag
	}
	heads, err := all[Run](a.tx.Query(ctx, selectRun+"order by joint, revision"))
	if err != nil {
		return err
	}
	plans := map[planKey]bool{}
	rows, err := a.tx.Query(ctx, "select joint, revision from plans order by joint, revision")
	if err != nil {
		return err
	}
	var at, before planKey
	_, err = pgx.ForEachRow(rows, []any{&at.joint, &at.revision}, func() error {
		if at.joint != before.joint {
			before = planKey{joint: at.joint}
		}
		if at.revision != before.revision+1 {
			a.fault(Fault{Of: tags[at.joint], Joint: at.joint, Revision: at.revision, What: "the plan before this one is missing"})
		}
		plans[at], before = true, at
		return nil
	})
	if err != nil {
		return err
	}
	for i, head := range heads {
		newest := i+1 == len(heads) || heads[i+1].Joint != head.Joint
		if err := a.run(ctx, head, tags[head.Joint], newest); err != nil {
			return err
		}
		delete(plans, planKey{head.Joint, head.Revision})
		delete(a.sealed, head.ID)
		a.out.Plans++
	}
	for p := range plans {
		a.fault(Fault{Of: tags[p.joint], Joint: p.joint, Revision: p.revision, What: "the run on this plan is gone"})
	}
	for id := range a.sealed {
		a.fault(Fault{Of: "run " + id.String(), What: "it was sealed, and is gone"})
	}
	return nil
}

type planKey struct {
	joint    uuid.UUID
	revision int
}

// run recomputes the plan and the chain of one run, entry by entry.
func (a *auditor) run(ctx context.Context, head Run, tag string, newest bool) error {
	if tag == "" {
		tag = "joint " + head.Joint.String()
	}
	fault := func(seq int, id uuid.UUID, what string) {
		a.fault(Fault{Of: tag, Joint: head.Joint, Revision: head.Revision, Seq: seq, Entry: id, What: what})
	}
	c := chain{run: head.ID}
	p, err := one[planRow](a.tx.Query(ctx, "select "+planColumns+" from plans where joint = $1 and revision = $2", head.Joint,
		head.Revision))
	switch {
	case errors.Is(err, ErrNotFound):
		fault(0, uuid.Nil, "the plan is gone")
	case err != nil:
		return err
	default:
		if why := c.begin(p); why != "" {
			fault(0, uuid.Nil, why)
		}
		a.rests(p.Rests, func(what string) { fault(0, uuid.Nil, what) }, factKey{PersonFact, p.IssuedBy.String()},
			factKey{JointFact, p.Joint.String()}, a.recipeOf(p))
		if !head.BegunAt.Equal(p.IssuedAt) {
			fault(0, uuid.Nil, "the run did not begin when its plan was issued")
		}
	}
	if head.Closed == newest {
		fault(0, uuid.Nil, "the run is closed, and its plan is the newest; or open, and it is not")
	}
	sealed := map[int][]string{}
	for _, h := range a.sealed[head.ID] {
		if !slices.Contains(sealed[h.Seq], h.Head) {
			sealed[h.Seq] = append(sealed[h.Seq], h.Head)
		}
	}
	holds := func(seq int, id uuid.UUID, hash []byte) {
		for _, h := range sealed[seq] {
			if h != hex.EncodeToString(hash) {
				fault(seq, id, "it is not what was sealed or written to the second place")
			}
		}
		delete(sealed, seq)
	}
	holds(0, uuid.Nil, p.Hash)
	rows, err := a.tx.Query(ctx, selectEntry+"where run = $1 order by seq", head.ID)
	if err != nil {
		return err
	}
	for rows.Next() {
		r, err := entryRowOf(rows)
		if err != nil {
			rows.Close()
			return err
		}
		if why := c.follow(r); why != "" {
			fault(r.Seq, r.ID, why)
		}
		a.rests(r.Rests, func(what string) { fault(r.Seq, r.ID, what) }, factKey{PersonFact, r.Person.String()})
		holds(r.Seq, r.ID, r.Hash)
		a.out.Entries++
	}
	if err := rows.Err(); err != nil {
		return err
	}
	if why := c.ends(head); why != "" {
		fault(head.HeadSeq, uuid.Nil, why)
	}
	for seq := range sealed {
		fault(seq, uuid.Nil, "it was sealed or written to the second place, and is gone")
	}
	return nil
}

func (a *auditor) recipeOf(p planRow) factKey {
	in, _ := form.ReadInput(p.Input) // what cannot be read has another hash, too
	return factKey{RecipeFact, Recipe{ID: in.Recipe, Edition: in.Edition}.subject()}
}

// rests looks whether facts are there and about whom and what they have to be.
func (a *auditor) rests(on []byte, fault func(string), about ...factKey) {
	const size = 32
	if on == nil {
		return
	}
	have := map[factKey]bool{}
	for len(on) >= size {
		key, there := a.facts[string(on[:size])]
		if !there {
			fault("a fact that it rests on is gone")
		}
		have[key] = true
		on = on[size:]
	}
	for _, key := range about {
		if !have[key] {
			fault(fmt.Sprintf("it does not rest on what was known of its %s", key.kind))
		}
	}
}
