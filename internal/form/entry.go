// Package form is how plans and entries are written down: in the database, in the proof of a
// record, and on a device that takes a joint along. The forms have names of their own, so that
// the core's may change; golden files of internal/store hold what was ever written to its form.
package form

import (
	"encoding/json"
	"fmt"
	"time"

	"dynacor/core/record"
	"dynacor/core/unit"
)

// How entries are stored. A form that was ever written is never read otherwise. What says
// nothing is left out: a third of the length, and as much less to read when thousands of runs
// are folded.
type (
	// Quantity is a number with its unit.
	Quantity struct {
		Value float64 `json:"value"`
		Unit  string  `json:"unit"`
	}
	doneForm struct {
		Step      string    `json:"step"`
		Bolt      int       `json:"bolt,omitzero"`
		Share     float64   `json:"share,omitzero"`
		Turn      float64   `json:"turn,omitzero"`
		Stroke    int       `json:"stroke,omitzero"`
		Lock      bool      `json:"lock,omitzero"`
		Round     int       `json:"round,omitzero"`
		Moved     bool      `json:"moved,omitzero"`
		NoTurn    bool      `json:"noTurn,omitzero"`
		Angle     float64   `json:"angle,omitzero"`
		Reading   Quantity  `json:"reading,omitzero"`
		Readings  []float64 `json:"readings,omitempty"`
		Bolts     []int     `json:"bolts,omitempty"`
		Held      float64   `json:"held,omitzero"`
		Marks     []string  `json:"marks,omitempty"`
		Skipped   bool      `json:"skipped,omitzero"`
		Reason    string    `json:"reason,omitzero"`
		Qualified string    `json:"qualified,omitzero"`
		Item      int       `json:"item,omitzero"`
		Photo     bool      `json:"photo,omitzero"`
		Release   bool      `json:"release,omitzero"`
		Tried     bool      `json:"tried,omitzero"`
		LetGo     bool      `json:"letGo,omitzero"`
		Taken     string    `json:"taken,omitzero"`
		Trace     string    `json:"trace,omitzero"`
	}
	startedForm struct {
		Step string `json:"step"`
	}
	photoForm struct {
		Step   string `json:"step,omitzero"`
		Hash   string `json:"hash"`
		What   string `json:"what,omitzero"`
		Width  int    `json:"width"`
		Height int    `json:"height"`
		Size   int    `json:"size"`
	}
	cautionForm struct {
		Step   string   `json:"step"`
		Points []string `json:"points,omitempty"`
	}
	toolingForm struct {
		Group  string        `json:"group"`
		Stages []stageForm   `json:"stages"`
		Beside [][]stageForm `json:"beside,omitempty"`
	}
	stageForm struct {
		Tools      []string     `json:"tools"`
		Torque     float64      `json:"torque"`
		Lands      float64      `json:"lands"`
		Setting    Quantity     `json:"setting"`
		Main       float64      `json:"main,omitzero"`
		Minors     int          `json:"minors,omitzero"`
		First      float64      `json:"first,omitzero"`
		Major      float64      `json:"major,omitzero"`
		Minor      float64      `json:"minor,omitzero"`
		Error      float64      `json:"error,omitzero"`
		Accuracy   float64      `json:"accuracy,omitzero"`
		Multiplier float64      `json:"multiplier,omitzero"`
		Force      float64      `json:"force,omitzero"`
		Calibrated time.Time    `json:"calibrated,omitzero"`
		Due        time.Time    `json:"due,omitzero"`
		ByHand     bool         `json:"byHand,omitzero"`
		Face       string       `json:"face,omitzero"`
		Falls      bool         `json:"falls,omitzero"`
		Least      float64      `json:"least,omitzero"`
		Most       float64      `json:"most,omitzero"`
		Links      []linkForm   `json:"links,omitempty"`
		Chart      [][2]float64 `json:"chart,omitempty"`
		Draw       drawForm     `json:"draw,omitzero"`
		DueOf      string       `json:"dueOf,omitzero"`
		Full       float64      `json:"full,omitzero"`
	}
	drawForm struct {
		Load      float64 `json:"load"`
		Factor    float64 `json:"factor"`
		Applied   float64 `json:"applied"`
		Area      float64 `json:"area"`
		Length    float64 `json:"length"`
		Yield     float64 `json:"yield"`
		Lengthens float64 `json:"lengthens"`
		Stroke    float64 `json:"stroke,omitzero"`
		Residual  float64 `json:"residual"`
	}
	linkForm struct {
		Kind   string  `json:"kind"`
		Tag    string  `json:"tag,omitzero"`
		Drive  string  `json:"drive,omitzero"`
		Limit  float64 `json:"limit,omitzero"`
		Torque float64 `json:"torque,omitzero"`
		Ratio  float64 `json:"ratio,omitzero"`
		Length float64 `json:"length,omitzero"`
		Angle  float64 `json:"angle,omitzero"`
		Size   float64 `json:"size,omitzero"`
		Inside bool    `json:"inside,omitzero"`
	}
	settingForm struct {
		Group    string    `json:"group"`
		Share    float64   `json:"share"`
		Rig      []string  `json:"rig,omitempty"`
		Readings []float64 `json:"readings,omitempty"`
		Hand     int       `json:"hand,omitzero"`
		Taken    string    `json:"taken,omitzero"`
	}
	upsetForm struct {
		Group string `json:"group"`
		What  string `json:"what"`
		Note  string `json:"note,omitzero"`
	}
	troubleForm struct {
		Group  string `json:"group"`
		Bolt   int    `json:"bolt"`
		What   string `json:"what"`
		Remedy string `json:"remedy"`
		Note   string `json:"note,omitzero"`
	}
	correctionForm struct {
		Of      string          `json:"of"`
		Reason  string          `json:"reason"`
		Kind    string          `json:"kind,omitzero"` // of what stands instead
		Instead json.RawMessage `json:"instead,omitempty"`
	}
	reportForm struct {
		Tool  string    `json:"tool"`
		What  string    `json:"what"`
		Note  string    `json:"note,omitzero"`
		Since time.Time `json:"since,omitzero"`
	}
	answerForm struct {
		Tool   string `json:"tool"`
		Reason string `json:"reason"`
		How    string `json:"how,omitzero"` // empty: it stands
	}
	recheckForm struct {
		Tool     string    `json:"tool"`
		With     string    `json:"with"`
		Group    string    `json:"group"`
		Bolts    []int     `json:"bolts"`
		Readings []float64 `json:"readings"`
	}
	decisionForm struct {
		Reason string `json:"reason"`
		Tool   string `json:"tool,omitzero"`
	}
	pauseForm struct {
		Note       string `json:"note,omitzero"`
		HandOverTo string `json:"handOverTo,omitzero"`
	}
	foundForm struct {
		Group string `json:"group"`
		Is    string `json:"is"`
		Note  string `json:"note,omitzero"`
	}
	gapForm struct {
		Device string    `json:"device,omitzero"`
		By     string    `json:"by"`
		Why    string    `json:"why"`
		Seen   time.Time `json:"seen"`
		Acts   int       `json:"acts,omitzero"`
		Since  time.Time `json:"since,omitzero"`
	}
	resumeForm struct {
		Note string `json:"note,omitzero"`
	}
	signatureForm struct {
		Part   string `json:"part"`
		Reason string `json:"reason,omitzero"`
	}
)

// QuantityOf is how q is written.
func QuantityOf(q unit.Quantity) Quantity { return Quantity{q.Value, string(q.Unit)} }

// Quantity is what was written.
func (f Quantity) Quantity() unit.Quantity { return unit.Of(f.Value, unit.Unit(f.Unit)) }

// form returns what is stored for c.
func form(c record.Content) (any, error) {
	switch c := c.(type) {
	case record.Done:
		return doneOf(c), nil
	case record.Twice:
		return doneOf(c.Done), nil
	case record.Started:
		return startedForm(c), nil
	case record.Photo:
		return photoForm(c), nil
	case record.Caution:
		return cautionForm{c.Step, c.Points}, nil
	case record.Tooling:
		f := toolingForm{Group: c.Group, Stages: stageForms(c.Stages)}
		for _, stages := range c.Beside {
			f.Beside = append(f.Beside, stageForms(stages))
		}
		return f, nil
	case record.Setting:
		return settingForm(c), nil
	case record.Upset:
		return upsetForm{c.Group, string(c.What), c.Note}, nil
	case record.Trouble:
		return troubleForm{c.Group, c.Bolt, string(c.What), string(c.Remedy), c.Note}, nil
	case record.Correction:
		f := correctionForm{Of: c.Of, Reason: c.Reason}
		if c.Instead == nil {
			return f, nil
		}
		inner, err := WriteContent(c.Instead)
		f.Kind, f.Instead = string(c.Instead.Kind()), json.RawMessage(inner)
		return f, err
	case record.Report:
		return reportForm{c.Tool, string(c.What), c.Note, c.Since}, nil
	case record.Gap:
		return gapForm(c), nil
	case record.Lubricant:
		return foundForm(c), nil
	case record.Answer:
		return answerForm{c.Tool, c.Reason, string(c.How)}, nil
	case record.Recheck:
		return recheckForm(c), nil
	case record.Decision:
		return decisionForm(c), nil
	case record.Pause:
		return pauseForm(c), nil
	case record.Resume:
		return resumeForm(c), nil
	case record.Signature:
		return signatureForm{string(c.Part), c.Reason}, nil
	}
	return nil, fmt.Errorf("unknown content %T", c)
}

func doneOf(c record.Done) doneForm {
	return doneForm{c.Step, c.Bolt, c.Share, c.Turn, c.Stroke, c.Lock, c.Round, c.Moved, c.NoTurn, c.Angle, QuantityOf(c.Reading),
		c.Readings,
		c.Bolts, c.Held, c.Marks, c.Skipped, c.Reason, c.Qualified, c.Item, c.Photo, c.Release, c.Tried, c.LetGo, c.Taken, c.Trace}
}

func (f doneForm) done() record.Done {
	return record.Done{Act: record.Act{Step: f.Step, Bolt: f.Bolt, Share: f.Share, Turn: f.Turn, Stroke: f.Stroke, Lock: f.Lock,
		Round: f.Round, Item: f.Item, Photo: f.Photo, Release: f.Release}, Tried: f.Tried, LetGo: f.LetGo,
		Moved: f.Moved, NoTurn: f.NoTurn, Angle: f.Angle, Reading: f.Reading.Quantity(), Readings: f.Readings,
		Bolts: f.Bolts,
		Held:  f.Held, Marks: f.Marks, Skipped: f.Skipped, Reason: f.Reason, Qualified: f.Qualified,
		Taken: f.Taken, Trace: f.Trace}
}

// WriteContent writes an entry's content as it is stored and hashed.
func WriteContent(c record.Content) (string, error) {
	f, err := form(c)
	if err != nil {
		return "", err
	}
	b, err := json.Marshal(f)
	return string(b), err
}

// ReadContent reads what WriteContent wrote.
func ReadContent(kind record.Kind, body string) (record.Content, error) {
	switch kind {
	case record.KindDone:
		return read(body, func(f doneForm) record.Content { return f.done() })
	case record.KindTwice:
		return read(body, func(f doneForm) record.Content { return record.Twice{Done: f.done()} })
	case record.KindCaution:
		return read(body, func(f cautionForm) record.Content { return record.Caution(f) })
	case record.KindTooling:
		return read(body, tooling)
	case record.KindSetting:
		return read(body, func(f settingForm) record.Content { return record.Setting(f) })
	case record.KindUpset:
		return read(body, func(f upsetForm) record.Content {
			return record.Upset{Group: f.Group, What: record.UpsetKind(f.What), Note: f.Note}
		})
	case record.KindTrouble:
		return read(body, func(f troubleForm) record.Content {
			return record.Trouble{Group: f.Group, Bolt: f.Bolt, What: record.TroubleKind(f.What), Remedy: record.Remedy(f.Remedy),
				Note: f.Note}
		})
	case record.KindStarted:
		return read(body, func(f startedForm) record.Content { return record.Started(f) })
	case record.KindPhoto:
		return read(body, func(f photoForm) record.Content { return record.Photo(f) })
	case record.KindReport:
		return read(body, func(f reportForm) record.Content {
			return record.Report{Tool: f.Tool, What: record.ReportKind(f.What), Note: f.Note, Since: f.Since}
		})
	case record.KindGap:
		return read(body, func(f gapForm) record.Content { return record.Gap(f) })
	case record.KindLubricant:
		return read(body, func(f foundForm) record.Content { return record.Lubricant(f) })
	case record.KindAnswer:
		return read(body, func(f answerForm) record.Content {
			return record.Answer{Tool: f.Tool, Reason: f.Reason, How: record.AnswerHow(f.How)}
		})
	case record.KindRecheck:
		return read(body, func(f recheckForm) record.Content { return record.Recheck(f) })
	case record.KindDecision:
		return read(body, func(f decisionForm) record.Content { return record.Decision(f) })
	case record.KindPause:
		return read(body, func(f pauseForm) record.Content { return record.Pause(f) })
	case record.KindResume:
		return read(body, func(f resumeForm) record.Content { return record.Resume(f) })
	case record.KindSignature:
		return read(body, func(f signatureForm) record.Content {
			return record.Signature{Part: record.Part(f.Part), Reason: f.Reason}
		})
	case record.KindCorrection:
		return correction(body)
	}
	return nil, fmt.Errorf("unknown kind of entry %q", kind)
}

func read[F any](body string, content func(F) record.Content) (record.Content, error) {
	var f F
	if err := json.Unmarshal([]byte(body), &f); err != nil {
		return nil, err
	}
	return content(f), nil
}

func correction(body string) (record.Content, error) {
	var f correctionForm
	if err := json.Unmarshal([]byte(body), &f); err != nil {
		return nil, err
	}
	c := record.Correction{Of: f.Of, Reason: f.Reason}
	if f.Kind == "" {
		return c, nil
	}
	var err error
	c.Instead, err = ReadContent(record.Kind(f.Kind), string(f.Instead))
	return c, err
}
