package store

import (
	"encoding/json"
	"fmt"

	"dynacor/core/run"
	"dynacor/core/unit"
)

// A correction holds other content, whose kind must be kept beside it.
type correctionBody struct {
	Of          string
	Reason      string
	InsteadKind run.Kind        `json:",omitempty"`
	Instead     json.RawMessage `json:",omitempty"`
}

// What is stored most often is written without what says nothing: a third of
// the length, and as much less to read when thousands of runs are folded. Each
// is the struct of the package run with other tags.
type (
	stepBody struct {
		Step      string
		Bolt      int           `json:",omitzero"`
		Share     float64       `json:",omitzero"`
		Turn      float64       `json:",omitzero"`
		Stroke    int           `json:",omitzero"`
		Lock      bool          `json:",omitzero"`
		Round     int           `json:",omitzero"`
		Readings  []float64     `json:",omitempty"`
		Held      float64       `json:",omitzero"`
		Marks     []string      `json:",omitempty"`
		Moved     bool          `json:",omitzero"`
		Reading   unit.Quantity `json:",omitzero"`
		Confirmed bool          `json:",omitzero"`
		Skipped   bool          `json:",omitzero"`
		Reason    string        `json:",omitzero"`
		Qualified string        `json:",omitzero"`
		Bolts     []int         `json:",omitempty"`
	}
	pullBody struct {
		Bolt      int
		Pass      int
		NoTurn    bool          `json:",omitzero"`
		Reading   unit.Quantity `json:",omitzero"`
		Confirmed bool          `json:",omitzero"`
	}
	checkBody struct {
		Bolt      int
		Round     int
		Moved     bool          `json:",omitzero"`
		Reading   unit.Quantity `json:",omitzero"`
		Confirmed bool          `json:",omitzero"`
	}
)

// short returns what is written for c.
func short(c run.Content) any {
	switch c := c.(type) {
	case run.Step:
		return stepBody(c)
	case run.Pull:
		return pullBody(c)
	case run.Check:
		return checkBody(c)
	}
	return c
}

// encode writes an entry's content as it is stored and hashed.
func encode(c run.Content) (string, error) {
	if cor, ok := c.(run.Correction); ok {
		body := correctionBody{Of: cor.Of, Reason: cor.Reason}
		if cor.Instead != nil {
			inner, err := encode(cor.Instead)
			if err != nil {
				return "", err
			}
			body.InsteadKind, body.Instead = cor.Instead.Kind(), json.RawMessage(inner)
		}
		b, err := json.Marshal(body)
		return string(b), err
	}
	b, err := json.Marshal(short(c))
	return string(b), err
}

// decode reads what encode wrote.
func decode(kind run.Kind, body string) (run.Content, error) {
	switch kind {
	case run.KindCaution:
		return as[run.Caution](body)
	case run.KindTooling:
		return as[run.Tooling](body)
	case run.KindPull:
		return as[run.Pull](body)
	case run.KindCheck:
		return as[run.Check](body)
	case run.KindTrouble:
		return as[run.Trouble](body)
	case run.KindPause:
		return as[run.Pause](body)
	case run.KindResume:
		return as[run.Resume](body)
	case run.KindMeasurement:
		return as[run.Measurement](body)
	case run.KindDecision:
		return as[run.Decision](body)
	case run.KindSignature:
		return as[run.Signature](body)
	case run.KindStep:
		return as[run.Step](body)
	case run.KindCorrection:
		var b correctionBody
		if err := json.Unmarshal([]byte(body), &b); err != nil {
			return nil, err
		}
		c := run.Correction{Of: b.Of, Reason: b.Reason}
		if b.InsteadKind != "" {
			inner, err := decode(b.InsteadKind, string(b.Instead))
			if err != nil {
				return nil, err
			}
			c.Instead = inner
		}
		return c, nil
	}
	return nil, fmt.Errorf("unknown kind of entry %q", kind)
}

func as[T run.Content](body string) (run.Content, error) {
	var v T
	err := json.Unmarshal([]byte(body), &v)
	return v, err
}
