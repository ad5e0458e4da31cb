package server_test

import (
	"fmt"
	"maps"
	"net/http"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
)

const all = "fitter inspector engineer planner crib keeper administrator"

// Who may use each route. Written out here once more, so that a change of the
// contract that lets somebody in is seen.
var mayUse = map[string]string{
	"PUT /api/session/pin":                      all,
	"PUT /api/session/locale":                   all,
	"PUT /api/session/unit":                     all,
	"GET /api/terms/{language}":                 all,
	"GET /api/site/glossary":                    "administrator",
	"PUT /api/site/glossary":                    "administrator",
	"GET /api/drills":                           all,
	"POST /api/drills/goes":                     all,
	"PUT /api/drills/goes/{go}":                 all,
	"PUT /api/drills/asked":                     "engineer",
	"DELETE /api/drills/asked/{recipe}/{drill}": "engineer",
	"GET /api/site":                             "administrator",
	"POST /api/imports/look":                    "engineer planner",
	"POST /api/imports":                         "engineer planner",
	"GET /api/list/{format}":                    "engineer planner inspector administrator",
	"GET /api/pack":                             all,
	"GET /api/cards":                            all,
	"POST /api/calendar":                        all,
	"DELETE /api/calendar":                      all,
	"GET /api/calendar/{token}":                 "nobody " + all,
	"GET /api/site/security":                    "administrator",
	"GET /api/site/security/file":               "administrator",
	"PUT /api/site":                             "administrator",
	"POST /api/site/areas":                      "administrator",
	"PUT /api/site/areas/{area}":                "administrator",
	"POST /api/site/people":                     "administrator",
	"PUT /api/site/people/{person}":             "administrator",
	"POST /api/site/people/{person}/pin":        "administrator",
	"DELETE /api/site/people/{person}/sessions": "administrator",
	"DELETE /api/site/people/{person}/lockout":  "administrator",
	"GET /api/session":                          all,
	"POST /api/session":                         "nobody " + all,
	"DELETE /api/session":                       all,
	"GET /api/wall":                             all,
	"GET /api/library":                          all,
	"GET /api/words":                            all,
	"GET /api/stream":                           all,
	"POST /api/joints":                          "fitter engineer planner",
	"GET /api/joints/{joint}":                   all,
	"PUT /api/joints/{joint}/draft":             "fitter engineer planner",
	"POST /api/joints/{joint}/issue":            "engineer",
	"POST /api/joints/{joint}/follow":           "engineer",
	"POST /api/joints/{joint}/ways":             "fitter engineer",
	"GET /api/joints/{joint}/record/{format}":   all,
	"POST /api/runs/{run}/entries":              "fitter inspector engineer",
	"GET /api/own":                              all,
	"POST /api/own/trial":                       all,
	"POST /api/own/check":                       "fitter inspector engineer",
	"POST /api/own/lubricants":                  "engineer",
	"POST /api/own/gaskets":                     "engineer",
	"POST /api/own/certificates":                "engineer",
	"PUT /api/own/{kind}/withdrawn":             "engineer",
	"GET /api/library/schema":                   all,
	"POST /api/library":                         "engineer",
	"POST /api/library/draft":                   "engineer",
	"POST /api/library/prose":                   "engineer",
	"POST /api/library/rehearsal":               "engineer",
	"GET /api/library/{recipe}/editions":        all,
	"GET /api/library/{recipe}/{format}":        all,
	"PUT /api/library/{recipe}/retired":         "engineer",
	"DELETE /api/library/{recipe}/retired":      "engineer",
	"GET /api/joints/{joint}/drawing":           all,
	"GET /api/joints/{joint}/along":             all,
	"GET /api/bench/moved":                      all,
	"GET /api/joints/{joint}/bench":             all,
	"PUT /api/joints/{joint}/bench/taken":       "fitter engineer planner",
	"GET /api/joints/{joint}/numbers":           all,
	"GET /api/joints/{joint}/numbers/print":     all,
	"POST /api/runs/{run}/readings":             all,
	"POST /api/runs/{run}/rig":                  all,
	"PUT /api/devices/{device}":                 all,
	"DELETE /api/devices/{device}":              "engineer planner administrator",
	"POST /api/photos":                          "fitter inspector engineer planner",
	"GET /api/photos/{hash}":                    all,
	"GET /api/papers":                           all,
	"GET /api/joints/{joint}/kit":               all,
	"POST /api/papers":                          "engineer planner",
	"DELETE /api/papers/{paper}":                "engineer planner",
	"GET /api/papers/file/{hash}":               all,
	"GET /api/crib":                             all,
	"POST /api/crib":                            "crib keeper",
	"POST /api/crib/draft":                      "crib keeper",
	"GET /api/crib/kinds":                       all,
	"POST /api/crib/papers":                     "inspector crib keeper",
	"POST /api/crib/import":                     "crib keeper",
	"GET /api/crib/labels":                      all,
	"GET /api/crib/list/{format}":               all,
	"GET /api/crib/{tool}":                      all,
	"POST /api/crib/{tool}/key":                 "crib keeper",
	"DELETE /api/crib/{tool}/key":               "crib keeper",
	"GET /api/runs/{run}/readings/open":         all,
	"GET /api/readings/offered":                 all,
	"GET /api/readings/{reading}":               all,
	"POST /api/readings/{reading}":              "fitter inspector",
	"POST /api/crib/{tool}/check":               "inspector crib keeper",
	"POST /api/crib/{tool}/life":                "fitter inspector engineer crib keeper",
}

var logins = map[string]string{"fitter": "marta", "inspector": "ines", "engineer": "edda", "planner": "liv", "crib keeper": "bo",
	"administrator": "ruth"}

func TestRoleMatrixOverEveryRoute(t *testing.T) {
	spec, err := contract.GetSpec()
	require.NoError(t, err)
	s := open(t)
	routes := 0
	clients := map[string]*client{"nobody": s.visitor()}
	for role, login := range logins {
		clients[role] = s.as(login)
	}
	for path, item := range spec.Paths.Map() {
		for method := range item.Operations() {
			routes++
			route := method + " " + path
			allowed, known := mayUse[route]
			require.True(t, known, "%s is not in the matrix", route)
			address := strings.NewReplacer("{format}", "json").Replace(path)
			address = regexp.MustCompile(`\{\w+\}`).ReplaceAllString(address, uuid.NewString())
			var body any
			if method != http.MethodGet && method != http.MethodDelete {
				body = "{}"
			}
			for _, role := range slices.Sorted(maps.Keys(clients)) {
				c := clients[role]
				if path == "/api/session" && method != http.MethodGet { // it ends or begins a session
					c = s.visitor()
					if role != "nobody" {
						c = s.as(logins[role])
					}
				}
				got := c.do(method, address, body)
				says := fmt.Sprintf("%s as %s: %d %s", route, role, got.status, got.body)
				switch {
				case strings.Contains(allowed, role):
					require.NotContains(t, []int{http.StatusUnauthorized, http.StatusForbidden}, got.status, says)
				case role == "nobody":
					require.Equal(t, "not-signed-in", got.problem(t).Code, says)
				default:
					require.Equal(t, "not-yours", got.problem(t).Code, says)
				}
			}
		}
	}
	require.Equal(t, len(mayUse), routes)
}

// Which kinds of entries each role may add, whatever the run says to them.
func TestRoleMatrixOverEveryKindOfEntry(t *testing.T) {
	s := open(t)
	run := s.as("marta").get("IV-2 / BONNET").Run.ID.String()
	done := func(bolt int) map[string]any { return map[string]any{"step": "pull", "bolt": bolt} }
	reason := map[string]any{"reason": "x", "tool": "TW-04"}
	for _, c := range []struct {
		kind, allowed string
		content       map[string]any
	}{
		{"caution", "fitter inspector", map[string]any{"step": "pull"}},
		{"tooling", "fitter", map[string]any{"group": "bolts", "wrench": "TW-04"}},
		{"setting", "fitter", map[string]any{"group": "bolts", "share": 20}},
		{"done", "fitter", done(99)},
		{"done", "fitter inspector", done(0)},
		{"trouble", "fitter inspector", map[string]any{"group": "bolts", "bolt": 99, "what": "overshot", "remedy": "replaced"}},
		{"correction", "fitter inspector", map[string]any{"of": uuid.NewString(), "reason": "x"}},
		{"report", "fitter inspector", map[string]any{"tool": "TW-99", "what": "dropped"}},
		{"pause", "fitter inspector", map[string]any{}},
		{"resume", "fitter inspector", map[string]any{}},
		{"answer", "engineer", reason},
		{"decision", "engineer", reason},
		{"signature", "fitter", map[string]any{"part": "made"}},
	} {
		for role, login := range logins {
			got := s.as(login).add(run, newEntry(c.kind, maps.Clone(c.content)))
			says := fmt.Sprintf("%s %v as %s: %d %s", c.kind, c.content, role, got.status, got.body)
			if strings.Contains(c.allowed, role) {
				require.NotContains(t, got.body, "not-yours", says)
			} else {
				require.Equal(t, "not-yours", got.problem(t).Code, says)
			}
		}
	}
}

func TestUnknownAddresses(t *testing.T) {
	s := open(t)
	c := s.as("marta")
	require.Equal(t, http.StatusNotFound, c.do("GET", "/api/nothing", nil).status)
	require.Equal(t, http.StatusNotFound, c.do("GET", "/assets/nothing.js", nil).status)
	require.Equal(t, http.StatusMethodNotAllowed, c.do("POST", "/api/wall", "{}").status)
	require.Equal(t, "not-found", c.do("GET", "/api/joints/"+uuid.NewString(), nil).problem(t).Code)
	require.Equal(t, "invalid", c.do("GET", "/api/joints/none", nil).problem(t).Code)
}

func TestRequestsFromOtherSitesAreRefused(t *testing.T) {
	s := open(t)
	c := s.as("marta")
	for _, h := range [][2]string{{"Sec-Fetch-Site", "cross-site"}, {"Origin", "https://elsewhere.example"}} {
		got := c.do("DELETE", "/api/session", nil, h[0], h[1])
		require.Equal(t, "cross-origin", got.problem(t).Code, h)
	}
	require.Equal(t, http.StatusOK, c.do("GET", "/api/session", nil).status, "still signed in")
	require.Equal(t, http.StatusNoContent, c.do("DELETE", "/api/session", nil, "Sec-Fetch-Site", "same-origin").status)
	require.Equal(t, http.StatusUnauthorized, c.do("GET", "/api/session", nil).status)
}

func TestHeadersAndCookie(t *testing.T) {
	s := open(t)
	c := s.visitor()
	got := c.do("POST", "/api/session", map[string]string{"login": "MARTA ", "pin": "4711"})
	require.Equal(t, http.StatusOK, got.status, "a login is not about capitals")
	cookie := got.header.Get("Set-Cookie")
	for _, part := range []string{"HttpOnly", "SameSite=Strict", "Path=/"} {
		require.Contains(t, cookie, part)
	}
	require.Contains(t, got.header.Get("Content-Security-Policy"), "default-src 'self'")
	require.Equal(t, "nosniff", got.header.Get("X-Content-Type-Options"))
	require.Equal(t, "DENY", got.header.Get("X-Frame-Options"))
}

func TestWrongPinsAreSlowedDown(t *testing.T) {
	s := open(t)
	c := s.visitor()
	try := func(login, pin string) answer {
		return c.do("POST", "/api/session", map[string]string{"login": login, "pin": pin})
	}
	for range 5 {
		require.Equal(t, "wrong-pin", try("marta", "0000").problem(t).Code)
	}
	got := try("marta", "4711")
	require.Equal(t, http.StatusTooManyRequests, got.status, "even the right one waits now")
	require.NotEmpty(t, got.header.Get("Retry-After"))
	require.Equal(t, http.StatusOK, try("ines", "4711").status, "others do not")
	require.Equal(t, "wrong-pin", try("nobody-here", "4711").problem(t).Code, "an unknown name looks like a wrong PIN")
}

func TestLargeBodiesAreRefused(t *testing.T) {
	s := open(t)
	got := s.visitor().do("POST", "/api/session", `{"login":"`+strings.Repeat("x", 70_000)+`","pin":"4711"}`)
	require.Equal(t, http.StatusRequestEntityTooLarge, got.status, got.body)
}
