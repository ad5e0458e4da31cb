package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/work"
)

// checks a tool that is open in the Crib: off is what the tester gives of what is set.
func (u *user) checks(off float64, readings int, marks ...float64) {
	u.s.t.Helper()
	for i, m := range marks {
		for k := range readings {
			u.fills(fmt.Sprintf("mark %d reading %d", i+1, k+1), fmt.Sprintf("%.2f", m*off))
		}
	}
}

// day enters a day.
func (u *user) day(field string, d time.Time) {
	u.s.t.Helper()
	u.el("input[name="+field+"]").MustEval(`day => {
		Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(this, day)
		this.dispatchEvent(new Event("input", {bubbles: true}))
	}`, d.Format(time.DateOnly))
}

// more presses what stands behind "More" of a tool.
func (u *user) more(what string) {
	u.s.t.Helper()
	u.sees("article button", "^More$").MustClick()
	u.el("[role=menuitem][data-say=" + what + "]").MustClick()
}

// A tool's life, from its purchase to a recall: the crib keeper brings a wrench in off its
// plate, calibrates it with its certificate and lends it; a fitter makes one joint with it and
// drops it at another; it is held, both joints are told, the signed one too; the engineer has a
// sample tried of the one and the other made again, and the records say all of it.
func TestAWrenchFromItsPlateToARecall(t *testing.T) {
	s := open(t)
	bo := s.signIn("bo")
	bo.press(input.KeyG)
	bo.press(input.KeyC)
	bo.sees("button", "^Add a tool$").MustClick()
	bo.fills("tag", "tw-04")
	bo.sees("[role=dialog]", "There is a tw-04 in the crib already")
	bo.fills("tag", "TW-90")
	bo.fills("name", "click wrench, new")
	for field, v := range map[string]string{"least": "200", "most": "40", "first": "40", "major": "10", "minor": "1", "length": "480"} {
		bo.fills(field, v)
	}
	bo.selects("driveOut", "1/2 in")
	bo.sees("[role=dialog]", "it is turned round")
	bo.fills("least", "40")
	bo.fills("most", "200")
	bo.sees("[role=dialog] [data-face='ring and thimble'] + *, [role=dialog] aside", "40 to 200 N·m")
	require.Contains(t, *bo.el("[role=dialog] [data-face] svg").MustAttribute("aria-label"), "The last line covered is 120, the ring’s 0 at the line")
	bo.fills("place", "rack A")
	bo.sees("[role=dialog] button:not([disabled])", "^Into the crib$").MustClick()
	bo.sees("article h2", "TW-90")

	// Its calibration with the certificate; what it comes to is said as it is typed.
	bo.more("calibrate")
	bo.checks(0.9, 5, 40, 120, 200)
	bo.sees("[role=dialog] [role=status]", "Not good: .11.1 % off")
	bo.checks(1.005, 5, 40, 120, 200)
	bo.sees("[role=dialog] [role=status]", "So far good: at most .0.5 % off")
	bo.fills("lab", "County laboratory")
	bo.fills("certificate", "C-77")
	bo.day("on", time.Date(2020, 1, 2, 0, 0, 0, 0, time.UTC))
	file := filepath.Join(t.TempDir(), "certificate.pdf")
	require.NoError(t, os.WriteFile(file, []byte("%PDF-1.4\n1 0 obj << >> endobj\n%%EOF\n"), 0o600))
	bo.el("[role=dialog] input[type=file]").MustSetFiles(file)
	bo.sees("[role=dialog] button:not([disabled])", "^Keep the calibration$").MustClick()
	bo.sees("[role=dialog]", "lies before TW-90 was bought")
	bo.day("on", time.Now())
	bo.sees("[role=dialog] button:not([disabled])", "^Keep the calibration$").MustClick()
	bo.sees("[data-life=checked]", "calibrated by County laboratory")
	bo.sees("[data-life=checked] a", "Open the paper")
	bo.sees("[data-standing=in]", "in, due")
	bo.el("[data-act=lend]").MustClick()
	bo.selects("to", "Marta Tolland")
	bo.sees("[role=dialog] button:not([disabled])", "^Lend it$").MustClick()
	bo.sees("article [data-standing=out]", "with Marta Tolland")

	// One joint is made with it and signed; another is in hand.
	marta := s.signIn("marta")
	marta.opens("IV-2 / BYPASS", 2)
	marta.sees("button", "^Change the tool$").MustClick()
	marta.tries("TW-90")
	marta.toTheEnd("IV-2 / BYPASS")
	marta.signsMade()
	s.signIn("ines").signsChecked("IV-2 / BYPASS", "")
	marta.opens("AW / DAVIT ANCHORS", 2)
	marta.sees("button", "^Change the tool$").MustClick()
	marta.tries("TW-90")
	marta.careful("AW / DAVIT ANCHORS", func(_ *work.State, a record.Act) bool { return a.Bolt == 4 })
	marta.el("[data-act=main][data-ready=true], [data-act=set]")
	marta.press(input.KeyT)
	marta.sees("[role=dialog] label", "^with a tool$").MustClick()
	marta.el("[role=dialog] [data-value=dropped]").MustClick()
	marta.el("[role=dialog] textarea").MustInput("off the davit")
	marta.sees("[role=dialog] button:not([disabled])", "^Record it$").MustClick()
	marta.sees("main a, main button", "^Tool up$").MustClick()
	marta.sees("h2", "TW-90 is held back")
	marta.sees("h2", "Pulls with TW-90 are in doubt")

	// It is held; both joints wait for an answer, the signed one stays signed.
	edda := s.signIn("edda")
	edda.MustNavigate(s.url("/crib/TW-90"))
	edda.sees("[data-standing=held]", "held back since")
	edda.sees("p", "dropped at AW / DAVIT ANCHORS: off the davit. Marta Tolland")
	edda.el("[data-recall='2']")
	edda.sees("[data-joint='IV-2 / BYPASS'][data-state=waits]", "4 pulls, stage 2 of 3; 4 pulls, stage 3 of 3[^]*signed[^]*open: an engineer answers")
	edda.sees("[data-joint='AW / DAVIT ANCHORS'][data-state=waits]", "open: an engineer answers")
	require.Contains(t, edda.record("IV-2 / BYPASS"), "What was made with TW-90 is in doubt: an engineer answers.")

	// Answered differently, one after the other.
	edda.el("[data-answer='IV-2 / BYPASS']").MustClick()
	edda.sees("[role=dialog] button:not([disabled])", "^Answer$").MustClick()
	edda.sees("[data-joint='IV-2 / BYPASS'][data-state=sample]", "re-check: bolts 1, 3 of the bolts")
	edda.el("[data-answer='AW / DAVIT ANCHORS']").MustClick()
	edda.sees("[role=dialog] label", "^Make them again").MustClick()
	edda.sees("[role=dialog] button[disabled]", "^Answer$")
	edda.fills("reason", "too few pulls to try a sample of")
	edda.sees("[role=dialog] button:not([disabled])", "^Answer$").MustClick()
	edda.sees("[data-joint='AW / DAVIT ANCHORS'][data-state=later]", "made again")

	// The sample is tried with another tool, by hand on the bolts.
	marta.opens("IV-2 / BYPASS", 5)
	marta.sees("h2", "Pulls with TW-90 are in doubt")
	marta.fills("with", "TW-90")
	marta.fills("bolt 1", "125")
	marta.fills("bolt 3", "118")
	marta.sees("button:not([disabled])", "^Keep these$").MustClick()
	marta.sees("[role=alert]", "TW-90 is what is in doubt")
	marta.fills("with", "TW-04")
	marta.sees("button:not([disabled])", "^Keep these$").MustClick()
	marta.sees("article li", "tried with TW-04: bolt 1: 125 N·m, bolt 3: 118 N·m")
	require.NoError(t, marta.until(func() bool { return !marta.MustHas("[data-answer], input[name=with]") }))
	pdf := marta.record("IV-2 / BYPASS")
	require.Contains(t, pdf, "TW-90 reported dropped: dropped at AW / DAVIT ANCHORS: off the davit.")
	require.Contains(t, pdf, "In doubt because of TW-90, tried with TW-04: bolt 1: 125 N·m, bolt 3: 118 N·m.")
	require.NotContains(t, pdf, "Still open")
	edda.MustReload()
	edda.sees("[data-joint='IV-2 / BYPASS'][data-state=stands]", "a sample was tried with TW-04, and holds")
	edda.el("[data-recall='0']")

	// The other joint begins those anchors again, with another wrench.
	marta.opens("AW / DAVIT ANCHORS", 2)
	marta.sees("h2", "TW-90 is held back")
	marta.sees("button", "^Change the tool$").MustClick()
	marta.sees("summary", "are in none of these, and why").MustClick()
	marta.sees("li", "TW-90 is held back: dropped at AW / DAVIT ANCHORS")
	marta.tries("TW-04")
	marta.toTheEnd("AW / DAVIT ANCHORS")
	marta.signsMade()
	pdf = marta.record("AW / DAVIT ANCHORS")
	require.Contains(t, pdf, "What was made with TW-90 is in doubt; it is made again: too few pulls to try a sample of.")
	require.NotContains(t, pdf[:2500], "TW-90: ", "nothing that stands was made with it")
	require.Contains(t, pdf, "TW-04: ")

	// The keeper checks it as it was found: it goes back.
	bo.MustNavigate(s.url("/crib/TW-90"))
	bo.el("[data-act=check]").MustClick()
	bo.checks(1.01, 3, 40, 120, 200)
	bo.sees("[role=dialog] button:not([disabled])", "^Keep the check$").MustClick()
	bo.sees("article [data-standing=out]", "with Marta Tolland")
	bo.el("[data-act=returned]").MustClick()
	bo.sees("[role=dialog] button:not([disabled])", "^It came back$").MustClick()
	bo.sees("article [data-standing=in]", "in, due")
}

// tries takes a wrench of the crib for the group that is open, wherever it stands in the list.
func (u *user) tries(tag string) {
	u.s.t.Helper()
	u.el("[data-choose]")
	if !u.MustHas("[data-choose='" + tag + "']") {
		u.sees("button.pick b", "^"+tag+"$").MustClick()
	}
	u.el("[data-choose='" + tag + "']").MustClick()
	u.sees("h2", tag)
}

// A list of tools is read in: what is wrong is named by its row before anything is taken.
func TestAListOfToolsIsReadIn(t *testing.T) {
	s := open(t)
	bo := s.signIn("bo")
	bo.MustNavigate(s.url("/crib"))
	bo.sees("button", "^Lists$").MustClick()
	file := filepath.Join(t.TempDir(), "tools.csv")
	require.NoError(t, os.WriteFile(file, []byte("tag,kind,name,unit,least,most,first,major,minor,driveOut,accuracy,months,calibrated\n"+
		"TW-95,wrench,new one,N·m,40,200,40,10,1,1/2,4,12,2026-10-01\n"+
		"TW-96,wrench,turned round,N·m,200,40,40,10,1,1/2,4,12,2026-10-01\n"), 0o600))
	bo.el("[role=dialog] input[type=file]").MustSetFiles(file)
	bo.sees("[role=dialog] [role=status]", "1 to take 1 left out of 2 rows")
	bo.sees("[role=dialog] [data-line='3']", "least: The range goes from 200 to 40 N·m: it is turned round")
	bo.sees("[role=dialog] button:not([disabled])", "^Take 1$").MustClick()
	bo.sees("[role=dialog] [role=status]", "1 taken")
	bo.press(input.Escape)
	bo.el("[data-tool=TW-95]").MustClick()
	bo.sees("article [data-standing=in]", "in, due 1 Oct 2027")

	// A phone finds it by its tag.
	marta := s.signIn("marta")
	marta.MustSetViewport(390, 844, 1, false)
	marta.MustNavigate(s.url("/crib"))
	marta.el("input[aria-label='Find a tool']").MustInput("tw-95")
	marta.press(input.Enter)
	marta.sees("article h2", "TW-95")
	marta.sees("a", "the board").MustClick()
	marta.el("[data-tool=TW-95]")
}
