package store_test

import (
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"dynacor/core/crib"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/store"
)

// bought brings a tool into the crib.
func (b *bench) bought(t *testing.T, data crib.Tool) {
	t.Helper()
	now := time.Now().UTC()
	require.NoError(t, b.NewTools(ctx, []store.NewTool{{Data: data, Life: []crib.Entry{{ID: uuid.NewString(), On: now, AtServer: now,
		Person: b.person.String(), Content: crib.Bought{From: "maker", Place: "rack A"}}}}}, nil))
}

// live adds to the life of a tool what the core takes.
func (b *bench) live(t *testing.T, tag string, c crib.Content) store.Tool {
	t.Helper()
	id := uuid.New()
	out, err := b.AddLife(ctx, tag, id, nil, func(x store.Tool, s crib.State) (crib.Tool, crib.Entry, error) {
		now := time.Now().UTC()
		e := crib.Entry{ID: id.String(), On: now, AtServer: now, Person: b.person.String(), Content: c}
		return x.Data(), e, s.Accept(x.Data(), e, now)
	})
	require.NoError(t, err)
	return out
}

// everyTool is a tool with something in each of its fields.
var everyTool = crib.Tool{Tag: "ALL-1", Name: "everything", Serial: "S 1", Kind: crib.Wrench, Face: crib.Window, Unit: unit.FootPound,
	Least: 10, Most: 100, Scale: tool.Scale{First: 10, Major: 5, Minor: 1}, Falls: true, Ratio: 4.2, DriveIn: "1/2", DriveOut: "3/4",
	Length: 400, Angle: 45, Size: 24, Inside: true, Accuracy: 0.03, Chart: tool.Chart{{Pressure: 70, Torque: 620}, {Pressure: 140, Torque: 1240}},
	PressureUnit: unit.Bar, Graduation: 10, PressureMost: 700, RamArea: 3200, Stroke: 15, Months: 12, Pulls: 5000}

// all that can happen to a tool, each with something in every field.
func lives(person string) []crib.Content {
	return []crib.Content{
		crib.Checked{Lab: "lab", Certificate: "C 1", Renews: true, Limit: 0.04, Unit: unit.FootPound, FullScale: 100,
			Marks: []crib.Mark{{At: 20, Readings: []float64{19.9, 20.1}}}, Note: "warm"},
		crib.Checked{Lab: "lab", Looked: true, Good: true},
		crib.Adjusted{What: "spring"}, crib.Lent{To: person, Joint: "J-1", Note: "for the night"}, crib.Returned{Place: "rack B", Note: "clean"},
		crib.Hurt{What: crib.Dropped, Joint: "J-1", Note: "stair"}, crib.Held{Why: "no key"}, crib.Back{Why: "key found"},
		crib.Filed{Title: "manual", Paper: strings.Repeat("a", 64)}, crib.Changed{What: "length", Why: "measured"}, crib.Scrapped{Why: "worn"},
	}
}

// What is stored of a tool and its life is read as it was written.
func TestAToolAndItsLifeAreReadAsWritten(t *testing.T) {
	b := issued(t)
	b.bought(t, everyTool)
	at := time.Date(2026, 11, 3, 8, 0, 0, 0, time.UTC)
	for i, c := range lives(b.person.String()) {
		id := uuid.New()
		e := crib.Entry{ID: id.String(), On: at.Add(time.Duration(i) * time.Hour), AtServer: at, Person: b.person.String(), Content: c}
		say := func(x store.Tool, _ crib.State) (crib.Tool, crib.Entry, error) { return x.Data(), e, nil }
		_, err := b.AddLife(ctx, "ALL-1", id, []byte{}, say)
		require.NoError(t, err)
		_, err = b.AddLife(ctx, "ALL-1", id, nil, say)
		require.NoError(t, err, "sent twice it is there once")
	}
	got, life, err := b.Life(ctx, "ALL-1")
	require.NoError(t, err)
	require.Equal(t, everyTool, got.Data())
	want := append([]crib.Content{crib.Bought{From: "maker", Place: "rack A"}}, lives(b.person.String())...)
	require.Len(t, life, len(want))
	for i, e := range life {
		require.Equal(t, want[i], e.Content)
		require.Equal(t, i+1, e.Seq)
	}
	_, err = b.AddLife(ctx, "NONE", uuid.New(), nil, nil)
	require.ErrorIs(t, err, store.ErrNotFound)
	golden(t, "life.golden", b.text(t, "select string_agg(kind || ' ' || body, E'\n' order by seq) from tool_life where kind <> 'lent'"))
	golden(t, "plate.golden", b.text(t, "select plate from tools where tag = 'ALL-1'"))
}

// A tool of before has a life from the first time that something is said of it.
func TestALifeBeginsWithWhatWasKnown(t *testing.T) {
	b := issued(t)
	on := day(2026, 10, 1)
	require.NoError(t, b.AddTool(ctx, store.Tool{Tag: "TW-1", Kind: "wrench", Name: "Wrench", Unit: "N·m", RatedMax: 100, Accuracy: 0.04,
		Calibrated: &on, HeldBack: "dropped", Place: "rack A"}))
	got := b.live(t, "TW-1", crib.Adjusted{What: "the spring"})
	require.Equal(t, "dropped", got.HeldBack)
	_, life, err := b.Life(ctx, "TW-1")
	require.NoError(t, err)
	require.Equal(t, crib.Entered{Calibrated: on, Good: on, Held: "dropped", Place: "rack A"}, life[0].Content)
	require.Len(t, life, 2)
	require.Equal(t, crib.Ring, got.Data().Face)
}

// Whoever changes the life of a tool past the server is found.
func TestATamperedLifeIsFound(t *testing.T) {
	for _, c := range []struct{ sql, says string }{
		{"", ""},
		{"update tool_life set body = '{}' where seq = 3", "the life of ALL-1 is not what was stored, at entry 3"},
		{"delete from tool_life where seq = 3", "its life ends elsewhere than it did"},
		{"update tools set held_back = ''", "what is kept beside it does not follow from its life"},
		{"update tools set due = '2030-01-01'", "what is kept beside it does not follow from its life"},
		{"update tools set plate = ''", "another"},
	} {
		b := issued(t)
		b.bought(t, everyTool)
		b.live(t, "ALL-1", crib.Hurt{What: crib.Dropped})
		b.live(t, "ALL-1", crib.Adjusted{What: "spring"})
		(&kept{bench: b}).owner(t, func(tx pgx.Tx, _ store.Forge) error {
			_, err := tx.Exec(ctx, c.sql)
			return err
		})
		found, err := b.Audit(ctx, store.Against{})
		require.NoError(t, err)
		var all []string
		for _, f := range found.Faults {
			all = append(all, f.What)
		}
		if c.sql == "" {
			require.Empty(t, all)
			continue
		}
		require.NotEmpty(t, all, c.sql)
		if c.says != "another" {
			require.Contains(t, strings.Join(all, "\n"), c.says)
		}
	}
	b := issued(t)
	b.bought(t, everyTool)
	_, err := b.Pool().Exec(ctx, "delete from tool_life")
	require.ErrorContains(t, err, "only ever added to")
}
