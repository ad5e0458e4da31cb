package store

import (
	"bytes"
	"context"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Fault is a place where a chain does not hold.
type Fault struct {
	Joint    string // tag
	Revision int
	Seq      int // of the entry, 0 for the plan
	Entry    uuid.UUID
	What     string
}

// Audit recomputes every plan's hash and every chain of entries and returns
// what does not hold, with how many plans and entries were read. All of it is
// read as it stood at one moment: what is stored meanwhile is not looked at.
func (s *Store) Audit(ctx context.Context) (faults []Fault, plans, entries int, err error) {
	asOf := pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly}
	err = pgx.BeginTxFunc(ctx, s.pool, asOf, func(tx pgx.Tx) error {
		joints, err := all[Joint](tx.Query(ctx, selectJoint))
		if err != nil {
			return err
		}
		tags := map[uuid.UUID]string{}
		for _, j := range joints {
			tags[j.ID] = j.Tag
		}
		heads, err := all[Run](tx.Query(ctx, selectRun+"order by joint, revision"))
		if err != nil {
			return err
		}
		for _, head := range heads {
			found, n, err := auditRun(ctx, tx, head, tags[head.Joint])
			if err != nil {
				return err
			}
			faults, plans, entries = append(faults, found...), plans+1, entries+n
		}
		return nil
	})
	return faults, plans, entries, err
}

// auditRun recomputes the plan and the chain of one run.
func auditRun(ctx context.Context, tx pgx.Tx, head Run, tag string) (faults []Fault, entries int, err error) {
	fault := func(seq int, id uuid.UUID, what string) {
		faults = append(faults, Fault{tag, head.Revision, seq, id, what})
	}
	p, err := one[planRow](tx.Query(ctx, "select "+planColumns+" from plans where joint = $1 and revision = $2", head.Joint, head.Revision))
	if err != nil {
		return nil, 0, err
	}
	if !bytes.Equal(p.Hash, p.sum()) {
		fault(0, uuid.Nil, "the plan does not match its hash")
	}
	rows, err := all[entryRow](tx.Query(ctx, selectEntry+"where run = $1 order by seq", head.ID))
	if err != nil {
		return nil, 0, err
	}
	before, last := p.Hash, 0
	for _, r := range rows {
		switch {
		case r.Seq != last+1:
			fault(r.Seq, r.ID, "an entry before this one is missing")
		case !bytes.Equal(r.Hash, r.sum()):
			fault(r.Seq, r.ID, "the entry does not match its hash")
		case !bytes.Equal(r.PrevHash, before):
			fault(r.Seq, r.ID, "the entry does not follow the one before it")
		}
		before, last = r.Hash, r.Seq
	}
	if last != head.HeadSeq || !bytes.Equal(before, head.HeadHash) {
		fault(head.HeadSeq, uuid.Nil, "the end of the run is not the one it had")
	}
	return faults, len(rows), nil
}
