package store_test

import (
	"flag"
	"os"
	"path/filepath"
	"reflect"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/unit"
	"dynacor/internal/store"
)

// everything is an act with something in each of its fields.
var everything = record.Done{Act: record.Act{Step: "pull", Bolt: 7, Share: 60, Turn: 90, Stroke: 2, Lock: true, Round: 3,
	Item: 4, Photo: true, Release: true}, Tried: true, LetGo: true,
	Readings: []float64{1, 0}, Held: 10, Marks: []string{"disc: HD 75"}, Moved: true, NoTurn: true,
	Angle: 12, Reading: unit.Of(38, unit.NewtonMetre),
	Skipped: true, Reason: "bent", Qualified: "B", Bolts: []int{1, 8}}

// taken is everything with what came later.
var taken = func() record.Done {
	d := everything
	d.Taken, d.Trace = "EW-1", "ab12"
	return d
}()

// stage is a stage's tool with something in each of its fields.
var stage = record.StageTool{Tools: []string{"TW-1", "MX"}, Torque: 100, Lands: 99.5, Setting: unit.Of(20.5, unit.FootPound), Main: 20,
	Minors: 1, First: 10, Major: 10, Minor: 0.5,
	Error: -0.5, Accuracy: 0.06, Multiplier: 0.03, Force: 210, Calibrated: day(2026, 1, 2), Due: day(2027, 1, 2), ByHand: true,
	Face: "window", Falls: true, Least: 20, Most: 100, Links: []record.Link{link}}

// link is a link with something in each of its fields.
var link = record.Link{Kind: "offset end", Tag: "OE", Drive: "1/2", Limit: 300, Torque: 99, Ratio: 4.2, Length: 60, Angle: 45, Size: 24, Inside: true}

// pressed is stage with what came later: a line that was ever written stays as it is.
var pressed = func() record.StageTool {
	t := stage
	t.Chart, t.DueOf = []record.ChartRow{{Pressure: 70, Torque: 280}, {Pressure: 690, Torque: 2800}}, "GA-1"
	t.Full = 1000
	t.Draw = record.Draw{Load: 234_000, Factor: 1.16, Applied: 271_440, Area: 3200, Length: 240, Yield: 0.46, Lengthens: 0.39, Stroke: 15,
		Residual: 731.25}
	return t
}()

// rigged is a setting with something in each of its fields.
var rigged = record.Setting{Group: "bolts", Share: 60, Rig: []string{"hoses", "up"}, Readings: []float64{310, 309}, Hand: 1, Taken: "GA-1"}

// A field that is added to an act or to a tool is tried here too.
func TestEverythingIsEverything(t *testing.T) {
	for _, x := range []any{taken, everything.Act, pressed, pressed.Draw, pressed.Chart[0], rigged, link} {
		v := reflect.ValueOf(x)
		for i := range v.NumField() {
			require.False(t, v.Field(i).IsZero(), v.Type().Field(i).Name)
		}
	}
}

// all kinds of content, each with something in every field that matters.
func contents() []record.Content {
	return []record.Content{
		record.Caution{Step: "pull", Points: []string{"isolated"}},
		record.Tooling{Group: "bolts", Stages: []record.StageTool{stage}},
		record.Setting{Group: "bolts", Share: 60},
		pull(1),
		everything,
		record.Trouble{Group: "bolts", Bolt: 4, What: record.Overshot, Remedy: record.Replaced, Note: "“quoted” and\nbroken"},
		record.Correction{Of: "x", Reason: "read wrong", Instead: everything},
		record.Correction{Of: "x", Reason: "did not happen"},
		record.Report{Tool: "TW-1", What: record.Dropped, Note: "from the scaffold", Since: day(2026, 11, 1)},
		record.Answer{Tool: "TW-1", Reason: "found good"},
		record.Lubricant{Group: "bolts", Is: "copper anti-seize", Note: "a tin of it stood there"},
		record.Decision{Tool: "TW-1", Reason: "go on"},
		record.Pause{Note: "phone", HandOverTo: "B"},
		record.Resume{Note: "back"},
		record.Signature{Part: record.Checked, Reason: "accepted"},
		record.Started{Step: "leak"},
		record.Answer{Tool: "TW-1", How: record.Again, Reason: "7 % low"},
		record.Recheck{Tool: "TW-1", With: "TD-1", Group: "bolts", Bolts: []int{1, 3}, Readings: []float64{88, 90.5}},
		record.Tooling{Group: "bolts", Stages: []record.StageTool{pressed}},
		record.Setting{Group: "bolts", Share: 60, Rig: rigged.Rig, Readings: rigged.Readings}, taken,
		record.Upset{Group: "bolts", What: record.RegulatorMoved, Note: "knocked"},
		record.Photo{Step: "gasket", Hash: store.HashOf([]byte("a photograph")), What: "the gasket", Width: 8, Height: 6, Size: 12},
		record.Tooling{Group: "bolts", Stages: []record.StageTool{stage}, Beside: [][]record.StageTool{{pressed}, {stage}}},
		rigged, record.Twice{Done: taken},
		record.Gap{Device: "T-07", By: "Marta Tolland", Why: "fell into the sump", Seen: day(2026, 11, 2), Acts: 3, Since: day(2026, 11, 1)},
	}
}

var update = flag.Bool("update", false, "write the golden files anew")

// golden holds what was ever stored to its form: a line that changes is read no
// more as it was written.
func golden(t *testing.T, name, got string) {
	path := filepath.Join("testdata", name)
	if *update {
		require.NoError(t, os.WriteFile(path, []byte(got), 0o644))
	}
	want, err := os.ReadFile(path)
	require.NoError(t, err)
	require.Equal(t, string(want), got)
}

func (b *bench) text(t *testing.T, sql string) string {
	var out string
	require.NoError(t, b.Pool().QueryRow(ctx, sql).Scan(&out))
	return out + "\n"
}

// What is stored has forms of its own; each kind of entry is in its golden file.
func TestStoredForms(t *testing.T) {
	b := issued(t)
	head := b.run
	kinds := map[record.Kind]bool{}
	for _, c := range contents() {
		var err error
		_, head, err = b.Append(ctx, head, b.entry(c), store.Made{Tools: "TW-1"})
		require.NoError(t, err)
		kinds[c.Kind()] = true
	}
	require.Len(t, kinds, 19, "every kind is here")
	golden(t, "entries.golden", b.text(t, "select string_agg(kind || ' ' || body, E'\n' order by seq) from entries"))
	golden(t, "input.golden", b.text(t, "select input from plans"))
	golden(t, "result.golden", b.text(t, "select result from plans"))
}

func TestEntriesComeBackAsTheyWentIn(t *testing.T) {
	b := issued(t)
	photo := []byte("a photograph")
	require.NoError(t, b.KeepPhoto(ctx, store.Photo{Hash: store.HashOf(photo), Type: "image/png", Bytes: photo, Width: 8, Height: 6,
		Person: b.person, At: day(2026, 11, 1)}))
	head := b.run
	var sent []record.Entry
	var heads []store.Run
	for _, c := range contents() {
		e, h, err := b.Append(ctx, head, b.entry(c), store.Made{Tools: "TW-1"})
		require.NoError(t, err)
		head, sent, heads = h, append(sent, e), append(heads, h)
	}
	got, err := b.Entries(ctx, []store.Span{{Known: b.run, Upto: head}})
	require.NoError(t, err)
	require.Empty(t, got[b.run.ID].Fault)
	require.Len(t, got[b.run.ID].Entries, len(sent))
	for i, e := range got[b.run.ID].Entries {
		require.Equal(t, sent[i].Content, e.Content)
		require.Equal(t, sent[i].ID, e.ID)
		require.True(t, sent[i].AtTool.Equal(e.AtTool))
		require.Equal(t, i+1, e.Seq)
	}
	later, err := b.Entries(ctx, []store.Span{{Known: heads[9], Upto: head}})
	require.NoError(t, err)
	require.Empty(t, later[b.run.ID].Fault)
	require.Len(t, later[b.run.ID].Entries, len(sent)-10)
	found, err := b.Audit(ctx, store.Against{})
	faults, plans, entries := found.Faults, found.Plans, found.Entries
	require.NoError(t, err)
	require.Empty(t, faults)
	require.Equal(t, []int{1, len(sent)}, []int{plans, entries})
}
