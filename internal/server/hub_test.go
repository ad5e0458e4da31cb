package server

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestEveryScreenHearsEveryNotice(t *testing.T) {
	h := NewHub()
	a, ok := h.Join()
	require.True(t, ok)
	b, ok := h.Join()
	require.True(t, ok)
	h.send("j 1")
	require.Equal(t, "j 1", <-a)
	require.Equal(t, "j 1", <-b)
	h.Leave(a)
	h.send("j 2")
	require.Equal(t, "j 2", <-b)
	require.Empty(t, a)
}

// A screen that cannot keep up is told to look at everything again, and keeps
// nobody else waiting.
func TestASlowScreenAsksForEverything(t *testing.T) {
	h := NewHub()
	slow, _ := h.Join()
	for i := range 3 * cap(slow) {
		h.send(fmt.Sprint("j ", i))
	}
	heard := map[string]bool{}
	for len(slow) > 0 {
		heard[<-slow] = true
	}
	require.True(t, heard["all"])
}

func TestClosingEndsTheStreams(t *testing.T) {
	h := NewHub()
	c, _ := h.Join()
	h.close()
	_, open := <-c
	require.False(t, open)
	_, ok := h.Join()
	require.False(t, ok, "nobody joins a hub that is closing")
	h.send("j 1") // and telling it does no harm
	h.Leave(c)
}
