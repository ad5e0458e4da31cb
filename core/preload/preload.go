// Package preload finds the load a bolt shall carry.
package preload

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
	"dynacor/core/thread"
)

// ShareOfStrength returns F = p·R·As in N for a share p of strength r (proof
// or yield, MPa). Usual shares: 0.75 of proof for reused bolts, 0.9 for
// permanent ones, 0.4 to 0.6 of yield for gasketed flange studs.
func ShareOfStrength(t thread.Thread, r, p float64) (float64, error) {
	if err := refusal.First(refusal.Positive("strength", r, "MPa"), refusal.Positive("share", p, "")); err != nil {
		return 0, err
	}
	if p > 1 {
		return 0, refusal.Number(refusal.TooLarge, "share", p, 1, "",
			fmt.Sprintf("A share of %.4g is more than the whole strength.", p), "Enter a share of at most 100 %.")
	}
	return p * r * t.StressArea(), nil
}

// GasketArea returns π/4·(OD² − ID²), mm².
func GasketArea(outside, inside float64) (float64, error) {
	if err := refusal.First(refusal.Positive("gasket.outer", outside, "mm"), refusal.Positive("gasket.inner", inside, "mm")); err != nil {
		return 0, err
	}
	if inside >= outside {
		return 0, refusal.Number(refusal.Contradicts, "gasket.outer", outside, inside, "mm",
			fmt.Sprintf("The gasket's outside %.5g mm is not above its inside %.5g mm.", outside, inside),
			"Read both diameters off the gasket.")
	}
	return math.Pi / 4 * (outside*outside - inside*inside), nil
}

// Seating returns the load per bolt, N, that presses a gasket of area (mm²)
// to the seating stress (MPa) with n bolts (ASME PCC-1 appendix O, Sg,min-S).
func Seating(stress, area float64, n int) float64 { return stress * area / float64(n) }
