package drill

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"time"

	"dynacor/core/crib"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// kit is what somebody has laid out for a bolt.
type kit struct {
	size      float64 // of the bolt, across the flats, mm
	torque    float64 // N·m
	wrench    crib.Tool
	days      int // for which it is calibrated still; below 0: since when no more
	extension crib.Tool
	socket    crib.Tool
}

// The rows of a kit.
const (
	wrenchRow = iota
	extensionRow
	socketRow
	nothingRow
)

// fault looks a kit through: which row is wrong, and why.
func (k kit) fault() (row int, why string, err error) {
	if k.socket.Size != k.size {
		return socketRow, fmt.Sprintf("The bolt has %g mm across the flats, the socket %g mm.", k.size, k.socket.Size), nil
	}
	if k.days < 0 {
		return wrenchRow, fmt.Sprintf("The calibration of %s ran out %d days ago.", k.wrench.Tag, -k.days), nil
	}
	w, _ := k.wrench.Wrench()
	chain := tool.Chain{Wrench: w,
		Extension: &tool.Extension{Tag: k.extension.Tag, Drive: k.extension.DriveIn, Limit: k.extension.Most},
		Socket:    &tool.Socket{Tag: k.socket.Tag, Size: k.socket.Size, Drive: k.socket.DriveOut, Limit: k.socket.Most}}
	_, err = chain.Set(1, k.torque, time.Time{}) // what the calendar says is looked at already
	no, refused := errors.AsType[*refusal.Error](err)
	switch {
	case err == nil:
		return nothingRow, fmt.Sprintf("Every part is within its rating, and %.4g N·m lie in the wrench’s range.", k.torque), nil
	case !refused:
		return nothingRow, "", err
	case no.Field == "socket":
		return socketRow, no.Text, nil
	case no.Field == "extension":
		return extensionRow, no.Text, nil
	}
	return wrenchRow, no.Text, nil
}

func (k kit) rows() []string {
	calibrated := fmt.Sprintf("calibrated for %d days more", k.days)
	if k.days < 0 {
		calibrated = fmt.Sprintf("calibration ran out %d days ago", -k.days)
	}
	return []string{
		fmt.Sprintf("Wrench %s: %g to %g %s, square %s in, %s", k.wrench.Tag, k.wrench.Least, k.wrench.Most, k.wrench.Unit, k.wrench.DriveOut,
			calibrated),
		fmt.Sprintf("Extension %s: square %s in, up to %g N·m", k.extension.Tag, k.extension.DriveIn, k.extension.Most),
		fmt.Sprintf("Socket %s: %g mm, square %s in, up to %g N·m", k.socket.Tag, k.socket.Size, k.socket.DriveOut, k.socket.Most),
		nothingWrong,
	}
}

// rightKit draws a kit in which nothing is wrong, or any that is of the tools there are.
func rightKit(r *rand.Rand, m Material) kit {
	of := func(kind crib.Kind, more func(crib.Tool) bool) crib.Tool {
		list := m.where(func(t crib.Tool) bool { return t.Kind == kind && more(t) })
		if len(list) == 0 {
			return crib.Tool{}
		}
		return list[r.IntN(len(list))]
	}
	var k kit
	k.extension = of(crib.Extension, func(t crib.Tool) bool { return t.DriveIn != "" && t.DriveIn == t.DriveOut && t.Most > 0 })
	square := k.extension.DriveIn
	k.wrench = of(crib.Wrench, func(t crib.Tool) bool {
		return t.DriveOut == square && t.Face != crib.Preset && t.Unit == unit.NewtonMetre && t.Least > 0
	})
	k.socket = of(crib.Socket, func(t crib.Tool) bool { return t.DriveOut == square && t.Most > 0 && !t.Inside })
	k.size, k.days = k.socket.Size, 20+r.IntN(200)
	k.torque = unit.Round(k.wrench.Least+(0.3+0.6*r.Float64())*(k.wrench.Most-k.wrench.Least), 5)
	return k
}

// spoil makes one thing wrong of a kit, or nothing.
func (k kit) spoil(r *rand.Rand) kit {
	switch r.IntN(8) {
	case 0:
		k.days = -1 - r.IntN(60)
	case 1:
		k.torque = unit.Round(k.wrench.Most*(1.15+0.3*r.Float64()), 5)
	case 2:
		k.torque = unit.Round(k.wrench.Least*(0.4+0.3*r.Float64()), 1)
	case 3:
		sizes := []float64{17, 19, 24, 27, 30, 32, 36, 41, 46}
		k.socket.Size = sizes[r.IntN(len(sizes))]
	case 4:
		k.socket.DriveOut = map[bool]string{true: "1", false: "3/4"}[k.socket.DriveOut == "3/4"]
	case 5:
		k.socket.Most = unit.Round(k.torque*(0.5+0.3*r.Float64()), 5)
	case 6:
		k.extension.Most = unit.Round(k.torque*(0.5+0.3*r.Float64()), 5)
	}
	return k
}

// mostDraws is how often something is drawn until it is one that can be asked.
const mostDraws = 100

func newKit(r *rand.Rand, m Material) (Flawed, error) {
	for n := range mostDraws {
		if n == mostDraws/2 {
			m = Material{} // what there is does not go together: training's does
		}
		right := rightKit(r, m)
		if row, _, err := right.fault(); err != nil || row != nothingRow {
			continue
		}
		k := right.spoil(r)
		row, why, err := k.fault()
		if err != nil {
			return Flawed{}, err
		}
		return Flawed{About: AKit, Says: fmt.Sprintf("For a bolt of %g mm across the flats, to %.4g N·m.", k.size, k.torque), Options: k.rows(),
			Right: []int{row}, Why: why, Size: k.size, Target: k.torque, Unit: unit.NewtonMetre}, nil
	}
	return Flawed{}, refusal.New(refusal.Missing, "material", "No tools here go together.", "Take another drill.")
}
