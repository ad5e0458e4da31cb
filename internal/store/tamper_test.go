package store_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/work/worktest"
	"dynacor/internal/seal"
	"dynacor/internal/store"
)

// kept is a site whose record is sealed: a signed run, and one in hand whose last entries
// are not sealed yet; heads went to a second place.
type kept struct {
	*bench
	key          seal.Key
	journal      string
	signed, open store.Run
}

func sealedSite(t *testing.T) *kept {
	b := issued(t)
	k := &kept{bench: b, journal: t.TempDir()}
	due := day(2027, 1, 2)
	require.NoError(t, b.AddTool(ctx, store.Tool{Tag: "TW-1", Kind: "wrench", Name: "Wrench", Unit: "N·m", Accuracy: 0.04, Due: &due}))
	in := worktest.Flanged(8)
	site := store.Site{Name: "Ottermere Hydro", Begins: day(2026, 11, 20), Days: 14}
	_, err := b.Pool().Exec(ctx, "insert into sites values ('', '', current_date, 14)")
	require.NoError(t, err)
	require.NoError(t, b.Change(ctx, store.Logged{At: time.Now()}, store.ChangedSite(site)))
	b.issue(t) // a second revision, which rests on all that
	person, err := b.FactOf(ctx, store.PersonFact, b.person.String())
	require.NoError(t, err)
	tool, err := b.FactOf(ctx, store.ToolFact, "TW-1")
	require.NoError(t, err)
	j, err := seal.NewJournal(k.journal)
	require.NoError(t, err)
	defer j.Close()
	tell := func(lines ...seal.Line) { require.NoError(t, j.Write(lines)) }
	long := time.Now().Add(-time.Hour)
	work := func(head store.Run, list ...record.Content) store.Run {
		for _, c := range list {
			m := store.Made{Person: person}
			if _, ok := c.(record.Tooling); ok {
				m.Others = [][]byte{tool}
			}
			_, head, err = b.Append(ctx, head, b.entry(c), m)
			require.NoError(t, err)
			tell(seal.Line{At: long, Run: head.ID.String(), Seq: head.HeadSeq, Hash: head.HeadHash})
		}
		return head
	}
	tooling := record.Tooling{Group: "bolts", Stages: []record.StageTool{stage}}
	k.signed = work(b.run, tooling, pull(1), pull(2), pull(3), record.Signature{Part: record.Checked})
	areas, err := b.Areas(ctx)
	require.NoError(t, err)
	b.joint = uuid.New()
	require.NoError(t, b.AddJoint(ctx, store.Joint{ID: b.joint, Area: areas[0].ID, Tag: "J-2", Title: "Other", Recipe: "flange",
		MadeAt: time.Now()}))
	_, err = b.SaveDraft(ctx, store.Draft{Joint: b.joint, Input: in}, b.person, time.Now())
	require.NoError(t, err)
	b.issue(t)
	head := work(b.run, pull(1), pull(2), pull(3))
	k.key, err = seal.New()
	require.NoError(t, err)
	require.NoError(t, b.AddKey(ctx, k.key.Public(), time.Now()))
	first, err := b.SealRecords(ctx, k.key, time.Now())
	require.NoError(t, err)
	require.Len(t, first, 1)
	heads, err := b.SealHeads(ctx, k.key, time.Now(), true)
	require.NoError(t, err)
	require.Len(t, heads, 1)
	for _, x := range append(first, heads...) {
		tell(seal.Line{At: long, Seal: x.Number, Body: x.Body, Signature: x.Signature})
	}
	k.open = work(head, pull(4))
	k.run = k.signed
	return k
}

func (k *kept) against() store.Against {
	return store.Against{Keys: []seal.Public{k.key.Public()}, Journal: k.journal}
}

// owner does something as who owns the database: no trigger and no foreign key stops them.
func (k *kept) owner(t *testing.T, do func(tx pgx.Tx, f store.Forge) error) {
	t.Helper()
	require.NoError(t, pgx.BeginFunc(ctx, k.Pool(), func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "set local session_replication_role = replica"); err != nil {
			return err
		}
		return do(tx, store.Forge{Tx: tx})
	}))
}

// tampering is one way to change the record past the server.
type tampering struct {
	name  string
	sql   string // statements with ";" between; {run} is the signed run, {open} the one in hand, {joint} its joint
	fit   string // which hashes are made to fit again: "run", "open", "facts"
	found string // part of a fault that the audit must name
}

const entryHash, planHash, endHash = "the entry does not match its hash", "the plan does not match its hash",
	"the end of the run is not the one"

var tamperings = []tampering{
	{"what was done", `update entries set body = replace(body, '"bolt":2', '"bolt":3') where run = {run} and seq = 3`, "", entryHash},
	{"when, at the tool", "update entries set at_tool = at_tool + interval '1 microsecond' where run = {run} and seq = 2", "", entryHash},
	{"when, at the server", "update entries set at_server = at_server - interval '1 s' where run = {run} and seq = 2", "", entryHash},
	{"who", "update entries set person = gen_random_uuid() where run = {run} and seq = 2", "", entryHash},
	{"whether it was confirmed", "update entries set confirmed = not confirmed where run = {run} and seq = 2", "", entryHash},
	{"with what", "update entries set tools = 'TW-9' where run = {run} and seq = 2", "", entryHash},
	{"the kind", "update entries set kind = 'pause' where run = {run} and seq = 2", "", entryHash},
	{"an identity", "update entries set id = gen_random_uuid() where run = {run} and seq = 2", "", entryHash},
	{"a hash", "update entries set hash = sha256(hash) where run = {run} and seq = 2", "", entryHash},
	{"the hash of the one before", "update entries set prev_hash = sha256(prev_hash) where run = {run} and seq = 2", "", entryHash},
	{"what it rests on", "update entries set rests = null where run = {run} and seq = 2", "", entryHash},
	{"an entry taken out", "delete from entries where run = {run} and seq = 2", "", "an entry before this one is missing"},
	{"the last taken out", "delete from entries where run = {run} and seq = 5", "", endHash},
	{"the head alone set back", "update runs set head_seq = 4 where id = {run}", "", endHash},
	{"the head's hash", "update runs set head_hash = sha256(head_hash) where id = {run}", "", endHash},
	{"a tail cut off with the head set back", "delete from entries where run = {run} and seq > 3", "run", "and is gone"},
	{"a tail cut off, of a run in hand", "delete from entries where run = {open} and seq > 1", "open", "and is gone"},
	{"a tail cut off that was not sealed yet", "delete from entries where run = {open} and seq = 4", "open", "and is gone"},
	{"what was done, all recomputed", `update entries set body = replace(body, '"bolt":2', '"bolt":3') where run = {run}`, "run",
		"it is not what was sealed"},
	{"who, all recomputed", "update entries set person = gen_random_uuid() where run = {run} and seq = 3", "run",
		"it is not what was sealed"},
	{"a signature's time, all recomputed", "update entries set at_server = at_server - interval '1 d' where run = {run} and seq = 5", "run",
		"it is not what was sealed"},
	{"an entry put in, all recomputed", `update entries set seq = 9 where run = {run} and seq = 5; insert into entries select run, 6,
		gen_random_uuid(), kind, at_tool, at_server, person, confirmed, tools, body, prev_hash, hash,
			rests from entries where run = {run} and
		seq = 4`, "run", "it is not what was sealed"},
	{"an entry taken out, all recomputed", "delete from entries where run = {run} and seq = 3", "run", "it is not what was sealed"},
	{"two swapped, all recomputed", `update entries set seq = 50 where run = {run} and seq = 2; update entries set seq = 2 where run = {run}
		and seq = 3; update entries set seq = 3 where run = {run} and seq = 50`, "run", "it is not what was sealed"},
	{"all entries, the head on the plan", "delete from entries where run = {run}", "run", "and is gone"},
	{"a run", "delete from entries where run = {run}; delete from runs where id = {run}", "", "it was sealed, and is gone"},
	{"a plan", "delete from plans where joint = {joint} and revision = 2", "", "the plan is gone"},
	{"a plan and its run", `delete from entries where run = {run}; delete from plans where (joint, revision) = (select joint, revision from
		runs where id = {run}); delete from runs where id = {run}; update runs set closed = false where joint = {joint}`, "",
		"it was sealed, and is gone"},
	{"the plan before", `delete from runs where joint = {joint} and revision = 1;
		delete from plans where joint = {joint} and revision = 1`, "",
		"the plan before this one is missing"},
	{"a joint with all it has", `delete from entries where run = {run}; delete from runs where joint = {joint}; delete from plans where
		joint = {joint}; delete from drafts where joint = {joint}; delete from joints where id = {joint}`, "", "it is gone; it said"},
	{"what a plan came to", "update plans set result = replace(result, '260', '261') where joint = {joint}", "", planHash},
	{"why there is another", "update plans set reason = 'x' where joint = {joint}", "", planHash},
	{"when it was issued", "update plans set issued_at = issued_at - interval '1 h' where joint = {joint}", "", planHash},
	{"what a plan came to, all recomputed",
		"update plans set result = replace(result, '260', '261') where joint = {joint} and revision = 2",
		"run", "it is not what was sealed"},
	{"who issued it, all recomputed", "update plans set issued_by = gen_random_uuid() where joint = {joint} and revision = 2", "run",
		"what was known of its person"},
	{"a closed run opened", "update runs set closed = false where joint = {joint}", "", "the run is closed"},
	{"an open run closed", "update runs set closed = true where id = {run}", "", "the run is closed"},
	{"when a run began", "update runs set begun_at = begun_at - interval '1 d' where id = {run}", "", "did not begin when"},
	{"an entry moved to another run", "update entries set run = {open}, seq = 5 where run = {run} and seq = 5", "", "entry"},
	{"a name", "update people set name = 'B'", "", "person a: it was changed past the server"},
	{"a role", "update people set roles = array_append(roles, 'engineer')", "", "person a: it was changed past the server"},
	{"a login", "update people set login = 'b'", "", "it was changed past the server"},
	{"a qualification", "update people set qualifications = '{rigger}'", "", "person a: it was changed past the server"},
	{"somebody added", `insert into people (id, login, name, initials, pin_hash, roles) values (gen_random_uuid(), 'x', 'X', 'X', 'x',
		'{engineer}')`, "", "person x: it was added past the server"},
	{"somebody's fact", "update people set fact = null", "", "do not name their newest fact"},
	{"when a tool is due", "update tools set due = due + 365", "", "tool TW-1: it was changed past the server"},
	{"when it was calibrated", "update tools set calibrated = '2026-01-01'", "", "tool TW-1: it was changed past the server"},
	{"how true it is", "update tools set accuracy = 0.01", "", "tool TW-1: it was changed past the server"},
	{"a tool", "delete from tools", "", "tool TW-1: it is gone"},
	{"the text of a recipe", "update recipes set body = 'another'", "", "it was changed past the server"},
	{"a title", "update joints set title = 'x' where id = {joint}", "", "joint J-1: it was changed past the server"},
	{"a tag", "update joints set tag = 'x' where id = {joint}", "", "joint x: it was changed past the server"},
	{"an area's name", "update areas set name = 'x'", "", "area x: it was changed past the server"},
	{"the site's name", "update sites set name = 'x'", "", "site x: it was changed past the server"},
	{"a fact", "update facts set body = replace(body, 'Joint', 'Other') where kind = 'joint'", "", "it does not match its hash"},
	{"a fact, its row and all recomputed", `update people set name = 'B'; update facts set body = replace(body, '"name":"A"', '"name":"B"')
		where kind = 'person'`, "facts run open", "which it sealed, is gone or another"},
	{"the last fact", "delete from facts where number = (select max(number) from facts)", "", "is gone or another"},
	{"the body of a seal", `update seals set body = replace(body, '"seq":5', '"seq":4')`, "", "not made with the site’s key"},
	{"its signature", "update seals set signature = sha256(signature) || sha256(signature)", "", "not made with the site’s key"},
	{"the first seal", "delete from seals where number = 1", "", "a seal before this one is missing"},
	{"the last seal", "delete from seals where number = 2", "", "not the one that was written to the second place"},
	{"all seals", "delete from seals", "", "not the one that was written to the second place"},
	{"the key", "delete from seal_keys", "", "the database does not name it"},
}

func (k *kept) tamper(t *testing.T, x tampering) {
	t.Helper()
	put := strings.NewReplacer("{run}", "'"+k.signed.ID.String()+"'", "{open}", "'"+k.open.ID.String()+"'", "{joint}",
		"'"+k.signed.Joint.String()+"'")
	k.owner(t, func(tx pgx.Tx, f store.Forge) error {
		for _, sql := range strings.Split(put.Replace(x.sql), ";") {
			tag, err := tx.Exec(ctx, sql)
			if err != nil {
				return fmt.Errorf("%s: %w", sql, err)
			}
			require.Positive(t, tag.RowsAffected(), sql)
		}
		for _, what := range strings.Fields(x.fit) {
			var err error
			switch what {
			case "facts":
				err = f.Facts(ctx)
			case "run":
				err = f.Run(ctx, k.signed.ID)
			case "open":
				err = f.Run(ctx, k.open.ID)
			}
			if err != nil {
				return err
			}
		}
		return nil
	})
}

// Whatever of the record is changed past the server, by whoever owns the database, the
// audit names.
func TestAuditFindsWhatTheOwnerOfTheDatabaseDoes(t *testing.T) {
	require.GreaterOrEqual(t, len(tamperings), 40)
	untouched := sealedSite(t)
	found, err := untouched.Audit(ctx, untouched.against())
	require.NoError(t, err)
	require.Empty(t, found.Faults)
	require.Equal(t, []int{3, 9, 2, 11}, []int{found.Plans, found.Entries, found.Seals, found.Journal})
	for _, x := range tamperings {
		t.Run(x.name, func(t *testing.T) {
			k := sealedSite(t)
			k.tamper(t, x)
			found, err := k.Audit(ctx, k.against())
			require.NoError(t, err)
			var said []string
			for _, f := range found.Faults {
				said = append(said, f.String())
			}
			require.Contains(t, strings.Join(said, "\n"), x.found)
		})
	}
}

// What is made anew with another key is found by who has the site's; who has neither the
// key nor a head that left the machine cannot tell.
func TestAnotherKey(t *testing.T) {
	k := sealedSite(t)
	k.tamper(t, tampering{sql: `update entries set body = replace(body, '"bolt":2', '"bolt":3') where run = {run}`, fit: "run"})
	other, err := seal.New()
	require.NoError(t, err)
	k.owner(t, func(tx pgx.Tx, f store.Forge) error { return f.NoSeals(ctx) })
	require.NoError(t, k.AddKey(ctx, other.Public(), time.Now()))
	_, err = k.SealRecords(ctx, other, time.Now())
	require.NoError(t, err)
	_, err = k.SealHeads(ctx, other, time.Now(), true)
	require.NoError(t, err)
	found, err := k.Audit(ctx, store.Against{})
	require.NoError(t, err)
	require.Empty(t, found.Faults, "everything and the key replaced: nothing here can tell")
	found, err = k.Audit(ctx, store.Against{Keys: []seal.Public{k.key.Public()}})
	require.NoError(t, err)
	require.NotEmpty(t, found.Faults, "the key tells")
	found, err = k.Audit(ctx, store.Against{Journal: k.journal})
	require.NoError(t, err)
	require.NotEmpty(t, found.Faults, "the second place tells")
}

// Of a sealed record nothing counts that the seal does not cover, however well it matches
// its own hash: what anybody can write is no proof.
func TestWhatTheSealDoesNotCoverIsNoProof(t *testing.T) {
	k := sealedSite(t)
	evidence := func(head store.Run) store.Evidence {
		e, err := k.Evidence(ctx, head)
		require.NoError(t, err)
		return e
	}
	sound := evidence(k.signed)
	faults, _, ok := sound.Check(k.key.Public())
	require.Empty(t, faults)
	require.True(t, ok)

	who, err := k.PersonByID(ctx, k.person)
	require.NoError(t, err)
	who.Name, who.Roles = "Somebody Else", append(who.Roles, "administrator")
	require.NoError(t, k.Change(ctx, store.Logged{At: time.Now()}, store.ChangedPerson(who)))
	renamed := evidence(k.signed)
	require.Equal(t, sound.Facts, renamed.Facts, "a later name is none of what was signed")
	list, err := k.Pool().Query(ctx, `select number, kind, subject, at, body, prev_hash, hash from facts
		where body like '%Somebody Else%'`)
	require.NoError(t, err)
	later, err := pgx.CollectExactlyOneRow(list, pgx.RowToStructByPos[store.Fact])
	require.NoError(t, err)
	later.At = later.At.UTC()
	renamed.Facts = append(renamed.Facts, later)
	faults, _, ok = renamed.Check(k.key.Public())
	require.False(t, ok)
	require.Len(t, faults, 1)
	require.Contains(t, faults[0], "is none that was sealed")

	head := k.signed
	person, err := k.FactOf(ctx, store.PersonFact, k.person.String())
	require.NoError(t, err)
	_, head, err = k.Append(ctx, head, k.entry(pull(4)), store.Made{Person: person})
	require.NoError(t, err)
	faults, _, ok = evidence(head).Check(k.key.Public())
	require.False(t, ok)
	require.Contains(t, faults[0], "1 more: anybody may have written it")
}

// A record whose plan is gone is not sealed, and keeps no other from being sealed.
func TestOneThatIsGoneKeepsNoOtherFromBeingSealed(t *testing.T) {
	k := sealedSite(t)
	sign := func(head store.Run) {
		_, _, err := k.Append(ctx, head, k.entry(record.Signature{Part: record.Checked}), store.Made{})
		require.NoError(t, err)
	}
	sign(k.signed)
	sign(k.open)
	k.owner(t, func(tx pgx.Tx, _ store.Forge) error {
		_, err := tx.Exec(ctx, "delete from plans where joint = $1", k.signed.Joint)
		return err
	})
	done, err := k.SealRecords(ctx, k.key, time.Now())
	require.NoError(t, err)
	require.Len(t, done, 1)
	says, err := done[0].Says()
	require.NoError(t, err)
	require.Equal(t, k.open.ID, says.Record.Run)
}
