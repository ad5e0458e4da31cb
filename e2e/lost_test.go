package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// A device that took a joint along and fell silent stands on the Wall. Who says that it is lost
// says how; the record of what is in hand names the gap, and the work goes on where it was stored.
func TestALostDeviceIsAGapInTheRecord(t *testing.T) {
	s := open(t)
	s.exec(`insert into devices (id, person, name, acts, since, joints, seen, waiting)
		select gen_random_uuid(), p.id, 'T-07', 3, now() - interval '40 minutes', array[j.id], now() - interval '30 minutes',
			jsonb_build_array(jsonb_build_object('joint', j.id, 'acts', 3, 'since', now() - interval '40 minutes'))
		from people p, joints j where p.login = 'marta' and j.tag = 'IV-2 / BONNET'`)
	edda := s.signIn("edda")
	edda.sees("[data-device='T-07']", "3 acts wait on it")
	edda.sees("[data-device='T-07'] button", "It is found, or lost").MustClick()
	edda.sees("[role=dialog] label", "lost or wiped")
	edda.el("[role=dialog] textarea[name=why]").MustInput("fell into the sump")
	edda.sees("[role=dialog] button:not([disabled])", "^Look no longer$").MustClick()
	edda.MustWait("() => !document.querySelector('[data-device]')")
	edda.opens("IV-2 / BONNET", 5)
	edda.sees("main", "T-07 of Marta Tolland is lost: fell into the sump. Last heard of .*, when 3 acts of this joint waited on it")

	marta := s.signIn("marta")
	marta.opens("IV-2 / BONNET", 3)
	marta.next(6, 2, 0)
	require.Equal(t, []string{"gap"}, s.query(`select e.kind from entries e join runs r on r.id = e.run
		join joints j on j.id = r.joint where j.tag = 'IV-2 / BONNET' order by e.seq desc limit 1`))
}
