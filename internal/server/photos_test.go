package server_test

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"image"
	"image/jpeg"
	"image/png"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

func jpegOf(t *testing.T, w, h int) []byte {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, w, h)), nil))
	return b.Bytes()
}

// What is no photograph, is too large, or says where it was taken is refused in words, and
// nothing is kept; the same sent twice is kept once, and comes back as it was.
func TestPhotographs(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	send := func(file []byte) answer {
		return marta.do("POST", "/api/photos", map[string]string{"file": base64.StdEncoding.EncodeToString(file)})
	}
	good := jpegOf(t, 640, 480)
	exif := append(append(bytes.Clone(good[:2]), "\xff\xe1\x00\x10Exif\x00\x00MM\x00*\x00\x00"...), good[2:]...)
	kept := func() string {
		var n string
		require.NoError(t, s.store.Pool().QueryRow(t.Context(), "select count(*)::text from photos").Scan(&n))
		return n
	}
	before := kept()
	for _, c := range []struct {
		name string
		file []byte
		says string
	}{
		{"a text", []byte("this is a letter, and no photograph"), "no photograph in a form that is known"},
		{"a form that is not taken", []byte("GIF89a\x01\x00\x01\x00\x00\x00\x00;"), "no photograph in a form that is known"},
		{"one cut off", good[:len(good)/2], "not whole"},
		{"one of 2000 pixels", jpegOf(t, 2000, 100), "2000 by 100 pixels; at most 1600"},
		{"one over 12 MiB", append(bytes.Clone(good), make([]byte, 12<<20)...), "at most 12582912 are taken"},
		{"one with what its camera wrote", exif, "perhaps where it was taken"},
	} {
		a := send(c.file)
		require.GreaterOrEqual(t, a.status, 400, c.name)
		require.Contains(t, a.problem(t).Detail, c.says, c.name)
		require.Equal(t, before, kept(), c.name)
	}
	require.Equal(t, http.StatusRequestEntityTooLarge, marta.do("POST", "/api/photos",
		map[string]string{"file": strings.Repeat("A", 18<<20)}).status)

	var p struct{ Hash string }
	for range 2 {
		a := send(good)
		require.Equal(t, http.StatusOK, a.status, a.body)
		require.NoError(t, json.Unmarshal([]byte(a.body), &p))
	}
	require.NotEqual(t, before, kept())
	require.Equal(t, string(good), marta.do("GET", "/api/photos/"+p.Hash, nil).body)
	require.Equal(t, http.StatusNotFound, marta.do("GET", "/api/photos/"+strings.Repeat("0", 64), nil).status)
	require.Equal(t, http.StatusUnauthorized, s.visitor().do("GET", "/api/photos/"+p.Hash, nil).status)
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewGray(image.Rect(0, 0, 9, 9))))
	require.Equal(t, http.StatusOK, send(b.Bytes()).status)

	// An entry names one that has come, and it is on the record.
	run := marta.get("IV-2 / BONNET").Run.ID.String()
	none := newEntry("photo", map[string]any{"step": "", "hash": strings.Repeat("0", 64), "what": "the gasket"})
	require.Contains(t, marta.add(run, none).problem(t).Detail, "has not come yet")
	r := stored(t, marta.add(run, newEntry("photo", map[string]any{"step": "", "hash": p.Hash, "what": "the gasket"})))
	require.Equal(t, "the gasket", r.Photos[len(r.Photos)-1].What)
	require.Contains(t, string(marta.record("IV-2 / BONNET", "json")), p.Hash)
}
