//go:build !js

// Package id is the identities that everything here goes by: UUIDs. On a device they are read
// and written alone, never made, and so without the library that makes them, and the
// cryptography that it brings along.
package id

import "github.com/google/uuid"

// UUID is an identity.
type UUID = uuid.UUID

// Parse reads one in its usual form.
func Parse(s string) (UUID, error) { return uuid.Parse(s) }
