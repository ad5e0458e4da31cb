package recipe

import (
	"fmt"

	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

// Grid is how the bolts of a plate lie: numbered row by row, with their pitches
// along a row and between rows, mm.
type Grid struct {
	Rows, Cols   int
	Across, Down float64
}

// GridOf lays n bolts out in rows, and as square as n allows where rows is zero,
// at pitches that are alike where they are zero. It refuses rows that leave
// bolts over, and one pitch without the other.
func GridOf(n, rows int, across, down float64) (Grid, error) {
	g := Grid{Rows: rows, Across: across, Down: down}
	if rows == 0 {
		g.Rows, _ = sequence.Square(n)
	}
	if g.Rows < 1 || n < 1 || n%g.Rows != 0 {
		return Grid{}, refusal.Number(refusal.Contradicts, "rows", float64(rows), float64(n), "rows",
			fmt.Sprintf("%d bolts in %d rows leave some over.", n, rows), "Count the rows.")
	}
	g.Cols = n / g.Rows
	if across == 0 && down == 0 {
		g.Across, g.Down = 1, 1
		return g, nil
	}
	return g, refusal.First(refusal.Positive("across", across, "mm"), refusal.Positive("down", down, "mm"))
}
