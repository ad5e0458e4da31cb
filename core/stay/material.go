package stay

import (
	"fmt"

	"dynacor/core/refusal"
)

// Material is what clamped parts are of. Modulus, Tensile and Bears are in MPa, Expands
// in 1/K. They are starting values of ours, at the careful end of what tables give
// (VDI 2230 table A9, EN 1993-1-1); the maker's replace them.
type Material struct {
	Name    string
	Modulus float64
	Expands float64
	Tensile float64 // of the thread in it
	Bears   float64 // pressure that it takes under a head
}

// Materials lists them, steel first.
func Materials() []Material {
	return []Material{
		{"steel", 205_000, 11.5e-6, 360, 490},
		{"stainless steel", 195_000, 16.5e-6, 500, 460},
		{"cast iron", 110_000, 10.5e-6, 250, 600},
		{"ductile iron", 169_000, 11.0e-6, 400, 480},
		{"aluminium", 70_000, 23.0e-6, 200, 200},
	}
}

// MaterialNamed returns the material of that name; an empty one is steel.
func MaterialNamed(name string) (Material, error) {
	for _, m := range Materials() {
		if m.Name == name || name == "" {
			return m, nil
		}
	}
	return Material{}, refusal.New(refusal.Unknown, "material", fmt.Sprintf("Unknown material %q.", name), "Choose one from the list.")
}

// Finish is how rough the faces of a joint are.
type Finish string

// The finishes, by the mean roughness depth Rz of turned, milled and rough faces.
const (
	Fine   Finish = "fine"   // below 10 µm
	Usual  Finish = "usual"  // 10 to 40 µm
	Coarse Finish = "coarse" // 40 to 160 µm
)

// Settles returns by how much a joint settles once it is made, µm: its thread, the
// two faces of head and nut, and so many faces between the parts, pulled along the
// bolt (VDI 2230, guide values for steel).
func Settles(f Finish, between int) (float64, error) {
	if between < 0 || between > 20 {
		return 0, refusal.Number(refusal.OutOfRange, "faces", float64(between), 20, "faces",
			fmt.Sprintf("%d faces between the parts; 0 to 20 are counted.", between), "Count where two parts meet.")
	}
	var inThread, underHead, inner float64
	switch f {
	case Fine:
		inThread, underHead, inner = 3, 2.5, 1.5
	case Usual:
		inThread, underHead, inner = 3, 3, 2
	case Coarse:
		inThread, underHead, inner = 3, 4, 3
	default:
		return 0, refusal.New(refusal.Unknown, "finish", fmt.Sprintf("Unknown finish %q.", string(f)), "Choose fine, usual or coarse.")
	}
	return inThread + 2*underHead + inner*float64(between), nil
}
