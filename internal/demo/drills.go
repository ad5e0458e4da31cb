package demo

import (
	"context"
	"time"

	"dynacor/core/drill"
)

// practice is what somebody did on the Bench: so many days ago, and how many of its tasks went wrong.
var practice = []struct {
	ago   float64
	kind  drill.Kind
	wrong int
}{
	{19.3, drill.SetIt, 2}, {19.1, drill.NextBolt, 0}, {18.2, drill.SetIt, 0}, {16.9, drill.NextBolt, 0}, {15.4, drill.SetIt, 0},
	{12.3, drill.Parts, 3}, {11.4, drill.Parts, 1}, {9.2, drill.ReadIt, 0}, {7.1, drill.ReadIt, 0}, {5.3, drill.Wrong, 2},
	{4.2, drill.Wrong, 1}, {3.3, drill.Parts, 0}, {2.1, drill.Convert, 1}, {0.9, drill.Convert, 0}, {0.8, drill.Wrong, 0},
}

// drills are the goes at drills of one who practises.
func (l *loader) drills(ctx context.Context) error {
	piet := l.who("piet")
	for _, x := range practice {
		l.clock = l.now.Add(-time.Duration(x.ago * 24 * float64(time.Hour)))
		g, err := l.app.BeginDrill(ctx, piet, x.kind)
		if err != nil {
			return err
		}
		answers := make([]drill.Answer, drill.Tasks)
		for i := range answers {
			task, err := drill.New(x.kind, g.Seed+uint64(i), g.Material.Material)
			if err != nil {
				return err
			}
			is, err := task.Judge(drill.Answer{})
			if err != nil {
				return err
			}
			if answers[i] = (drill.Answer{Value: is.Right, Order: is.Order}); i < x.wrong {
				answers[i] = drill.Answer{Value: -1}
			}
		}
		l.pass(120, 240)
		if _, err := l.app.EndDrill(ctx, piet, g.ID, answers); err != nil {
			return err
		}
	}
	return nil
}
