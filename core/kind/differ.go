package kind

// Difference is a question that practitioners answer differently: the sides,
// what each is good for and risks, and what is taken here unless another is
// chosen, and why. From practice, ISO 898-1 and VDI 2230 (friction, part turn),
// ASME PCC-1 (orders, rounds) and EN 1090-2 (structural work).
type Difference struct {
	ID       string // stages, orders, labels: what a sentence links to
	Question string
	Sides    []Side
	Ours     string
}

// Side is one answer.
type Side struct {
	Name string
	Good string
	Risk string
}

// Differences lists them. The schools of staging, which are many, are the
// package pass's.
func Differences() []Difference {
	return []Difference{
		{"orders", "Across, or round?", []Side{
			{"Cross or star", "Draws a gasketed ring or a cover down evenly: what one pull opens on the far side, the next closes.",
				"Tilts what must slide home square: a clamping disc that is crossed no longer clamps."},
			{"Round and round", "Clamping discs and taper bushes: small, equal steps, so that both halves stay parallel.",
				"Closes one side of a gasketed ring first; the gasket is crushed there and open opposite."},
			{"From the middle outward", "Plates and splices: the stiff middle closes first and pushes the gap out to the edge.",
				"Nothing against it on plates; on a ring it has no middle to begin with."},
		}, "The kind decides. Another order can be taken, with the engineer’s reason, which stands first on the record."},
		{"quarters", "Four quarters or eight eighths?", []Side{
			{"Four at 90°, then their neighbours", "Easy to walk and to remember; enough for ordinary rings.",
				"On a large, soft ring the stretch between two pulls is long."},
			{"Eight at 45°", "Shorter stretches on rings of 24 bolts and more.",
				"More walking; the place is lost more easily without a list."},
		}, "Four quarters where the count allows it, star where it does not; eight eighths can be chosen for a multiple of eight."},
		{"labels", "Which number is written on the bolts?", []Side{
			{"The position, clockwise from the top", "It is stamped once and holds for every order and every later run.",
				"The order has to be read from a list or a screen."},
			{"The turn order", "The ring itself says what is next; no list is needed.",
				"Another order, or the loosening, needs other numbers; two sets on one flange mislead."},
		}, "The record goes by position. Lay out and Tighten show either; the printed drawing takes the one you choose."},
		{"lubrication", "Dry or lubricated?", []Side{
			{"Lubricated, on thread and nut face",
				"Less scatter: the same torque gives more nearly the same load, and threads do not gall.",
				"Lubricant on a value written for dry threads overloads the bolt by half, or more."},
			{"Dry", "Where the maker says so: clamps, clamping seats, wheel nuts. Nothing runs onto a seat that must hold by friction.",
				"Wide scatter; stainless galls; the second tightening is not like the first."},
		}, "The condition belongs to the torque. Nothing is converted silently: the load that would come is shown, the equivalent torque " +
			"is offered, an engineer decides."},
		{"rounds", "How many check rounds?", []Side{
			{"Until a whole round moves nothing", "The only sign on the joint itself that every bolt holds at the value.",
				"Takes as long as it takes; more than five rounds mean that something gives."},
			{"One round, always", "Can be planned.", "A nut that moved in it has unloaded its neighbours, and nobody looks again."},
		}, "Until nothing moves; after five rounds that moved a nut the work stops and asks an engineer."},
		{"method", "Part turn or torque?", []Side{
			{"Torque of the lot", "One tool, one number; can be checked afterwards on a sample.",
				"Friction of the lot decides; weather and storage change it."},
			{"Part turn from snug", "Hardly depends on friction: the turn is the stretch.",
				"Snug must be snug, or the turn only closes a gap; beyond long bolts it is not tabled."},
			{"Turns alone", "Tube fittings: the sharp rise of force says when it is home.",
				"More is not better: the ferrule is cut, not seated."},
		}, "Structural splices offer both; tube fittings go by turns; everything else by torque."},
		{"reach", "Multiplier or long bar?", []Side{
			{"Multiplier with its reaction arm", "The value is set on a calibrated wrench, divided by the ratio on the plate.",
				"The arm needs a point that cannot give, and fingers stay out from between."},
			{"A bar of computed length", "Always at hand.", "Hand force and angle make the value a guess; a slip throws whoever pulls."},
		}, "The multiplier. A bar is not offered."},
		{"ferrules", "Tube fittings: in a block first, or in the body at once?", []Side{
			{"A full turn in a block, opened and looked at, then a quarter turn in the body",
				"The grip is seen before it is hidden; the body’s cone is used once.",
				"A block that is worn spoils every fitting made in it."},
			{"One and a quarter turns in the body", "Quick; no block to carry.", "Nobody has seen the ferrules."},
		}, "In a block first; the other is a variant of the recipe."},
	}
}
