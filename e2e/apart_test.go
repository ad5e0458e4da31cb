package e2e

import (
	"encoding/json"
	"slices"
	"strconv"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/sequence"
	"dynacor/core/work"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/pocket"
)

// apart is what a test knows of a device without a network: what it took along, and what lies
// in its outbox.
type apart struct {
	at   *pocket.Pocket
	seen int
}

// run is the run as the device must have it.
func (a *apart) run(u *user) app.Run {
	u.s.t.Helper()
	text := u.MustEval(`async from => {
		const db = await new Promise((done, not) => {
			const q = indexedDB.open("dynacor")
			q.onsuccess = () => done(q.result)
			q.onerror = () => not(q.error)
		})
		const acts = await new Promise(done => {
			const q = db.transaction("acts").objectStore("acts").getAll()
			q.onsuccess = () => done(q.result)
		})
		db.close()
		return JSON.stringify(acts.slice(from).map(({ entry, problem }) => ({ entry, problem })))
	}`, a.seen).Str()
	var acts []struct {
		Entry   contract.NewEntry
		Problem *contract.Problem
	}
	require.NoError(u.s.t, json.Unmarshal([]byte(text), &acts))
	for _, w := range acts {
		if w.Problem != nil {
			u.broken("%s: the device refused %+v", u.login, *w.Problem)
		}
		_, err := a.at.Add(w.Entry, pocket.Photo{}, time.Now())
		require.NoError(u.s.t, err)
		a.seen++
	}
	return a.at.Judged()
}

// leaves takes a joint along, and then there is no server.
func (u *user) leaves(joint string) {
	u.s.t.Helper()
	u.el("[data-along=away]").MustClick()
	u.sees("[data-along=here]", "Here, ")
	var b pocket.Bundle
	require.NoError(u.s.t, json.Unmarshal([]byte(u.api("/api/joints/"+joint+"/along")), &b))
	at, err := pocket.Open(b)
	require.NoError(u.s.t, err)
	u.apart = &apart{at: at}
	u.s.kill()
}

// A flange is made without a server from the first line of its kit to the signature that is
// prepared: opened by its address, tooled, pulled, measured, photographed. The record is that
// of the same flange made on line, entry by entry.
func TestAFlangeIsMadeWithoutAServer(t *testing.T) {
	s := open(t)
	soakRuns(t, s.opened(), 2, 4)
	tags := s.query("select tag from joints where tag like 'SOAK%' order by tag")
	marta := s.signIn("marta")
	made := func(tag string) []string {
		return s.query("select e.kind, e.body from entries e join runs r on r.id = e.run join joints j on j.id = r.joint "+
			"where j.tag = $1 order by e.seq", tag)
	}
	makes := func(tag string) {
		t.Helper()
		marta.upTo(tag, "fit-up")
		r := marta.run(tag)
		marta.el("input[name=photo-fit-up]").MustSetFiles(marta.picture(1200, 900))
		marta.stored(tag, r)
		marta.toTheEnd(tag)
		marta.press(input.Digit5)
	}
	marta.opens(tags[0], 1)
	makes(tags[0])

	joint := s.query("select id::text from joints where tag = $1", tags[1])[0]
	marta.opens(tags[1], 1)
	marta.leaves(joint)
	marta.MustNavigate(s.url("/joint/" + joint + "/1"))
	marta.sees("[data-kept]", "judged here, kept, and sent later")
	makes(tags[1])
	picture := marta.el("img[src^='data:image/jpeg']") // no server has it yet
	require.Positive(t, picture.MustEval("() => this.naturalWidth").Int())

	marta.sees("button", "^Made: prepare to sign$").MustClick()
	marta.sees("[role=dialog] p", "Only the server can look at your PIN")
	marta.sees("[role=dialog] button", "^Prepare$").MustClick()
	marta.sees("[data-prepared=waits]", "It waits for the server, and then for your PIN")
	marta.MustReload()
	marta.sees("[data-prepared=waits]", "over [0-9]+ entries")
	marta.apart = nil
	s.start()
	marta.sees("[data-prepared=ready]", "Enter your PIN, and it is signed")
	require.Equal(t, made(tags[0]), made(tags[1]))
	marta.el("[data-act=pin]").MustClick()
	marta.pin("^Sign$")
	marta.sees("p", "Made by Marta Tolland")
	marta.opens(tags[0], 5)
	marta.sign("^Made: sign$")
	marta.sees("p", "Made by Marta Tolland")
	require.NoError(t, marta.until(func() bool { // her device has said that nothing waits on it any more
		return slices.Equal(s.query("select acts from devices"), []string{"0"})
	}))
	require.Equal(t, made(tags[0]), made(tags[1]))
}

// Two go on at one joint without a network, each on a tablet of their own. On return the first
// one's pulls count; what the second did too is told, and kept as done a second time once they
// say so; what only they did counts as it is. Both screens then know the same next bolt.
func TestTwoGoOnApart(t *testing.T) {
	s := open(t)
	soakRuns(t, s.opened(), 1, 8)
	tag := s.query("select tag from joints where tag like 'SOAK%'")[0]
	joint := s.query("select id::text from joints where tag = $1", tag)[0]
	order, err := sequence.Ring(sequence.Cross4, 8, 1)
	require.NoError(t, err)
	bolts := func(kind string) []string {
		return s.query("select e.body::json->>'bolt' from entries e join runs r on r.id = e.run where r.joint = $1 and e.kind = $2 "+
			"and e.body::json->>'step' = 'pull' order by e.seq", joint, kind)
	}
	text := func(list []int) (out []string) {
		for _, b := range list {
			out = append(out, strconv.Itoa(b))
		}
		return out
	}
	marta, piet := s.signIn("marta"), s.signIn("piet")
	marta.opens(tag, 1)
	marta.fast(tag, func(_ *work.State, a record.Act) bool { return a.Step == "pull" })
	marta.opens(tag, 3)
	marta.cautioned("in line with a stud")
	marta.next(order[0], 1, 0)
	marta.sees("header", "all stored")
	piet.opens(tag, 3)
	for _, u := range []*user{marta, piet} {
		u.el("[data-along=away]").MustClick()
		u.sees("[data-along=here]", "Here, ")
	}
	s.kill()
	for _, u := range []*user{marta, piet} {
		u.MustNavigate(s.url("/joint/" + joint + "/3"))
		u.sees("[data-kept]", "judged here, kept, and sent later")
	}
	for _, bolt := range order[:4] {
		marta.pull(bolt, 1, 0, input.Space)
	}
	marta.next(order[4], 1, 0)
	marta.MustNavigate("about:blank") // her tablet sleeps
	piet.cautioned("in line with a stud")
	for _, bolt := range order[:2] {
		piet.pull(bolt, 1, 0, input.Space)
	}
	piet.next(order[2], 1, 0)
	s.start()
	piet.el("header [data-waiting='0']")
	require.Equal(t, text(order[:2]), bolts("done"))

	// He took the tool up after her, which she could not know: two of her pulls are his too, two count.
	marta.MustNavigate(s.url("/joint/" + joint + "/3"))
	marta.sees("[role=alert]", "was done by somebody else meanwhile")
	marta.sees("p", "3 more acts wait behind it")
	marta.axe()
	require.Empty(t, marta.looksThrough("light", everything), "where a conflict is told")
	marta.sees("[data-act=apart]", "I did it too: keep that").MustClick()
	marta.el("header [data-waiting='0']")
	for _, u := range []*user{marta, piet} {
		u.next(order[4], 1, 0)
	}
	require.Equal(t, text(order[:4]), bolts("done"))
	require.Equal(t, text(order[:2]), bolts("twice"))
	require.Equal(t, []string{"Marta Tolland"}, s.query("select distinct p.name from entries e join people p "+
		"on p.id = e.person where kind = 'twice'"))
	marta.press(input.Digit5)
	marta.sees("li", "done a second time, by somebody who could not know of the first")
}
