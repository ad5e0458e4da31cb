package e2e

import (
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/bench"
	"dynacor/internal/contract"
	"dynacor/internal/trying"
)

// manyTries asks the module so often, in one worker, and says how long each took, ms: the first from
// the worker's begin on, with the module loaded and compiled.
const manyTries = `async (body, times) => {
	const url = performance.getEntriesByType("resource").map(r => r.name).find(n => /\/assets\/model-[^/]+\.js$/.test(n))
	const took = []
	let start = performance.now()
	const worker = new Worker(url, { type: "module" })
	for (let no = 1; no <= times; no++) {
		await new Promise(done => {
			worker.onmessage = done
			worker.postMessage({ no, what: "try", body })
		})
		took.push(performance.now() - start)
		start = performance.now()
	}
	worker.terminate()
	return took
}`

// How long 2,000 joints of 24 bolts take in Chromium, made by three ways; and how large the module is.
func TestMeasureBench(t *testing.T) {
	measured(t)
	s := open(t)
	u := s.signIn("marta")
	u.MustNavigate(s.url("/bench"))
	u.el("[data-trial=done]")
	ring := bench.MadeUp()
	ring.Bolts, ring.Circle = 24, bench.CircleOf(24, 24)
	body := must(json.Marshal(contract.BenchTry{Subject: trying.SubjectView(ring), Runs: bench.UsualRuns, Seed: 1,
		Ways: waysOf(bench.Worth(24, bench.UsualWay(24)))}))
	var took []float64
	require.NoError(t, u.MustEval(manyTries, string(body), 12).Unmarshal(&took))
	first, rest := took[0], took[1:]
	slices.Sort(rest)
	modules, err := filepath.Glob(filepath.Join("..", "web", "dist", "app", "assets", "bench-*.wasm.br"))
	require.NoError(t, err)
	info, err := os.Stat(modules[0])
	require.NoError(t, err)
	t.Logf("2,000 joints of 24 bolts, 3 ways, in Chromium: %.0f ms the first time with the module loaded, then median %.0f, worst %.0f ms; "+
		"the module is %d bytes packed", first, rest[len(rest)/2], rest[len(rest)-1], info.Size())
}

func waysOf(list []bench.Way) []contract.BenchWay {
	out := make([]contract.BenchWay, len(list))
	for i, w := range list {
		out[i] = trying.WayView(w)
	}
	return out
}
