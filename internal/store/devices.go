package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Device is what a device said of itself last.
type Device struct {
	ID     uuid.UUID
	Person uuid.UUID
	Name   string
	Acts   int        // that waited on it to be stored
	Since  *time.Time // when the oldest of them was done; nil: none waits
	Joints []uuid.UUID
	Seen   time.Time

	Waiting []Waiting // of which joints the acts are
}

// Waiting is what waited of one joint on a device to be stored.
type Waiting struct {
	Joint uuid.UUID `json:"joint"`
	Acts  int       `json:"acts"`
	Since time.Time `json:"since"` // when the oldest of them was done
}

const deviceColumns = "id, person, name, acts, since, joints, seen, waiting"

// HeardDevice keeps what a device says of itself, instead of what it said before.
func (s *Store) HeardDevice(ctx context.Context, d Device) error {
	_, err := s.pool.Exec(ctx, "insert into devices ("+deviceColumns+`) values ($1, $2, $3, $4, $5, $6, $7, $8)
		on conflict (id) do update set person = excluded.person, name = excluded.name, acts = excluded.acts, since = excluded.since,
		joints = excluded.joints, seen = excluded.seen, waiting = excluded.waiting`, d.ID, d.Person, d.Name, d.Acts, d.Since, d.Joints,
		d.Seen, d.Waiting)
	return err
}

// Devices returns those that have something of ours: acts that wait, or joints that they took
// along and were not heard of since a time; the longest silent first.
func (s *Store) Devices(ctx context.Context, silentSince time.Time) ([]Device, error) {
	return all[Device](s.pool.Query(ctx, "select "+deviceColumns+` from devices
		where acts > 0 or seen < $1 and cardinality(joints) > 0 order by seen`, silentSince))
}

// GoneDevice no longer looks for a device.
func GoneDevice(id uuid.UUID) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		tag, err := tx.Exec(ctx, "delete from devices where id = $1", id)
		if err == nil && tag.RowsAffected() == 0 {
			return ErrNotFound
		}
		return err
	}
}

// DeviceByID returns a device.
func (s *Store) DeviceByID(ctx context.Context, id uuid.UUID) (Device, error) {
	return one[Device](s.pool.Query(ctx, "select "+deviceColumns+" from devices where id = $1", id))
}
