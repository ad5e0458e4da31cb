package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/core/record"
	"dynacor/internal/form"
)

// Photo is a photograph as it is kept: by the hash of its bytes.
type Photo struct {
	Hash   string    `json:"hash"`
	Type   string    `json:"type"`
	Bytes  []byte    `json:"bytes"`
	Width  int       `json:"width"`
	Height int       `json:"height"`
	Person uuid.UUID `json:"person"`
	At     time.Time `json:"at"`
}

// HashOf is the name of a photograph's bytes.
func HashOf(photo []byte) string {
	sum := sha256.Sum256(photo)
	return hex.EncodeToString(sum[:])
}

// KeepPhoto keeps a photograph; one that is kept already stays as it is.
func (s *Store) KeepPhoto(ctx context.Context, p Photo) error {
	_, err := s.pool.Exec(ctx, `insert into photos (hash, type, bytes, width, height, person, at) values ($1, $2, $3, $4, $5, $6, $7)
		on conflict (hash) do nothing`, p.Hash, p.Type, p.Bytes, p.Width, p.Height, p.Person, p.At)
	return err
}

// Photo returns the photograph of that hash; ErrNotFound where there is none.
func (s *Store) Photo(ctx context.Context, hash string) (Photo, error) {
	return one[Photo](s.pool.Query(ctx, "select hash, type, bytes, width, height, person, at from photos where hash = $1", hash))
}

// photosOf returns the photographs that a run's entries name, by hash.
func (s *Store) photosOf(ctx context.Context, entries []entryRow) ([]Photo, error) {
	var hashes []string
	for _, e := range entries {
		if hash := photoOf(e); hash != "" && !slices.Contains(hashes, hash) {
			hashes = append(hashes, hash)
		}
	}
	if hashes == nil {
		return nil, nil
	}
	list, err := all[Photo](s.pool.Query(ctx, "select hash, type, bytes, width, height, person, at from photos "+
		"where hash = any($1) order by hash",
		hashes))
	for i := range list {
		list[i].At = list[i].At.UTC()
	}
	return list, err
}

// photoOf is the hash of the photograph that an entry names; empty for none.
func photoOf(e entryRow) string {
	if e.Kind != string(record.KindPhoto) {
		return ""
	}
	c, err := form.ReadContent(record.KindPhoto, e.Body)
	if err != nil {
		return ""
	}
	p, _ := c.(record.Photo)
	return p.Hash
}

// readPhotos holds every photograph and every maker's sheet against its hash, and every entry that names one to
// its being there.
func (a *auditor) readPhotos(ctx context.Context) error {
	rows, err := a.tx.Query(ctx, "select hash, encode(sha256(bytes), 'hex') from photos union all "+
		"select hash, encode(sha256(bytes), 'hex') from papers")
	if err != nil {
		return err
	}
	var hash, is string
	there := map[string]bool{}
	if _, err := pgx.ForEachRow(rows, []any{&hash, &is}, func() error {
		there[hash] = true
		if hash != is {
			a.fault(Fault{Of: "file " + hash[:12], What: "its bytes do not match its hash"})
		}
		return nil
	}); err != nil {
		return err
	}
	rows, err = a.tx.Query(ctx, "select body::jsonb->>'hash', run::text from entries where kind = 'photo'")
	if err != nil {
		return err
	}
	var run string
	_, err = pgx.ForEachRow(rows, []any{&hash, &run}, func() error {
		if !there[hash] {
			a.fault(Fault{Of: "run " + run, What: "a photograph that it names is gone"})
		}
		return nil
	})
	return err
}
