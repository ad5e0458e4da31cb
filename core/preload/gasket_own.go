package preload

import (
	"fmt"
	"strings"

	"dynacor/core/refusal"
)

// OwnGasket is a gasket by its maker's sheet: its figures (MPa; Kept a fraction) win
// over its family's. What is zero is the family's.
type OwnGasket struct {
	Name, Family, Source           string
	Aim, Seat, Service, Most, Kept float64
}

// mostGasket is beyond what any gasket bears, MPa.
const mostGasket = 3000

// Check refuses figures that cannot be, or that name no source.
func (o OwnGasket) Check() error {
	if strings.TrimSpace(o.Name) == "" {
		return refusal.New(refusal.Missing, "name", "The gasket has no name.", "Name it as on its box.")
	}
	if strings.TrimSpace(o.Source) == "" {
		return refusal.New(refusal.Missing, "source", fmt.Sprintf("%s: its maker's sheet is not named.", o.Name),
			"Enter the sheet and its date.")
	}
	k, err := GasketNamed(o.Family)
	if err != nil {
		return refusal.At("family", err)
	}
	for _, v := range []struct {
		field string
		is    float64
	}{{"aim", o.Aim}, {"seat", o.Seat}, {"service", o.Service}, {"most", o.Most}} {
		if v.is != 0 {
			if err := refusal.Within(v.field, v.is, mostGasket, "MPa"); err != nil {
				return err
			}
		}
	}
	if o.Kept != 0 {
		if err := refusal.Fraction("kept", o.Kept); err != nil {
			return err
		}
	}
	k = o.Over(k)
	return refusal.First(refusal.Rising("seat", k.Seat, k.Most, "MPa"), refusal.Rising("aim", k.Aim, k.Most, "MPa"))
}

// Over returns the family with o's own figures in it.
func (o OwnGasket) Over(k GasketKind) GasketKind {
	for _, v := range []struct {
		from float64
		to   *float64
	}{{o.Aim, &k.Aim}, {o.Seat, &k.Seat}, {o.Service, &k.Service}, {o.Most, &k.Most}, {o.Kept, &k.Kept}} {
		if v.from != 0 {
			*v.to = v.from
		}
	}
	return k
}
