package server_test

import (
	"bytes"
	"encoding/base64"
	"net/http"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
)

var aSheet = []byte("%PDF-1.4\n1 0 obj<</Type/Catalog>>endobj\ntrailer<</Root 1 0 R>>\n%%EOF\n")

// A maker's sheet is known by what is in it, hangs where it was hung, is opened as it came,
// and once taken off hangs nowhere and is still stored.
func TestMakersSheetsHangWhereTheyBelong(t *testing.T) {
	s := open(t)
	edda, liv, marta := s.as("edda"), s.as("liv"), s.as("marta")
	joint := marta.get("IV-2 / BONNET").ID.String()
	hang := func(c *client, more map[string]any) answer {
		body := map[string]any{"id": uuid.NewString(), "title": "Maker's sheet 4711", "file": base64.StdEncoding.EncodeToString(aSheet)}
		for k, v := range more {
			body[k] = v
		}
		return c.do("POST", "/api/papers", body)
	}
	in64 := func(b []byte) string { return base64.StdEncoding.EncodeToString(b) }
	jpeg := jpegOf(t, 640, 480)
	for _, c := range []struct {
		name   string
		by     *client
		with   map[string]any
		status int
		says   string
	}{
		{"a text", edda, map[string]any{"recipe": "gasketed-flange", "file": in64([]byte("a letter"))}, 422, "neither a PDF nor a picture"},
		{"half a PDF", edda, map[string]any{"recipe": "gasketed-flange", "file": in64(aSheet[:30])}, 422, "not whole"},
		{"half a picture", edda, map[string]any{"recipe": "gasketed-flange", "file": in64(jpeg[:len(jpeg)/2])}, 422, "not whole"},
		{"a picture of 2000 pixels", edda, map[string]any{"recipe": "gasketed-flange", "file": in64(jpegOf(t, 2000, 10))}, 422, "at most 1600"},
		{"one over 12 MiB", edda, map[string]any{"recipe": "gasketed-flange", "file": in64(append(bytes.Clone(aSheet), make([]byte, 12<<20)...))},
			422, "at most 12582912 are taken"},
		{"page 2 of a picture", edda, map[string]any{"recipe": "gasketed-flange", "page": 2, "file": in64(jpeg)}, 422, "one page"},
		{"at no step", edda, map[string]any{"recipe": "gasketed-flange", "step": "tea"}, 422, "no step"},
		{"nowhere", edda, nil, 422, "Where does it hang"},
		{"at two places", edda, map[string]any{"recipe": "gasketed-flange", "joint": joint}, 422, "Where does it hang"},
		{"at no recipe", edda, map[string]any{"recipe": "nothing"}, 404, ""},
		{"at no joint", edda, map[string]any{"joint": uuid.NewString()}, 404, ""},
		{"a hash that is none", edda, map[string]any{"recipe": "gasketed-flange", "file": "", "hash": strings.Repeat("0", 64)}, 404, ""},
		{"nothing", edda, map[string]any{"recipe": "gasketed-flange", "file": ""}, 422, "no file"},
		{"a planner at a recipe", liv, map[string]any{"recipe": "gasketed-flange"}, 403, "an engineer hangs it there"},
		{"a fitter", marta, map[string]any{"joint": joint}, 403, ""},
	} {
		a := hang(c.by, c.with)
		require.Equal(t, c.status, a.status, "%s: %.300s", c.name, a.body)
		require.Contains(t, a.problem(t).Detail, c.says, c.name)
	}
	papers := func(query string) []contract.Paper {
		return decode[contract.Papers](t, marta.do("GET", "/api/papers?"+query, nil)).Papers
	}
	require.Empty(t, papers("joint="+joint))

	once := map[string]any{"id": uuid.NewString(), "recipe": "gasketed-flange", "step": "pull", "page": 3}
	for range 2 {
		require.Equal(t, http.StatusOK, hang(edda, once).status)
	}
	require.Len(t, papers("recipe=gasketed-flange"), 1, "sent twice it hangs once")
	at := decode[contract.Paper](t, hang(liv, map[string]any{"joint": joint, "file": "", "hash": papers("recipe=gasketed-flange")[0].Hash}))
	picture := decode[contract.Paper](t, hang(edda, map[string]any{"joint": joint, "file": in64(jpeg), "title": "Nameplate"}))
	require.Equal(t, contract.PaperKind("picture"), picture.Kind)
	list := papers("joint=" + joint)
	require.Len(t, list, 3, "its own first, then its recipe's")
	require.Equal(t, []contract.PaperOf{"joint", "joint", "recipe"}, []contract.PaperOf{list[0].Of, list[1].Of, list[2].Of})
	require.Equal(t, "pull", list[2].Step)
	require.Equal(t, 3, list[2].Page)
	require.Equal(t, "Edda Winterbourne", list[2].By)

	file := marta.do("GET", "/api/papers/file/"+list[2].Hash, nil)
	require.Equal(t, string(aSheet), file.body)
	require.Equal(t, "application/pdf", file.header.Get("Content-Type"))
	require.Equal(t, "nosniff", file.header.Get("X-Content-Type-Options"))
	require.Equal(t, http.StatusUnauthorized, s.visitor().do("GET", "/api/papers/file/"+list[2].Hash, nil).status)

	require.Equal(t, http.StatusForbidden, liv.do("DELETE", "/api/papers/"+list[2].ID.String(), nil).status)
	require.Equal(t, http.StatusNoContent, liv.do("DELETE", "/api/papers/"+at.ID.String(), nil).status)
	require.Equal(t, http.StatusNoContent, edda.do("DELETE", "/api/papers/"+list[2].ID.String(), nil).status)
	require.Len(t, papers("joint="+joint), 1)
	require.Equal(t, http.StatusOK, marta.do("GET", "/api/papers/file/"+list[2].Hash, nil).status, "it stays stored")
	_, err := s.store.Pool().Exec(t.Context(), "delete from hung_papers")
	require.Error(t, err)
}
