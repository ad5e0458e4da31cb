package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"
)

// What cannot be is refused beside its word, with the number and the limit;
// nothing is stored, and what was typed stays.
func TestImpossibleSentences(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	u.press(input.Slash)
	u.el("[role=dialog] input").MustInput("strainer")
	u.el("[role=dialog] input").MustType(input.Enter)
	u.sees("[data-saved]", "not laid out yet")
	set := func(word string, fields ...string) {
		u.el("[data-word='" + word + "']").MustClick()
		for i, v := range fields {
			inputs := u.el("form[class*=form]").MustElements("input[inputmode=decimal]")
			inputs[i].MustSelectAllText().MustInput(v)
		}
		u.sees("form[class*=form] button", "^Set$").MustClick()
	}
	refused := func(word, shown, says string) {
		t.Helper()
		u.sees("[data-word='"+word+"'][data-refused]", shown)
		u.sees("[role=alert]", says)
		u.sees("[data-saved]", "not stored")
	}
	set("bolts", "0")
	refused("bolts", "^0$", "0 bolts; a ring joint has 3 to 200")
	set("bolts", "8")
	u.sees("[data-saved]", "draft, stored")
	set("boltCircle", "60")
	refused("boltCircle", "60 mm", `it needs 90\.521 mm`)
	set("boltCircle", "240")
	u.sees("[data-saved]", "draft, stored")
	set("target", "2600")
	refused("target", "2,600 N·m", "8.8 reaches its yield at")
	set("target", "260")
	u.sees("[data-saved]", "draft, stored")
	set("gasket", "250")
	refused("gasket", "250 / 160 mm", "between them is 220 mm")
	set("gasket", "205")
	u.sees("[data-saved]", "draft, stored")
	u.el("[data-word=passes]").MustClick()
	u.el("form[class*=form] input:not([inputmode])").MustSelectAllText().MustInput("60-20-100")
	u.sees("form[class*=form] button", "^Set$").MustClick()
	refused("passes", "60-20-100", "Pass values must rise")
	require.NotContains(t, s.query("select input from drafts d join joints j on j.id = d.joint where j.tag = 'RK / WASH STRAINER'")[0], "[60,20,100]")
}

// A reading far from the setting is asked about once and then kept as a
// deviation; trouble and leaving the run keep the place.
func TestReadingsTroubleAndPause(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	id := s.query("select id::text from joints where tag = 'IV-2 / BONNET'")[0]
	u.MustNavigate(s.url("/joint/" + id + "/3"))
	u.next(7, 2, 0)
	read := func(v string) {
		u.press(input.KeyR)
		u.el("[role=dialog] input").MustInput(v)
		u.sees("[role=dialog] button", "Held at this").MustClick()
	}
	read("150")
	u.sees("[role=alert]", "150 N·m is 40 % off the setting of 107 N·m")
	u.sees("button", "Read it again").MustClick()
	u.next(7, 2, 0)
	u.el("[data-act=main][data-ready=true]")
	read("150")
	u.sees("button", "It is right, keep it").MustClick()
	u.next(15, 2, 0)
	require.Equal(t, []string{"true"}, s.query(`select (body::json->>'Confirmed') from entries e join runs r on r.id = e.run where r.joint = $1 order by seq desc limit 1`, id))

	// Trouble: this one at the end of the pass.
	u.press(input.KeyT)
	u.el("[role=dialog] [data-value='would not turn']").MustClick()
	u.el("[role=dialog] [data-value=leave]").MustClick()
	u.sees("[role=dialog] button", "Record it").MustClick()
	u.next(4, 2, 0)
	u.el("[data-mark=trouble]")

	// Paused, left, and taken up by a colleague at the very bolt.
	u.press(input.KeyP)
	u.el("[role=dialog] input").MustInput("phone")
	u.sees("[role=dialog] button", "^Pause$").MustClick()
	u.sees("p", "by Marta Tolland")
	u.press(input.KeyG)
	u.press(input.KeyW)
	u.sees("a", "paused; pass 2 of 3, bolt 4 next")
	jonas := s.signIn("jonas")
	jonas.MustNavigate(s.url("/joint/" + id + "/3"))
	jonas.sees("button", "Take it up").MustClick()
	jonas.sees("button", "Read, and it is so").MustClick()
	jonas.pull(4, 2, 0, input.Space)
	jonas.next(12, 2, 0)
}

// The engineer lets a stopped run go on, with a reason.
func TestAStoppedRunWaitsForAnEngineer(t *testing.T) {
	s := open(t)
	id := s.query("select id::text from joints where tag = 'RK / GATE JACK'")[0]
	fitter := s.signIn("jonas")
	fitter.MustNavigate(s.url("/joint/" + id + "/3"))
	fitter.sees("p", "An engineer decides")
	edda := s.signIn("edda")
	edda.MustNavigate(s.url("/joint/" + id + "/3"))
	edda.el("form textarea").MustInput("Washers changed, faces bedded in.")
	edda.sees("button", "Allow one more round").MustClick()
	for bolt := 1; bolt <= 9; bolt++ {
		fitter.pull(bolt, 3, 6, input.Space)
	}
	fitter.sees("p", "A whole round moved nothing")
}

// A gap outside its limit is a deviation that the checker answers.
func TestAnOpenGapIsAnswered(t *testing.T) {
	s := open(t)
	id := s.query("select id::text from joints where tag = 'PS-1 / DRAIN'")[0]
	u := s.signIn("marta")
	u.MustNavigate(s.url("/joint/" + id + "/4"))
	u.gaps("2.0", "3.2", "2.1", "2.0")
	u.sees("form p", "Not parallel, open at 3 o’clock: spread 1.20 mm of 0.80 mm")
	u.sees("button", "Keep these gaps").MustClick()
	u.sees("button", "^Sign$").MustClick()
	u.sees("li", "gap is not parallel.*outside")
	u.sign("Made: sign")
	u.sees("p", "Made by Marta Tolland")
	ines := s.signIn("ines")
	ines.MustNavigate(s.url("/joint/" + id + "/5"))
	ines.sign("Checked: sign")
	ines.sees("[role=alert]", "Something on this record is outside its limit")
	ines.el("[role=dialog] textarea[name=reason]").MustInput("Accepted by the maker.")
	ines.pin("^Sign$")
	ines.sees("p", "Checked by Ines Calloway.*Accepted by the maker")
}
