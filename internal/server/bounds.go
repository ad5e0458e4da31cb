package server

import (
	"bytes"
	"encoding/json"
	"io"
	"math"
	"net/http"
	"net/url"
	"strings"
	"unicode/utf8"

	"github.com/getkin/kin-openapi/openapi3"

	"dynacor/internal/contract"
	"dynacor/internal/sheets"
)

// bound gives every whole number of the contract that has no bounds those of the
// database's: what lies beyond is refused beside its field, and not by the database.
func bound(spec *openapi3.T) {
	seen := map[*openapi3.Schema]bool{}
	var visit func(*openapi3.SchemaRef)
	visit = func(r *openapi3.SchemaRef) {
		if r == nil || r.Value == nil || seen[r.Value] {
			return
		}
		s := r.Value
		seen[s] = true
		if s.Type.Is(openapi3.TypeInteger) {
			least, most := float64(math.MinInt32), float64(math.MaxInt32)
			if s.Min == nil {
				s.Min = &least
			}
			if s.Max == nil {
				s.Max = &most
			}
		}
		for _, p := range s.Properties {
			visit(p)
		}
		visit(s.Items)
		visit(s.AdditionalProperties.Schema)
		for _, list := range []openapi3.SchemaRefs{s.OneOf, s.AnyOf, s.AllOf} {
			for _, x := range list {
				visit(x)
			}
		}
	}
	parameters := func(list openapi3.Parameters) {
		for _, p := range list {
			visit(p.Value.Schema)
		}
	}
	for _, r := range spec.Components.Schemas {
		visit(r)
	}
	for _, item := range spec.Paths.Map() {
		parameters(item.Parameters)
		for _, op := range item.Operations() {
			parameters(op.Parameters)
			if op.RequestBody == nil {
				continue
			}
			for _, m := range op.RequestBody.Value.Content {
				visit(m.Schema)
			}
		}
	}
}

// visible refuses text that is not what it looks like: characters that print nothing, end
// a line where there is none, or turn the direction of what follows. Line ends and tabs
// are text.
func visible(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		query, err := url.QueryUnescape(r.URL.RawQuery)
		if err != nil || !readable(r.URL.Path) || !readable(query) {
			write(w, unreadable())
			return
		}
		if r.Body != nil && r.Method != http.MethodGet && r.Method != http.MethodHead {
			body, err := io.ReadAll(r.Body)
			if err != nil {
				write(w, invalid(err))
				return
			}
			if !bodyReadable(body) {
				write(w, unreadable())
				return
			}
			r.Body = io.NopCloser(bytes.NewReader(body))
		}
		next.ServeHTTP(w, r)
	})
}

// bodyReadable looks at the strings of a JSON body, but only where one can hold such a
// character: written out, or as \u.
func bodyReadable(body []byte) bool {
	if !utf8.Valid(body) {
		return false
	}
	if !bytes.Contains(body, []byte(`\u`)) {
		return readable(string(body))
	}
	var v any
	if json.Unmarshal(body, &v) != nil {
		return true // the contract says what is wrong with it
	}
	return allReadable(v)
}

func allReadable(v any) bool {
	switch x := v.(type) {
	case string:
		return readable(x)
	case []any:
		for _, e := range x {
			if !allReadable(e) {
				return false
			}
		}
	case map[string]any:
		for k, e := range x {
			if !readable(k) || !allReadable(e) {
				return false
			}
		}
	}
	return true
}

func readable(s string) bool { return utf8.ValidString(s) && !strings.ContainsFunc(s, sheets.Hidden) }

func unreadable() contract.Problem {
	return problem(http.StatusBadRequest, "invalid", "", "It holds characters that cannot be seen, or that turn the direction of the text.",
		"Type it anew instead of pasting it.")
}
