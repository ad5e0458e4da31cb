package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/preload"
	"dynacor/core/thread"
)

// A splice is turned by the length that is typed, and pulled in two steps by K of
// its lot; a torque cannot be typed instead, and without the lot's test none is
// issued.
func TestASpliceByItsRules(t *testing.T) {
	s := open(t)
	const tag = "AW / BRACKET SPLICE"
	edda := s.signIn("edda")
	edda.adds("structural-splice", tag, "Bracket splice")
	edda.word("choices.work", "make")
	edda.word("choices.method", "part turn")
	edda.word("choices.faces", "both square")
	edda.word("type", "SP")
	edda.word("size", "M20")
	edda.number("groups.splice bolts.count", "8")
	edda.sees("li", "Length of the bolts, under the head is missing")
	edda.number("values.bolt length", "80")
	edda.sees("[data-worked='part turn']", "120° .*4 d long, faces both square")
	edda.number("values.bolt length", "82")
	edda.sees("[data-worked='part turn']", "180°")
	edda.number("values.bolt length", "250")
	edda.sees("[role=alert]", "250 mm is longer than 12 d, 240 mm")
	edda.number("values.bolt length", "160")
	edda.sees("[data-worked='part turn']", "180°")
	id := s.query("select id::text from joints where tag = $1", tag)[0]
	turn := edda.numbers(id, "draft")["splice bolts/value/part turn"]
	require.Equal(t, "θ = 60°·(2 + 0) where 160 mm ≤ 4·20 mm, 60°·(3 + 0) to 8·20 mm, 60°·(4 + 0) to 12·20 mm", turn.Numbers)
	edda.asks("splice bolts/value/part turn", turn)
	edda.sees("button:not([disabled])", "^Issue the plan$")

	edda.word("choices.method", "calibrated torque")
	edda.sees("li", "K of this very lot, from its test is missing")
	require.Empty(t, edda.MustElements("[data-word='values.torque']"), "no torque is typed")
	edda.sees("button[disabled]", "^Issue the plan$")
	edda.number("values.lot K", "0,12")
	th, err := thread.Parse("M20")
	require.NoError(t, err)
	steps, err := preload.StepsOf(th, "10.9 HV", 0.12)
	require.NoError(t, err)
	require.InDelta(t, 308.4, steps.First, 0.05)
	edda.sees("[data-worked='first torque']", "308.4 N·m .*EN 1090-2")
	edda.sees("[data-worked='torque']", "452.4 N·m")
	edda.sees("[data-worked='audit torque']", "431.8 N·m")
	edda.asks("splice bolts/value/audit torque", edda.numbers(id, "draft")["splice bolts/value/audit torque"])
	edda.sees("li", "Reaches its pretension: 188 of 171 kN")
	edda.issues()
	edda.sees("header", "SP M20, plan 1")
	edda.sees("main", "Its test is on file")
}

// A strength from the paper of the lot: typed, counted with, refused where it
// cannot be, and called by its number.
func TestAStrengthByCertificate(t *testing.T) {
	s := open(t)
	edda := s.signIn("edda")
	edda.opens("RK / COOLER", 1)
	paper := func(number, least, tensile string) {
		edda.el("[data-word='groups.bolts.grade']").MustClick()
		if again, _, _ := edda.Has("[data-act=certificate]"); again {
			edda.el("[data-act=certificate]").MustClick()
		}
		for label, v := range map[string]string{"Number of the certificate": number, "Yield or 0.2 %": least, "Tensile strength": tensile} {
			edda.sees("[role=dialog] label", "^"+label).MustParent().MustElement("input").MustSelectAllText().MustInput(v)
		}
		edda.sees("[role=dialog] form button", "^Set$").MustClick()
	}
	paper("HT-2207", "900", "830")
	edda.sees("[role=alert]", "A yield of 900 MPa is above the tensile strength, 830 MPa")
	paper("HT-2207", "655", "830")
	edda.sees("[data-budget]", "of the likely band: nut factor 97 %, wrench 3 %")
	edda.sees("[data-word='groups.bolts.grade']", "^certificate HT-2207, 655/830 MPa$")
	edda.el("[data-saved=yes]")
	require.Contains(t, s.query("select input from drafts d join joints j on j.id = d.joint where j.tag = 'RK / COOLER'")[0], "HT-2207")
}
