package server_test

import (
	"io"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
	"dynacor/internal/demo"
)

// room is the site as its administrator sees it.
func room(t *testing.T, c *client) contract.SiteRoom {
	return decode[contract.SiteRoom](t, c.do("GET", "/api/site", nil))
}

func member(t *testing.T, c *client, login string) contract.SitePerson {
	all := room(t, c).People
	i := slices.IndexFunc(all, func(p contract.SitePerson) bool { return p.Login == login })
	require.GreaterOrEqual(t, i, 0, login)
	return all[i]
}

func (c *client) signsIn(login, pin string) answer {
	return c.do("POST", "/api/session", given{"login": login, "pin": pin})
}

// Somebody is entered, and does nothing with the PIN of one time but choose their own.
func TestSomebodyIsEntered(t *testing.T) {
	s := open(t)
	ruth, ada := s.as("ruth"), s.visitor()
	entered := decode[struct{ Pin string }](t, ruth.do("POST", "/api/site/people",
		given{"login": "Ada", "name": "Ada  Quillfeather", "roles": []string{"engineer"}, "qualifications": []string{"rigger"}}))
	require.Len(t, entered.Pin, 8)
	require.Equal(t, "contradicts", ruth.do("POST", "/api/site/people",
		given{"login": "ada", "name": "Another", "roles": []string{"fitter"}}).problem(t).Code)
	require.Equal(t, "roles", ruth.do("POST", "/api/site/people", given{"login": "x", "name": "X", "roles": []string{}}).problem(t).Field)

	session := decode[contract.Session](t, ada.signsIn("ada", entered.Pin))
	require.True(t, session.Once)
	require.Equal(t, 6, session.LeastPin)
	require.Equal(t, "A. Q.", session.Person.Initials)
	for _, path := range []string{"/api/wall", "/api/own"} {
		require.Equal(t, "pin-once", ada.do("GET", path, nil).problem(t).Code, path)
	}
	chooses := func(old, pin string) answer { return ada.do("PUT", "/api/session/pin", given{"old": old, "pin": pin}) }
	require.Equal(t, "old", chooses("00000000", "2580147").problem(t).Field)
	for _, pin := range []string{"2580", "123456", entered.Pin} {
		require.Equal(t, "pin", chooses(entered.Pin, pin).problem(t).Field, pin)
	}
	elsewhere := s.visitor()
	require.Equal(t, http.StatusOK, elsewhere.signsIn("ada", entered.Pin).status)
	require.Equal(t, http.StatusNoContent, chooses(entered.Pin, "258014").status)
	require.Equal(t, http.StatusOK, ada.do("GET", "/api/wall", nil).status)
	require.Equal(t, "not-signed-in", elsewhere.do("GET", "/api/session", nil).problem(t).Code, "their other sessions are over")
	require.Equal(t, "wrong-pin", elsewhere.signsIn("ada", entered.Pin).problem(t).Code)
	require.False(t, decode[contract.Session](t, elsewhere.signsIn("ada", "258014")).Once)
	require.Equal(t, 2, member(t, ruth, "ada").Sessions)

	log := room(t, ruth).Log
	require.Equal(t, []string{"pin", "person"}, []string{log[0].Kind, log[1].Kind})
	require.Equal(t, "Ruth Ellingvey", log[1].By)
	require.Equal(t, "Ada Quillfeather", log[1].Subject)
}

// What somebody may do is another from their next request on; who is switched off is out,
// also of what streams.
func TestWhatSomebodyMayDoIsChanged(t *testing.T) {
	s := open(t)
	ruth, marta := s.as("ruth"), s.as("marta")
	id := func(login string) string { return member(t, ruth, login).ID.String() }
	change := func(login string, c given) answer { return ruth.do("PUT", "/api/site/people/"+id(login), c) }
	require.Equal(t, "not-yours", marta.do("GET", "/api/site", nil).problem(t).Code)
	require.Equal(t, http.StatusNoContent, change("marta", given{"roles": []string{"fitter", "administrator"}}).status)
	require.Equal(t, http.StatusOK, marta.do("GET", "/api/site", nil).status)
	require.Equal(t, http.StatusNoContent, change("marta", given{"roles": []string{"fitter"}}).status)
	require.Equal(t, "not-yours", marta.do("GET", "/api/site", nil).problem(t).Code)
	require.Equal(t, "nobody-left", change("ruth", given{"roles": []string{"engineer"}}).problem(t).Code)
	require.Equal(t, "nobody-left", change("ruth", given{"active": false}).problem(t).Code)

	require.Equal(t, http.StatusNoContent, change("marta", given{"active": false}).status)
	require.Equal(t, "not-signed-in", marta.do("GET", "/api/wall", nil).problem(t).Code)
	require.Equal(t, "wrong-pin", marta.signsIn("marta", demo.Pin).problem(t).Code)
	require.Equal(t, http.StatusNoContent, change("marta", given{"active": true}).status)
	require.Equal(t, http.StatusOK, marta.signsIn("marta", demo.Pin).status)
	require.Contains(t, room(t, ruth).Log[0].Words, "may sign in again")

	require.Equal(t, http.StatusNoContent, ruth.do("DELETE", "/api/site/people/"+id("marta")+"/sessions", nil).status)
	require.Equal(t, "not-signed-in", marta.do("GET", "/api/wall", nil).problem(t).Code)
	for range 5 {
		require.Equal(t, "wrong-pin", marta.signsIn("marta", "0000").problem(t).Code)
	}
	require.Equal(t, "too-many-tries", marta.signsIn("marta", demo.Pin).problem(t).Code)
	require.True(t, member(t, ruth, "marta").Locked)
	require.Equal(t, http.StatusNoContent, ruth.do("DELETE", "/api/site/people/"+id("marta")+"/lockout", nil).status)
	require.Equal(t, http.StatusOK, marta.signsIn("marta", demo.Pin).status)
	require.Equal(t, http.StatusNotFound, ruth.do("PUT", "/api/site/people/"+s.as("marta").get("RK / COOLER").ID.String(), given{}).status)
}

// A qualification holds to the end of its last day.
func TestAQualificationEnds(t *testing.T) {
	s := open(t)
	ruth := s.as("ruth")
	piet := member(t, ruth, "piet")
	holds := func(until string) []string {
		require.Equal(t, http.StatusNoContent, ruth.do("PUT", "/api/site/people/"+piet.ID.String(),
			given{"qualifications": []given{{"name": "pressure person", "until": until}, {"name": "rigger"}}}).status)
		p, err := s.store.PersonByLogin(t.Context(), "piet")
		require.NoError(t, err)
		return p.Qualifications
	}
	require.Equal(t, []string{"pressure person", "rigger"}, holds("2999-01-01"))
	require.Equal(t, []string{"rigger"}, holds("2001-01-01"))
	require.Equal(t, "2001-01-01", member(t, ruth, "piet").Qualifications[0].Until, "it is kept, and shown")
	require.Equal(t, "qualified", ruth.do("PUT", "/api/site/people/"+piet.ID.String(),
		given{"qualifications": []given{{"name": "rigger", "until": "tomorrow"}}}).problem(t).Field)
}

// Areas and the outage are changed; what cannot be is refused beside its field.
func TestTheSiteIsChanged(t *testing.T) {
	s := open(t)
	ruth := s.as("ruth")
	require.Equal(t, http.StatusNoContent, ruth.do("POST", "/api/site/areas", given{"name": " Valve house "}).status)
	areas := room(t, ruth).Areas
	last := areas[len(areas)-1]
	require.Equal(t, "Valve house", last.Name)
	require.Equal(t, "name", ruth.do("POST", "/api/site/areas", given{"name": "Valve house"}).problem(t).Field)
	require.Equal(t, "name", ruth.do("POST", "/api/site/areas", given{"name": "  "}).problem(t).Field)
	require.Equal(t, http.StatusNoContent, ruth.do("PUT", "/api/site/areas/"+last.ID.String(), given{"name": "Valve gallery"}).status)
	require.Equal(t, http.StatusNotFound, ruth.do("PUT", "/api/site/areas/"+member(t, ruth, "bo").ID.String(), given{"name": "x"}).status)
	require.Equal(t, http.StatusNoContent, ruth.do("PUT", "/api/site", given{"name": "Ottermere Hydro", "outage": "Unit 1 spring outage",
		"begins": "2027-03-01", "days": 21}).status)
	require.Equal(t, "Unit 1 spring outage", decode[contract.Session](t, ruth.do("GET", "/api/session", nil)).Site.Outage)
	require.Equal(t, "outage", ruth.do("PUT", "/api/site", given{"name": "x", "outage": "", "begins": "2027-03-01",
		"days": 21}).problem(t).Field)
}

// Whoever reads the table of sessions is not signed in by what stands in it, and the log
// of the site is only ever added to.
func TestWhatADatabaseGivesAway(t *testing.T) {
	s := open(t)
	ruth := s.as("ruth")
	require.Equal(t, http.StatusNoContent, ruth.do("POST", "/api/site/areas", given{"name": "Valve house"}).status)
	address, err := url.Parse(s.http.URL)
	require.NoError(t, err)
	rows, err := s.store.Pool().Query(t.Context(), "select token from sessions")
	require.NoError(t, err)
	for rows.Next() {
		var token string
		require.NoError(t, rows.Scan(&token))
		thief := s.visitor()
		thief.http.Jar.SetCookies(address, []*http.Cookie{{Name: "dynacor", Value: token}})
		require.Equal(t, "not-signed-in", thief.do("GET", "/api/session", nil).problem(t).Code)
	}
	require.NoError(t, rows.Err())
	for _, sql := range []string{"update site_log set words = 'x'", "delete from site_log", "truncate site_log"} {
		_, err := s.store.Pool().Exec(t.Context(), sql)
		require.ErrorContains(t, err, "is only ever added to", sql)
	}
}

// A stream ends with the session it was opened by.
func TestAStreamEndsWithItsSession(t *testing.T) {
	s := open(t)
	ruth, marta := s.as("ruth"), s.as("marta")
	r, err := marta.http.Get(s.http.URL + "/api/stream")
	require.NoError(t, err)
	defer r.Body.Close()
	require.Equal(t, http.StatusOK, r.StatusCode)
	require.Equal(t, http.StatusNoContent, ruth.do("PUT", "/api/site/people/"+member(t, ruth, "marta").ID.String(),
		given{"active": false}).status)
	_, err = io.ReadAll(r.Body) // to its end
	require.NoError(t, err)
}

// What the site goes by: another outage beside the one before, the unit its torques are
// typed in, its shifts, and a word with every signature.
func TestWhatASiteGoesBy(t *testing.T) {
	s := open(t)
	ruth, haro := s.as("ruth"), s.as("haro")
	was := room(t, ruth)
	put := func(more given) answer {
		v := given{"name": was.Site.Name, "outage": was.Site.Outage, "begins": was.Site.Begins, "days": was.Site.Days}
		maps.Copy(v, more)
		return ruth.do("PUT", "/api/site", v)
	}
	require.Equal(t, http.StatusNoContent, put(given{"outage": "Unit 1 spring outage", "begins": "2027-03-01"}).status)
	require.Equal(t, http.StatusNoContent, put(nil).status)
	after := room(t, ruth)
	require.Equal(t, []string{"Unit 1 spring outage", was.Site.Outage}, []string{after.Outages[0].Outage, after.Outages[1].Outage})
	require.Equal(t, was.Site.Outage, after.Site.Outage)

	shift := func(name, begins string) given { return given{"name": name, "begins": begins} }
	for field, bad := range map[string]given{"torqueUnit": {"torqueUnit": "bar"}, "shifts": {"shifts": []given{shift("Day", "6 am")}}} {
		require.Equal(t, field, put(bad).problem(t).Field)
	}
	require.Equal(t, "shifts", put(given{"shifts": []given{shift("Day", "06:00"), shift("Early", "06:00")}}).problem(t).Field)
	require.Equal(t, http.StatusNoContent, put(given{"torqueUnit": "ft·lbf", "sayWhy": true,
		"shifts": []given{shift("Night shift", "18:00"), shift("Day shift", "06:00")}}).status)
	site := decode[contract.Session](t, haro.do("GET", "/api/session", nil)).Site
	require.Equal(t, []any{"ft·lbf", true}, []any{site.TorqueUnit, site.SayWhy})
	require.Contains(t, []string{"Day shift 18:00", "Night shift 06:00"}, site.Shift+" "+site.Until)
	require.Contains(t, room(t, ruth).Log[0].Words, "shifts: Day shift from 06:00, Night shift from 18:00")

	run := haro.get("U2 / COOLER IN").Run
	sign := newEntry("signature", map[string]any{"part": "checked"})
	sign["pin"] = demo.Pin
	p := haro.add(run.ID.String(), sign).problem(t)
	require.Equal(t, []string{"needs-reason", "reason"}, []string{p.Code, p.Field})
	sign = newEntry("signature", map[string]any{"part": "checked", "reason": "Seen, and the gaps measured again."})
	sign["pin"] = demo.Pin
	require.Equal(t, http.StatusOK, haro.add(run.ID.String(), sign).status)
	found, err := s.store.Audit(t.Context(), against())
	require.NoError(t, err)
	require.Empty(t, found.Faults)
}
