package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

const plannersList = `Joint no,Location,Description,Joint type,Torque (ft-lb),Bolts,Bolt size,Grade,Lubrication,Remarks
PS-1 / BYPASS IN,Penstock gallery,"Bypass valve, inlet",Gasketed pipe flange,192,8,M20,8.8,light oil,scaffold
PS-1 / BYPASS OUT,Penstock gallery,"Bypass valve, outlet",Gasketed pipe flange,192,8,M20,8.8,light oil,
RK / FLUSH 1,Rake deck,Flushing water flange,Gasketed pipe flange,"1,250",8,M16,8.8,light oil,
IV-2 / BONNET,Penstock gallery,Inlet valve bonnet,Gasketed pipe flange,540,16,M30,8.8,light oil,issued
`

// chooses has a list of joints taken from a file.
func (u *user) chooses(list string) {
	u.s.t.Helper()
	path := filepath.Join(u.s.t.TempDir(), "unit 2.csv")
	require.NoError(u.s.t, os.WriteFile(path, []byte(list), 0o600))
	u.el("input[type=file]").MustSetFiles(path)
}

// A list from planning is chosen, its columns are matched, what is wrong is named, and the
// rest is on the Wall; taken in again, it changes nothing.
func TestAListFromPlanningIsTakenIn(t *testing.T) {
	s := open(t)
	liv := s.signIn("liv")
	liv.sees("button", "^Lists$").MustClick()
	liv.sees("[role=menuitem]", "^Joints from planning$").MustClick()
	liv.sees("h1", "Joints from planning")
	liv.chooses(strings.Replace(plannersList, "Location", "Where it stands", 1))
	liv.sees("aside p", "Still to be matched: Area")
	liv.el("select[aria-label='What Where it stands is']").MustSelect("Area (needed)")
	liv.sees("aside", "2 new, with a draft")
	liv.sees("aside li", "Line 4, RK / FLUSH 1")
	liv.sees("aside li p", `Torque \(ft-lb\): "1,250" could be 1250 or 1.250`)
	liv.sees("button", "^Take 2 in$").MustClick()
	liv.sees("aside h2", "Taken in")
	liv.sees("a", "^To the Wall$").MustClick()
	liv.sees("a", "PS-1 / BYPASS OUT").MustClick()
	liv.sees("main", "260")
	liv.MustNavigate(s.url("/planning"))
	liv.chooses(strings.Replace(plannersList, "Location", "Where it stands", 1))
	liv.sees("p", "was matched before")
	liv.sees("aside", "2 as they are")
	require.Equal(t, []string{"2"}, s.query("select count(*) from joints where tag like 'PS-1 / BYPASS %'"))
}

// A screen that was left is locked, also when its page is loaded anew; the PIN goes on where
// it was, and somebody else signs in by their name.
func TestTheScreenIsLocked(t *testing.T) {
	s := open(t)
	marta := s.signIn("marta")
	marta.opens("IV-2 / BONNET", 3)
	at := marta.MustInfo().URL
	marta.sees("header button", "M. T.").MustClick()
	marta.sees("[role=menuitem]", "^Lock the screen$").MustClick()
	marta.sees("h1", "Locked")
	marta.MustReload()
	marta.sees("h1", "Locked")
	marta.el("input[name=pin]").MustInput("0000")
	marta.el("button[type=submit]").MustClick()
	marta.sees("[role=alert]", "do not go together")
	marta.el("input[name=pin]").MustSelectAllText().MustInput("4711")
	marta.el("button[type=submit]").MustClick()
	marta.el("[data-next-bolt]")
	require.Equal(t, at, marta.MustInfo().URL)

	marta.sees("header button", "M. T.").MustClick()
	marta.sees("[role=menuitem]", "^Lock the screen$").MustClick()
	marta.sees("button", "^Somebody else$").MustClick()
	marta.sees("button", "^Marta Tolland$").MustClick()
	require.Equal(t, "marta", marta.el("input[name=login]").MustProperty("value").Str())
	marta.el("input[name=pin]").MustInput("4711")
	marta.el("button[type=submit]").MustClick()
	marta.el("[data-next-bolt]")
	require.Equal(t, at, marta.MustInfo().URL, "a card's code opens its joint after the sign-in, too")
}

// The database of a running server is set back to an older state: the screen sees what is
// stored now, and the device sends again what is missing.
func TestTheDeviceSendsWhatTheServerLost(t *testing.T) {
	s := open(t)
	marta := s.signIn("marta")
	marta.opens("IV-2 / BONNET", 3)
	run := s.query("select r.id::text from runs r join joints j on j.id = r.joint where j.tag = 'IV-2 / BONNET'")[0]
	before := s.query("select head_seq from runs where id::text = $1", run)[0]
	for range 3 {
		next := marta.el("[data-next-bolt]").MustAttribute("data-next-bolt")
		marta.comes("[data-next-bolt='" + *next + "']")
		marta.el("[data-act=main][data-ready=true]")
		marta.later()
		marta.press(' ')
		marta.el("[data-next-bolt]:not([data-next-bolt='" + *next + "'])")
	}
	marta.sees("header", "all stored")
	after := s.query("select head_seq from runs where id::text = $1", run)[0]
	ids := s.query("select id::text from entries where run::text = $1 and seq > $2::int order by seq", run, before)
	require.GreaterOrEqual(t, len(ids), 3)
	s.exec("alter table entries disable trigger all")
	s.exec("delete from entries where run::text = $1 and seq > $2::int", run, before)
	s.exec("update runs set head_seq = $2::int, head_hash = (select hash from entries where run = runs.id and seq = $2::int) where id::text = $1",
		run, before)
	s.exec("alter table entries enable trigger all")
	marta.MustReload()
	marta.el("[data-next-bolt]")
	require.Eventually(t, func() bool {
		return s.query("select head_seq from runs where id::text = $1", run)[0] == after
	}, patience, 50*1000*1000)
	require.Equal(t, ids, s.query("select id::text from entries where run::text = $1 and seq > $2::int order by seq", run, before),
		"each under its own identity")
}
