package server

import (
	"context"
	"encoding/json"
	"net/http"
	"path"
	"time"

	"github.com/google/uuid"

	"dynacor/internal/app"
	"dynacor/internal/store"
)

// What a session holds: the id of who is signed in, and, read anew at each
// request, what they may do; for an entry by the commit that stores it.
const (
	sessionPerson = "person"
	sessionWho    = "who"
)

// sessionForm turns a session into what the store keeps, and back.
type sessionForm struct{}

func (sessionForm) Encode(expiry time.Time, values map[string]any) ([]byte, error) {
	text, _ := values[sessionPerson].(string)
	person, err := uuid.Parse(text)
	if err != nil {
		return nil, err
	}
	return json.Marshal(store.Session{Person: person, Expiry: expiry})
}

func (sessionForm) Decode(b []byte) (expiry time.Time, values map[string]any, err error) {
	var s store.Session
	if err := json.Unmarshal(b, &s); err != nil {
		return expiry, nil, err
	}
	return s.Expiry, map[string]any{sessionPerson: s.Person.String(), sessionWho: app.WhoOf(s)}, nil
}

// remembered lets entries through to next with who is remembered of their session:
// the use case looks at it again in the commit that stores them, so that it need
// not be looked up before. All else goes by way of the session library.
func (s *Server) remembered(next, looked http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if entry, _ := path.Match("/api/runs/*/entries", r.URL.Path); entry && r.Method == http.MethodPost {
			if c, err := r.Cookie(s.sessions.Cookie.Name); err == nil {
				if x, known := s.kept.Remembered(c.Value); known {
					who := app.WhoOf(x)
					who.Remembered = c.Value
					next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), whoKey{}, who)))
					return
				}
			}
		}
		looked.ServeHTTP(w, r)
	})
}

// signedIn returns who is signed in, with what they may do now; somebody who was
// switched off meanwhile is not. Where they are remembered, the use case looks.
func (s *Server) signedIn(ctx context.Context) (app.Who, error) {
	if w := who(ctx); w.Remembered != "" {
		return w, nil
	}
	if w, in := s.sessions.Get(ctx, sessionWho).(app.Who); in {
		return w, nil
	}
	return app.Who{}, app.ErrNotSignedIn
}
