// Package views shows what a run is in the words of the contract, and reads what it asks for:
// for the server’s answers, and for those of a device that has the joint with it.
package views

import (
	"dynacor/internal/id"

	"dynacor/core/figure"
	"dynacor/core/unit"
	"dynacor/internal/contract"
)

// Each writes a list as another; one that is not there as an empty one.
func Each[A, B any](list []A, view func(A) B) []B {
	out := make([]B, len(list))
	for i, x := range list {
		out[i] = view(x)
	}
	return out
}

// OrNone writes a list that is not there as an empty one.
func OrNone[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// ParseID reads an identity; one that is none is zero.
func ParseID(s string) id.UUID {
	id, _ := id.Parse(s) // ids of entries come from the database as UUIDs
	return id
}

// Quantity is a number with its unit.
func Quantity(q unit.Quantity) contract.Quantity {
	return contract.Quantity{Value: q.Value, Unit: string(q.Unit)}
}

// FromQuantity reads one.
func FromQuantity(q contract.Quantity) unit.Quantity { return unit.Of(q.Value, unit.Unit(q.Unit)) }

// Figure is a drawing.
func Figure(f figure.Figure) contract.Figure {
	return contract.Figure{Clock: f.Clock,
		Shapes: Each(f.Shapes, func(x figure.Shape) contract.FigureShape {
			return contract.FigureShape{Role: contract.FigureShapeRole(x.Role), X: tenth(x.X), Y: tenth(x.Y), R: tenth(x.R), W: tenth(x.W),
				H: tenth(x.H)}
		}),
		Bolts: Each(f.Bolts, func(b figure.Place) contract.FigureBolt {
			return contract.FigureBolt{Group: b.Group, Bolt: b.Bolt, X: tenth(b.X), Y: tenth(b.Y), R: tenth(b.R)}
		}),
		Labels: Each(f.Labels, func(l figure.Label) contract.FigureLabel {
			return contract.FigureLabel{Text: l.Text, X: tenth(l.X), Y: tenth(l.Y)}
		})}
}

// tenth rounds a coordinate; a drawing shows no more, and no zero below zero.
func tenth(v float64) float64 { return unit.Round(v, 0.1) + 0 }
