package store

import (
	"context"
	"sync/atomic"
	"time"

	"dynacor/core/record"
)

// Together stores entries of many runs in one commit. Each caller waits for
// its own entry; whoever comes while a commit is under way goes with the next.
type Together struct {
	store *Store
	queue chan waiting
	under atomic.Int32 // commits under way
}

type waiting struct {
	ctx    context.Context
	add    addition
	row    entryRow
	answer chan answer
}

type answer struct {
	entry record.Entry
	head  Run
	err   error
}

// mostTogether is how many entries one commit takes at the most.
const mostTogether = 64

// NewTogether returns a Together on s; Work must run for it to store anything.
func NewTogether(s *Store) *Together {
	return &Together{store: s, queue: make(chan waiting, 4*mostTogether)}
}

// Append is Store.Append, in company.
func (t *Together) Append(ctx context.Context, r Run, e record.Entry, tools string) (record.Entry, Run, error) {
	w := waiting{ctx: ctx, add: addition{r, e, tools}, answer: make(chan answer, 1)}
	var err error
	if w.row, err = w.add.row(); err != nil {
		return e, r, err
	}
	select {
	case t.queue <- w:
	case <-ctx.Done():
		return e, r, ctx.Err()
	}
	a := <-w.answer // it is stored or not; leaving early would not know which
	return a.entry, a.head, a.err
}

// Work stores what is waiting, until ctx ends and the queue is empty.
func (t *Together) Work(ctx context.Context) {
	for {
		select {
		case w := <-t.queue:
			t.commit(t.gather(w))
		case <-ctx.Done():
			select {
			case w := <-t.queue:
				t.commit(t.gather(w))
			default:
				return
			}
		}
	}
}

// linger is how long a batch waits for company while another is committed.
const linger = 300 * time.Microsecond

// gather takes what is waiting already, and what comes soon where the disk is
// busy anyhow.
func (t *Together) gather(first waiting) []waiting {
	batch := []waiting{first}
	var late <-chan time.Time
	if t.under.Load() > 0 {
		late = time.After(linger)
	}
	for len(batch) < mostTogether {
		select {
		case w := <-t.queue:
			batch = append(batch, w)
			continue
		default:
		}
		if late == nil {
			break
		}
		select {
		case w := <-t.queue:
			batch = append(batch, w)
		case <-late:
			late = nil
		}
	}
	return batch
}

func (t *Together) commit(batch []waiting) {
	t.under.Add(1)
	defer t.under.Add(-1)
	t.store.commit(batch)
}

// commit stores a batch at once, where each entry is of another run; an entry
// names the one before it, so two of one run cannot go together.
func (s *Store) commit(batch []waiting) {
	// The commit belongs to all of them, so none of them can cancel it.
	ctx := context.WithoutCancel(batch[0].ctx)
	rows := make([]entryRow, len(batch))
	runs := map[string]bool{}
	for i, w := range batch {
		rows[i] = w.row
		runs[w.row.Run.String()] = true
	}
	if len(runs) == len(batch) && len(batch) > 1 {
		if stored, err := s.appendRows(ctx, rows); err == nil {
			for _, w := range batch {
				a := answer{entry: w.add.Entry, head: w.add.Head, err: ErrStale}
				if stored[w.row.Run] {
					a.entry, a.head = w.add.after(w.row)
					a.err = nil
				}
				w.answer <- a
			}
			return
		}
	}
	// Alone, or one of them cannot be stored: each by itself.
	for _, w := range batch {
		var a answer
		a.entry, a.head, a.err = s.Append(ctx, w.add.Head, w.add.Entry, w.add.Tools)
		w.answer <- a
	}
}
