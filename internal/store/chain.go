package store

import (
	"bytes"
	"crypto/sha256"
	"encoding/binary"
	"hash"
	"time"

	"github.com/google/uuid"
)

// fields writes each field with its length before it, so that no two lists of
// fields write the same bytes.
func fields(h hash.Hash, parts ...[]byte) { h.Write(appendFields(nil, parts...)) }

// appendFields is fields into one piece of memory: of a run's thousands of entries each has
// its own hash, and what goes into it field by field goes onto the heap field by field.
func appendFields(b []byte, parts ...[]byte) []byte {
	for _, p := range parts {
		b = binary.BigEndian.AppendUint64(b, uint64(len(p)))
		b = append(b, p...)
	}
	return b
}

func number(n int) []byte { return binary.BigEndian.AppendUint64(nil, uint64(n)) }

// moment is a time as the database keeps it, to the microsecond.
func moment(t time.Time) []byte { return binary.BigEndian.AppendUint64(nil, uint64(t.UnixMicro())) }

// sum is the hash of an entry: SHA-256 over every column and the hash of the
// entry before.
func (r entryRow) sum() []byte {
	sum := sha256.Sum256(r.hashed(nil))
	return sum[:]
}

// hashed is what of an entry is hashed, behind b.
func (r entryRow) hashed(b []byte) []byte {
	if r.Rests != nil {
		b = appendFields(b, []byte("entry that rests on"), r.Rests)
	}
	if r.AtDevice != nil {
		b = appendFields(b, []byte("by a clock that was off"), moment(*r.AtDevice))
	}
	return appendFields(b, []byte("entry"), r.PrevHash, r.Run[:], number(r.Seq), r.ID[:], []byte(r.Kind), moment(r.AtTool), moment(r.AtServer),
		r.Person[:], flag(r.Confirmed), []byte(r.Tools), []byte(r.Body))
}

func flag(b bool) []byte {
	if b {
		return []byte{1}
	}
	return []byte{0}
}

// chain follows a run from its plan on, entry by entry.
type chain struct {
	run    uuid.UUID
	seq    int
	before []byte
	hashed []byte // memory for what is hashed, used again
}

// begin takes the plan, and says what does not hold of it.
func (c *chain) begin(p planRow) string {
	c.before = p.Hash
	if !bytes.Equal(p.Hash, p.sum()) {
		return "the plan does not match its hash"
	}
	return ""
}

// follow takes the next entry, and says what does not hold of it.
func (c *chain) follow(r entryRow) (why string) {
	c.hashed = r.hashed(c.hashed[:0])
	sum := sha256.Sum256(c.hashed)
	switch {
	case r.Run != c.run:
		why = "the entry is another run’s"
	case r.Seq != c.seq+1:
		why = "an entry before this one is missing"
	case !bytes.Equal(r.Hash, sum[:]):
		why = "the entry does not match its hash"
	case !bytes.Equal(r.PrevHash, c.before):
		why = "the entry does not follow the one before it"
	}
	c.seq, c.before = r.Seq, r.Hash
	return why
}

// ends says whether the run ends where its head says.
func (c *chain) ends(head Run) string {
	if c.seq != head.HeadSeq || !bytes.Equal(c.before, head.HeadHash) {
		return "the end of the run is not the one it had"
	}
	return ""
}
