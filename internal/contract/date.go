// Package contract is api/openapi.yaml in Go, generated but for this file: its types, and its
// routes where there is a server.
package contract

import (
	"encoding/json"
	"time"
)

// Date is a day, without an hour or a zone.
type Date struct{ time.Time }

const dayForm = "2006-01-02"

// MarshalJSON writes a day as 2026-11-26.
func (d Date) MarshalJSON() ([]byte, error) { return json.Marshal(d.Format(dayForm)) }

// UnmarshalJSON reads one.
func (d *Date) UnmarshalJSON(b []byte) (err error) {
	var s string
	if err := json.Unmarshal(b, &s); err != nil {
		return err
	}
	d.Time, err = time.Parse(dayForm, s)
	return err
}
