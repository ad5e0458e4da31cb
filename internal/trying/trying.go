// Package trying says what is tried on the Bench in the words of the contract: asked by the
// module in the browser (cmd/bench), and by the server where a way is taken. It knows nothing of
// recipes, runs or a database.
package trying

import (
	"encoding/json"
	"errors"
	"fmt"

	"dynacor/core/bench"
	"dynacor/core/elastic"
	"dynacor/core/pass"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/internal/contract"
)

// Ask answers a question about a ring: what it is begun with, what some ways come to, whether
// there is a better one.
func Ask(what string, body []byte) (any, error) {
	switch what {
	case "begin":
		return asked(body, begin)
	case "try":
		return asked(body, func(t contract.BenchTry) (any, error) {
			try := Try(t, 1)
			tried, err := try.Run()
			return contract.BenchAnswer{Tried: each(tried, func(x bench.Tried) contract.BenchTried { return view(try.Subject, x) })}, err
		})
	case "better":
		return asked(body, better)
	case "replay":
		return asked(body, replay)
	case "task":
		return asked(body, task)
	case "shown":
		return asked(body, shown)
	case "stood":
		return asked(body, stood)
	case "judged":
		return asked(body, judged)
	}
	return nil, fmt.Errorf("nobody knows how to %s", what)
}

func asked[B any](body []byte, by func(B) (any, error)) (any, error) {
	var b B
	if err := json.Unmarshal(body, &b); err != nil {
		return nil, err
	}
	return by(b)
}

func begin(b contract.BenchBegin) (any, error) {
	s, planned := bench.MadeUp(), bench.Way{}
	if b.Subject.Bolts != 0 {
		s = Subject(b.Subject)
	}
	if planned = bench.UsualWay(s.Bolts); b.Way.Rounds != 0 || b.Way.School != "" {
		planned = Way(b.Way)
	}
	if err := s.Check(); err != nil {
		return nil, err
	}
	return contract.BenchStart{
		Schools: each(bench.Schools(), func(p pass.Preset) contract.BenchSchool {
			return contract.BenchSchool{Name: p.Name, Shares: p.Shares, Fits: p.Scheme == pass.Staged, Ordered: p.Scheme == pass.Staged,
				Usual: p.Usual, Risk: p.Risk}
		}),
		Orders: each(bench.Orders(s.Bolts), func(p sequence.Pattern) contract.BenchOrder {
			return contract.BenchOrder{Order: string(p), Words: p.Words()}
		}),
		Subject: SubjectView(s), Ways: each(bench.Worth(s.Bolts, planned), WayView)}, nil
}

func better(b contract.BenchBetter) (any, error) {
	ask := bench.Better{Subject: Subject(b.Subject), Even: b.Even, Rounds: b.Rounds, Runs: b.Runs, Seed: uint64(b.Seed), Workers: 1}
	out := contract.BenchFound{Ways: []contract.BenchTried{}}
	found, err := ask.Ways()
	if out.None, err = refused(err, "even"); err != nil {
		return nil, err
	}
	for _, f := range found {
		v := view(ask.Subject, f.Tried)
		v.Until, v.Ratio = f.Until, f.Ratio
		out.Ways = append(out.Ways, v)
	}
	single, err := ask.Single(sequence.Pattern(b.Order))
	if out.NoSingle, err = refused(err, "order"); err != nil {
		return nil, err
	}
	if out.NoSingle == nil {
		v := view(ask.Subject, single.Tried)
		for i, bolt := range single.Order {
			v.Targets = append(v.Targets, contract.BenchTarget{Bolt: bolt, Load: single.Loads[i], Share: single.Share[i]})
		}
		out.Single = &v
	}
	return out, nil
}

// refused says why there is no answer where the question was a good one; err is left where it was not.
func refused(err error, field string) (*contract.BenchRefusal, error) {
	if r, is := errors.AsType[*refusal.Error](err); is && r.Field == field && r.Code != refusal.Unknown {
		return &contract.BenchRefusal{Detail: r.Text, Way: r.Way}, nil
	}
	return nil, err
}

// Try reads what is to be tried.
func Try(t contract.BenchTry, workers int) bench.Try {
	return bench.Try{Subject: Subject(t.Subject), Ways: each(t.Ways, Way), Runs: t.Runs, Seed: uint64(t.Seed), Workers: workers}
}

// Subject reads a ring.
func Subject(s contract.BenchSubject) bench.Subject {
	return bench.Subject{Bolts: s.Bolts, Circle: figure(s.Circle), Gasket: figure(s.Gasket), Flange: figure(s.Flange), Bolt: figure(s.Bolt),
		Friction: figure(s.Friction), Tool: figure(s.Tool), Kept: figure(s.Kept), Load: s.Load, LikelyLow: s.LikelyLow, LikelyHigh: s.LikelyHigh,
		Needed: s.Needed, Crushes: s.Crushes, Limit: s.Limit, First: s.First, Pull: figure(s.Pull), Pass: figure(s.Pass)}
}

func figure(f contract.BenchFigure) bench.Figure {
	return bench.Figure{Low: f.Low, Middle: f.Middle, High: f.High, Origin: bench.Origin(f.Origin), From: f.From}
}

// SubjectView writes one.
func SubjectView(s bench.Subject) contract.BenchSubject {
	return contract.BenchSubject{Bolts: s.Bolts, Circle: figureView(s.Circle), Gasket: figureView(s.Gasket), Flange: figureView(s.Flange),
		Bolt: figureView(s.Bolt), Friction: figureView(s.Friction), Tool: figureView(s.Tool), Kept: figureView(s.Kept), Load: s.Load,
		LikelyLow: s.LikelyLow, LikelyHigh: s.LikelyHigh, Needed: s.Needed, Crushes: s.Crushes, Limit: s.Limit, First: s.First,
		Pull: figureView(s.Pull), Pass: figureView(s.Pass)}
}

func figureView(f bench.Figure) contract.BenchFigure {
	return contract.BenchFigure{Low: f.Low, Middle: f.Middle, High: f.High, Origin: contract.BenchFigureOrigin(f.Origin), From: f.From}
}

// Way reads a way.
func Way(w contract.BenchWay) bench.Way {
	return bench.Way{School: w.School, Shares: w.Shares, Order: sequence.Pattern(w.Order), Start: w.Start, Tools: w.Tools, Rounds: w.Rounds,
		Every: w.Every}
}

// WayView writes one.
func WayView(w bench.Way) contract.BenchWay {
	shares := w.Shares
	if shares == nil {
		shares = []float64{}
	}
	return contract.BenchWay{School: w.School, Shares: shares, Order: string(w.Order), Start: w.Start, Tools: w.Tools, Rounds: w.Rounds,
		Every: w.Every}
}

// Outcome writes what a way comes to on a ring.
func Outcome(s bench.Subject, o bench.Outcome) contract.BenchOutcome {
	v := contract.BenchOutcome{Way: WayView(o.Way), Words: o.Way.Words(), Order: o.Way.OrderWords(), Fits: s.Carries(o.Way),
		Pulls:   likely(o.Pulls),
		Minutes: likely(o.Minutes), Lowest: likely(o.Lowest), Highest: likely(o.Highest), Spread: likely(o.Spread), Rounds: likely(o.Rounds),
		Still: share(o.Still, o.Still.Wanted()), Loose: share(o.Loose, o.Loose.Unwanted()), Remarks: each(o.Remarks, same)}
	if s.Needed > 0 {
		x := share(o.Seats, o.Seats.Wanted())
		v.Seats = &x
	}
	if s.Crushes > 0 {
		x := share(o.Crushed, o.Crushed.Unwanted())
		v.Crushed = &x
	}
	return v
}

func view(s bench.Subject, t bench.Tried) contract.BenchTried {
	return contract.BenchTried{Outcome: Outcome(s, t.Outcome), Shares: each(t.Laid.Shares, same), Orders: t.Laid.Orders,
		Picture: picture(t.Picture)}
}

func picture(p bench.Picture) contract.BenchPicture {
	return contract.BenchPicture{Scale: p.Scale, Most: p.Most, Closed: p.Closed, Low: p.Low, High: p.High,
		Moments: each(p.Moments, func(m bench.Moment) contract.BenchMoment {
			return contract.BenchMoment{Pass: m.Pass, Round: m.Round, Share: m.Share, Bolts: m.Bolts, Loads: m.Loads, Around: m.Around,
				Lowest: m.Lowest, Highest: m.Highest,
				Standing: each(m.Standing, func(s bench.Standing) contract.BenchMomentStanding { return contract.BenchMomentStanding(s) })}
		})}
}

func likely(l elastic.Likely) contract.BenchLikely {
	return contract.BenchLikely{Low: l.Low, Middle: l.Middle, High: l.High}
}

func share(s bench.Share, f bench.Finding) contract.BenchShare {
	return contract.BenchShare{Low: s.Low, All: s.All, High: s.High, Mostly: contract.BenchShareMostly(s.Mostly),
		Found: contract.BenchShareFound(f)}
}

// Compared writes what was compared when a way was taken; stands says whether the ring is still
// laid out as it was tried.
func Compared(group string, k bench.Kept, stands bool) contract.BenchCompared {
	return contract.BenchCompared{Group: group, Subject: SubjectView(k.Subject), Taken: k.Taken, Runs: k.Runs, Seed: int(k.Seed),
		Stands: stands, Ways: each(k.Ways, func(o bench.Outcome) contract.BenchOutcome { return Outcome(k.Subject, o) })}
}

func each[A, B any](list []A, as func(A) B) []B {
	out := make([]B, len(list))
	for i, x := range list {
		out[i] = as(x)
	}
	return out
}

func same[A any](a A) A { return a }
