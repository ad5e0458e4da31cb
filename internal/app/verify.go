package app

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"time"

	"dynacor/internal/report"
	"dynacor/internal/seal"
	"dynacor/internal/store"
)

// Verdict is what can be said of a file that claims to be a record.
type Verdict struct {
	Record report.Record // what follows from its proof, not what it says of itself
	Key    seal.Public   // that its seal was made with
	Faults []string      // why it is not what was signed
	Unread string        // why its pages were not compared with its proof; empty where they were
	Notes  []string      // what is not sealed
}

// Verify says whether a record, as PDF or JSON, is what was signed: by the site's public
// keys alone, without a database or a network. An error says that the file is no record.
func Verify(file []byte, keys ...seal.Public) (v Verdict, err error) {
	text, pdf := file, bytes.HasPrefix(file, []byte("%PDF-"))
	if pdf {
		if text, err = report.FromPDF(file); err != nil {
			return v, err
		}
	}
	var says report.Record
	if err := json.Unmarshal(text, &says); err != nil {
		return v, fmt.Errorf("this is no record as JSON or PDF: %w", err)
	}
	var e store.Evidence
	if len(says.Proof) == 0 || json.Unmarshal(says.Proof, &e) != nil {
		return v, fmt.Errorf("this record of %q carries no proof", says.Tag)
	}
	faults, sealed, ok := e.Check(keys...)
	v.Faults = faults
	switch {
	case e.Seal == nil:
		v.Faults = append(v.Faults, "it is not sealed")
	case ok:
		if v.Key, err = seal.ParsePublic(sealed.Key); err != nil {
			return v, err
		}
	}
	zone, err := time.LoadLocation(says.Zone)
	if err != nil {
		return v, fmt.Errorf("its times are in a zone %q that is not known here", says.Zone)
	}
	if v.Record, err = RecordOf(e, zone, says.Program); err != nil {
		v.Faults = append(v.Faults, "nothing can be told from its proof: "+err.Error())
		return v, nil
	}
	v.Record = v.Record.For(says.Reader)
	if !signedTerms(says.Reader, keys) {
		v.Faults = append(v.Faults, "the words of its pages are not the site’s")
	}
	same, err := writtenAs(v.Record, file, text, pdf)
	switch {
	case err != nil:
		return v, err
	case same:
	case says.Program != Version():
		v.Unread = fmt.Sprintf("the file says that another program (%s; this is %s) wrote its pages, so they were not compared with its proof",
			says.Program, Version())
	default:
		v.Faults = append(v.Faults, "what it says is not what follows from its proof")
	}
	if m, err := e.Meaning(); err == nil && m.Recipe == "" {
		v.Notes = append(v.Notes, "the words of its recipe were not sealed: an older server issued its plan")
	}
	for _, id := range slices.Sorted(maps.Keys(e.Names)) {
		v.Notes = append(v.Notes, fmt.Sprintf("the name of %s was not sealed: an older server stored what they did", e.Names[id]))
	}
	return v, nil
}

// writtenAs reports whether a file is, byte for byte, what a record is written out as.
func writtenAs(r report.Record, file, text []byte, pdf bool) (bool, error) {
	var b bytes.Buffer
	if err := report.JSON(&b, r); err != nil || !bytes.Equal(b.Bytes(), text) {
		return false, err
	}
	if !pdf {
		return true, nil
	}
	b.Reset()
	err := report.PDF(&b, r)
	return bytes.Equal(b.Bytes(), file), err
}
