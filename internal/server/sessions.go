package server

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"dynacor/internal/app"
	"dynacor/internal/store"
)

// What a session holds: the id of who is signed in, and, read anew at each
// request, what they may do.
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
	who := app.Who{ID: s.Person, Roles: s.Roles, Qualifications: s.Qualifications}
	return s.Expiry, map[string]any{sessionPerson: s.Person.String(), sessionWho: who}, nil
}

// signedIn returns who is signed in, with what they may do now; somebody who was
// switched off meanwhile is not.
func (s *Server) signedIn(ctx context.Context) (who app.Who, in bool) {
	who, in = s.sessions.Get(ctx, sessionWho).(app.Who)
	return who, in
}
