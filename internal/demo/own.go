package demo

import (
	"context"
	"time"

	"dynacor/core/friction"
	"dynacor/core/joint"
	"dynacor/core/preload"
	"dynacor/core/unit"
	"dynacor/internal/store"
)

// addOwn enters the works' own figures: a paste by a trial, one by its supplier's test, a
// gasket by its maker's sheet, the paper of a lot of studs.
func (l *loader) addOwn(ctx context.Context) error {
	l.begin(-20)
	until := l.now.AddDate(0, 8, 0).Truncate(24 * time.Hour)
	readings := func(pairs ...[2]float64) (out []store.TrialReading) {
		for _, p := range pairs {
			out = append(out, store.TrialReading{Torque: nm(p[0]), Load: unit.Of(p[1], unit.Kilonewton)})
		}
		return out
	}
	mpa := func(v float64) unit.Quantity { return unit.Of(v, unit.Megapascal) }
	on := l.clock.AddDate(0, 0, -3).Format(time.DateOnly)
	for _, f := range []store.OwnFigure{
		{Kind: store.OfLubricant, Name: "Ottermere grey paste on plain studs", Expires: &until,
			Lubricant: &store.OwnLubricant{Lot: "GP 26-114",
				On: on, Thread: "M24", Lubricant: friction.Lubricant{Origin: friction.SiteTrial,
					Source: "site trial 14, E. Winterbourne and S. Takau"},
				Readings: readings([2]float64{320, 101.4}, [2]float64{320, 107.0}, [2]float64{320, 98.1}, [2]float64{400, 126.7},
					[2]float64{400, 133.2}, [2]float64{400, 121.9}, [2]float64{480, 153.5}, [2]float64{480, 146.0})}},
		{Kind: store.OfLubricant, Name: "Ottermere dry film on washers", Lubricant: &store.OwnLubricant{On: on,
			Lubricant: friction.Lubricant{Low: 0.11, Nominal: 0.125, High: 0.14, Origin: friction.SupplierTest,
				Source: "maker's report 3/2026"}}},
		{Kind: store.OfGasket, Name: "Ottermere fibre sheet 7", Gasket: &preload.OwnGasket{Family: "sheet",
			Source: "maker's sheet 7, made up",
			Aim:    45, Seat: 20, Service: 12, Most: 110, Kept: 0.75}},
		{Kind: store.OfCertificate, Name: "OT-2207", Certificate: &joint.Certificate{Yield: mpa(705), Tensile: mpa(842)}},
	} {
		if err := l.app.KeepOwn(ctx, l.who("edda"), f); err != nil {
			return err
		}
	}
	l.begin(-1)
	_, err := l.app.CheckLot(ctx, l.who("jonas"), "Ottermere grey paste on plain studs", readings([2]float64{400, 127.4},
		[2]float64{400, 130.1}))
	return err
}
