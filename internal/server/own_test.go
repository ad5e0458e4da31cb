package server_test

import (
	"net/http"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
)

type given = map[string]any

func in(v float64, unit string) given { return given{"value": v, "unit": unit} }

// sixBolts is a trial of six bolts M16 at about K 0.13.
func sixBolts() given {
	var list []given
	for _, kn := range []float64{57.7, 56.1, 59.4, 57.0, 58.3, 56.9} {
		list = append(list, given{"torque": in(120, "N·m"), "load": in(kn, "kN")})
	}
	return given{"thread": "M16", "readings": list}
}

func paste(more given) given {
	out := given{"name": "Our paste", "origin": "site trial", "source": "trial 3, M. Tolland", "trial": sixBolts()}
	for k, v := range more {
		out[k] = v
	}
	return out
}

// A trial is judged as it is typed, kept by an engineer, offered as a word, and used by
// its name; plans are laid out with its nut factors.
func TestALubricantOfOnesOwn(t *testing.T) {
	s := open(t)
	edda, marta := s.as("edda"), s.as("marta")
	tried := decode[contract.Tried](t, marta.do("POST", "/api/own/trial", sixBolts()))
	require.InEpsilon(t, 0.1302, tried.Mean, 1e-3)
	require.True(t, tried.Steady)
	require.Len(t, tried.Top, 3)
	require.Equal(t, http.StatusNoContent, edda.do("POST", "/api/own/lubricants", paste(nil)).status)
	own := decode[contract.Own](t, marta.do("GET", "/api/own", nil))
	require.Equal(t, "Our paste", own.Lubricants[2].Given.Name)
	require.Equal(t, "Edda Winterbourne", own.Lubricants[2].Kept.By)
	require.Len(t, own.Lubricants[2].Tried.Ks, 6)
	words := decode[contract.Words](t, marta.do("GET", "/api/words", nil))
	require.Equal(t, "Our paste", words.Lubricants[2].Name)
	require.True(t, words.Lubricants[2].Trial)

	j := marta.get("RK / COOLER")
	draft := func(name string) answer {
		j := marta.get("RK / COOLER")
		b := j.Draft.Input.Groups["bolts"]
		b.Lubrication, b.SpecifiedFor, b.Decision = name, name, ""
		j.Draft.Input.Groups["bolts"] = b
		return marta.do("PUT", "/api/joints/"+j.ID.String()+"/draft", given{"version": j.Draft.Version, "input": j.Draft.Input})
	}
	with := decode[contract.Joint](t, draft("Our paste"))
	require.InEpsilon(t, tried.Mean, with.Draft.Groups[0].K, 1e-12)
	require.InEpsilon(t, tried.High, with.Draft.Groups[0].KHigh, 1e-12)
	numbers := decode[contract.Numbers](t, marta.do("GET", "/api/joints/"+j.ID.String()+"/numbers", nil))
	require.Contains(t, numbers.Numbers[0].Formula, "T = ")

	withdraw := func(reason string) answer {
		return edda.do("PUT", "/api/own/lubricant/withdrawn", given{"name": "Our paste", "reason": reason})
	}
	require.Equal(t, "needs-reason", withdraw(" ").problem(t).Code)
	require.Equal(t, http.StatusNoContent, withdraw("the tin was open").status)
	p := draft("Our paste").problem(t)
	require.Equal(t, "groups.bolts.lubrication", p.Field)
	require.Contains(t, p.Detail, "the tin was open")
	require.Equal(t, "groups.bolts.lubrication", draft("No such paste").problem(t).Field)
}

// What cannot be is refused beside its field, and nothing is kept.
func TestFiguresThatCannotBe(t *testing.T) {
	s := open(t)
	edda := s.as("edda")
	few := sixBolts()
	few["readings"] = few["readings"].([]given)[:4]
	wrong := sixBolts()
	wrong["readings"].([]given)[2]["load"] = in(-3, "kN")
	swapped := sixBolts()
	swapped["readings"].([]given)[1]["load"] = in(56100, "kN")
	for name, c := range map[string]struct {
		path, field string
		body        given
	}{
		"four bolts":          {"lubricants", "trial", paste(given{"trial": few})},
		"a load below zero":   {"lubricants", "trial.2.load", paste(given{"trial": wrong})},
		"newtons typed as kN": {"lubricants", "trial.1", paste(given{"trial": swapped})},
		"unknown thread": {"lubricants", "thread", paste(given{"trial": given{"thread": "M21",
			"readings": sixBolts()["readings"]}})},
		"a general name":     {"lubricants", "name", paste(given{"name": "light oil"})},
		"no name":            {"lubricants", "name", paste(given{"name": "  "})},
		"no source":          {"lubricants", "source", paste(given{"source": ""})},
		"a day to come":      {"lubricants", "on", paste(given{"on": "2099-01-01"})},
		"ended before today": {"lubricants", "expires", paste(given{"expires": "2020-01-01"})},
		"K that falls": {"lubricants", "nominal", given{"name": "x", "origin": "supplier's test", "source": "r", "low": 0.2,
			"nominal": 0.1, "high": 0.3}},
		"K of two": {"lubricants", "low", given{"name": "x", "origin": "supplier's test", "source": "r", "low": 2,
			"nominal": 2, "high": 2}},
		"gasket of no family":     {"gaskets", "family", given{"name": "x", "family": "paper", "source": "r"}},
		"gasket without sheet":    {"gaskets", "source", given{"name": "x", "family": "sheet", "source": ""}},
		"crushed before it seats": {"gaskets", "seat", given{"name": "x", "family": "sheet", "source": "r", "seat": 90, "most": 60}},
		"a gasket of steel":       {"gaskets", "aim", given{"name": "x", "family": "sheet", "source": "r", "aim": 9000}},
		"all of it left":          {"gaskets", "kept", given{"name": "x", "family": "sheet", "source": "r", "kept": 7}},
		"yield past tensile":      {"certificates", "yield", given{"number": "1", "yield": in(900, "MPa"), "tensile": in(800, "MPa")}},
	} {
		p := edda.do("POST", "/api/own/"+c.path, c.body).problem(t)
		require.Equal(t, c.field, p.Field, "%s: %s", name, p.Detail)
		require.NotEmpty(t, p.Way, name)
	}
	own := decode[contract.Own](t, edda.do("GET", "/api/own", nil))
	require.Len(t, own.Lubricants, 2, "the demo's own")
	require.Equal(t, "not-found", edda.do("PUT", "/api/own/gasket/withdrawn", given{"name": "x", "reason": "y"}).problem(t).Code)
}

// A gasket by its maker's sheet bounds the load by its own figures, for its own family.
func TestAGasketOfOnesOwn(t *testing.T) {
	s := open(t)
	edda := s.as("edda")
	require.Equal(t, http.StatusNoContent, edda.do("POST", "/api/own/gaskets", given{"name": "Hard fibre", "family": "sheet",
		"source": "sheet 9",
		"seat":   60}).status)
	draft := func(gasket, family string) answer {
		j := edda.get("RK / COOLER")
		j.Draft.Input.Choices["gasket"] = family
		b := j.Draft.Input.Groups["bolts"]
		b.Gasket = gasket
		j.Draft.Input.Groups["bolts"] = b
		return edda.do("PUT", "/api/joints/"+j.ID.String()+"/draft", given{"version": j.Draft.Version, "input": j.Draft.Input})
	}
	g := decode[contract.Joint](t, draft("Hard fibre", "sheet")).Draft.Groups[0]
	require.Equal(t, "60 MPa on the gasket", g.WindowRows[0].Note)
	require.False(t, g.WindowRows[0].Holds)
	require.Equal(t, "150 MPa on the gasket", g.WindowRows[1].Note, "its family's")
	require.Equal(t, "groups.bolts.gasket", draft("Hard fibre", "spiral").problem(t).Field)
	require.Equal(t, "groups.bolts.gasket", draft("No such", "sheet").problem(t).Field)
}

// A few bolts of a lot are held against its trial: judged as they are typed, kept by
// whoever works with them. One outside takes the lubricant out of use at once.
func TestALotIsChecked(t *testing.T) {
	s := open(t)
	edda, marta := s.as("edda"), s.as("marta")
	require.Equal(t, http.StatusNoContent, edda.do("POST", "/api/own/lubricants", paste(nil)).status)
	check := func(name string, keep bool, kn ...float64) answer {
		list := []given{}
		for _, v := range kn {
			list = append(list, given{"torque": in(120, "N·m"), "load": in(v, "kN")})
		}
		return marta.do("POST", "/api/own/check", given{"name": name, "readings": list, "keep": keep})
	}
	ours := func() contract.OwnLubricant {
		own := decode[contract.Own](t, marta.do("GET", "/api/own", nil))
		i := slices.IndexFunc(own.Lubricants, func(l contract.OwnLubricant) bool { return l.Given.Name == "Our paste" })
		return own.Lubricants[i]
	}
	good := decode[contract.CheckedLot](t, check("Our paste", false, 57.5))
	require.True(t, good.Holds)
	require.InEpsilon(t, 120_000/(57.5*16)/1000, good.Ks[0], 1e-9)
	require.Zero(t, ours().Check, "judged alone, nothing is kept")
	require.True(t, decode[contract.CheckedLot](t, check("Our paste", true, 57.5, 58.1)).Holds)
	require.True(t, ours().Check.Today)
	require.Contains(t, ours().Check.Words, "Checked today by Marta Tolland: K 0.13, as its trial found it.")

	require.Equal(t, "out-of-range", check("Our paste", true).problem(t).Code)
	require.Equal(t, "not-positive", check("Our paste", true, -3).problem(t).Code)
	require.Equal(t, http.StatusNotFound, check("No such paste", true, 57).status)
	require.Equal(t, "contradicts", check("Ottermere dry film on washers", true, 57).problem(t).Code,
		"its supplier tested it, on no thread of ours")
	require.True(t, ours().Check.Holds, "what is refused changes nothing")

	bad := decode[contract.CheckedLot](t, check("Our paste", true, 57.5, 44))
	require.False(t, bad.Holds)
	require.Contains(t, bad.Words, "Bolt 2 comes to K 0.17")
	require.False(t, ours().Kept.Usable)
	require.Contains(t, ours().Kept.Withdrawn, "its check of")
	require.Equal(t, "not-now", check("Our paste", true, 57.5).problem(t).Code)
}
