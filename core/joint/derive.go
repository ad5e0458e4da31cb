package joint

import (
	"fmt"
	"math"

	"dynacor/core/derive"
	"dynacor/core/loosen"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// Derive returns where the numbers of a joint come from, by group: "bolts/load",
// "bolts/window/seats". Each works its number out again by the formula that is shown;
// what is not known has none.
func Derive(in Input, r recipe.Recipe, res Result) ([]derive.Derivation, error) {
	c := &computing{in: in, r: r, out: res, asked: true}
	all := &derivations{at: make([]derive.Derivation, 0, usualNumbers)}
	for i := range c.out.Groups {
		g := &c.out.Groups[i]
		if g.Torque == 0 && g.Breakout == (loosen.Breakout{}) && g.Drawn.Load == 0 {
			continue
		}
		given := in.Groups[g.Name]
		x := &deriving{c: c, g: g, b: &given, list: all}
		if err := x.all(); err != nil {
			return nil, fmt.Errorf("the %s: %w", g.Name, err)
		}
	}
	if err := all.ruled(c); err != nil {
		return nil, err
	}
	return all.at, nil
}

// asEntered is where what was typed, or is on the sheet, comes from.
const asEntered = "as it is given"

// usualNumbers is how many numbers a joint has, most often, and usualInputs what they
// are worked out from.
const (
	usualNumbers = 20
	usualInputs  = 64
)

// deriving says where the numbers of one group come from.
type deriving struct {
	c    *computing
	g    *Group
	b    *Bolts
	t    thread.Thread
	s    thread.Strength
	list *derivations
}

// derivations are those of a joint, so far.
type derivations struct {
	at     []derive.Derivation
	inputs []derive.Input // of all of them, one after the other
}

func (x *deriving) add(key string, f *derive.Formula, source string, inputs ...derive.Input) {
	l := x.list
	if cap(l.inputs)-len(l.inputs) < len(inputs) {
		l.inputs = make([]derive.Input, 0, usualInputs)
	}
	from := len(l.inputs)
	l.inputs = append(l.inputs, inputs...)
	l.at = append(l.at, derive.Derivation{Of: x.g.Name, Key: key, Formula: f, Inputs: l.inputs[from:len(l.inputs):len(l.inputs)],
		Source: source})
}

// again adds a number that is worked out from what the last one is.
func (x *deriving) again(key string, f *derive.Formula, source string) {
	same := x.list.at[len(x.list.at)-1]
	same.Key, same.Formula, same.Source = key, f, source
	x.list.at = append(x.list.at, same)
}

// is an input that is taken as exact; from is where it comes from.
func is(v float64, from string) derive.Input { return derive.Input{Value: v, From: from} }

// by is an input that has a derivation of its own, under key.
func by(v float64, key string) derive.Input { return derive.Input{Value: v, From: key, Derived: true} }

// torqueIn is the torque at the nut, as uncertain as the wrench.
func (x *deriving) torqueIn() derive.Input {
	return derive.Input{Value: x.g.Torque, Uncertain: x.g.Accuracy, From: "torque", Derived: true}
}

func (x *deriving) kIn() derive.Input {
	return derive.Input{Value: x.g.K.Nominal, Uncertain: x.g.K.Spread(), From: x.g.K.Name}
}

// loadIn is the load of a bolt, as uncertain as it is likely to be.
func (x *deriving) loadIn() derive.Input {
	return derive.Input{Value: x.g.Load, Uncertain: math.Hypot(x.g.Accuracy, x.g.K.Spread()), From: "load", Derived: true}
}

// bolt reads thread and strength, where they are known.
func (x *deriving) bolt() (err error) {
	if x.g.Thread == "" {
		return nil
	}
	if x.t, err = x.c.threadOf(x.g); err == nil && x.g.Grade != "" {
		x.s, err = x.c.strength(x.g, x.t)
	}
	return err
}

func (x *deriving) all() error {
	g := x.g
	if err := x.bolt(); err != nil {
		return err
	}
	if g.Breakout != (loosen.Breakout{}) {
		if err := x.breakout(); err != nil {
			return err
		}
	}
	x.tensioned()
	if g.Torque == 0 {
		return nil
	}
	if err := x.torque(); err != nil {
		return err
	}
	for i, t := range g.Torques {
		if t > 0 {
			x.add(stageKey(i), formStage, "", x.torqueIn(), is(g.Stages[i], "the plan"))
		}
	}
	if g.Load == 0 {
		return nil
	}
	x.load()
	if err := x.window(); err != nil {
		return err
	}
	return x.stays()
}

// stageKey is the key of a stage's torque.
func stageKey(i int) string {
	if i < len(stageKeys) {
		return stageKeys[i]
	}
	return fmt.Sprintf("stage/%d", i+1)
}

var stageKeys = [...]string{"stage/1", "stage/2", "stage/3", "stage/4"}

// torque says where the torque is from.
func (x *deriving) torque() error {
	g := x.g
	d := is(x.t.Diameter, g.Thread)
	switch r := x.c.rule(g); {
	case r != nil:
		return x.step("torque", r)
	case g.Aim != AsGiven:
		if err := x.aimed(); err != nil {
			return err
		}
		load := x.list.at[len(x.list.at)-1].Result()
		x.add("torque", formTorque, "", x.kIn(), d, by(load, "aimed"), is(g.Prevailing, asEntered))
		return nil
	}
	return x.given()
}

// given says where a torque that is written is from, and its equivalent.
func (x *deriving) given() error {
	g := x.g
	v := x.c.out.Value(g.Value)
	if v.IsZero() {
		return nil
	}
	low, err := v.Value.In(unit.NewtonMetre)
	if err != nil {
		return err
	}
	written, form, inputs := low, formGiven, []derive.Input{is(low, asEntered)}
	if !v.Max.IsZero() {
		high, err := v.Max.In(unit.NewtonMetre)
		if err != nil {
			return err
		}
		written, form, inputs = (low+high)/2, formMiddle, []derive.Input{is(low, asEntered), is(high, asEntered)}
	}
	if g.Equivalent == 0 {
		x.add("torque", form, "", inputs...)
		return nil
	}
	spec, err := x.c.lubricant(g.SpecifiedFor)
	if err != nil {
		return err
	}
	x.add("written", form, "", inputs...)
	if x.b.Decision != TakeEquivalent {
		x.again("torque", form, "")
	}
	x.add("equivalent", formEquivalent, "", by(written, "written"), is(g.Prevailing, asEntered), x.kIn(),
		derive.Input{Value: spec.Nominal, Uncertain: spec.Spread(), From: spec.Name})
	if x.b.Decision == TakeEquivalent {
		x.again("torque", formEquivalent, "")
	}
	return nil
}

// aimed says where the load that is aimed at is from.
func (x *deriving) aimed() error {
	g, area := x.g, is(x.t.StressArea(), x.g.Thread)
	strength := x.s.Yield
	if g.ShareOf == OfProof && x.s.HasProof() {
		strength = x.s.Proof
	}
	switch g.Aim {
	case ByShare:
		x.add("aimed", formShare, "", is(g.Share, "as it is chosen"), is(strength, g.Grade), area)
	case ByChart:
		x.add("aimed", formChart, "", is(g.Share, "as it is chosen"), is(strength, g.Grade), area, is(g.Derate, g.Base))
	case ByPretension:
		x.add("aimed", formPretension, "", is(x.s.Tensile, g.Grade), area)
	case ByGasket:
		b, _, err := x.c.balance(g)
		if err != nil {
			return err
		}
		s, err := b.Solve()
		if err != nil {
			return err
		}
		ag, err := b.Area()
		if err != nil {
			return err
		}
		if s.LimitedBy != preload.NoLimit {
			x.add("aimed", formHeldAim, "", is(s.Stress, string(s.LimitedBy)), area)
			return nil
		}
		x.add("aimed", formGasketAim, "", x.stress(b.Aim, g.Gasket.Aim), by(ag, "area"), is(float64(b.Bolts), "counted"))
	case ByService:
		load, err := x.b.Service.In(unit.Newton)
		if err != nil {
			return err
		}
		warm, err := x.warm()
		if err != nil {
			return err
		}
		x.add("aimed", formByService, "", append([]derive.Input{is(load, asEntered)}, warm[:]...)...)
	case ByTurn, ByStretch:
		from, err := x.drawn()
		if err != nil {
			return err
		}
		form, inputs := formByStretch, []derive.Input{from, by(g.Springs.Bolt, "give")}
		if g.Aim == ByTurn {
			form, inputs = formByTurn, []derive.Input{from, is(x.t.Pitch, g.Thread), by(g.Springs.Bolt, "give"), by(g.Springs.Parts,
				"parts")}
		}
		x.add("aimed", form, "", inputs...)
	}
	return nil
}

func (x *deriving) drawn() (derive.Input, error) {
	q, u := x.b.Stretch, unit.Millimetre
	if x.g.Aim == ByTurn {
		q, u = x.b.Turn, unit.Degree
	}
	v, err := q.In(u)
	return is(v, q.String()), err
}

// stress is a stress of the gasket's, from its need or its family.
func (x *deriving) stress(v float64, need string) derive.Input {
	if given := x.c.out.Value(need); !given.IsZero() {
		return is(v, asEntered)
	}
	if own, found, _ := x.c.ownGasket(x.g); found {
		return is(v, own.Name+", "+own.Source)
	}
	return is(v, preload.SourceOfGaskets)
}

// load says where the load, its band and its limits are from.
func (x *deriving) load() {
	g := x.g
	d, tp := is(x.t.Diameter, g.Thread), is(g.Prevailing, asEntered)
	a, b := is(g.Accuracy, "class of the tool, ISO 6789"), is(g.K.Spread(), g.K.Name)
	x.add("load", formLoad, "", x.torqueIn(), tp, x.kIn(), d)
	x.add("worstLow", formWorstLow, "", by(g.Torque, "torque"), tp, a, is(g.K.Nominal, g.K.Name), b, d)
	x.again("worstHigh", formWorstHigh, "")
	const bounded = "the worst case, past which the root of squares would reach"
	low, high := unit.AtMost(g.LikelyLow, g.WorstLow), unit.AtLeast(g.LikelyHigh, g.WorstHigh)
	if low {
		x.again("likelyLow", formWorstLow, bounded)
	}
	if high {
		x.again("likelyHigh", formWorstHigh, bounded)
	}
	if !low {
		x.add("likelyLow", formLikelyLow, "", by(g.Load, "load"), a, b)
	}
	if !high {
		x.add("likelyHigh", formLikelyHigh, "", by(g.Load, "load"), a, b)
	}
	face := x.c.face(g, x.t)
	pitch, d2 := is(x.t.Pitch, g.Thread), is(x.t.PitchDiameter(), g.Thread)
	x.add("mu", formMu, "", x.kIn(), d, pitch, d2, is(face.MeanDiameter(), "head and hole of the thread"))
	if g.Limit == 0 {
		return
	}
	mu := by(g.Coefficient, "mu")
	mg := formMG.Of([]float64{g.Load, x.t.Pitch, g.Coefficient, x.t.PitchDiameter()})
	x.add("MG", formMG, "", x.loadIn(), pitch, mu, d2)
	area, ds, re := is(x.t.StressArea(), g.Thread), is(x.t.StressDiameter(), g.Thread), is(x.s.Yield, g.Grade)
	x.add("utilisation", formUtilisation, "", x.loadIn(), area, by(mg, "MG"), tp, ds, re)
	x.add("limit", formLimit, "", area, pitch, mu, d2, tp, ds, re)
	if g.Springs.Bolt == 0 {
		return
	}
	bolt, parts := by(g.Springs.Bolt, "give"), by(g.Springs.Parts, "parts")
	x.add("fromSnug", formTurn, "", x.loadIn(), bolt, parts, pitch)
	x.add("stretch", formStretch, "", x.loadIn(), bolt)
}
