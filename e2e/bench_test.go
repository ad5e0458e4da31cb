package e2e

import (
	"encoding/json"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
	"dynacor/internal/trying"
)

// bench opens the Bench on a joint and waits until its ways were tried.
func (u *user) bench(tag string) string {
	id := u.s.query("select id::text from joints where tag = $1", tag)[0]
	u.MustNavigate(u.s.url("/joint/" + id + "/1"))
	u.el("main svg")
	u.press(input.KeyG)
	u.press(input.KeyB)
	u.el("[data-trial=done]")
	u.el("[data-outcome='1']")
	return id
}

// The bonnet's three ways are compared, gone through pull by pull, one is changed and taken; it is
// issued, and the plan says what it was compared with.
func TestTheBonnetIsTried(t *testing.T) {
	s := open(t)
	u := s.signIn("edda")
	id := u.bench("IV-2 / BONNET")
	require.Len(t, u.MustElements("[data-way] svg[data-ring]"), 3)
	u.sees("[data-outcome='1'] th", `30-60-100.*planned`)
	u.sees("[data-outcome='2'] td:last-child", "A plan cannot carry it")

	// Pull by pull: by the keyboard, and it plays.
	u.el("[role=slider]").MustFocus()
	u.press(input.Home)
	u.el("[data-way='1'] svg[data-ring='0']")
	u.sees("[data-way='1']", "Every nut is finger tight")
	u.press(input.ArrowRight)
	u.el("[data-way='1'] svg[data-ring='1']")
	u.sees("[data-way='2']", "25 %")
	u.sees("button", "^Play").MustClick()
	u.el("[data-way='3'] svg[data-ring='5']")
	u.sees("button", "^Pause").MustClick()

	// The second way is changed to one that a plan carries.
	u.el("[data-way='2'] button").MustClick()
	u.sees("[role=menuitem]", "Change this way").MustClick()
	u.el("[role=dialog] select").MustSelect("20-60-100")
	u.sees("[role=dialog]", "usual for soft and fibre gaskets")
	u.sees("[role=dialog] button", "Try it so").MustClick()
	u.sees("[data-outcome='2'] th", "20-60-100")
	u.el("[data-trial=done]")
	u.el("[data-take='2']").MustClick()
	u.sees("[role=status]", "Its stages and order are in the draft")
	u.sees("a", "To the plan").MustClick()
	u.sees("h2", "Taken from the Bench: 20-60-100")
	u.sees("section", "A help, and no permission")
	require.Equal(t, []string{"20-60-100|3"}, s.query(
		`select input::jsonb -> 'groups' -> 'bolts' ->> 'stages', jsonb_array_length(input::jsonb -> 'groups' -> 'bolts' -> 'compared' -> 'ways')
		from drafts where joint = $1`, id))

	u.sees("button", "^Issue the plan$").MustClick()
	u.el("[role=dialog] textarea").MustInput("Fewer pulls tried on the Bench.")
	u.pin("^Issue$")
	u.MustWait("() => !document.querySelector('[role=dialog]')")
	u.sees("label", "^the plan$").MustClick()
	u.sees("b", "^Plan 2")
	u.sees("h2", "Taken from the Bench: 20-60-100")
	require.Equal(t, []string{"2|20-60-100"}, s.query(`
		select revision, input::jsonb -> 'groups' -> 'bolts' -> 'compared' -> 'ways' -> 1 -> 'way' ->> 'school'
		from plans where joint = $1 order by revision desc limit 1`, id))
}

// A made-up ring is tried without a joint; what cannot be is refused with the number and the limit, beside its field, and
// what was typed stays.
func TestAMadeUpRingIsTried(t *testing.T) {
	s := open(t)
	u := s.signIn("jonas")
	u.MustNavigate(s.url("/bench"))
	u.el("[data-trial=done]")
	u.sees("header", "a made-up ring")
	require.Empty(t, u.MustElements("[data-take]"))
	u.sees("label", "what it rests on").MustClick()
	bolts := u.el("input[aria-label=Bolts]")
	bolts.MustSelectAllText().MustInput("10000")
	u.sees("main", `10000 bolts; a ring of 4 to 200 is tried`)
	bolts.MustSelectAllText().MustInput("20")
	u.MustWait(`() => !document.querySelector("main").textContent.includes("a ring of 4 to 200") &&
		document.querySelectorAll("[data-way='1'] [data-bolt]").length == 20`)
	lowest := u.el("[role=group][aria-label^='Scatter of friction'] input")
	lowest.MustSelectAllText().MustInput("0")
	u.sees("main [role=alert]", `Scatter of friction: 0; 0\.01 to 0\.8 is tried`)
	require.Equal(t, "0", lowest.MustProperty("value").String())
	u.sees("button", "As it was").MustClick()
	u.MustWait("() => !document.querySelector('main [role=alert]')")

	u.sees("label", "a better way").MustClick()
	u.el("[data-find]").MustClick()
	u.sees("h3", "Fewest pulls until the middle joint is that even")
	u.sees("h3", "One single pass")
	u.sees("label", "pull by pull").MustClick()
	u.el("svg.recharts-surface path.recharts-line-curve")
	u.axe()
	require.Empty(t, u.MustEval(faults, everything).Arr())
}

// The model in the browser says what the server says, to the last digit; it is there without a network; and when it dies
// the page says so and goes on.
func TestTheBenchIsTheCore(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	u.bench("IV-2 / BONNET")
	var j contract.BenchJoint
	require.NoError(t, json.Unmarshal([]byte(u.api("/api/joints/"+s.query("select id::text from joints where tag = 'IV-2 / BONNET'")[0]+
		"/bench")), &j))
	for _, what := range []string{"begin", "try", "better"} {
		var body any
		start, err := trying.Ask("begin", must(json.Marshal(contract.BenchBegin{Subject: j.Rings[0].Subject, Way: j.Rings[0].Way})))
		require.NoError(t, err)
		switch what {
		case "begin":
			body = contract.BenchBegin{Subject: j.Rings[0].Subject, Way: j.Rings[0].Way}
		case "try":
			body = contract.BenchTry{Subject: j.Rings[0].Subject, Ways: start.(contract.BenchStart).Ways, Runs: 2000, Seed: 11}
		case "better":
			body = contract.BenchBetter{Subject: j.Rings[0].Subject, Even: 1.1, Rounds: 5, Runs: 1000, Seed: 11, Order: "cross4"}
		}
		asked := must(json.Marshal(body))
		here, err := trying.Ask(what, asked)
		require.NoError(t, err)
		there := u.MustEval(model, what, string(asked)).Str()
		require.Equal(t, string(must(json.Marshal(map[string]any{"is": here}))), there, what)
	}
}

// Where the module cannot be had the page says so and goes on: begun anew, it is there. Once it was there, it is there
// without a network, too.
func TestTheBenchWithoutItsModule(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	router := u.HijackRequests()
	router.MustAdd("*/assets/bench-*.wasm", func(h *rod.Hijack) { h.Response.Fail(proto.NetworkErrorReasonConnectionFailed) })
	go router.Run()
	u.MustNavigate(s.url("/bench"))
	u.sees("h2", "The model has stopped")
	u.sees("header a", "Wall")
	router.MustStop()
	u.sees("button", "Begin it anew").MustClick()
	u.el("[data-trial=done]")
}

// A joint that was taken along is tried without a server, by the module that was there before.
func TestTheBenchWithoutAServer(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	u.opens("IV-2 / BONNET", 3)
	u.el("[data-along=away]").MustClick()
	u.sees("[data-along=here]", "Here, ")
	id := u.bench("IV-2 / BONNET")
	s.kill()
	u.MustNavigate(s.url("/bench/" + id))
	u.el("[data-trial=done]")
	u.sees("header", "IV-2 / BONNET")
	u.el("[data-take='1']").MustClick()
	u.sees("main [role=alert]", "The server cannot be reached; this is not stored yet")
	u.el("[data-outcome='3']")
}

// model asks the module of the Bench, in a worker as the page's own is.
const model = `async (what, body) => {
	const url = performance.getEntriesByType("resource").map(r => r.name).find(n => /\/assets\/model-[^/]+\.js$/.test(n))
	const worker = new Worker(url, { type: "module" })
	const answer = await new Promise((answered, died) => {
		worker.onmessage = e => answered(e.data)
		worker.onerror = e => died(e.message)
		worker.postMessage({ no: 1, what, body })
	})
	worker.terminate()
	return answer.said ?? answer.failed
}`

func must(b []byte, err error) []byte {
	if err != nil {
		panic(err)
	}
	return b
}

// A signed run is put through the model: pull by pull, what its round brought and one more would have, and what its
// readings say; its numbers and its picture can be kept.
func TestASignedRunIsReplayed(t *testing.T) {
	s := open(t)
	u := s.signIn("ines")
	id := s.query("select id::text from joints where tag = 'PS-1 / MANWAY'")[0]
	u.MustNavigate(s.url("/bench/" + id))
	u.sees("h2", "As it was made, by plan 1")
	u.el("svg[data-ring='80']")
	require.Len(t, u.MustElements("[data-gone] tbody tr"), 3)
	u.sees("[data-gone] tr", "round 1[^]*0 of 20")
	u.sees("[data-gone] tr[data-made=false]", "one more round")
	u.sees("p", "One more check round would")
	u.sees("section", "0 turns or residual torques were read; 4 are needed to fit to")
	u.el("[role=slider]").MustFocus()
	u.press(input.Home)
	u.press(input.ArrowRight)
	u.sees("[data-way=made]", "30 %")
	u.el("[data-way=made] svg[data-ring='1']")
	// Beside it, what might have been: ways are compared as before it was made.
	u.sees("label", "compared").MustClick()
	u.el("[data-outcome='3']")
	file := u.saved(func() { u.el("[data-save=csv]").MustClick() })
	require.Contains(t, file, "way,order,start,tools,pulls low,pulls likely")
	require.Contains(t, file, "30-70-100,apart4,1,1,")
	u.el("[data-way='1'] button").MustClick()
	picture := u.saved(func() { u.sees("[role=menuitem]", "Save the picture").MustClick() })
	require.Contains(t, picture, `xmlns="http://www.w3.org/2000/svg"`)
	require.NotContains(t, picture, "var(--", "a file has no style sheet")
}

// saved is the text of a file that an act lets be kept.
func (u *user) saved(act func()) string {
	u.MustEval(`() => {
		window.savedFile = undefined
		const make = URL.createObjectURL
		URL.createObjectURL = blob => { void blob.text().then(t => { window.savedFile = t }); return make.call(URL, blob) }
	}`)
	act()
	u.MustWait("() => window.savedFile !== undefined")
	return u.MustEval("() => window.savedFile").Str()
}
