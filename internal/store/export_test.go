package store

import (
	"context"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Forge lets tests do what somebody does who owns the database and has read this program:
// every hash is made to fit again.
type Forge struct {
	Tx pgx.Tx
}

// Run recomputes the plan and the chain of a run, and sets its head.
func (f Forge) Run(ctx context.Context, id uuid.UUID) error {
	r, err := one[Run](f.Tx.Query(ctx, selectRun+"where id = $1", id))
	if err != nil {
		return err
	}
	p, err := one[planRow](f.Tx.Query(ctx, "select "+planColumns+" from plans where joint = $1 and revision = $2", r.Joint, r.Revision))
	if err != nil {
		return err
	}
	before, seq := p.sum(), 0
	if _, err := f.Tx.Exec(ctx, "update plans set hash = $3 where joint = $1 and revision = $2", p.Joint, p.Revision, before); err != nil {
		return err
	}
	rows, err := all[entryRow](f.Tx.Query(ctx, selectEntry+"where run = $1 order by seq", id))
	if err != nil {
		return err
	}
	for _, e := range rows {
		seq++
		was := e.Seq
		e.Seq, e.PrevHash = seq, before
		e.Hash = e.sum()
		if _, err := f.Tx.Exec(ctx, "update entries set seq = $3, prev_hash = $4, hash = $5 where run = $1 and seq = $2", id, was, seq,
			e.PrevHash, e.Hash); err != nil {
			return err
		}
		before = e.Hash
	}
	_, err = f.Tx.Exec(ctx, "update runs set head_seq = $2, head_hash = $3 where id = $1", id, seq, before)
	return err
}

// Facts recomputes the chain of facts, and what rests on them.
func (f Forge) Facts(ctx context.Context) error {
	list, err := all[Fact](f.Tx.Query(ctx, "select "+factColumns+" from facts order by number"))
	if err != nil {
		return err
	}
	before := []byte{}
	for _, x := range list {
		was := x.Hash
		x.PrevHash = before
		x.Hash = x.sum()
		before = x.Hash
		for _, sql := range []string{"update facts set prev_hash = $3, hash = $2 where hash = $1 and $3::bytea is not null",
			"update people set fact = $2 where fact = $1 and $3::bytea is not null"} {
			if _, err := f.Tx.Exec(ctx, sql, was, x.Hash, x.PrevHash); err != nil {
				return err
			}
		}
		for _, table := range []string{"entries", "plans"} {
			if _, err := f.Tx.Exec(ctx, "update "+table+` set rests = decode(replace(encode(rests, 'hex'), encode($1, 'hex'), encode($2, 'hex')),
				'hex')`, was, x.Hash); err != nil {
				return err
			}
		}
	}
	return nil
}

// NoSeals throws all seals and keys away.
func (f Forge) NoSeals(ctx context.Context) error {
	for _, sql := range []string{"delete from seals", "delete from sealed_heads", "delete from seal_keys"} {
		if _, err := f.Tx.Exec(ctx, sql); err != nil {
			return err
		}
	}
	return nil
}
