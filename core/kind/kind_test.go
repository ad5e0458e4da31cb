package kind_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/kind"
	"dynacor/core/pass"
	"dynacor/core/proof"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

func named(t *testing.T, name string) kind.Kind {
	k, err := kind.Named(name)
	require.NoError(t, err)
	return k
}

func TestEveryKindIsWhole(t *testing.T) {
	seen := map[string]bool{}
	for _, k := range kind.All() {
		require.False(t, seen[k.Name], k.Name)
		seen[k.Name] = true
		require.NotEmpty(t, k.Proofs, k.Name)
		require.Equal(t, len(k.Orders) > 0, k.Against != "", k.Name)
		require.Equal(t, len(k.Orders) > 0, k.School != "", k.Name)
		if k.School != "" {
			_, err := pass.SchoolNamed(k.School)
			require.NoError(t, err, k.Name)
		}
		for _, p := range append(k.Proofs, k.Optional...) {
			require.Contains(t, proof.Requirements(), p, k.Name)
		}
	}
	require.Len(t, seen, 21)
	_, err := kind.Named("knot")
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown, Field: "kind"})
}

func TestTheKindsOwnOrder(t *testing.T) {
	for _, c := range []struct {
		kind string
		n    int
		want sequence.Pattern
	}{
		{"gasketed pipe flange", 12, sequence.Cross4}, {"gasketed pipe flange", 16, sequence.Apart4},
		{"gasketed pipe flange", 24, sequence.Apart4}, {"gasketed pipe flange", 18, sequence.Star}, {"gasketed pipe flange", 10,
			sequence.Star}, {"clamping disc on a hollow shaft", 12,
			sequence.Circular},
		{"taper-bush hub", 3, sequence.Circular}, {"two-bolt hose clamp", 2, sequence.Alternating}, {"structural splice", 12,
			sequence.CentreOut}, {"wheel or hub nuts", 5, sequence.Star},
	} {
		p, ok := named(t, c.kind).Order(c.n)
		require.True(t, ok, c.kind)
		require.Equal(t, c.want, p, c.kind)
	}
	for name, n := range map[string]int{"single large nut": 1, "two-bolt hose clamp": 4, "gasketed pipe flange": 2} {
		_, ok := named(t, name).Order(n)
		require.False(t, ok, name)
	}
}

func TestAnotherOrderIsWarnedAndWantsAReason(t *testing.T) {
	disc := named(t, "clamping disc on a hollow shaft")
	w, against := disc.Warn(sequence.Cross4)
	require.True(t, against)
	require.Contains(t, w, "tilts")
	require.ErrorIs(t, disc.CheckReason(sequence.Cross4, ""), &refusal.Error{Code: refusal.NeedsReason, Field: "order"})
	require.NoError(t, disc.CheckReason(sequence.Cross4, "the maker's sheet for this size"))
	require.NoError(t, disc.CheckReason(sequence.Backward, ""))
	_, against = named(t, "gasketed pipe flange").Warn(sequence.Circular)
	require.True(t, against)
	_, against = named(t, "single large nut").Warn(sequence.Circular)
	require.False(t, against)
}

func ExampleKind_Warn() {
	k, _ := kind.Named("clamping disc on a hollow shaft")
	w, _ := k.Warn(sequence.Star)
	fmt.Println(w)
	// Output: A cross tilts the disc, and a tilted disc does not clamp.
}
