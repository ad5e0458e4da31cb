package work_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

// An act is said as one calls it across: the bolt counted, the value figure by figure.
func TestAnActIsSaid(t *testing.T) {
	h := flange(t, 12)
	before(h)
	g, _ := h.State.Plan().Result.Group("bolts")
	for _, c := range []struct {
		value float64
		unit  unit.Unit
		says  string
	}{
		{342, unit.NewtonMetre, "three four two newton metres"}, {107, unit.NewtonMetre, "one nought seven newton metres"},
		{42, unit.FootPound, "forty-two foot pounds"}, {300, unit.NewtonMetre, "three hundred newton metres"},
		{12.5, unit.NewtonMetre, "one two point five newton metres"}, {1, unit.NewtonMetre, "one newton metre"},
		{1250, unit.Bar, "one two five nought bar"}, {90, unit.CentiNewtonMetre, "ninety centi-newton metres"},
	} {
		tool := worktest.Tooling(g, "TW-1")
		for i := range tool.Stages {
			tool.Stages[i].Setting = unit.Of(c.value, c.unit)
		}
		h.Add(tool)
		act := record.Act{Step: "pull", Bolt: 11, Share: g.Stages[1]}
		require.Equal(t, "Bolt eleven, "+c.says+", stage two of three.", h.State.Spoken(work.Coming{Act: act}))
		require.Equal(t, "Set TW-1 to "+c.says+". Then: bolt eleven, "+c.says+", stage two of three.",
			h.State.Spoken(work.Coming{Act: act, Set: true}))
	}
	for n, words := range map[int]string{1: "one", 20: "twenty", 101: "one hundred and one", 119: "one hundred and nineteen"} {
		require.Contains(t, h.State.Spoken(work.Coming{Act: record.Act{Step: "pull", Bolt: n, Share: g.Stages[0]}}), "Bolt "+words+",")
	}
	require.Empty(t, h.State.Spoken(work.Coming{Act: record.Act{Step: "nothing"}}))
	turned := tooled(t, 4, time.Time{})
	require.NotEmpty(t, turned.State.Spoken(work.Coming{Act: turned.Next()}))
}
