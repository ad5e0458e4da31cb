package store_test

import (
	"reflect"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	trial "dynacor/core/bench"
	"dynacor/core/elastic"
	"dynacor/core/friction"
	"dynacor/core/joint"
	"dynacor/core/loosen"
	"dynacor/core/preload"
	"dynacor/core/sequence"
	"dynacor/core/stay"
	"dynacor/core/unit"
	"dynacor/internal/store"
)

// allOfBolts is what can be known of a group, with something in each field.
var allOfBolts = joint.Bolts{Count: 8, Thread: "M20", Grade: joint.ByCertificate, Certificate: joint.Certificate{Number: "HT-2207",
	Proof: unit.Of(600, unit.Megapascal), Yield: unit.Of(660, unit.Megapascal), Tensile: unit.Of(120_000, unit.PSI)},
	SpecifiedFor: "light oil", Lubrication: "light oil", Decision: joint.KeepTorque, Share: 0.5, ShareOf: joint.OfProof,
	Prevailing: unit.Of(3, unit.NewtonMetre), Rows: 2, Across: unit.Of(70, unit.Millimetre), Down: unit.Of(3, unit.Inch),
	Stages: "20-60-100", Order: sequence.Star, Start: 3, OnCentre: true, Reason: "as drawn", Aim: joint.ByChart, Base: "cast iron",
	Gasket: "Fibre 7", Held: joint.Held{Torque: unit.Of(120, unit.NewtonMetre),
		Prevailing: unit.Of(3, unit.NewtonMetre), Lubrication: "light oil", Age: loosen.Hot},
	Derate: 0.85, Turn: unit.Of(40, unit.Degree), Stretch: unit.Of(0.1, unit.Millimetre), Service: unit.Of(60, unit.Kilonewton),
	Clamp: joint.Clamp{Length: unit.Of(60, unit.Millimetre), Shank: unit.Of(1, unit.Inch), TwoNuts: true, Parts: "cast iron"},
	Stay: joint.Stay{Engaged: unit.Of(20, unit.Millimetre), PartTensile: unit.Of(400, unit.Megapascal), Bears: unit.Of(500,
		unit.Megapascal),
		Finish: stay.Usual, Faces: 2, Settles: 9, BoltsWarmer: 60, PartsWarmer: 80, BoltsStiff: 0.98, PartsStiff: 0.96, Axial: unit.Of(10,
			unit.Kilonewton), Enters: 0.5,
		Across: unit.Of(5, unit.Kilonewton), Friction: 0.15, Planes: 2},
	Compared: &trial.Kept{Subject: tried, Taken: 1, Runs: 2000, Seed: 7, Ways: []trial.Outcome{{Way: trial.Way{Shares: []float64{40, 100},
		Order: sequence.Star, Start: 2, Tools: 1, Rounds: 5, Every: 1}, Pulls: elastic.Likely{Low: 1, Middle: 2, High: 3},
		Lowest: elastic.Likely{Low: 4, Middle: 5, High: 6}, Seats: trial.Share{Low: 0.1, All: 0.2, High: 0.3, Mostly: trial.ByGasket},
		Remarks: []string{"Nothing moves in the first round."}}, {Way: trial.UsualWay(8), Minutes: elastic.Likely{Middle: 9},
		Still: trial.Share{All: 1}, Spread: elastic.Likely{High: 0.2}}}}}

// tried is a ring with something in each figure.
var tried = func() trial.Subject {
	s := trial.MadeUp()
	s.LikelyLow, s.LikelyHigh, s.Needed, s.Crushes, s.Limit = 1, 2, 3, 4, 5
	return s
}()

// What is known of a joint comes back as it was typed, each field of it.
func TestAnInputComesBackWhole(t *testing.T) {
	for _, x := range []any{allOfBolts, allOfBolts.Certificate, allOfBolts.Clamp, allOfBolts.Stay, allOfBolts.Held,
		tried} {
		v := reflect.ValueOf(x)
		for i := range v.NumField() {
			require.False(t, v.Field(i).IsZero(), v.Type().Field(i).Name)
		}
	}
	b := issued(t)
	in := joint.Input{Recipe: "flange", Edition: 1, Type: "RF", Size: "100", Choices: map[string]string{"gasket": "spiral"},
		Values: map[string]joint.Given{"torque": {Value: unit.Of(40, unit.FootPound), Max: unit.Of(45, unit.FootPound)}},
		Groups: map[string]joint.Bolts{"bolts": allOfBolts},
		Own: friction.Library{{Name: "our paste", Short: "our paste", Low: 0.1, Nominal: 0.12, High: 0.14, Origin: friction.SiteTrial,
			Source: "trial 4"}},
		Gaskets: []preload.OwnGasket{{Name: "Fibre 7", Family: "sheet", Source: "sheet 4",
			Aim: 40, Seat: 20, Service: 12, Most: 120, Kept: 0.8}},
		Reasons: map[string]string{"bolts/seats": "a lighter gasket"}}
	before, err := b.Draft(ctx, b.joint)
	require.NoError(t, err)
	_, err = b.SaveDraft(ctx, store.Draft{Joint: b.joint, Version: before.Version, Input: in}, b.person, time.Now())
	require.NoError(t, err)
	after, err := b.Draft(ctx, b.joint)
	require.NoError(t, err)
	require.Equal(t, in, after.Input)
}
