package app

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"runtime"
	"time"

	"github.com/google/uuid"

	"dynacor/core/bench"
	"dynacor/core/elastic"
	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/internal/store"
)

// Ring is a group of a joint as it is tried on the Bench, or why it cannot be.
type Ring struct {
	Group   string
	Subject bench.Subject
	Way     bench.Way
	Refused error
	Made    *Made // how it was made, where that is signed
}

// Made is how a ring was made, by the record of a signed run.
type Made struct {
	Revision int
	Subject  bench.Subject
	Pulls    []bench.Pull
	Residual []bench.Residual
	Pitch    float64 // mm
}

// madeBy says how a group was made on the newest signed run; nil where none says.
func (j Joint) madeBy(group string) *Made {
	if r, _ := j.made(); r != nil {
		return madeOf(*r, group)
	}
	return nil
}

func madeOf(r Run, group string) *Made {
	p := r.State.Plan()
	out := Made{Revision: r.Plan.Revision}
	var err error
	if out.Subject, err = joint.Bench(r.Plan.Input, p.Recipe, p.Result, group); err != nil {
		return nil
	}
	g, _ := p.Result.Group(group)
	t, err := thread.Parse(g.Thread)
	if out.Pulls, out.Residual = r.State.Replay(group); err != nil || len(out.Pulls) == 0 {
		return nil
	}
	out.Pitch = t.Pitch
	return &out
}

// Bench returns a joint with its rings as they are tried: by the draft, and by what this site
// has on record.
func (a *App) Bench(ctx context.Context, id uuid.UUID) (Joint, []Ring, error) {
	j, err := a.Joint(ctx, id)
	if err != nil {
		return j, nil, err
	}
	var out []Ring
	for _, g := range j.Draft.Result.Own() {
		ring, err := a.ring(ctx, j, g)
		if err != nil {
			return j, nil, err
		}
		if ring.Refused == nil {
			ring.Made = j.madeBy(g.Name)
		}
		out = append(out, ring)
	}
	return j, out, nil
}

// ring is a group of a joint's draft as it is tried.
func (a *App) ring(ctx context.Context, j Joint, g joint.Group) (Ring, error) {
	out := Ring{Group: g.Name}
	subject, err := joint.Bench(j.Draft.Input, j.Draft.Recipe, j.Draft.Result, g.Name)
	if _, is := errors.AsType[*refusal.Error](err); is {
		out.Refused = err
		return out, nil
	}
	if err != nil {
		return out, err
	}
	took, err := a.store.PullTimes(ctx, g.Thread)
	if err != nil {
		return out, err
	}
	if pace, enough := bench.PaceOf(took, g.Thread); enough {
		subject.Pull = pace
	}
	if subject.Gasket.Origin == bench.Supposing {
		fits, err := a.fitsLike(ctx, j, g)
		if err != nil {
			return out, err
		}
		subject.Gasket = bench.Like(subject.Gasket, fits)
	}
	out.Subject, out.Way, out.Refused = subject, joint.WayOf(g), subject.Check()
	return out, nil
}

// mostFits is how many signed runs of a kind say what its gaskets are like: the latest.
const mostFits = 10

// fitKey names what readings say of one group of a run.
type fitKey struct {
	run   uuid.UUID
	seq   int // of its last entry
	group string
}

// fitsLike returns what the readings of signed runs say of gaskets like a group's: of its recipe,
// its group and its family.
func (a *App) fitsLike(ctx context.Context, j Joint, g joint.Group) ([]bench.Fitted, error) {
	if g.Gasket == nil {
		return nil, nil
	}
	runs, err := a.store.RunsRead(ctx, j.Recipe, mostFits)
	if err != nil {
		return nil, err
	}
	family := j.Draft.Input.Choices[g.Gasket.Choice]
	var out []bench.Fitted
	for _, head := range runs {
		key := fitKey{head.ID, head.HeadSeq, g.Name}
		kept, is := a.fits.Load(key)
		if !is {
			r, err := a.runAt(ctx, head)
			if err != nil {
				return nil, err
			}
			if r.State.Standing != record.Signed {
				continue
			}
			kept = fitted(r, g.Name, g.Gasket.Choice)
			a.fits.Store(key, kept)
		}
		if f := kept.(fitOf); f.family == family && f.Readings > 0 {
			out = append(out, f.Fitted)
		}
	}
	return out, nil
}

// fitOf is what readings say of a gasket of a family; of no readings where they say nothing.
type fitOf struct {
	bench.Fitted
	family string
}

func fitted(r Run, group, choice string) fitOf {
	out := fitOf{family: r.Plan.Input.Choices[choice]}
	if m := madeOf(r, group); m != nil {
		// What cannot be fitted to says nothing of the next joint; its own replay says why.
		out.Fitted, _ = bench.Replay{Subject: m.Subject, Pulls: m.Pulls, Residual: m.Residual, Pitch: m.Pitch, Runs: bench.LeastRuns}.Fit()
	}
	return out
}

// Moved is what moved in a check round: of all joints of a kind with one lubricant.
type Moved struct {
	store.RoundMoved
	Title string // of the recipe
}

// Moved returns what moved in the check rounds of this site.
func (a *App) Moved(ctx context.Context) ([]Moved, error) {
	rows, err := a.store.RoundsMoved(ctx)
	if err != nil {
		return nil, err
	}
	out, titles := make([]Moved, len(rows)), map[string]string{}
	for i, r := range rows {
		if _, known := titles[r.Recipe]; !known {
			e, _, err := a.edition(ctx, r.Recipe)
			if err != nil {
				return nil, err
			}
			titles[r.Recipe] = e.Title
		}
		out[i] = Moved{r, titles[r.Recipe]}
	}
	return out, nil
}

// MostTaken is how many joints are made where a way is taken: the server makes them anew.
const MostTaken = 5_000

// patience is how long a trial that is made anew may take: large rings of soft gaskets take long.
const patience = 20 * time.Second

// anew makes a trial here, whose figures are kept.
func anew(ctx context.Context, try bench.Try, way int) (bench.Kept, error) {
	within, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	try.Workers, try.Done = runtime.GOMAXPROCS(0), within.Done()
	kept, err := try.Take(way)
	if errors.Is(err, elastic.ErrStopped) {
		if ctx.Err() != nil {
			return kept, ctx.Err()
		}
		return kept, refusal.Number(refusal.TooLarge, "runs", float64(try.Runs), patience.Seconds(), "s",
			fmt.Sprintf("%d joints of %d bolts take longer than %g s here.", try.Runs, try.Subject.Bolts, patience.Seconds()),
			"Compare on fewer joints, or fewer ways, then take it.")
	}
	return kept, err
}

// TakeWay writes one of the ways that were tried into the draft, from version from of it on, and
// keeps with it what they came to, as it is worked out here.
func (a *App) TakeWay(ctx context.Context, who Who, id uuid.UUID, from int, group string, try bench.Try, way int) (Joint, error) {
	if try.Runs > MostTaken {
		return Joint{}, refusal.Number(refusal.TooLarge, "runs", float64(try.Runs), MostTaken, "joints",
			"More joints than the server makes anew when a way is taken.", "Compare on fewer joints, then take it.")
	}
	j, err := a.drafted(ctx, id)
	if err != nil {
		return Joint{}, err
	}
	draft := j.Draft
	if draft.Version != from {
		return Joint{}, changedMeanwhile()
	}
	laid, ok := draft.Result.Group(group)
	if !ok {
		return Joint{}, refusal.New(refusal.Unknown, "group", "There is no such group.", "Choose one from the list.")
	}
	own, err := a.ring(ctx, j, laid)
	if err != nil {
		return Joint{}, err
	}
	if own.Refused != nil {
		return Joint{}, own.Refused
	}
	if try.Subject, err = try.Subject.Of(own.Subject); err != nil {
		return Joint{}, err
	}
	kept, err := anew(ctx, try, way)
	if err != nil {
		return Joint{}, err
	}
	in := draft.Input
	in.Groups = maps.Clone(in.Groups)
	if in.Groups == nil {
		in.Groups = map[string]joint.Bolts{}
	}
	if in.Groups[group], err = in.Groups[group].Takes(kept, laid.Group); err != nil {
		return Joint{}, err
	}
	if _, err := joint.Compute(in, draft.Recipe); err != nil {
		return Joint{}, err
	}
	return a.draftStored(ctx, who, store.Draft{Joint: id, Version: from, Input: in})
}
