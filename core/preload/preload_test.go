package preload_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/preload"
	"dynacor/core/thread"
)

func TestGasketAreaRefusesAnInsideOutGasket(t *testing.T) {
	a, err := preload.GasketArea(480, 420)
	require.NoError(t, err)
	require.InDelta(t, 42411.5, a, 0.1)
	for _, c := range [][2]float64{{100, 100}, {100, 120}, {0, 0}, {100, -1}} {
		_, err := preload.GasketArea(c[0], c[1])
		require.Error(t, err, "%v", c)
	}
}

func ExampleShareOfStrength() {
	t, _ := thread.Parse("M20")
	f, _ := preload.ShareOfStrength(t, 600, 0.75)
	fmt.Printf("%.1f kN\n", f/1000)
	// Output: 110.2 kN
}
