package store

import (
	"crypto/sha256"
	"encoding/binary"
	"hash"
	"time"
)

// fields writes each field with its length before it, so that no two lists of
// fields write the same bytes.
func fields(h hash.Hash, parts ...[]byte) {
	var n [8]byte
	for _, p := range parts {
		binary.BigEndian.PutUint64(n[:], uint64(len(p)))
		h.Write(n[:])
		h.Write(p)
	}
}

func number(n int) []byte { return binary.BigEndian.AppendUint64(nil, uint64(n)) }

// moment is a time as the database keeps it, to the microsecond.
func moment(t time.Time) []byte { return binary.BigEndian.AppendUint64(nil, uint64(t.UnixMicro())) }

// sum is the hash of an entry: SHA-256 over every column and the hash of the
// entry before.
func (r entryRow) sum() []byte {
	h := sha256.New()
	fields(h, []byte("entry"), r.PrevHash, r.Run[:], number(r.Seq), r.ID[:], []byte(r.Kind), moment(r.AtTool), moment(r.AtServer),
		r.Person[:], flag(r.Confirmed), []byte(r.Tools), []byte(r.Body))
	return h.Sum(nil)
}

func flag(b bool) []byte {
	if b {
		return []byte{1}
	}
	return []byte{0}
}
