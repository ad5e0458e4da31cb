package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Reading is what a linked tool read, and what became of it.
type Reading struct {
	ID      uuid.UUID
	Tool    string
	AtTool  time.Time
	Got     time.Time
	Value   float64
	Unit    string
	Angle   *float64 // degrees; nil: it was not read
	Trace   string   // JSON; empty: none
	Run     *uuid.UUID
	Target  string
	Verdict string
	Says    string
}

const readingColumns = "id, tool, at_tool, got, value, unit, angle, trace, run, target, verdict, says"

// ToolKey is the key that a tool signs in with, its SHA-256, and when it was last heard;
// ErrNotFound where it has none.
type ToolKey struct {
	Key    []byte
	MadeAt time.Time
	Seen   *time.Time
}

// ToolKey returns a tool's key.
func (s *Store) ToolKey(ctx context.Context, tag string) (ToolKey, error) {
	return one[ToolKey](s.pool.Query(ctx, "select key, made_at, seen from tool_links where tool = $1", tag))
}

// SetToolKey gives a tool another key.
func (s *Store) SetToolKey(ctx context.Context, tag string, key []byte, by uuid.UUID, at time.Time) error {
	_, err := s.pool.Exec(ctx, `insert into tool_links (tool, key, made_by, made_at) values ($1, $2, $3, $4)
		on conflict (tool) do update set key = $2, made_by = $3, made_at = $4`, tag, key, by, at)
	return err
}

// DropToolKey lets a tool sign in no more.
func (s *Store) DropToolKey(ctx context.Context, tag string) error {
	_, err := s.pool.Exec(ctx, "delete from tool_links where tool = $1", tag)
	return err
}

// HeardTool notes that a tool was heard.
func (s *Store) HeardTool(ctx context.Context, tag string, at time.Time) error {
	_, err := s.pool.Exec(ctx, "update tool_links set seen = $2 where tool = $1", tag, at)
	return err
}

// ToolInHand returns the run in which a tool was last taken in hand; ErrNotFound where it
// never was, or that run is closed.
func (s *Store) ToolInHand(ctx context.Context, tag string) (uuid.UUID, error) {
	var run uuid.UUID
	var closed bool
	err := s.pool.QueryRow(ctx, `select e.run, r.closed from entries e join runs r on r.id = e.run
		where e.kind = 'setting' and e.tools <> '' and split_part(e.tools, ' + ', 1) = $1 order by e.at_server desc limit 1`, tag).
		Scan(&run, &closed)
	if errors.Is(err, pgx.ErrNoRows) || err == nil && closed {
		return uuid.Nil, ErrNotFound
	}
	return run, err
}

// KeepReading stores a reading, or what became of it since; one of the same identity stays
// what it was read as.
func (s *Store) KeepReading(ctx context.Context, r Reading) error {
	_, err := s.pool.Exec(ctx, "insert into tool_readings ("+readingColumns+`) values ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12)
		on conflict (id) do update set run = $9, verdict = $11, says = $12`, r.ID, r.Tool, r.AtTool, r.Got, r.Value, r.Unit, r.Angle, r.Trace,
		r.Run, r.Target, r.Verdict, r.Says)
	return err
}

// Reading returns one; ErrNotFound where there is none.
func (s *Store) Reading(ctx context.Context, id uuid.UUID) (Reading, error) {
	return one[Reading](s.pool.Query(ctx, "select "+readingColumns+" from tool_readings where id = $1", id))
}

// OpenReadings are the readings of a run, and of its tools for no run, that somebody has to
// say something of, the oldest first.
func (s *Store) OpenReadings(ctx context.Context, run uuid.UUID, tools []string) ([]Reading, error) {
	return all[Reading](s.pool.Query(ctx, "select "+readingColumns+` from tool_readings
		where verdict in ('waits', 'past') and (run = $1 or run is null and tool = any($2)) order by got limit 50`, run, tools))
}

// Readings returns those of some identities that there are, in any order.
func (s *Store) Readings(ctx context.Context, ids []uuid.UUID) ([]Reading, error) {
	return all[Reading](s.pool.Query(ctx, "select "+readingColumns+" from tool_readings where id = any($1)", ids))
}

// HeardKind reports whether a tool of one of some kinds was heard since a time.
func (s *Store) HeardKind(ctx context.Context, kinds []string, at time.Time) (there bool, err error) {
	err = s.pool.QueryRow(ctx, `select exists (select from tool_links l join tools t on t.tag = l.tool
		where l.seen >= $2 and t.kind = any($1))`, kinds, at).Scan(&there)
	return there, err
}

// ClaimReadings says of readings what they were taken for, and by which entry; run is nil
// where that is of no joint.
func (s *Store) ClaimReadings(ctx context.Context, ids []uuid.UUID, run *uuid.UUID, entry uuid.UUID, verdict, says string) error {
	_, err := s.pool.Exec(ctx, "update tool_readings set verdict = $2, says = $3, run = $4, target = $5 where id = any($1)", ids, verdict,
		says, run, entry.String())
	return err
}

// OfferedReadings are the newest that instruments read since a time and nobody has taken,
// newest first.
func (s *Store) OfferedReadings(ctx context.Context, since time.Time, most int) ([]Reading, error) {
	return all[Reading](s.pool.Query(ctx, "select "+readingColumns+
		" from tool_readings where verdict = 'offered' and got >= $1 order by got desc limit $2", since, most))
}

// HeardSince lists the tools with a key that were heard since a time.
func (s *Store) HeardSince(ctx context.Context, at time.Time) ([]string, error) {
	rows, err := s.pool.Query(ctx, "select tool from tool_links where seen >= $1 order by tool", at)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowTo[string])
}

// ReadingsOf are the newest readings of a tool, newest first.
func (s *Store) ReadingsOf(ctx context.Context, tag string, most int) ([]Reading, error) {
	return all[Reading](s.pool.Query(ctx, "select "+readingColumns+
		" from tool_readings where tool = $1 order by got desc limit $2", tag, most))
}

// BadLine is a line of a tool that was none, and how many like it followed.
type BadLine struct {
	At   time.Time
	Says string
	Line string
	More int
}

// KeepLine stores a line that was none.
func (s *Store) KeepLine(ctx context.Context, tag string, l BadLine) error {
	_, err := s.pool.Exec(ctx, "insert into tool_lines (tool, at, says, line, more) values ($1, $2, $3, $4, $5)", tag, l.At, l.Says,
		l.Line, l.More)
	return err
}

// BadLines are the newest of a tool, newest first.
func (s *Store) BadLines(ctx context.Context, tag string, most int) ([]BadLine, error) {
	return all[BadLine](s.pool.Query(ctx, "select at, says, line, more from tool_lines where tool = $1 order by at desc limit $2", tag, most))
}
