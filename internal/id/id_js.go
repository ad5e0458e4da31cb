package id

import (
	"encoding/hex"
	"fmt"
	"strings"
)

// UUID is an identity.
type UUID [16]byte

// Parse reads one in its usual form.
func Parse(s string) (u UUID, err error) {
	err = u.UnmarshalText([]byte(s))
	return u, err
}

// String writes it in its usual form.
func (u UUID) String() string {
	s := hex.EncodeToString(u[:])
	return strings.Join([]string{s[:8], s[8:12], s[12:16], s[16:20], s[20:]}, "-")
}

// MarshalText is String.
func (u UUID) MarshalText() ([]byte, error) { return []byte(u.String()), nil }

// UnmarshalText is Parse.
func (u *UUID) UnmarshalText(text []byte) error {
	s := string(text)
	if len(s) != 36 || s[8] != '-' || s[13] != '-' || s[18] != '-' || s[23] != '-' {
		return fmt.Errorf("%q is no identity", s)
	}
	_, err := hex.Decode(u[:], []byte(strings.ReplaceAll(s, "-", "")))
	return err
}
