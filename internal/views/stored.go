package views

import (
	"math"
	"time"

	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/contract"
	"dynacor/internal/judge"
)

// Stored is what is answered to an entry that was stored: what differs, where a screen that
// knows so many entries has seen the rest and it went as it was to go, else the run.
func Stored(me judge.Who, r judge.Run, names judge.Names, n judge.NewEntry, known *int, now time.Time) contract.Stored {
	if known != nil && *known == r.Head.HeadSeq-1 && r.Before != nil && r.State.Onward(r.Before) {
		o := Onward(me, r, names, now)
		return contract.Stored{Onward: &o}
	}
	e := Near // the screen has the rest already
	if _, correction := n.Content.(record.Correction); correction {
		e = Far // it changes lines further back
	}
	v := Run(me, r, names, e, now)
	return contract.Stored{Run: &v}
}

// Held is how long was waited, in minutes; without an answer it is not asked about.
func Held(minutes *float64) float64 {
	if minutes == nil {
		return math.Inf(1)
	}
	return *minutes
}

// Verdict is what readings come to.
func Verdict(v work.Typed) contract.Verdict {
	return contract.Verdict{Outside: v.Outside, Never: v.Never, Comes: v.Comes,
		Answers: Each(v.Answers, func(f work.Found) contract.FoundAnswer {
			return contract.FoundAnswer{Read: f.Read, Name: f.Name, Value: f.Value, Unit: f.Unit, Says: f.Says, Judged: f.Judged,
				Outside: f.Outside}
		})}
}

// Rig is what a gauge is read at while a hydraulic wrench is rigged up.
func Rig(b contract.JudgeRigJSONRequestBody) record.Setting {
	return record.Setting{Group: b.Group, Share: b.Share, Readings: b.Readings, Hand: b.Hand}
}
