package server

import (
	"context"
	"math"
	"time"

	"dynacor/core/friction"
	"dynacor/core/joint"
	"dynacor/core/preload"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/store"
	"dynacor/internal/views"
)

// GetOwn lists the site's own figures beside the general ones.
func (s *Server) GetOwn(ctx context.Context, _ contract.GetOwnRequestObject) (contract.GetOwnResponseObject, error) {
	all, err := s.app.OwnFigures(ctx)
	if err != nil {
		return nil, err
	}
	checks, err := s.app.LotChecks(ctx)
	if err != nil {
		return nil, err
	}
	v := contract.Own{Lubricants: []contract.OwnLubricant{}, Gaskets: []contract.OwnGasket{}, Certificates: []contract.OwnCertificate{},
		General: views.Each(friction.Lubricants(), lubricantWord), Families: views.Each(preload.GasketKinds(),
			familyView)}
	for _, f := range all {
		kept := contract.OwnKept{By: f.By, At: f.MadeAt, Withdrawn: f.Withdrawn, Usable: f.Usable()}
		if f.Expires != nil {
			kept.Expires = contract.Date{Time: *f.Expires}
		}
		switch f.Kind {
		case store.OfLubricant:
			one, err := s.ownLubricant(f, kept)
			if err != nil {
				return nil, err
			}
			if c, ok := checks[f.Name]; ok {
				one.Check = contract.LotCheck{Words: c.Words(), Today: c.Today, Holds: c.Holds}
			}
			v.Lubricants = append(v.Lubricants, one)
		case store.OfGasket:
			family, err := preload.GasketNamed(f.Gasket.Family)
			if err != nil {
				return nil, err
			}
			v.Gaskets = append(v.Gaskets, contract.OwnGasket{Kept: kept, Given: gasketView(*f.Gasket),
				Figures: familyView(f.Gasket.Over(family))})
		default:
			v.Certificates = append(v.Certificates, contract.OwnCertificate{Kept: kept, Given: certificateView(*f.Certificate)})
		}
	}
	return contract.GetOwn200JSONResponse(v), nil
}

func (s *Server) ownLubricant(f app.OwnFigure, kept contract.OwnKept) (contract.OwnLubricant, error) {
	l := f.Lubricant
	v := contract.OwnLubricant{Kept: kept, Low: l.Low, Nominal: l.Nominal, High: l.High, Given: contract.NewLubricant{Name: f.Name,
		Origin: contract.NewLubricantOrigin(l.Origin), Source: l.Source, Lot: l.Lot, On: l.On, Dry: l.Dry, Expires: kept.Expires}}
	if len(l.Readings) == 0 {
		return v, nil
	}
	v.Given.Trial = contract.Trial{Thread: l.Thread, Prevailing: views.Quantity(l.Prevailing),
		Readings: views.Each(l.Readings, func(r store.TrialReading) contract.TrialReading {
			return contract.TrialReading{Torque: views.Quantity(r.Torque), Load: views.Quantity(r.Load)}
		})}
	t, err := s.app.Try(*l)
	if err == nil {
		v.Tried, err = triedView(*l, t)
	}
	return v, err
}

// KeepLubricant takes a lubricant in.
func (s *Server) KeepLubricant(ctx context.Context, r contract.KeepLubricantRequestObject) (contract.KeepLubricantResponseObject, error) {
	l := trialOf(r.Body.Trial)
	l.Lubricant = friction.Lubricant{Name: r.Body.Name, Low: r.Body.Low, Nominal: r.Body.Nominal, High: r.Body.High, Dry: r.Body.Dry,
		Origin: friction.Origin(r.Body.Origin), Source: r.Body.Source}
	l.Lot, l.On = r.Body.Lot, r.Body.On
	return contract.KeepLubricant204Response{}, s.app.KeepOwn(ctx, who(ctx), store.OwnFigure{Kind: store.OfLubricant, Name: r.Body.Name,
		Expires: day(r.Body.Expires), Lubricant: &l})
}

// KeepGasket takes a gasket in.
func (s *Server) KeepGasket(ctx context.Context, r contract.KeepGasketRequestObject) (contract.KeepGasketResponseObject, error) {
	b := r.Body
	g := preload.OwnGasket{Name: b.Name, Family: b.Family, Source: b.Source, Aim: b.Aim, Seat: b.Seat, Service: b.Service, Most: b.Most,
		Kept: b.Kept}
	return contract.KeepGasket204Response{}, s.app.KeepOwn(ctx, who(ctx), store.OwnFigure{Kind: store.OfGasket, Name: g.Name, Gasket: &g})
}

// KeepCertificate takes a certificate of a lot of bolts in.
func (s *Server) KeepCertificate(ctx context.Context, r contract.KeepCertificateRequestObject) (contract.KeepCertificateResponseObject,
	error) {
	c := certificate(*r.Body)
	return contract.KeepCertificate204Response{}, s.app.KeepOwn(ctx, who(ctx), store.OwnFigure{Kind: store.OfCertificate, Name: c.Number,
		Certificate: &c})
}

// JudgeTrial says what readings come to.
func (s *Server) JudgeTrial(_ context.Context, r contract.JudgeTrialRequestObject) (contract.JudgeTrialResponseObject, error) {
	l := trialOf(*r.Body)
	t, err := s.app.Try(l)
	if err != nil {
		return nil, err
	}
	v, err := triedView(l, t)
	return contract.JudgeTrial200JSONResponse(v), err
}

// CheckLot says what a few bolts of a lot come to, and keeps that where it is asked to.
func (s *Server) CheckLot(ctx context.Context, r contract.CheckLotRequestObject) (contract.CheckLotResponseObject, error) {
	readings := trialOf(contract.Trial{Readings: r.Body.Readings}).Readings
	var c friction.Checked
	var err error
	if r.Body.Keep {
		c, err = s.app.CheckLot(ctx, who(ctx), r.Body.Name, readings)
	} else {
		c, err = s.app.JudgeLot(ctx, r.Body.Name, readings)
	}
	return contract.CheckLot200JSONResponse{Ks: c.Ks, Holds: c.Holds, Words: c.Words}, err
}

// WithdrawOwn takes a figure out of use.
func (s *Server) WithdrawOwn(ctx context.Context, r contract.WithdrawOwnRequestObject) (contract.WithdrawOwnResponseObject, error) {
	return contract.WithdrawOwn204Response{}, s.app.Withdraw(ctx, who(ctx), store.OwnKind(r.Kind), r.Body.Name, r.Body.Reason)
}

func day(d contract.Date) *time.Time {
	if d.IsZero() {
		return nil
	}
	return &d.Time
}

func trialOf(t contract.Trial) store.OwnLubricant {
	l := store.OwnLubricant{Thread: t.Thread, Prevailing: views.FromQuantity(t.Prevailing)}
	for _, r := range t.Readings {
		l.Readings = append(l.Readings, store.TrialReading{Torque: views.FromQuantity(r.Torque), Load: views.FromQuantity(r.Load)})
	}
	return l
}

// triedView is a trial with its points and the lines of its nut factors, to draw.
func triedView(l store.OwnLubricant, t friction.Tried) (contract.Tried, error) {
	v := contract.Tried{Ks: t.Ks, Mean: t.Mean, Low: t.Low, High: t.High, Variation: t.Variation(), Steady: t.Steady, Far: views.OrNone(t.Far),
		Words: t.Words}
	var most, begins contract.TrialPoint // by load, and the first
	for i, r := range l.Readings {
		torque, err := r.Torque.In(unit.NewtonMetre)
		if err != nil {
			return v, err
		}
		load, err := r.Load.In(unit.Kilonewton)
		if err != nil {
			return v, err
		}
		p := contract.TrialPoint{Load: load, Torque: torque}
		if most.Load = math.Max(most.Load, load); i == 0 {
			begins = p
		}
		v.Points = append(v.Points, p)
	}
	if !l.Prevailing.IsZero() {
		base, err := l.Prevailing.In(unit.NewtonMetre)
		if err != nil {
			return v, err
		}
		v.Base = base
	}
	if len(v.Points) > 0 {
		perK := (begins.Torque - v.Base) / (begins.Load * t.Ks[0]) // N·m for each kN and unit of K, on this thread
		for _, k := range []float64{t.Low, t.Mean, t.High} {
			v.Top = append(v.Top, contract.TrialPoint{Load: 1.1 * most.Load, Torque: v.Base + 1.1*most.Load*perK*k})
		}
	}
	return v, nil
}

func familyView(k preload.GasketKind) contract.NewGasket {
	return contract.NewGasket{Name: k.Long, Family: k.Name, Source: preload.SourceOfGaskets, Aim: k.Aim, Seat: k.Seat, Service: k.Service,
		Most: k.Most, Kept: k.Kept}
}

func gasketView(g preload.OwnGasket) contract.NewGasket {
	return contract.NewGasket{Name: g.Name, Family: g.Family, Source: g.Source, Aim: g.Aim, Seat: g.Seat, Service: g.Service, Most: g.Most,
		Kept: g.Kept}
}

func lubricantWord(l friction.Lubricant) contract.LubricantWord {
	return contract.LubricantWord{Name: l.Name, Short: l.Short, Low: l.Low, Nominal: l.Nominal, High: l.High, Dry: l.Dry}
}

func certificate(c contract.Certificate) joint.Certificate {
	return joint.Certificate{Number: c.Number, Proof: views.FromQuantity(c.Proof), Yield: views.FromQuantity(c.Yield),
		Tensile: views.FromQuantity(c.Tensile)}
}

func certificateView(c joint.Certificate) contract.Certificate {
	return contract.Certificate{Number: c.Number, Proof: views.Quantity(c.Proof), Yield: views.Quantity(c.Yield),
		Tensile: views.Quantity(c.Tensile)}
}
