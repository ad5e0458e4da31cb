package trying

import (
	"dynacor/core/bench"
	"dynacor/internal/contract"
)

// replay answers with what the model makes of a run, and what its readings say.
func replay(r contract.BenchReplay) (any, error) {
	m := r.Made
	ask := bench.Replay{Subject: Subject(m.Subject), Pitch: m.Pitch, Runs: r.Runs, Seed: uint64(r.Seed), Workers: 1,
		Pulls: each(m.Pulls, func(p contract.BenchPull) bench.Pull {
			return bench.Pull{Bolt: p.Bolt, Share: p.Share, Round: p.Round, Moved: p.Moved, Angle: p.Angle, Ratio: p.Ratio}
		}),
		Residual: each(m.Residual, func(x contract.BenchResidual) bench.Residual { return bench.Residual(x) })}
	got, err := ask.Run()
	if err != nil {
		return nil, err
	}
	out := contract.BenchReplayed{Tried: picture(got.Picture), Remarks: each(got.Remarks, same),
		Bolts: each(got.Bolts, func(b bench.BoltAfter) contract.BenchBoltAfter {
			return contract.BenchBoltAfter{Load: likely(b.Likely), Low: b.Low, Marked: b.Marked()}
		}),
		Rounds: each(got.Rounds, func(g bench.Gone) contract.BenchGone {
			v := contract.BenchGone{Round: g.Round, Made: g.Made, Nuts: g.Nuts, Moved: g.Moved, Expected: g.Expected, Lowest: likely(g.Lowest)}
			if ask.Subject.Needed > 0 {
				x := share(g.Seats, g.Seats.Wanted())
				v.Seats = &x
			}
			return v
		})}
	fit, err := ask.Fit()
	if out.NotFitted, err = refused(err, "readings"); err != nil {
		return nil, err
	}
	if out.NotFitted == nil {
		out.Fitted = &contract.BenchFitted{Gasket: figureView(fit.Gasket), Friction: figureView(fit.Friction), Offset: fit.Offset,
			Readings: fit.Readings, Misfit: fit.Misfit, Says: fit.Says}
	}
	return out, nil
}

// Made writes how a run was made, by its record.
func Made(revision int, s bench.Subject, pulls []bench.Pull, residual []bench.Residual, pitch float64) contract.BenchMade {
	return contract.BenchMade{Revision: revision, Subject: SubjectView(s), Pitch: pitch,
		Pulls: each(pulls, func(p bench.Pull) contract.BenchPull {
			return contract.BenchPull{Bolt: p.Bolt, Share: p.Share, Round: p.Round, Moved: p.Moved, Angle: p.Angle, Ratio: p.Ratio}
		}),
		Residual: each(residual, func(x bench.Residual) contract.BenchResidual { return contract.BenchResidual(x) })}
}
