package store

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"

	"github.com/jackc/pgx/v5"
)

// readFacts follows the chain of facts.
func (a *auditor) readFacts(ctx context.Context) error {
	rows, err := a.tx.Query(ctx, "select "+factColumns+" from facts order by number")
	if err != nil {
		return err
	}
	list := func(f Fact, what string) {
		a.fault(Fault{Of: fmt.Sprintf("fact %d, %s %s", f.Number, f.Kind, f.Subject), What: what})
	}
	for rows.Next() {
		f, err := pgx.RowToStructByName[Fact](rows)
		if err != nil {
			rows.Close()
			return err
		}
		switch {
		case f.Number != a.last.Number+1:
			list(f, "a fact before this one is missing")
		case !bytes.Equal(f.Hash, f.sum()):
			list(f, "it does not match its hash")
		case !bytes.Equal(f.PrevHash, a.last.Hash):
			list(f, "it does not follow the one before it")
		}
		key := factKey{f.Kind, f.Subject}
		a.facts[string(f.Hash)], a.newest[key], a.last = key, f, f
		a.out.Facts++
	}
	return rows.Err()
}

// rowsOfFacts holds the rows of today to what was last said of them.
func (a *auditor) rowsOfFacts(ctx context.Context) error {
	there := map[factKey]bool{}
	look := func(kind FactKind, subject, name string, form any) error {
		key := factKey{kind, subject}
		there[key] = true
		b, err := json.Marshal(form)
		if err != nil {
			return err
		}
		f, known := a.newest[key]
		switch {
		case !known:
			a.fault(Fault{Of: fmt.Sprintf("%s %s", kind, name), What: "it was added past the server"})
		case f.Body != string(b):
			a.fault(Fault{Of: fmt.Sprintf("%s %s", kind, name),
				What: fmt.Sprintf("it was changed past the server: it says %s, and last said %s",
					clip(string(b)), clip(f.Body))})
		}
		return nil
	}
	sites, err := all[Site](a.tx.Query(ctx, "select "+siteColumns+" from sites"))
	if err != nil {
		return err
	}
	for _, v := range sites {
		if err := look(SiteFact, "", v.Name, factOfSite(v)); err != nil {
			return err
		}
	}
	areas, err := all[Area](a.tx.Query(ctx, "select id, name, position from areas"))
	if err != nil {
		return err
	}
	for _, v := range areas {
		if err := look(AreaFact, v.ID.String(), v.Name, areaFact{v.Name}); err != nil {
			return err
		}
	}
	people, err := all[auditedPerson](a.tx.Query(ctx, "select "+personColumns+"qualifications, fact from people"))
	if err != nil {
		return err
	}
	for _, p := range people {
		if err := look(PersonFact, p.ID.String(), p.Login, factOfPerson(p.Person)); err != nil {
			return err
		}
		if f, known := a.newest[factKey{PersonFact, p.ID.String()}]; known && !bytes.Equal(f.Hash, p.Fact) {
			a.fault(Fault{Of: "person " + p.Login, What: "they do not name their newest fact"})
		}
	}
	tools, err := all[Tool](a.tx.Query(ctx, "select "+toolColumns+" from tools"))
	if err != nil {
		return err
	}
	for _, t := range tools {
		if err := look(ToolFact, t.Tag, t.Tag, factOfTool(t)); err != nil {
			return err
		}
	}
	joints, err := all[Joint](a.tx.Query(ctx, selectJoint))
	if err != nil {
		return err
	}
	for _, j := range joints {
		if err := look(JointFact, j.ID.String(), j.Tag, factOfJoint(j)); err != nil {
			return err
		}
	}
	editions, err := all[Recipe](a.tx.Query(ctx, selectRecipe))
	if err != nil {
		return err
	}
	for _, r := range editions {
		if err := look(RecipeFact, r.subject(), r.subject(), factOfRecipe(r)); err != nil {
			return err
		}
	}
	for key, f := range a.newest {
		if !there[key] {
			a.fault(Fault{Of: fmt.Sprintf("%s %s", key.kind, key.subject), What: "it is gone; it said " + clip(f.Body)})
		}
	}
	return nil
}

type auditedPerson struct {
	Person
	Fact []byte
}

// clip keeps a fault readable.
func clip(s string) string {
	const most = 300
	if len(s) > most {
		return s[:most] + "…"
	}
	return s
}
