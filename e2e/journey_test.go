package e2e

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"

	"dynacor/core/sequence"
	"dynacor/internal/pgdev/pgtest"
)

// From nameplate to signed record, as a fitter, an engineer and an inspector
// go through it.
func TestNameplateToSignedRecord(t *testing.T) {
	t.Parallel()
	power := pgtest.NewAlone(t, load)
	s := serve(t, power.URL())
	const tag = "RK / WASH PUMP"
	marta := s.signIn("marta")

	// Find the fresh joint by its tag, lay it out, and change the lubricant.
	marta.press(input.Slash)
	marta.el("[role=dialog] input").MustInput("wash pump")
	marta.el("[role=dialog] input").MustType(input.Enter)
	marta.sees("header b", tag)
	marta.sees("[data-saved]", "not laid out yet")
	joint := strings.Split(marta.MustInfo().URL, "/")[4]
	marta.word("type", "RF")
	marta.word("size", "100")
	marta.word("choices.work", "make")
	marta.word("choices.gasket", "sheet")
	marta.word("choices.faces", "raised")
	marta.word("choices.bolts", "studs with two nuts")
	marta.sees("p", `Bolts: 8 × M16 8.8, with light oil, to 125 N·m`)
	marta.word("groups.bolts.lubrication", "molybdenum disulphide paste")
	marta.sees("li", "on moly paste it gives 31 % more load. The equivalent is 95.59 N·m")
	marta.sees("li", `100 % 125 N·m`) // nothing is converted by itself
	marta.sees("button", "^Take the equivalent torque$").MustClick()
	marta.sees("li", `100 % 95.59 N·m`)
	marta.sees("span", "An engineer issues the plan")

	// The engineer issues it, with the PIN.
	edda := s.signIn("edda")
	edda.MustNavigate(s.url("/joint/" + joint + "/1"))
	edda.sees("li", `95.59 N·m`)
	edda.sees("button", "^Issue the plan$").MustClick()
	edda.el("[role=dialog] input[name=pin]").MustInput("0000")
	edda.sees("[role=dialog] button", "^Issue$").MustClick()
	edda.sees("[role=alert]", "do not go together")
	edda.pin("^Issue$")
	edda.sees("[data-step=kit]", "laid out")

	// The kit by holding the pedal, isolation, then fit-up and the joint brought together.
	marta.el("[data-current=kit]")
	marta.sees("button[data-tick]", "socket 24 mm")
	require.NoError(t, marta.Keyboard.Press(input.Space))
	marta.el("[data-current]:not([data-current=kit]), [data-act=caution]")
	require.NoError(t, marta.Keyboard.Release(input.Space))
	marta.sees("li", "Never turn a nut before zero pressure is proven")
	require.Empty(t, marta.MustElements("[data-act=leave]"), "isolation is never left undone")
	marta.upTo(tag, "fit-up")
	marta.types("fit-up", "1.6", "1", "1", "1", "1")
	marta.upTo(tag, "tool")

	// The best way is taken with the space bar.
	marta.sees("summary", "are in none of these, and why").MustClick()
	marta.sees("li", "TW-03.*out of calibration since")
	marta.MustEval("() => document.activeElement.blur()")
	marta.sees("button", "^Take TW-")
	s.kill() // what is taken up meanwhile waits
	marta.sees("[role=status]", "no connection")
	marta.press(input.Space)
	marta.sees("[role=status]", "1 kept here")
	s.start()
	marta.sees("[role=status]", "all stored")
	marta.upTo(tag, "before")
	marta.types("before", "3.1", "4.2", "3.0", "3,15")
	marta.sees("[role=status]", "3 o’clock, bolts 2 and 3")
	marta.measures("before", "3.1", "3.2", "3.0", "3,15")

	// Every pull with the space bar alone, which neither reads a caution nor sets a
	// tool; an inspector looks on.
	ines := s.signIn("ines")
	ines.MustNavigate(s.url("/joint/" + joint + "/3"))
	marta.el("[data-act=caution]")
	marta.press(input.Space)
	marta.cautioned("Nobody in line with a stud")
	marta.el("[data-act=set]")
	marta.press(input.Space)
	require.Equal(t, []string{"0"},
		s.query("select count(*) from entries e join runs r on r.id = e.run where r.joint = $1 and kind = 'setting'", joint))
	order, err := sequence.Ring(sequence.Cross4, 8, 1)
	require.NoError(t, err)
	for stage := 1; stage <= 3; stage++ {
		for i, bolt := range order {
			if stage == 2 && i == 5 { // the power goes before this one
				ines.sees("p", fmt.Sprintf("bolt %d.*60 %%", bolt))
				s.kill()
				marta.sees("[role=status]", "no connection")
			}
			marta.pull(bolt, stage, 0, input.Space)
			if stage == 2 && i == 2 { // a reload in mid-stage
				marta.next(order[i+1], stage, 0)
				marta.MustReload()
			}
			if stage == 2 && i == 5 {
				marta.sees("[role=status]", "1 kept here")
				marta.next(order[i+1], stage, 0)
				s.start()
				marta.sees("[role=status]", "all stored")
			}
			if stage == 3 && i == 1 { // the database goes while this one is under way
				power.Kill()
			}
			if stage == 3 && i == 2 {
				marta.sees("[role=status]", "kept here")
				marta.next(order[i+1], stage, 0)
				power.Start()
				marta.sees("[role=status]", "all stored")
			}
		}
	}

	// The first round moves bolt 3, so a second follows.
	for round := 1; round <= 2; round++ {
		for bolt := 1; bolt <= 8; bolt++ {
			k := input.Space
			if round == 1 && bolt == 3 {
				k = input.KeyM
			}
			marta.pull(bolt, 3, round, k)
		}
	}
	marta.sees("p", "A whole round moved nothing")
	ines.sees("p", "A whole round moved nothing")

	// The last entry was read as well: put right, with a reason, while the database
	// is away.
	power.Kill()
	marta.press(input.KeyZ)
	marta.el("[role=dialog] input[inputmode=decimal]").MustInput("95")
	marta.el("[role=dialog] input[name=reason]").MustInput("Reading left out")
	marta.sees("[role=dialog] button", "Put it right").MustClick()
	marta.sees("[role=status]", "1 kept here")
	power.Start()
	marta.sees("li", "corrected: Reading left out")

	// Gap, thread and leak test; a test that failed is never kept, it is noted. Then
	// two signatures by two people.
	marta.press(input.Digit4)
	marta.upTo(tag, "leak")
	marta.cautioned("under pressure")
	marta.does("leak", "leak", "leak")
	marta.marks("medium", "water")
	marta.marks("gauge number", "PG-11")
	marta.types("leak", "24", "23.2", "20", "20")
	marta.el("input[name=held]").MustInput("10")
	marta.sees("[role=status]", "it must be at most")
	require.Empty(t, marta.MustElements("[data-act=leave]"), "no test is left undone")
	marta.el("[data-act=try]").MustClick()
	marta.sees("p", "Tries: ")
	marta.toTheEnd(tag)
	// The server is away when the first signs and the database when the second does:
	// the PIN is kept nowhere and asked for again, and each signature stands once.
	marta.press(input.Digit5)
	marta.sees("button", "^Made: sign$").MustClick()
	s.kill()
	marta.pin("^Sign$")
	marta.sees("[role=alert]", "could not be sent")
	s.start()
	marta.pin("^Sign$")
	marta.sees("p", "Made by Marta Tolland")
	marta.sees("p", "an inspector signs next")
	ines.press(input.Digit5)
	ines.sees("button", "^Checked: sign$").MustClick()
	power.Kill()
	ines.pin("^Sign$")
	ines.sees("[role=alert]", "could not be sent")
	power.Start()
	ines.pin("^Sign$")
	ines.sees("p", "Checked by Ines Calloway")
	ines.sees("p", "Nothing can be added")

	checkStored(t, s, joint)
	checkFiles(t, s, ines, joint)
	checkAudit(t, s, joint)
}

// checkStored looks for missing and doubled entries.
func checkStored(t *testing.T, s *site, joint string) {
	t.Helper()
	count := func(where string) string {
		return s.query("select count(*) from entries e join runs r on r.id = e.run where r.joint = $1 and "+where, joint)[0]
	}
	bolts := "e.kind = 'done' and body::json->>'step' = 'pull'"
	require.Equal(t, "40", count(bolts), "eight bolts in three stages and two rounds")
	require.Equal(t, []string{"40"}, s.query(`select count(distinct (body::json->>'bolt', body::json->>'share', body::json->>'round')) 
		from entries e join runs r on r.id = e.run
		where r.joint = $1 and `+bolts, joint), "no pull is doubled")
	require.Equal(t, "1", count("e.kind = 'tooling'"))
	require.Equal(t, "3", count("e.kind = 'setting'"), "once a stage")
	require.Equal(t, "1", count("e.kind = 'correction'"))
	require.Equal(t, "2", count("e.kind = 'signature'"))
	require.Equal(t, []string{"true"}, s.query("select max(seq) = count(*) from entries e join runs r on r.id = e.run where r.joint = $1",
		joint))
}

// checkFiles reads the record's files and compares them with the database.
func checkFiles(t *testing.T, s *site, u *user, joint string) {
	t.Helper()
	rows, err := csv.NewReader(strings.NewReader(u.api("/api/joints/" + joint + "/record/csv"))).ReadAll()
	require.NoError(t, err)
	var got []string
	for _, r := range rows[1:] {
		got = append(got, strings.Join([]string{r[2], r[3], r[4], r[9]}, "|"))
	}
	require.Equal(t, s.query(`select seq, e.id::text, kind, case when kind = 'done' then coalesce(body::json->>'bolt', '') else '' end
		from entries e join runs r on r.id = e.run where r.joint = $1 order by seq`, joint), got)

	var record struct {
		Deviations []string
		Signatures []struct{ By string }
		Entries    []struct{ ID string }
	}
	require.NoError(t, json.Unmarshal([]byte(u.api("/api/joints/"+joint+"/record/json")), &record))
	require.Len(t, record.Entries, len(got))
	require.Contains(t, strings.Join(record.Deviations, "\n"), "bolt 3 moved in round 1")
	require.Contains(t, strings.Join(record.Deviations, "\n"), "Reading left out")

	// The PDF comes as bytes; its text must name the same things.
	encoded := u.MustEval(`async p => { const b = new Uint8Array(await (await fetch(p)).arrayBuffer());
		return Array.from(b).join(",") }`, "/api/joints/"+joint+"/record/pdf").Str()
	var pdf bytes.Buffer
	for _, n := range strings.Split(encoded, ",") {
		v, err := strconv.Atoi(n)
		require.NoError(t, err)
		pdf.WriteByte(byte(v))
	}
	file := filepath.Join(t.TempDir(), "record.pdf")
	require.NoError(t, os.WriteFile(file, pdf.Bytes(), 0o644))
	out, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(t, err)
	text := string(out)
	for _, want := range []string{"RK / WASH PUMP", "Bolt 3 moved in round 1", "Reading left out", "Made by Marta Tolland",
		"Checked by Ines Calloway",
		"Round 2: 8 bolts tried, none moved", "95.588 N·m"} {
		require.Contains(t, text, want)
	}
	require.Less(t, strings.Index(text, "Deviations"), strings.Index(text, "The joint"), "deviations come first")
}

// checkAudit changes one byte of one entry behind the server's back.
func checkAudit(t *testing.T, s *site, joint string) {
	t.Helper()
	out, err := s.command("audit").Output()
	require.NoError(t, err, string(out))
	require.Contains(t, string(out), "all of it holds")
	id := s.query("select e.id::text from entries e join runs r on r.id = e.run where r.joint = $1 and seq = 12", joint)[0]
	s.exec("alter table entries disable trigger all")
	s.exec("update entries set body = overlay(body placing '7' from position(':' in body) + 1 for 1) where id = $1", id)
	s.exec("alter table entries enable trigger all")
	out, err = s.command("audit").Output()
	require.Error(t, err)
	require.Contains(t, string(out), "RK / WASH PUMP, plan 1, entry 12 ("+id+"): the entry does not match its hash")
	require.Equal(t, 1, strings.Count(string(out), "\n"), string(out))
}
