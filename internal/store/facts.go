package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
)

// Fact is something that the meaning of the record rests on, as it was from a time on.
type Fact struct {
	Number   int
	Kind     FactKind
	Subject  string // an id, a tag, or a recipe's id and edition
	At       time.Time
	Body     string
	PrevHash []byte // of the fact before, of whatever subject
	Hash     []byte
}

// FactKind is what a fact is about.
type FactKind string

// The kinds of facts.
const (
	SiteFact   FactKind = "site"
	AreaFact   FactKind = "area"
	PersonFact FactKind = "person"
	ToolFact   FactKind = "tool"
	JointFact  FactKind = "joint"
	RecipeFact FactKind = "recipe"
)

// The bodies of facts: forms of their own, as for entries.
type (
	siteFact struct {
		Name   string `json:"name"`
		Outage string `json:"outage"`
		Begins string `json:"begins"`
		Days   int    `json:"days"`

		TorqueUnit string  `json:"torqueUnit,omitzero"` // empty: N·m
		SayWhy     bool    `json:"sayWhy,omitzero"`
		Shifts     []Shift `json:"shifts,omitempty"`

		Glossary Glossary `json:"glossary,omitempty"`
	}
	areaFact struct {
		Name string `json:"name"`
	}
	personFact struct {
		Login          string            `json:"login"`
		Name           string            `json:"name"`
		Initials       string            `json:"initials"`
		Roles          []string          `json:"roles"`
		Qualifications []string          `json:"qualifications,omitempty"`
		QualifiedUntil map[string]string `json:"qualifiedUntil,omitempty"`
		Active         bool              `json:"active"`
	}
	toolFact struct {
		Kind       string  `json:"kind"`
		Name       string  `json:"name"`
		Unit       string  `json:"unit,omitzero"`
		RatedMin   float64 `json:"ratedMin,omitzero"`
		RatedMax   float64 `json:"ratedMax,omitzero"`
		First      float64 `json:"first,omitzero"`
		Major      float64 `json:"major,omitzero"`
		Minor      float64 `json:"minor,omitzero"`
		Ratio      float64 `json:"ratio,omitzero"`
		DriveIn    string  `json:"driveIn,omitzero"`
		DriveOut   string  `json:"driveOut,omitzero"`
		Length     float64 `json:"length,omitzero"`
		Accuracy   float64 `json:"accuracy"`
		Calibrated string  `json:"calibrated,omitzero"`
		Due        string  `json:"due,omitzero"`

		Plate json.RawMessage `json:"plate,omitempty"`
		Life  string          `json:"life,omitzero"` // hash of the last entry of its life, hex
	}
	jointFact struct {
		Tag    string `json:"tag"`
		Title  string `json:"title"`
		Area   string `json:"area"` // its id
		Recipe string `json:"recipe"`
	}
	recipeFact struct {
		Text string `json:"sha256"` // of the file, hex
	}
)

// usualUnit is that of a site which has chosen none.
const usualUnit = "N·m"

func factOfSite(v Site) any {
	f := siteFact{v.Name, v.Outage, v.Begins.Format(time.DateOnly), v.Days, v.TorqueUnit, v.SayWhy, v.Shifts, v.Glossary}
	if f.TorqueUnit == usualUnit {
		f.TorqueUnit = ""
	}
	return f
}

func factOfPerson(p Person) any {
	return personFact{p.Login, p.Name, p.Initials, p.Roles, p.Qualifications, p.QualifiedUntil, p.Active}
}

func factOfTool(t Tool) any {
	on := func(d *time.Time) string {
		if d == nil {
			return ""
		}
		return d.Format(time.DateOnly)
	}
	return toolFact{t.Kind, t.Name, t.Unit, t.RatedMin, t.RatedMax, t.First, t.Major, t.Minor, t.Ratio, t.DriveIn, t.DriveOut, t.Length,
		t.Accuracy, on(t.Calibrated), on(t.Due), json.RawMessage(t.Plate), hex.EncodeToString(t.LifeHash)}
}

func factOfJoint(j Joint) any { return jointFact{j.Tag, j.Title, j.Area.String(), j.Recipe} }

func factOfRecipe(r Recipe) any {
	sum := sha256.Sum256([]byte(r.Body))
	return recipeFact{hex.EncodeToString(sum[:])}
}

func (r Recipe) subject() string { return fmt.Sprintf("%s %d", r.ID, r.Edition) }

// sum is the hash of a fact: SHA-256 over every column and the hash of the fact before.
func (f Fact) sum() []byte {
	h := sha256.New()
	fields(h, []byte("fact"), f.PrevHash, number(f.Number), []byte(f.Kind), []byte(f.Subject), moment(f.At), []byte(f.Body))
	return h.Sum(nil)
}

const (
	factColumns = "number, kind, subject, at, body, prev_hash, hash"
	// factsLock is the advisory lock that whoever adds a fact holds: they are one chain.
	factsLock = 0x64796e66616374
)

// said is what is to be known of a subject: its fact's body.
type said struct {
	subject string
	form    any
}

// logFact adds a fact, where what is known of its subject is another or nothing, and
// returns the hash of the newest.
func logFact(ctx context.Context, tx pgx.Tx, kind FactKind, subject string, form any) ([]byte, error) {
	hashes, err := logFacts(ctx, tx, kind, []said{{subject, form}})
	if err != nil {
		return nil, err
	}
	return hashes[0], nil
}

// logFacts is logFact for many subjects of one kind: what is known of them is read at once.
func logFacts(ctx context.Context, tx pgx.Tx, kind FactKind, list []said) (hashes [][]byte, err error) {
	if len(list) == 0 {
		return nil, nil
	}
	if _, err := tx.Exec(ctx, "select pg_advisory_xact_lock($1)", factsLock); err != nil {
		return nil, err
	}
	subjects := make([]string, len(list))
	for i, x := range list {
		subjects[i] = x.subject
	}
	newest, err := all[Fact](tx.Query(ctx, "select distinct on (subject) "+factColumns+` from facts where kind = $1
		and subject = any($2) order by subject, number desc`, kind, subjects))
	if err != nil {
		return nil, err
	}
	known := make(map[string]Fact, len(newest))
	for _, f := range newest {
		known[f.Subject] = f
	}
	last := Fact{Hash: []byte{}}
	err = tx.QueryRow(ctx, "select number, hash from facts order by number desc limit 1").Scan(&last.Number, &last.Hash)
	if err != nil && !errors.Is(err, pgx.ErrNoRows) {
		return nil, err
	}
	var rows [][]any
	at := time.Now().UTC().Truncate(time.Microsecond)
	for _, x := range list {
		b, err := json.Marshal(x.form)
		if err != nil {
			return nil, err
		}
		f, there := known[x.subject]
		if !there || f.Body != string(b) {
			f = Fact{Number: last.Number + 1, Kind: kind, Subject: x.subject, At: at, Body: string(b), PrevHash: last.Hash}
			f.Hash = f.sum()
			rows = append(rows, []any{f.Number, string(f.Kind), f.Subject, f.At, f.Body, f.PrevHash, f.Hash})
			known[x.subject], last = f, f
		}
		hashes = append(hashes, f.Hash)
	}
	if len(rows) > 0 {
		_, err = tx.CopyFrom(ctx, pgx.Identifier{"facts"}, strings.Split(factColumns, ", "), pgx.CopyFromRows(rows))
	}
	return hashes, err
}

// factHolds adds the fact of somebody, and notes at them that it is theirs.
func (p Person) factHolds(ctx context.Context, tx pgx.Tx) error {
	hash, err := logFact(ctx, tx, PersonFact, p.ID.String(), factOfPerson(p))
	if err == nil {
		_, err = tx.Exec(ctx, "update people set fact = $2 where id = $1 and fact is distinct from $2", p.ID, hash)
	}
	return err
}

// EnterFacts adds the facts that are missing: of what was there before facts were kept,
// and of what an older server added since, or somebody past any server. Which of these it
// was nobody can tell, so the site's log names each.
func (s *Store) EnterFacts(ctx context.Context) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "select pg_advisory_xact_lock($1)", factsLock); err != nil {
			return err
		}
		var begun bool
		if err := tx.QueryRow(ctx, "select exists (select from facts)").Scan(&begun); err != nil {
			return err
		}
		list, err := factless(ctx, tx)
		if err != nil {
			return err
		}
		for _, x := range list {
			if _, err := logFact(ctx, tx, x.kind, x.subject, x.form); err != nil {
				return err
			}
			if x.person != nil {
				if err := x.person.factHolds(ctx, tx); err != nil {
					return err
				}
			}
			if begun {
				if _, err := tx.Exec(ctx, `insert into site_log (at, kind, subject, words) values (now(), 'found', $1,
					'was added past this server: by an older one, or by somebody at the database')`,
					fmt.Sprintf("%s %s", x.kind, x.name)); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// found is something that no fact is kept of.
type found struct {
	kind          FactKind
	subject, name string
	form          any
	person        *Person
}

// factless lists what no fact is kept of.
func factless(ctx context.Context, tx pgx.Tx) (out []found, err error) {
	missing := func(kind FactKind, subject string) string {
		return fmt.Sprintf(" where not exists (select from facts where kind = '%s' and subject = %s) ", kind, subject)
	}
	sites, err := all[Site](tx.Query(ctx, "select "+siteColumns+" from sites"+missing(SiteFact, "''")))
	if err != nil {
		return nil, err
	}
	for _, v := range sites {
		out = append(out, found{kind: SiteFact, name: v.Name, form: factOfSite(v)})
	}
	areas, err := all[Area](tx.Query(ctx, "select id, name, position from areas"+missing(AreaFact, "id::text")+"order by position"))
	if err != nil {
		return nil, err
	}
	for _, v := range areas {
		out = append(out, found{kind: AreaFact, subject: v.ID.String(), name: v.Name, form: areaFact{v.Name}})
	}
	people, err := all[Person](tx.Query(ctx, "select "+personColumns+"qualifications from people"+missing(PersonFact, "id::text")+
		"order by login"))
	if err != nil {
		return nil, err
	}
	for _, p := range people {
		out = append(out, found{PersonFact, p.ID.String(), p.Login, factOfPerson(p), &p})
	}
	tools, err := all[Tool](tx.Query(ctx, "select "+toolColumns+" from tools"+missing(ToolFact, "tag")+"order by tag"))
	if err != nil {
		return nil, err
	}
	for _, t := range tools {
		out = append(out, found{kind: ToolFact, subject: t.Tag, name: t.Tag, form: factOfTool(t)})
	}
	editions, err := all[Recipe](tx.Query(ctx, selectRecipe+missing(RecipeFact, "id || ' ' || edition")+"order by id, edition"))
	if err != nil {
		return nil, err
	}
	for _, r := range editions {
		out = append(out, found{kind: RecipeFact, subject: r.subject(), name: r.subject(), form: factOfRecipe(r)})
	}
	joints, err := all[Joint](tx.Query(ctx, selectJoint+missing(JointFact, "j.id::text")+"order by j.made_at, j.tag"))
	if err != nil {
		return nil, err
	}
	for _, j := range joints {
		out = append(out, found{kind: JointFact, subject: j.ID.String(), name: j.Tag, form: factOfJoint(j)})
	}
	return out, nil
}

// FactOf returns the hash of the newest fact of a subject; nil where there is none.
func (s *Store) FactOf(ctx context.Context, kind FactKind, subject string) ([]byte, error) {
	return factOf(ctx, s.pool, kind, subject)
}

type asked interface {
	QueryRow(ctx context.Context, sql string, args ...any) pgx.Row
}

func factOf(ctx context.Context, db asked, kind FactKind, subject string) (hash []byte, err error) {
	err = db.QueryRow(ctx, "select hash from facts where kind = $1 and subject = $2 order by number desc limit 1", kind,
		subject).Scan(&hash)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, nil
	}
	return hash, err
}

// Meant is what facts say, by their kind and subject, for the words of a record.
type Meant struct {
	Site, Outage string
	Areas        map[string]string // names by id
	Joint        struct{ Tag, Title, Area string }
	People       map[string]string // names by id
	Recipe       string            // the SHA-256 of the file, hex
}

// meant reads facts; of two of one subject the later counts.
func meant(facts []Fact) (m Meant, err error) {
	m.Areas, m.People = map[string]string{}, map[string]string{}
	for _, f := range facts {
		switch f.Kind {
		case SiteFact:
			var v siteFact
			err = json.Unmarshal([]byte(f.Body), &v)
			m.Site, m.Outage = v.Name, v.Outage
		case AreaFact:
			var v areaFact
			err = json.Unmarshal([]byte(f.Body), &v)
			m.Areas[f.Subject] = v.Name
		case PersonFact:
			var v personFact
			err = json.Unmarshal([]byte(f.Body), &v)
			m.People[f.Subject] = v.Name
		case JointFact:
			var v jointFact
			err = json.Unmarshal([]byte(f.Body), &v)
			m.Joint.Tag, m.Joint.Title, m.Joint.Area = v.Tag, v.Title, v.Area
		case RecipeFact:
			var v recipeFact
			err = json.Unmarshal([]byte(f.Body), &v)
			m.Recipe = v.Text
		}
		if err != nil {
			return m, fmt.Errorf("fact %d: %w", f.Number, err)
		}
	}
	return m, nil
}
