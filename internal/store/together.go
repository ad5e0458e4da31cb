package store

import (
	"context"

	"dynacor/core/record"
)

// Together stores entries of many runs in one commit. Each caller waits for
// its own entry; whoever comes while commits are under way goes with the next.
type Together struct {
	store *Store
	queue chan waiting
	ended chan struct{} // a commit came to its end
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

const (
	mostTogether = 64 // entries that one commit takes at the most
	mostCommits  = 2  // under way at once: one is worked on while the other waits for the disk
	company      = 12 // entries that are worth a commit beside another; fewer wait for its end
)

// NewTogether returns a Together on s; Work must run for it to store anything.
func NewTogether(s *Store) *Together {
	return &Together{store: s, queue: make(chan waiting, 4*mostTogether), ended: make(chan struct{}, mostCommits)}
}

// Append is Store.Append, in company.
func (t *Together) Append(ctx context.Context, r Run, e record.Entry, m Made) (record.Entry, Run, error) {
	w := waiting{ctx: ctx, add: addition{r, e, m}, answer: make(chan answer, 1)}
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

// Work stores what is waiting, until ctx ends and the queue is empty. It runs once.
func (t *Together) Work(ctx context.Context) {
	under := 0 // commits under way
	for {
		var batch []waiting
		select {
		case w := <-t.queue:
			batch = append(batch, w)
		case <-t.ended:
			under--
			continue
		case <-ctx.Done():
			select {
			case w := <-t.queue:
				batch = append(batch, w)
			default:
				return
			}
		}
		for len(batch) < mostTogether {
			select {
			case w := <-t.queue:
				batch = append(batch, w)
				continue
			case <-t.ended:
				under--
				continue
			default:
			}
			if under == 0 || under < mostCommits && len(batch) >= company {
				break
			}
			select {
			case w := <-t.queue:
				batch = append(batch, w)
			case <-t.ended:
				under--
			}
		}
		if under == mostCommits {
			<-t.ended
			under--
		}
		under++
		go func() {
			t.store.commit(batch)
			t.ended <- struct{}{}
		}()
	}
}

// commit stores a batch at once, where each entry is of another run; an entry
// names the one before it, so two of one run cannot go together.
func (s *Store) commit(batch []waiting) {
	// The commit belongs to all of them, so none of them can cancel it.
	ctx := context.WithoutCancel(batch[0].ctx)
	rows, made := make([]entryRow, len(batch)), make([]Made, len(batch))
	runs := map[string]bool{}
	for i, w := range batch {
		rows[i], made[i] = w.row, w.add.Made
		runs[w.row.Run.String()] = true
	}
	if len(runs) == len(batch) && len(batch) > 1 {
		if stored, err := s.appendRows(ctx, rows, made); err == nil {
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
		a.entry, a.head, a.err = s.Append(ctx, w.add.Head, w.add.Entry, w.add.Made)
		w.answer <- a
	}
}
