package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/work"
)

// A fluid coupling is trued by a dial: how far to shift and which way is said, and drawn;
// a base that moved is seen; both the readings and what they come to are on the record.
func TestFluidCouplingTruedByTheDial(t *testing.T) {
	s := open(t)
	const tag = "RK / FLUID COUPLING"
	piet := s.signIn("piet")
	piet.opens(tag, 3)
	piet.types("trued", "0", "0.08", "0.18", "0.24", "0.22", "0.14", "0.05", "-0.01", "0.06")
	piet.sees("[role=status]", "the base has moved")
	piet.types("trued", "0", "0.08", "0.18", "0.24", "0.22", "0.14", "0.05", "-0.01", "0")
	piet.sees("[role=status] dd", "^0.128 mm toward 11 o’clock$")
	piet.el("[data-act=main]:not([disabled])").MustClick()
	piet.toTheEnd(tag)
	piet.signsMade()
	haro := s.signIn("haro")
	haro.signsChecked(tag, "")
	text := haro.record(tag)
	require.Contains(t, text, "0, 0.08, 0.18, 0.24, 0.22, 0.14, 0.05, -0.01, 0 mm")
	require.Contains(t, text, "shift 0.128 mm toward 11 o’clock")
}

// A taper bush is drawn off: its screws are turned a little each, round and round, until it
// lets go.
func TestTaperBushDrawnOffLittleByLittle(t *testing.T) {
	s := open(t)
	const tag = "U2 / FAN HUB"
	sefa := s.signIn("sefa")
	sefa.opens(tag, 3)
	sefa.careful(tag, func(_ *work.State, a record.Act) bool { return a.Round > 1 })
	sefa.sees("p", "a quarter turn at most, then the next one")
	sefa.sees("[data-act=main]", "Turned a little")
	sefa.sees("[data-act=letgo]", "It let go")
	sefa.later()
	sefa.press(input.Space)
	sefa.toTheEnd(tag)
	sefa.signsMade()
	haro := s.signIn("haro")
	haro.signsChecked(tag, "")
	text := haro.record(tag)
	require.Contains(t, text, "Deviations None.")
}

// The depth that was read on the tape is carried over to the sleeve: its limit follows from
// it.
func TestASaddlesDepthIsCarriedOver(t *testing.T) {
	s := open(t)
	const tag = "CW / TEMP SADDLE"
	jonas := s.signIn("jonas")
	jonas.opens(tag, 1)
	jonas.upTo(tag, "straight")
	jonas.types("straight", "114", "1500", "900")
	jonas.sees("[role=status] dd", "13.16 pipe diameters")
	jonas.sees("[role=status]", "it must be at least")
	jonas.upTo(tag, "measured")
	jonas.measures("measured", "61.4", "61.8")
	jonas.el("[data-current=mark]")
	jonas.types("mark", "20")
	jonas.sees("[role=status]", "it must be at least")
	jonas.upTo(tag, "set")
	jonas.toTheEnd(tag)
	jonas.signsMade()
	ines := s.signIn("ines")
	ines.signsChecked(tag, "")
	text := ines.record(tag)
	require.Contains(t, text, "61.4, 61.8 mm")
	require.Contains(t, text, "mean 61.6 mm")
}

// A closure is opened and closed before its bolts, and waits until a pressure person has
// seen it; the Wall says so, to whoever may release it first.
func TestAClosureWaitsForItsFunctionTest(t *testing.T) {
	s := open(t)
	const tag = "U2 / SERVO BONNET"
	piet := s.signIn("piet")
	piet.sees("a", "U2 / SERVO BONNET[^]*waits for a pressure person")
	piet.opens(tag, 3)
	piet.sees("[data-waits]", "waits for a pressure person")
	require.Empty(t, piet.MustElements("[data-act=leave]"), "it must be so")
	ines := s.signIn("ines")
	ines.sees("aside a, a", "U2 / SERVO BONNET[^]*look, and release it")
	ines.opens(tag, 3)
	ines.cautioned("Nobody between")
	ines.el("[data-act=release]").MustClick()
	ines.el("[role=dialog] input[name=pin]").MustInput("4711")
	ines.sees("[role=dialog] button", "^I looked; it may go on$").MustClick()
	ines.alone()
	piet.el("[data-current=blocks]")
	piet.toTheEnd(tag)
	piet.signsMade()
	ines.signsChecked(tag, "")
	text := ines.record(tag)
	require.Contains(t, text, "Released by Ines Calloway")
	require.Contains(t, text, "strokes")
}

// A photograph that is taken while the server is away is kept on the device, through a
// reload, and goes to the record as it was, smaller and without what the camera wrote.
func TestAPhotographTakenOffLine(t *testing.T) {
	s := open(t)
	const tag = "RK / ACCUMULATOR"
	jonas := s.signIn("jonas")
	jonas.opens(tag, 1)
	jonas.upTo(tag, "set")
	jonas.careful(tag, func(_ *work.State, a record.Act) bool { return a.Photo })
	s.kill()
	jonas.sees("[role=status]", "no connection")
	jonas.el("input[name=photo-set]").MustSetFiles(jonas.picture(2600, 1900))
	jonas.sees("[role=status]", "1 kept here")
	s.start()
	jonas.sees("[role=status]", "all stored")
	jonas.el("[data-current=shell]")
	require.Equal(t, []string{"1600|1169|image/jpeg"}, s.query("select width, height, type from photos p where hash in "+
		"(select body::json->>'hash' from entries e join runs r on r.id = e.run join joints j on j.id = r.joint "+
		"where kind = 'photo' and tag = $1)", tag))
	jonas.el("button[data-step=set]")
	require.Contains(t, jonas.record(tag), "the nameplate")

	// What is no photograph is said, and nothing is lost.
	jonas.el("input[name=photo-shell]").MustSetFiles(jonas.text("a letter"))
	jonas.sees("[role=alert]", "Nothing is lost")
	jonas.el("[data-current=shell]")
}

// A frame of three layers has one definition, and a count of each before the next.
func TestAFrameOfThreeLayers(t *testing.T) {
	s := open(t)
	const tag = "RK / PIPE FRAME 5"
	jonas := s.signIn("jonas")
	jonas.adds("transport-frame", tag, "Rake guide pipes, transport frame 5")
	jonas.word("type", "TR")
	jonas.word("size", "12")
	jonas.word("choices.work", "make")
	jonas.word("choices.stand", "short")
	jonas.number("values.sleeves", "4")
	for _, layer := range []string{"1", "2", "3"} {
		jonas.number("groups.post bolts, layer "+layer+".count", "4")
	}
	tomas := s.signIn("tomas")
	tomas.opens(tag, 1)
	tomas.issues()
	jonas.upTo(tag, "counted, layer 2")
	jonas.types("counted, layer 2", "4", "3")
	jonas.sees("[role=status]", "Sleeves over: 3 sleeves; it must be at least 4 sleeves")
	jonas.toTheEnd(tag)
	jonas.signsMade()
	ines := s.signIn("ines")
	ines.signsChecked(tag, "")
	text := ines.record(tag)
	require.Contains(t, text, "Post bolts, layer 3")
	require.Contains(t, text, "Locking sleeves of a layer: 4 where the maker")
	require.NotContains(t, text, "Still open")
}
