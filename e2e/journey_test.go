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
)

// From nameplate to signed record, as a fitter, an engineer and an inspector
// go through it.
func TestNameplateToSignedRecord(t *testing.T) {
	s := open(t)
	marta := s.signIn("marta")

	// Find the fresh joint by its tag, lay it out, and change the lubricant.
	marta.press(input.Slash)
	marta.el("[role=dialog] input").MustInput("wash pump")
	marta.el("[role=dialog] input").MustType(input.Enter)
	marta.sees("header b", "RK / WASH PUMP")
	marta.sees("[data-saved]", "not laid out yet")
	marta.sees("li", `260 N·m`)
	joint := strings.Split(marta.MustInfo().URL, "/")[4]

	marta.el("[data-word=lubrication]").MustClick()
	marta.el("[data-value='molybdenum disulphide paste']").MustClick()
	marta.sees("li", "With molybdenum disulphide paste the same torque pulls 31 % more")
	marta.sees("li", `260 N·m`) // nothing is converted by itself
	marta.sees("[data-word=decision]", "not decided")
	marta.sees("button", "Use 198.8 instead of 260 N·m").MustClick()
	marta.sees("[data-word=decision]", "taken as its equivalent")
	marta.sees("li", `199 N·m`)
	marta.sees("span", "An engineer issues the plan")

	// The engineer issues it, with the PIN.
	edda := s.signIn("edda")
	edda.MustNavigate(s.url("/joint/" + joint + "/1"))
	edda.sees("li", `199 N·m`)
	edda.sees("button", "^Issue the plan$").MustClick()
	edda.el("[role=dialog] input[name=pin]").MustInput("0000")
	edda.sees("[role=dialog] button", "^Issue$").MustClick()
	edda.sees("[role=alert]", "do not go together")
	edda.pin("^Issue$")
	edda.sees("main", "A fitter chooses the tool")

	// The fitter chooses the best way and measures the gap before.
	marta.sees("[data-saved]", "plan 1, issued")
	marta.press(input.Digit2)
	marta.sees("summary", "cannot be used, and why").MustClick()
	marta.sees("li", "TW-03.*out of calibration since")
	marta.sees("button", "^Take TW-").MustClick()
	marta.sees("h1", "chosen")
	marta.press(input.Digit4)
	marta.gaps("3.1", "3.2", "3.0", "3,15")
	marta.sees("form p", "Parallel: spread 0.20 mm of 0.80 mm")
	marta.sees("button", "Keep these gaps").MustClick()
	marta.sees("section span", "by Marta Tolland")

	// Every pull with the space bar alone; an inspector looks on.
	ines := s.signIn("ines")
	ines.MustNavigate(s.url("/joint/" + joint + "/3"))
	marta.press(input.Digit3)
	marta.sees("button", "Read, and it is so")
	marta.press(input.Space)
	order, err := sequence.Ring(sequence.Cross4, 8, 1)
	require.NoError(t, err)
	for pass := 1; pass <= 3; pass++ {
		for i, bolt := range order {
			if pass == 2 && i == 5 { // the power goes before this one
				ines.sees("p", fmt.Sprintf("bolt %d, pass 2", bolt))
				s.kill()
				marta.sees("[role=status]", "no connection")
			}
			marta.pull(bolt, pass, 0, input.Space)
			if pass == 2 && i == 2 { // a reload in mid-pass
				marta.next(order[i+1], pass, 0)
				marta.MustReload()
			}
			if pass == 2 && i == 5 {
				marta.sees("[role=status]", "1 kept here")
				marta.next(order[i+1], pass, 0)
				s.start()
				marta.sees("[role=status]", "all stored")
			}
		}
	}

	// The first check round moves bolt 3, so a second follows.
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

	// The last entry was read as well: put right, with a reason.
	marta.press(input.KeyZ)
	marta.el("[role=dialog] input[inputmode=decimal]").MustInput("200")
	marta.el("[role=dialog] input[name=reason]").MustInput("Reading left out")
	marta.sees("[role=dialog] button", "Put it right").MustClick()
	marta.sees("li", "corrected: Reading left out")

	// Gaps after, then two signatures by two people.
	marta.press(input.Digit4)
	marta.gaps("2.2", "2.3", "2.25", "2.2")
	marta.sees("form p", "Parallel: spread 0.10 mm")
	marta.sees("button", "Keep these gaps").MustClick()
	marta.sees("button", "^Sign$").MustClick()
	marta.sign("Made: sign")
	marta.sees("p", "Made by Marta Tolland")
	marta.sees("p", "an inspector signs next")
	ines.press(input.Digit5)
	ines.sign("Checked: sign")
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
	require.Equal(t, "24", count("e.kind = 'pull'"), "eight bolts in three passes")
	require.Equal(t, "16", count("e.kind = 'check'"), "eight bolts in two rounds")
	require.Equal(t, []string{"24"}, s.query(`select count(distinct (body::json->>'Bolt', body::json->>'Pass')) from entries e join runs r on r.id = e.run
		where r.joint = $1 and e.kind = 'pull'`, joint), "no pull is doubled")
	require.Equal(t, "1", count("e.kind = 'correction'"))
	require.Equal(t, "2", count("e.kind = 'signature'"))
	require.Equal(t, []string{"true"}, s.query("select max(seq) = count(*) from entries e join runs r on r.id = e.run where r.joint = $1", joint))
}

// checkFiles reads the record's files and compares them with the database.
func checkFiles(t *testing.T, s *site, u *user, joint string) {
	t.Helper()
	rows, err := csv.NewReader(strings.NewReader(u.api("/api/joints/" + joint + "/record/csv"))).ReadAll()
	require.NoError(t, err)
	var got []string
	for _, r := range rows[1:] {
		got = append(got, strings.Join([]string{r[2], r[3], r[4], r[8]}, "|"))
	}
	require.Equal(t, s.query(`select seq, e.id::text, kind, case when kind in ('pull', 'check') then body::json->>'Bolt' else '' end
		from entries e join runs r on r.id = e.run where r.joint = $1 order by seq`, joint), got)

	var record struct {
		TorqueNm   float64
		Deviations []string
		Signatures []struct{ By string }
		Entries    []struct{ ID string }
	}
	require.NoError(t, json.Unmarshal([]byte(u.api("/api/joints/"+joint+"/record/json")), &record))
	require.Len(t, record.Entries, len(got))
	require.Contains(t, strings.Join(record.Deviations, "\n"), "bolt 3 moved in check round 1")
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
	for _, want := range []string{"RK / WASH PUMP", "Bolt 3 moved in check round 1", "Reading left out", "Made by Marta Tolland", "Checked by Ines Calloway",
		"Check round 2: 8 bolts tried, none moved", fmt.Sprintf("%.5g N·m", record.TorqueNm)} {
		require.Contains(t, text, want)
	}
	require.Less(t, strings.Index(text, "Deviations"), strings.Index(text, "The joint"), "deviations come first")
}

// checkAudit changes one byte of one entry behind the server's back.
func checkAudit(t *testing.T, s *site, joint string) {
	t.Helper()
	out, err := s.command("audit").Output()
	require.NoError(t, err, string(out))
	require.Contains(t, string(out), "every chain holds")
	id := s.query("select e.id::text from entries e join runs r on r.id = e.run where r.joint = $1 and seq = 12", joint)[0]
	s.exec("alter table entries disable trigger all")
	s.exec("update entries set body = overlay(body placing '7' from position(':' in body) + 1 for 1) where id = $1", id)
	s.exec("alter table entries enable trigger all")
	out, err = s.command("audit").Output()
	require.Error(t, err)
	require.Contains(t, string(out), "RK / WASH PUMP, plan 1, entry 12 ("+id+"): the entry does not match its hash")
	require.Equal(t, 1, strings.Count(string(out), "\n"), string(out))
}
