package recipe

import (
	"fmt"
	"slices"

	"dynacor/core/refusal"
)

// Axis is the line along which the parts of a joint lie, first to last; what stands
// on the ground is drawn from the ground up.
type Axis struct {
	First, Last string // what lies at its ends: gas end, fluid end
	Up          bool   // it stands: the first part lies lowest
	Text        string // how it is looked at
}

// Part is a part: where it lies, how it looks, and what of it must match the paper.
type Part struct {
	Name    string
	Match   string
	Count   int
	Family  Family // the shape it is drawn in; empty: it is listed and not drawn
	Size    int    // how wide it is beside the others, 1 to 5; zero: 3
	Inside  string // the part that it lies in, drawn over it
	Face    string // which face of it
	Toward  string // looks toward which part, or which end of the axis
	Alike   string // the set in which all marks are alike
	Text    string // what else to look at when it is placed
	Purpose string // what it is for
	When    When
}

// Family is the shape a part is drawn in.
type Family string

// The families. Each has a section of its own along the axis.
const (
	Nut         Family = "nut"
	Washer      Family = "washer"
	SpringWash  Family = "spring washer"
	PlatePart   Family = "plate"
	FlangePlate Family = "flange"
	RingPart    Family = "ring"
	ORing       Family = "o-ring"
	BackUp      Family = "back-up ring"
	Bush        Family = "sleeve"
	FlangedBush Family = "flanged sleeve"
	TaperBush   Family = "taper bush"
	Taper       Family = "taper socket"
	TwoTapers   Family = "tapered rings"
	Shaft       Family = "shaft"
	Tube        Family = "tube"
	SplitRing   Family = "split ring"
	HalfRing    Family = "half ring"
	HalfRings   Family = "two half rings"
	Stud        Family = "stud"
	Screw       Family = "screw"
	Cap         Family = "cap"
	Key         Family = "key"
	Bearing     Family = "bearing"
	Ball        Family = "ball"
	Bladder     Family = "bladder"
	Vessel      Family = "vessel"
	Ferrule     Family = "ferrule"
	Cone        Family = "cone"
	Bladed      Family = "bladed disc"
	Shell       Family = "shell"
	Lever       Family = "lever"
	Block       Family = "block"
	Beam        Family = "beam"
	Bracket     Family = "bracket"
	Band        Family = "band"
	Lobed       Family = "lobed disc"
	Socket      Family = "socket"
	Anchor      Family = "anchor"
)

// Families lists them.
func Families() []Family {
	return []Family{Nut, Washer, SpringWash, PlatePart, FlangePlate, RingPart, ORing, BackUp, Bush, FlangedBush, TaperBush, Taper, TwoTapers,
		Shaft, Tube, SplitRing, HalfRing, HalfRings, Stud, Screw, Cap, Key, Bearing, Ball, Bladder, Vessel, Ferrule, Cone, Bladed, Shell,
		Lever, Block, Beam, Bracket, Band, Lobed, Socket, Anchor}
}

// Drawn lists the parts of a variant that are drawn, first to last.
func (r Recipe) Drawn(choices map[string]string) []Part {
	var out []Part
	for _, p := range r.Parts {
		if p.Family != "" && p.When.Holds(choices) {
			out = append(out, p)
		}
	}
	return out
}

// Along names the parts of a variant that are drawn, first to last along their axis; none where their
// order cannot be told: there is no axis, one lies in another, or two have one name.
func (r Recipe) Along(choices map[string]string) []string {
	if r.Axis == nil {
		return nil
	}
	var out []string
	for _, p := range r.Drawn(choices) {
		if p.Inside != "" || slices.Contains(out, p.Name) {
			return nil
		}
		out = append(out, p.Name)
	}
	return out
}

// Part returns the part of that name in a variant.
func (r Recipe) Part(name string, choices map[string]string) (Part, bool) {
	for _, p := range r.Parts {
		if p.Name == name && p.When.Holds(choices) {
			return p, true
		}
	}
	return Part{}, false
}

// Way is where the face of a part looks: -1 toward the first end, 1 toward the last,
// 0 where nothing is said.
func (r Recipe) Way(p Part) int {
	if p.Toward == "" || r.Axis == nil {
		return 0
	}
	switch p.Toward {
	case r.Axis.First:
		return -1
	case r.Axis.Last:
		return 1
	}
	at := func(name string) int {
		return slices.IndexFunc(r.Parts, func(x Part) bool { return x.Name == name })
	}
	if at(p.Toward) < at(p.Name) {
		return -1
	}
	return 1
}

// Facing says how a part lies: "chamfer toward the shell".
func (p Part) Facing() string {
	if p.Toward == "" {
		return p.Text
	}
	out := fmt.Sprintf("%s toward the %s", p.Face, p.Toward)
	if p.Text != "" {
		out += ", " + p.Text
	}
	return out
}

// checkParts refuses a part that lies nowhere, looks toward one that is not there, or
// lies in one that is none.
func (c checker) checkParts() {
	names := map[string]bool{}
	for _, p := range c.r.Parts {
		names[p.Name] = true
	}
	if a := c.r.Axis; a != nil && (a.First == "" || a.Last == "" || a.First == a.Last) {
		c.holds(refusal.New(refusal.Missing, "axis", "The axis has no two ends.", "Name what lies first and what lies last."))
	}
	for i, p := range c.r.Parts {
		c.holds(c.part(fmt.Sprintf("parts.%d", i), p, names))
	}
}

func (c checker) part(field string, p Part, names map[string]bool) error {
	if err := named(field, "part", p.Name, false); err != nil {
		return err
	}
	if p.Count < 0 {
		return refusal.Number(refusal.Negative, field+".count", float64(p.Count), 0, "", fmt.Sprintf("%d of %s.", p.Count, p.Name), "")
	}
	return refusal.First(c.when(field+".when", p.When), c.lies(field, p, names))
}

func (c checker) lies(field string, p Part, names map[string]bool) error {
	if p.Family == "" && p.Inside == "" && p.Toward == "" {
		return nil
	}
	if c.r.Axis == nil {
		return refusal.New(refusal.Missing, field+".family", fmt.Sprintf("%q is drawn, and the recipe has no axis.", p.Name),
			"Give axis with its two ends.")
	}
	if p.Family != "" && !slices.Contains(Families(), p.Family) {
		return refusal.New(refusal.Unknown, field+".family", fmt.Sprintf("Unknown shape %q.", string(p.Family)), "Choose one from the list.")
	}
	if p.Size < 0 || p.Size > 5 {
		return refusal.Number(refusal.OutOfRange, field+".size", float64(p.Size), 5, "", fmt.Sprintf("Size %d; it goes from 1 to 5.", p.Size),
			"")
	}
	if p.Inside != "" && (!names[p.Inside] || p.Inside == p.Name) {
		return refusal.New(refusal.Unknown, field+".inside", fmt.Sprintf("%q lies in %q, which is no part.", p.Name, p.Inside),
			"Name a part of the recipe.")
	}
	if (p.Toward == "") != (p.Face == "") {
		return refusal.New(refusal.Contradicts, field+".face", fmt.Sprintf("%q says a face or where it looks, not both.", p.Name),
			"Give face and toward.")
	}
	if p.Toward != "" && p.Toward != c.r.Axis.First && p.Toward != c.r.Axis.Last && (!names[p.Toward] || p.Toward == p.Name) {
		return refusal.New(refusal.Unknown, field+".toward", fmt.Sprintf("The %s of %q looks toward %q, which is not there.", p.Face, p.Name,
			p.Toward), "Name a part, or an end of the axis.")
	}
	return nil
}
