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
	u.word("choices.work", "make")
	u.word("choices.gasket", "sheet")
	u.word("choices.faces", "raised")
	u.word("choices.bolts", "machine bolts")
	u.word("type", "RF")
	u.word("size", "100")
	refused := func(word, shown, says string) {
		t.Helper()
		u.sees("[data-word='"+word+"'][data-refused]", shown)
		u.sees("[role=alert]", says)
		u.sees("[data-saved]", "not stored")
	}
	for _, c := range []struct{ word, bad, shown, says, good string }{
		{"groups.bolts.count", "3", "^3$", "3 bolts in bolts; it has 4 to 200", "8"},
		{"values.bolt circle", "60", "60 mm", `it needs`, "180"},
		{"values.torque", "2600", "2,600 N·m", "8.8 reaches its yield at", "125"},
		{"values.gasket outer", "250", "250 mm", "between them", "138"},
	} {
		u.number(c.word, c.bad)
		refused(c.word, c.shown, c.says)
		u.number(c.word, c.good)
		u.sees("[data-saved]", "draft, stored")
	}
	require.NotContains(t, s.query("select input from drafts d join joints j on j.id = d.joint where j.tag = 'RK / WASH STRAINER'")[0],
		"2600")
}

// A reading far from the setting is asked about once and then kept as a
// deviation; trouble and leaving the run keep the place.
func TestReadingsTroubleAndPause(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	id := s.query("select id::text from joints where tag = 'IV-2 / BONNET'")[0]
	u.MustNavigate(s.url("/joint/" + id + "/3"))
	u.next(6, 2, 0)
	read := func(v string) {
		u.press(input.KeyR)
		u.el("[role=dialog] input").MustInput(v)
		u.sees("[role=dialog] button", "Held at this").MustClick()
	}
	read("150")
	u.sees("[role=alert]", "150 N·m is 40 % off the setting of 107 N·m")
	u.sees("button", "Look again").MustClick()
	u.next(6, 2, 0)
	u.el("[data-act=main][data-ready=true]")
	read("150")
	u.sees("button", "It is right, keep it").MustClick()
	u.next(14, 2, 0)
	require.Equal(t, []string{"true"},
		s.query(`select confirmed::text from entries e join runs r on r.id = e.run where r.joint = $1 order by seq desc limit 1`, id))

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
	u.sees("a", "paused.*bolt 4")
	jonas := s.signIn("jonas")
	jonas.MustNavigate(s.url("/joint/" + id + "/3"))
	jonas.sees("button", "Take it up").MustClick()
	jonas.cautioned("Nobody in line with a stud")
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
	edda.sees("button", "Let it go on").MustClick()
	for bolt := 1; bolt <= 9; bolt++ {
		fitter.pull(bolt, 3, 6, input.Space)
	}
	fitter.sees("p", "A whole round moved nothing")
}

// A gap outside its firm limit is kept by no reason; what is kept outside another
// limit, the checker answers.
func TestWhatIsOutsideIsAnswered(t *testing.T) {
	s := open(t)
	const tag = "PS-1 / DRAIN"
	u := s.signIn("marta")
	u.opens(tag, 4)
	u.types("gap", "2.0", "3.2", "2.1", "2.0")
	u.sees("[role=status]", "1.2 mm; it must be at most 0.8 mm")
	u.sees("[role=status]", "3 o’clock, bolts 2 and 3")
	u.sees("[data-act=main][disabled]", "Keep it as a deviation")
	u.el("textarea[name=reason]").MustInput("The pipe pulls; the maker allows it")
	u.sees("[data-act=main]:not([disabled])", "Keep it as a deviation").MustClick()
	u.toTheEnd(tag)
	u.signsMade()
	ines := s.signIn("ines")
	ines.opens(tag, 5)
	ines.sees("li", "Gaps at the four quarters.*outside")
	ines.sees("button", "^Checked: sign$").MustClick()
	ines.pin("^Sign$")
	ines.sees("[role=alert]", "Something on this record is outside its limit")
	ines.el("[role=dialog] textarea[name=reason]").MustInput("Accepted by the maker.")
	ines.pin("^Sign$")
	ines.sees("p", "Checked by Ines Calloway.*Accepted by the maker")
}
