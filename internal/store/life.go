package store

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/core/crib"
	"dynacor/core/unit"
)

// together stands between the tags of what stood between a hand and a nut.
const together = " + "

func splitTools(chain string) []string { return strings.Split(chain, together) }

type lifeRow struct {
	Tool     string
	Seq      int
	ID       uuid.UUID
	Kind     string
	Happened time.Time
	AtServer time.Time
	Person   uuid.UUID
	Body     string
	Rests    []byte
	PrevHash []byte
	Hash     []byte
}

const lifeColumns = "tool, seq, id, kind, happened, at_server, person, body, rests, prev_hash, hash"

// sum is the hash of an entry: SHA-256 over every column and the hash of the one before.
func (r lifeRow) sum() []byte {
	h := sha256.New()
	fields(h, []byte("life"), r.PrevHash, []byte(r.Tool), number(r.Seq), r.ID[:], []byte(r.Kind), moment(r.Happened), moment(r.AtServer),
		r.Person[:], []byte(r.Body), r.Rests)
	return h.Sum(nil)
}

func (r lifeRow) entry() (crib.Entry, error) {
	c, err := readLife(crib.EntryKind(r.Kind), r.Body)
	return crib.Entry{ID: r.ID.String(), Seq: r.Seq, On: r.Happened.UTC(), AtServer: r.AtServer.UTC(), Person: r.Person.String(), Content: c}, err
}

// How the life of a tool is stored: forms of their own, as for the entries of a run.
type (
	enteredForm struct {
		Calibrated time.Time `json:"calibrated,omitzero"`
		Due        time.Time `json:"due,omitzero"`
		Good       time.Time `json:"good,omitzero"`
		Held       string    `json:"held,omitzero"`
		Place      string    `json:"place,omitzero"`
	}
	boughtForm struct {
		From  string `json:"from,omitzero"`
		Place string `json:"place,omitzero"`
	}
	checkedForm struct {
		Lab         string     `json:"lab"`
		Certificate string     `json:"certificate,omitzero"`
		Paper       string     `json:"paper,omitzero"`
		Renews      bool       `json:"renews,omitzero"`
		Limit       float64    `json:"limit,omitzero"`
		Unit        string     `json:"unit,omitzero"`
		FullScale   float64    `json:"fullScale,omitzero"`
		Marks       []markForm `json:"marks,omitempty"`
		Looked      bool       `json:"looked,omitzero"`
		Good        bool       `json:"good,omitzero"`
		Note        string     `json:"note,omitzero"`
		Tester      string     `json:"tester,omitzero"`
	}
	markForm struct {
		At       float64   `json:"at"`
		Readings []float64 `json:"readings"`
	}
	lentForm struct {
		To    string `json:"to"`
		Joint string `json:"joint,omitzero"`
		Note  string `json:"note,omitzero"`
	}
	returnedForm struct {
		Place string `json:"place,omitzero"`
		Note  string `json:"note,omitzero"`
	}
	hurtForm struct {
		What  string `json:"what"`
		Joint string `json:"joint,omitzero"`
		Note  string `json:"note,omitzero"`
	}
	filedForm struct {
		Title string `json:"title"`
		Paper string `json:"paper"`
	}
	wordsForm struct {
		What string `json:"what,omitzero"`
		Why  string `json:"why,omitzero"`
	}
)

func lifeForm(c crib.Content) (any, error) {
	switch c := c.(type) {
	case crib.Entered:
		return enteredForm(c), nil
	case crib.Bought:
		return boughtForm(c), nil
	case crib.Checked:
		f := checkedForm{Lab: c.Lab, Certificate: c.Certificate, Paper: c.Paper, Renews: c.Renews, Limit: c.Limit, Unit: string(c.Unit),
			FullScale: c.FullScale, Looked: c.Looked, Good: c.Good, Note: c.Note, Tester: c.Tester}
		for _, m := range c.Marks {
			f.Marks = append(f.Marks, markForm(m))
		}
		return f, nil
	case crib.Lent:
		return lentForm(c), nil
	case crib.Returned:
		return returnedForm(c), nil
	case crib.Hurt:
		return hurtForm{string(c.What), c.Joint, c.Note}, nil
	case crib.Filed:
		return filedForm(c), nil
	case crib.Adjusted:
		return wordsForm{What: c.What}, nil
	case crib.Held:
		return wordsForm{Why: c.Why}, nil
	case crib.Back:
		return wordsForm{Why: c.Why}, nil
	case crib.Scrapped:
		return wordsForm{Why: c.Why}, nil
	case crib.Changed:
		return wordsForm(c), nil
	}
	return nil, fmt.Errorf("unknown content %T", c)
}

func readLife(kind crib.EntryKind, body string) (crib.Content, error) {
	switch kind {
	case crib.KindEntered:
		return readAs(body, func(f enteredForm) crib.Content { return crib.Entered(f) })
	case crib.KindBought:
		return readAs(body, func(f boughtForm) crib.Content { return crib.Bought(f) })
	case crib.KindChecked:
		return readAs(body, func(f checkedForm) crib.Content {
			c := crib.Checked{Lab: f.Lab, Certificate: f.Certificate, Paper: f.Paper, Renews: f.Renews, Limit: f.Limit, Unit: unit.Unit(f.Unit),
				FullScale: f.FullScale, Looked: f.Looked, Good: f.Good, Note: f.Note, Tester: f.Tester}
			for _, m := range f.Marks {
				c.Marks = append(c.Marks, crib.Mark(m))
			}
			return c
		})
	case crib.KindLent:
		return readAs(body, func(f lentForm) crib.Content { return crib.Lent(f) })
	case crib.KindReturned:
		return readAs(body, func(f returnedForm) crib.Content { return crib.Returned(f) })
	case crib.KindHurt:
		return readAs(body, func(f hurtForm) crib.Content { return crib.Hurt{What: crib.Harm(f.What), Joint: f.Joint, Note: f.Note} })
	case crib.KindFiled:
		return readAs(body, func(f filedForm) crib.Content { return crib.Filed(f) })
	case crib.KindAdjusted:
		return readAs(body, func(f wordsForm) crib.Content { return crib.Adjusted{What: f.What} })
	case crib.KindHeld:
		return readAs(body, func(f wordsForm) crib.Content { return crib.Held{Why: f.Why} })
	case crib.KindBack:
		return readAs(body, func(f wordsForm) crib.Content { return crib.Back{Why: f.Why} })
	case crib.KindScrapped:
		return readAs(body, func(f wordsForm) crib.Content { return crib.Scrapped{Why: f.Why} })
	case crib.KindChanged:
		return readAs(body, func(f wordsForm) crib.Content { return crib.Changed(f) })
	}
	return nil, fmt.Errorf("unknown kind of entry %q", kind)
}

// readAs reads a form from its text.
func readAs[F, C any](body string, content func(F) C) (out C, err error) {
	var f F
	if err = json.Unmarshal([]byte(body), &f); err != nil {
		return out, err
	}
	return content(f), nil
}

// Life returns a tool with what happened to it, in order, and its state. A tool of which no
// life is kept yet has one entry of what is known of it.
func (s *Store) Life(ctx context.Context, tag string) (t Tool, list []crib.Entry, err error) {
	if t, err = s.ToolByTag(ctx, tag); err != nil {
		return t, nil, err
	}
	list, err = lifeOf(ctx, s.pool, t)
	return t, list, err
}

func lifeOf(ctx context.Context, db queries, t Tool) ([]crib.Entry, error) {
	rows, err := all[lifeRow](db.Query(ctx, "select "+lifeColumns+" from tool_life where tool = $1 order by seq", t.Tag))
	if err != nil {
		return nil, err
	}
	var list []crib.Entry
	prev := []byte{}
	for i, r := range rows {
		if r.Seq != i+1 || string(r.PrevHash) != string(prev) || string(r.Hash) != string(r.sum()) {
			return nil, fmt.Errorf("the life of %s is not what was stored, at entry %d", t.Tag, i+1)
		}
		e, err := r.entry()
		if err != nil {
			return nil, fmt.Errorf("the life of %s, entry %d: %w", t.Tag, r.Seq, err)
		}
		list, prev = append(list, e), r.Hash
	}
	if len(list) == 0 {
		list = append(list, crib.Entry{Content: t.entered()})
	}
	return list, nil
}

// Lives says what may be added to the life of a tool: with what is stored of it, locked,
// it returns the tool's data as they are from then on, and the entry.
type Lives func(t Tool, s crib.State) (crib.Tool, crib.Entry, error)

// AddLife adds an entry to the life of a tool. Where no life is kept of it yet, what is
// known of it comes first. The same entry sent again changes nothing. ErrNotFound where
// the crib has none of that tag; ErrTaken where another entry has this identity.
func (s *Store) AddLife(ctx context.Context, tag string, id uuid.UUID, rests []byte, say Lives) (out Tool, err error) {
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		t, err := one[Tool](tx.Query(ctx, "select "+toolColumns+" from tools where tag = $1 for update", tag))
		if err != nil {
			return err
		}
		list, err := lifeOf(ctx, tx, t)
		if err != nil {
			return err
		}
		for _, e := range list {
			if e.ID == id.String() {
				out = t
				return nil
			}
		}
		data, e, err := say(t, crib.Fold(t.Data(), list))
		if err != nil {
			return err
		}
		if t.LifeSeq == 0 {
			first := crib.Entry{ID: uuid.NewString(), On: e.AtServer, AtServer: e.AtServer, Person: e.Person, Content: t.entered()}
			if t, err = live(ctx, tx, t, first, rests); err != nil {
				return err
			}
		}
		if t, err = t.with(data); err != nil {
			return err
		}
		if t, err = live(ctx, tx, t, e, rests); err != nil {
			return taken(err)
		}
		t.keeps(crib.Fold(data, append(list, e)))
		out = t
		return saveTool(ctx, tx, t)
	})
	return out, err
}

// NewTools adds tools to the crib, each with its first entry; all, or none. ErrTaken where
// one has the tag of another.
func (s *Store) NewTools(ctx context.Context, list []NewTool, rests []byte) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		for _, n := range list {
			t, err := Tool{}.with(n.Data)
			if err != nil {
				return err
			}
			t.keeps(crib.Fold(n.Data, n.Life))
			if err := addTool(ctx, tx, t); err != nil {
				return err
			}
			for _, e := range n.Life {
				if t, err = live(ctx, tx, t, e, rests); err != nil {
					return taken(err)
				}
			}
			if err := saveTool(ctx, tx, t); err != nil {
				return err
			}
		}
		return nil
	})
}

// NewTool is a tool with the life it comes with.
type NewTool struct {
	Data crib.Tool
	Life []crib.Entry
}

// live writes one entry behind the last of a tool.
func live(ctx context.Context, tx pgx.Tx, t Tool, e crib.Entry, rests []byte) (Tool, error) {
	f, err := lifeForm(e.Content)
	if err != nil {
		return t, err
	}
	b, err := json.Marshal(f)
	if err != nil {
		return t, err
	}
	id, err := uuid.Parse(e.ID)
	if err != nil {
		return t, err
	}
	person, err := uuid.Parse(e.Person)
	if err != nil {
		return t, err
	}
	r := lifeRow{Tool: t.Tag, Seq: t.LifeSeq + 1, ID: id, Kind: string(e.Content.Kind()), Happened: e.On.UTC().Truncate(time.Microsecond),
		AtServer: e.AtServer.UTC().Truncate(time.Microsecond), Person: person, Body: string(b), Rests: rests, PrevHash: t.LifeHash}
	if r.PrevHash == nil {
		r.PrevHash = []byte{}
	}
	r.Hash = r.sum()
	t.LifeSeq, t.LifeHash = r.Seq, r.Hash
	_, err = tx.Exec(ctx, "insert into tool_life ("+lifeColumns+") values ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11)", r.Tool, r.Seq, r.ID, r.Kind,
		r.Happened, r.AtServer, r.Person, r.Body, r.Rests, r.PrevHash, r.Hash)
	return t, err
}

// KeepPaper keeps a file by its hash; one that is kept already stays as it is.
func (s *Store) KeepPaper(ctx context.Context, f Sheet) error {
	_, err := s.pool.Exec(ctx, `insert into papers (hash, type, bytes, person, at) values ($1, $2, $3, $4, $5)
		on conflict (hash) do nothing`, f.Hash, f.Type, f.Bytes, f.Person, f.At)
	return err
}

// readLives holds the life of every tool against its chain, and against what is kept
// beside the tool.
func (a *auditor) readLives(ctx context.Context) error {
	tools, err := all[Tool](a.tx.Query(ctx, "select "+toolColumns+" from tools order by tag"))
	if err != nil {
		return err
	}
	papers := map[string]bool{}
	rows, err := a.tx.Query(ctx, "select hash from papers")
	if err != nil {
		return err
	}
	hashes, err := pgx.CollectRows(rows, pgx.RowTo[string])
	if err != nil {
		return err
	}
	for _, h := range hashes {
		papers[h] = true
	}
	for _, t := range tools {
		fault := func(what string) { a.fault(Fault{Of: "tool " + t.Tag, What: what}) }
		list, err := lifeOf(ctx, a.tx, t)
		if err != nil {
			fault(err.Error())
			continue
		}
		for _, e := range list {
			paper := ""
			switch c := e.Content.(type) {
			case crib.Checked:
				paper = c.Paper
			case crib.Filed:
				paper = c.Paper
			}
			if paper != "" && !papers[paper] {
				fault(fmt.Sprintf("a paper that entry %d of its life names is gone", e.Seq))
			}
		}
		if t.LifeSeq == 0 {
			continue
		}
		last, err := one[lifeRow](a.tx.Query(ctx, "select "+lifeColumns+" from tool_life where tool = $1 order by seq desc limit 1", t.Tag))
		if err != nil || last.Seq != t.LifeSeq || string(last.Hash) != string(t.LifeHash) {
			fault("its life ends elsewhere than it did")
			continue
		}
		kept := t
		kept.keeps(crib.Fold(t.Data(), list))
		if kept.HeldBack != t.HeldBack || kept.Scrapped != t.Scrapped || !sameDay(kept.Calibrated, t.Calibrated) || !sameDay(kept.Due, t.Due) {
			fault("what is kept beside it does not follow from its life")
		}
	}
	return nil
}

func sameDay(a, b *time.Time) bool {
	if a == nil || b == nil {
		return a == b
	}
	return a.UTC().Format(time.DateOnly) == b.UTC().Format(time.DateOnly)
}
