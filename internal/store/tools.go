package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/core/crib"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// Tool is a tool of the crib, as its plate says, and what follows from its life.
type Tool struct {
	Tag        string
	Kind       string
	Name       string
	Unit       string
	RatedMin   float64
	RatedMax   float64
	First      float64
	Major      float64
	Minor      float64
	Ratio      float64
	DriveIn    string
	DriveOut   string
	Length     float64
	Accuracy   float64
	Plate      string // what else is on it: a plateForm; empty: a ring and thimble, or a multiplier
	Calibrated *time.Time
	Due        *time.Time
	HeldBack   string     // why; empty: it may be used
	CheckedAt  *time.Time // its last good check after it was held back
	Place      string
	LentTo     *uuid.UUID // nil: it is in the crib
	LentJoint  string
	Scrapped   string // why; empty: it is there
	LifeSeq    int    // of its last entry; 0: no life is kept yet
	LifeHash   []byte
}

const (
	dataColumns = `tag, kind, name, unit, rated_min, rated_max, first, major, minor, ratio, drive_in, drive_out, length, accuracy, plate`
	toolColumns = dataColumns + `, calibrated, due, held_back, checked_at, place, lent_to, lent_joint, scrapped, life_seq, life_hash`
)

// plateForm is how the rest of a plate is stored; what says nothing is left out.
type plateForm struct {
	Face         string       `json:"face,omitzero"`
	Serial       string       `json:"serial,omitzero"`
	Falls        bool         `json:"falls,omitzero"`
	Angle        float64      `json:"angle,omitzero"`
	Size         float64      `json:"size,omitzero"`
	Inside       bool         `json:"inside,omitzero"`
	Chart        [][2]float64 `json:"chart,omitempty"`
	PressureUnit string       `json:"pressureUnit,omitzero"`
	Graduation   float64      `json:"graduation,omitzero"`
	PressureMost float64      `json:"pressureMost,omitzero"`
	RamArea      float64      `json:"ramArea,omitzero"`
	Stroke       float64      `json:"stroke,omitzero"`
	Months       int          `json:"months,omitzero"`
	Pulls        int          `json:"pulls,omitzero"`
}

// Data returns what the tool is.
func (t Tool) Data() crib.Tool {
	out := crib.Tool{Tag: t.Tag, Name: t.Name, Kind: crib.Kind(t.Kind), Unit: unit.Unit(t.Unit), Least: t.RatedMin, Most: t.RatedMax,
		Scale: tool.Scale{First: t.First, Major: t.Major, Minor: t.Minor}, Ratio: t.Ratio, DriveIn: t.DriveIn, DriveOut: t.DriveOut,
		Length: t.Length, Accuracy: t.Accuracy}
	if out.Kind == crib.Wrench {
		out.Face = crib.Ring
	}
	var p plateForm
	if t.Plate == "" || json.Unmarshal([]byte(t.Plate), &p) != nil {
		return out
	}
	out.Serial, out.Falls, out.Angle, out.Size, out.Inside = p.Serial, p.Falls, p.Angle, p.Size, p.Inside
	out.PressureUnit, out.Graduation, out.PressureMost = unit.Unit(p.PressureUnit), p.Graduation, p.PressureMost
	out.RamArea, out.Stroke, out.Months, out.Pulls = p.RamArea, p.Stroke, p.Months, p.Pulls
	if p.Face != "" {
		out.Face = crib.Face(p.Face)
	}
	for _, r := range p.Chart {
		out.Chart = append(out.Chart, tool.Row{Pressure: r[0], Torque: r[1]})
	}
	return out
}

// with returns the row with what the tool is.
func (t Tool) with(d crib.Tool) (Tool, error) {
	t.Tag, t.Name, t.Kind, t.Unit, t.RatedMin, t.RatedMax = d.Tag, d.Name, string(d.Kind), string(d.Unit), d.Least, d.Most
	t.First, t.Major, t.Minor, t.Ratio, t.DriveIn, t.DriveOut = d.Scale.First, d.Scale.Major, d.Scale.Minor, d.Ratio, d.DriveIn, d.DriveOut
	t.Length, t.Accuracy = d.Length, d.Accuracy
	p := plateForm{Serial: d.Serial, Falls: d.Falls, Angle: d.Angle, Size: d.Size, Inside: d.Inside, PressureUnit: string(d.PressureUnit),
		Graduation: d.Graduation, PressureMost: d.PressureMost, RamArea: d.RamArea, Stroke: d.Stroke, Months: d.Months, Pulls: d.Pulls}
	if d.Face != crib.Ring {
		p.Face = string(d.Face)
	}
	for _, r := range d.Chart {
		p.Chart = append(p.Chart, [2]float64{r.Pressure, r.Torque})
	}
	b, err := json.Marshal(p)
	if t.Plate = string(b); t.Plate == "{}" {
		t.Plate = ""
	}
	return t, err
}

// entered is what is known of a tool of which no life is kept yet.
func (t Tool) entered() crib.Entered {
	e := crib.Entered{Held: t.HeldBack, Place: t.Place}
	on := func(d *time.Time) time.Time {
		if d == nil {
			return time.Time{}
		}
		return d.UTC()
	}
	e.Calibrated, e.Due, e.Good = on(t.Calibrated), on(t.Due), on(t.Calibrated)
	if checked := on(t.CheckedAt); checked.After(e.Good) {
		e.Good = checked
	}
	return e
}

// State is what is kept beside a tool of its life.
func (t Tool) State() crib.State {
	s := crib.Begun(t.entered())
	s.Entries, s.Scrapped = t.LifeSeq, t.Scrapped
	return s
}

// keeps takes over what follows from a tool's life.
func (t *Tool) keeps(s crib.State) {
	at := func(d time.Time) *time.Time {
		if d.IsZero() {
			return nil
		}
		return &d
	}
	t.Calibrated, t.Due, t.CheckedAt, t.Place, t.Scrapped = at(s.Calibrated), at(s.Due), at(s.Good), s.Place, s.Scrapped
	t.HeldBack, t.LentTo, t.LentJoint = "", nil, ""
	if s.Held != nil {
		t.HeldBack = s.Held.Why
	}
	if s.Scrapped != "" {
		t.HeldBack = "scrapped: " + s.Scrapped
	}
	if s.Lent != nil {
		if id, err := uuid.Parse(s.Lent.To); err == nil {
			t.LentTo = &id
		}
		t.LentJoint = s.Lent.Joint
	}
}

func (t Tool) args() []any {
	return []any{t.Tag, t.Kind, t.Name, t.Unit, t.RatedMin, t.RatedMax, t.First, t.Major, t.Minor, t.Ratio, t.DriveIn, t.DriveOut, t.Length,
		t.Accuracy, t.Plate, t.Calibrated, t.Due, t.HeldBack, t.CheckedAt, t.Place, t.LentTo, t.LentJoint, t.Scrapped, t.LifeSeq, t.LifeHash}
}

// Tools returns the crib, by tag.
func (s *Store) Tools(ctx context.Context) ([]Tool, error) {
	return all[Tool](s.pool.Query(ctx, "select "+toolColumns+" from tools order by tag"))
}

// ToolByTag returns one; ErrNotFound where the crib has none of that tag.
func (s *Store) ToolByTag(ctx context.Context, tag string) (Tool, error) {
	return one[Tool](s.pool.Query(ctx, "select "+toolColumns+" from tools where tag = $1", tag))
}

// AddTool stores a tool of which no life is kept.
func (s *Store) AddTool(ctx context.Context, t Tool) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error { return addTool(ctx, tx, t) })
}

func addTool(ctx context.Context, tx pgx.Tx, t Tool) error {
	if _, err := tx.Exec(ctx, "insert into tools ("+toolColumns+`) values
		($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13,$14,$15,$16,$17,$18,$19,$20,$21,$22,$23,$24,$25)`, t.args()...); err != nil {
		return taken(err)
	}
	_, err := logFact(ctx, tx, ToolFact, t.Tag, factOfTool(t))
	return err
}

func saveTool(ctx context.Context, tx pgx.Tx, t Tool) error {
	if _, err := tx.Exec(ctx, "update tools set ("+toolColumns+`) =
		($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13,$14,$15,$16,$17,$18,$19,$20,$21,$22,$23,$24,$25) where tag = $1`, t.args()...); err != nil {
		return err
	}
	_, err := logFact(ctx, tx, ToolFact, t.Tag, factOfTool(t))
	return err
}

// HeldTools returns the tools that are held back, with why.
func (s *Store) HeldTools(ctx context.Context) (map[string]string, error) {
	rows, err := all[struct{ Tag, HeldBack string }](s.pool.Query(ctx, "select tag, held_back from tools where held_back <> ''"))
	out := map[string]string{}
	for _, r := range rows {
		out[r.Tag] = r.HeldBack
	}
	return out, err
}

// Touched is what was made with a tool of one run since a time.
type Touched struct {
	Run   uuid.UUID
	Pulls int
	Last  time.Time
}

// TouchedBy lists the runs with pulls that a tool made since a time, the newest first,
// whatever else stood between the hand and the nut.
func (s *Store) TouchedBy(ctx context.Context, tag string, since time.Time) ([]Touched, error) {
	chains, err := s.chains(ctx)
	if err != nil {
		return nil, err
	}
	return all[Touched](s.pool.Query(ctx, `select run, count(*) as pulls, max(at_tool) as last from entries
		where kind = 'done' and tools <> '' and tools = any($1) and at_tool >= $2 group by run order by last desc`, chains[tag], since))
}

// chains lists, by tag, what ever stood together between a hand and a nut: pulls are stored
// with all of it. It hops from one to the next in the index.
func (s *Store) chains(ctx context.Context) (map[string][]string, error) {
	rows, err := s.pool.Query(ctx, `with recursive chain as (
			(select tools from entries where kind = 'done' and tools <> '' order by tools limit 1)
			union all
			select (select e.tools from entries e where e.kind = 'done' and e.tools <> '' and e.tools > c.tools order by e.tools limit 1)
			from chain c where c.tools is not null)
		select tools from chain where tools is not null`)
	if err != nil {
		return nil, err
	}
	list, err := pgx.CollectRows(rows, pgx.RowTo[string])
	out := map[string][]string{}
	for _, c := range list {
		for _, tag := range splitTools(c) {
			out[tag] = append(out[tag], c)
		}
	}
	return out, err
}

// PullsSince counts the pulls of each tool since a time of its own.
func (s *Store) PullsSince(ctx context.Context, since map[string]time.Time) (map[string]int, error) {
	chains, err := s.chains(ctx)
	if err != nil {
		return nil, err
	}
	var tags, tools []string
	var from []time.Time
	for tag, at := range since {
		for _, c := range chains[tag] {
			tags, tools, from = append(tags, tag), append(tools, c), append(from, at)
		}
	}
	out := map[string]int{}
	if len(tags) == 0 {
		return out, nil
	}
	rows, err := all[struct {
		Tag string
		N   int
	}](s.pool.Query(ctx, `select tag, sum(n)::int as n from unnest($1::text[], $2::text[], $3::timestamptz[]) as k (tag, chain, since),
		lateral (select count(*) as n from entries where kind = 'done' and tools <> '' and tools = chain and at_tool >= since) c
		group by tag`, tags, tools, from))
	for _, r := range rows {
		out[r.Tag] = r.N
	}
	return out, err
}
