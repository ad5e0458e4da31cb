package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"net/http"
	"os"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
	"dynacor/internal/demo"
	"dynacor/internal/server"
)

// A hundred wrong PINs at once are a hundred tries: five are looked at, the others wait.
func TestManyWrongPinsAtOnce(t *testing.T) {
	s := open(t)
	var mu sync.Mutex
	codes := map[string]int{}
	var all sync.WaitGroup
	for i := range 100 {
		all.Go(func() {
			code := s.visitor().signsIn("marta", fmt.Sprintf("wrong%d", i)).problem(t).Code
			mu.Lock()
			defer mu.Unlock()
			codes[code]++
		})
	}
	all.Wait()
	require.Equal(t, map[string]int{"wrong-pin": 5, "too-many-tries": 95}, codes)
	a := s.visitor().signsIn("marta", demo.Pin)
	require.Equal(t, http.StatusTooManyRequests, a.status)
	require.NotEmpty(t, a.header.Get("Retry-After"))
}

// Who guesses somebody's PIN at the sign-in does not keep them from signing where they
// are signed in; and their own wrong PINs in signing do not lock their sign-in.
func TestAStrangersTriesDoNotStopASignature(t *testing.T) {
	s := open(t)
	edda := s.as("edda")
	for range 7 {
		require.NotEqual(t, http.StatusOK, s.visitor().signsIn("edda", "0000").status)
	}
	require.Equal(t, "too-many-tries", s.visitor().signsIn("edda", demo.Pin).problem(t).Code)
	chooses := func(old, pin string) answer { return edda.do("PUT", "/api/session/pin", given{"old": old, "pin": pin}) }
	require.Equal(t, http.StatusNoContent, chooses(demo.Pin, "258014").status)
	for range 5 {
		require.Equal(t, "wrong-pin", chooses("0000", "369258").problem(t).Code)
	}
	require.Equal(t, "too-many-tries", chooses("258014", "369258").problem(t).Code)
	s.exec("update failed_pins set at = at - interval '20 minutes'")
	require.Equal(t, http.StatusNoContent, chooses("258014", "369258").status, "pauses end")
}

// What others get wrong from the same address does not lengthen the pause of a name; too
// much of it from one address stops that address, and no other.
func TestWrongPinsFromOneAddress(t *testing.T) {
	s := openWith(t, server.Options{Proxies: []string{"127.0.0.1"}})
	from := func(address, login, pin string) answer {
		return s.visitor().do("POST", "/api/session", given{"login": login, "pin": pin}, "X-Forwarded-For", address)
	}
	for range 5 {
		require.Equal(t, "wrong-pin", from("10.0.0.9", "marta", "0000").problem(t).Code)
	}
	s.exec("update failed_pins set at = at - interval '2 minutes'")
	require.Equal(t, "wrong-pin", from("10.0.0.9", "nobody", "0000").problem(t).Code)
	require.Equal(t, http.StatusOK, from("10.0.0.9", "marta", demo.Pin).status, "her minute is over")
	s.exec("insert into failed_pins (login, at, address) select 'x' || n, now(), '10.0.0.9' from generate_series(1, 60) n")
	require.Equal(t, "too-many-tries", from("10.0.0.9", "ines", demo.Pin).problem(t).Code)
	require.Equal(t, http.StatusOK, from("10.0.0.10", "ines", demo.Pin).status)
	require.Equal(t, http.StatusOK, s.visitor().do("POST", "/api/session", given{"login": "jonas", "pin": demo.Pin}).status)
}

// Text that is not what it looks like is refused wherever it comes from; what people
// write is taken, in whatever script.
func TestHiddenCharactersAreRefused(t *testing.T) {
	s := open(t)
	ruth := s.as("ruth")
	send := func(raw string) answer { return ruth.do("POST", "/api/site/areas", raw) }
	for _, raw := range []string{`{"name":"a\u0000b"}`, `{"name":"a\u001bb"}`, "{\"name\":\"a\u202eb\"}", `{"name":"a\u2066b"}`,
		"{\"name\":\"a\u0085\"}",
		"{\"name\":\"a\xffb\"}", "{\"name\":\"\ufeffa\"}", `{"na\u0000me":"a"}`} {
		require.Equal(t, "invalid", send(raw).problem(t).Code, "%q", raw)
	}
	for _, path := range []string{"/api/crib/a%00b/life", "/api/joints/%E2%80%AE", "/api/library/x%1b/json"} {
		require.Equal(t, http.StatusBadRequest, ruth.do("GET", path, nil).status, path)
	}
	for _, name := range []string{"Pump room 𝟚 🔩", "Поле 3", "水門"} {
		body, err := json.Marshal(given{"name": name})
		require.NoError(t, err)
		require.Equal(t, http.StatusNoContent, send(string(body)).status, name)
	}
}

// What is answered is kept by nobody's browser, and over TLS nothing else is spoken.
func TestWhatBrowsersAreTold(t *testing.T) {
	s := open(t)
	a := s.as("marta").do("GET", "/api/wall", nil)
	require.Equal(t, "no-store", a.header.Get("Cache-Control"))
	require.Empty(t, a.header.Get("Strict-Transport-Security"))
	safe := openWith(t, server.Options{SecureCookie: true})
	require.Contains(t, safe.visitor().do("GET", "/", nil).header.Get("Strict-Transport-Security"), "max-age=")
}

// badBodies is how many bodies each route is sent; DYNACOR_BAD_BODIES says another.
const badBodies = 120

// Whatever is sent to a route that takes something, it is taken or refused: no route
// breaks over it. The bodies are of the contract's shapes with one thing or more in them
// that is not.
func TestNoBodyBreaksTheServer(t *testing.T) {
	n := badBodies
	if v, err := strconv.Atoi(os.Getenv("DYNACOR_BAD_BODIES")); err == nil {
		n = v
	}
	spec, err := contract.GetSpec()
	require.NoError(t, err)
	s := open(t)
	s.exec("update people set roles = '{fitter,inspector,engineer,planner,crib keeper,administrator}' where login = 'tomas'")
	tomas := s.as("tomas")
	j := tomas.get("IV-2 / BONNET")
	at := map[string]string{"{joint}": j.ID.String(), "{run}": j.Run.ID.String(), "{tool}": "TW-04", "{recipe}": "gasketed-flange",
		"{kind}": "lubricant", "{format}": "json", "{person}": member(t, tomas, "sefa").ID.String(),
		"{area}": room(t, tomas).Areas[0].ID.String()}
	sent := 0
	for _, path := range slices.Sorted(maps.Keys(spec.Paths.Map())) {
		for _, method := range slices.Sorted(maps.Keys(spec.Paths.Value(path).Operations())) {
			op := spec.Paths.Value(path).GetOperation(method)
			if op.RequestBody == nil {
				continue
			}
			m := maker{rand.New(rand.NewPCG(7, uint64(len(path))))}
			schema := op.RequestBody.Value.Content.Get("application/json").Schema
			address := path
			for name, id := range at {
				address = strings.ReplaceAll(address, name, id)
			}
			rounds := n
			if strings.HasPrefix(path, "/api/session") {
				rounds = 10 // each hashes a PIN, and too many are refused
			}
			for range rounds {
				raw := m.body(schema)
				got := tomas.do(method, address, raw)
				require.Less(t, got.status, 500, "%s %s with %.300s: %s", method, path, raw, got.body)
				sent++
			}
		}
	}
	require.Greater(t, sent, 20*min(n, badBodies))
	require.Equal(t, http.StatusOK, tomas.do("GET", "/api/wall", nil).status, "all that was taken can be read again")
	require.Equal(t, http.StatusOK, tomas.do("GET", "/api/joints/"+j.ID.String(), nil).status)
}

// maker makes bodies of a schema, bent.
type maker struct{ *rand.Rand }

var junk = []any{nil, "", " ", "x", -1, 0, 1, 1 << 40, 1e308, -1e308, 5e-324, 0.1, true, []any{}, map[string]any{}, "2026-13-45",
	"2026-11-25",
	"2026-11-25T10:00:00Z", "0001-01-01T00:00:00Z", "M20", "M1e9", "N·m", "kg", "💥", strings.Repeat("a", 3000), []any{[]any{[]any{}}},
	map[string]any{"value": 1e300, "unit": "mm"}, "00000000-0000-0000-0000-000000000000", "NaN", "'; drop table people; --",
	"../../etc/passwd",
	"id: [", "id: &a [*a, *a]"}

func (m maker) body(r *openapi3.SchemaRef) string {
	switch m.IntN(20) {
	case 0:
		return []string{"", "{", "[[[[[[[[", "null", "\"x\"", "{}", "[]", "1e999", "{\"a\":1}{", "\x00"}[m.IntN(10)]
	case 1:
		return strings.Repeat("[", 10_000)
	}
	v := m.of(r.Value, 0)
	for range m.IntN(4) {
		v = m.bend(v)
	}
	var b bytes.Buffer
	_ = json.NewEncoder(&b).Encode(v)
	return b.String()
}

// of makes a value of a schema; what need not be there is there at times.
func (m maker) of(s *openapi3.Schema, deep int) any {
	if len(s.OneOf) > 0 {
		return m.of(s.OneOf[m.IntN(len(s.OneOf))].Value, deep)
	}
	if len(s.Enum) > 0 {
		return s.Enum[m.IntN(len(s.Enum))]
	}
	switch {
	case s.Type.Is("object"):
		out := map[string]any{}
		for _, name := range slices.Sorted(maps.Keys(s.Properties)) { // the same bodies each time
			p := s.Properties[name]
			if slices.Contains(s.Required, name) || deep < 5 && m.IntN(2) == 0 {
				out[name] = m.of(p.Value, deep+1)
			}
		}
		if x := s.AdditionalProperties.Schema; x != nil && deep < 5 {
			for _, name := range []string{"bolts", "torque", "gasket"}[m.IntN(3):] {
				out[name] = m.of(x.Value, deep+1)
			}
		}
		return out
	case s.Type.Is("array"):
		out := []any{}
		for range m.IntN(4) {
			out = append(out, m.of(s.Items.Value, deep+1))
		}
		return out
	case s.Type.Is("integer"):
		return m.IntN(40) - 2
	case s.Type.Is("number"):
		return m.NormFloat64() * 100
	case s.Type.Is("boolean"):
		return m.IntN(2) == 0
	case s.Format == "uuid":
		return "11111111-1111-4111-8111-111111111111"
	case s.Format == "date-time":
		return "2026-11-25T10:00:00Z"
	case s.Format == "date":
		return "2026-11-25"
	}
	return []string{"bolts", "torque", "pull", "N·m", "mm", "M20", "8.8", "light oil", "sheet", "make", "text"}[m.IntN(11)]
}

// bend puts something else in one place of a value.
func (m maker) bend(v any) any {
	switch x := v.(type) {
	case map[string]any:
		if len(x) > 0 && m.IntN(6) > 0 {
			key := slices.Sorted(maps.Keys(x))[m.IntN(len(x))]
			x[key] = m.bend(x[key])
			return x
		}
	case []any:
		if len(x) > 0 && m.IntN(6) > 0 {
			i := m.IntN(len(x))
			x[i] = m.bend(x[i])
			return x
		}
	}
	return junk[m.IntN(len(junk))]
}
