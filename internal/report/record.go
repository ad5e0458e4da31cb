// Package report writes a joint's record in open formats: PDF to print, CSV
// and JSON to read on.
package report

import (
	"encoding/csv"
	"encoding/json"
	"io"
	"strconv"
	"strings"
	"time"

	"dynacor/core/figure"
	"dynacor/internal/words"
)

// Record is all that is known of how a joint was made.
type Record struct {
	Site        string      `json:"site"`
	Outage      string      `json:"outage"`
	Tag         string      `json:"tag"`
	Title       string      `json:"title"`
	Area        string      `json:"area"`
	State       string      `json:"state"`
	Revision    int         `json:"revision"`
	CoreVersion string      `json:"coreVersion"`
	IssuedBy    string      `json:"issuedBy"`
	IssuedAt    time.Time   `json:"issuedAt"`
	Reason      string      `json:"reason,omitempty"`
	Sentence    []string    `json:"sentence"`
	Kind        string      `json:"kind"`
	Recipe      string      `json:"recipe"`
	Deviations  []string    `json:"deviations"`
	Open        []string    `json:"open"`
	Values      []Value     `json:"values"`
	Groups      []Group     `json:"groups"`
	Tools       []Tool      `json:"tools,omitempty"` // that the pulls which stand were made with
	Photos      []Photo     `json:"photos,omitempty"`
	Steps       []Step      `json:"steps"`
	Signatures  []Signature `json:"signatures"`
	Entries     []Entry     `json:"entries"`
	Hash        string      `json:"hash"` // of the last entry; it covers all before it
	Bolts       []Bolt      `json:"bolts"`
	Numbers     []Number    `json:"numbers"` // the appendix: where each comes from
	Faults      []string    `json:"faults"`  // where it is not what was stored
	Zone        string      `json:"zone"`    // of its times, as the time zone database names it
	Program     string      `json:"program"` // which wrote it out
	Reader
	Seal *Seal `json:"seal,omitempty"`

	// Proof is what the record follows from, as it is stored; with the site's public key
	// it says whether the record is what was signed.
	Proof json.RawMessage `json:"proof,omitempty"`

	Figure figure.Figure `json:"-"`
}

// Reader is whose words pages have. What a record says as JSON is what was said.
type Reader struct {
	Locale string       `json:"locale,omitempty"`      // as "de-AT"; empty: as they were said
	Terms  []words.Term `json:"terms,omitempty"`       // that the site says its own way in that language
	Signed []byte       `json:"termsSigned,omitempty"` // the site's signature under the two above

	Texts map[string]map[string]string `json:"-"` // what recipes say, by language: they are in the proof
}

// For returns the record as it is printed for a reader, with the texts of its own recipe.
func (r Record) For(to Reader) Record {
	to.Texts = r.Texts
	r.Reader = to
	return r
}

// phrases says what pages say in the words of their reader.
func (r Reader) phrases() *words.Phrases {
	language, _, _ := strings.Cut(r.Locale, "-")
	return words.For(r.Locale).Overruled(r.Terms).With(r.Texts[language])
}

// Seal is the site's signature under a record.
type Seal struct {
	Number    int       `json:"number"`
	At        time.Time `json:"at"`
	Entry     int       `json:"entry"` // the last that it covers
	Head      string    `json:"head"`  // its hash, hex
	Key       string    `json:"key"`   // public, hex
	Signature []byte    `json:"signature"`
}

// Value is what the plan was made with.
type Value struct {
	Name   string `json:"name"`
	Value  string `json:"value"`
	Source string `json:"source"`
}

// Group is a set of bolts with what it was pulled to, and how.
type Group struct {
	Name        string   `json:"name"`
	Words       string   `json:"words"`
	Lubrication string   `json:"lubrication,omitempty"`
	Band        string   `json:"band,omitempty"`     // what a bolt carries with the tool that was taken, and how sure that is
	Compared    []string `json:"compared,omitempty"` // on the Bench, when its way was taken from there
	Stages      []Stage  `json:"stages,omitempty"`
	Rounds      []Round  `json:"rounds,omitempty"`
}

// Step is a step of the recipe and how it was done.
type Step struct {
	Station  string    `json:"station"`
	Text     string    `json:"text"`
	Done     bool      `json:"done"`
	By       string    `json:"by,omitempty"`
	At       time.Time `json:"at,omitzero"`
	Readings string    `json:"readings,omitempty"`
	Comes    string    `json:"comes,omitempty"` // what readings round a circle come to
	Held     string    `json:"held,omitempty"`
	Ticks    []string  `json:"ticks,omitempty"` // of a list: what was ticked
	Released string    `json:"releasedBy,omitempty"`
	Marks    []string  `json:"marks,omitempty"`
	Limit    string    `json:"limit,omitempty"`
	Tries    []string  `json:"tries,omitempty"`
	Outside  string    `json:"outside,omitempty"`
	Reason   string    `json:"reason,omitempty"`
}

// Photo is a photograph, small on the printed record; its bytes are in the proof.
type Photo struct {
	Step   string    `json:"step,omitempty"`
	What   string    `json:"what,omitempty"`
	By     string    `json:"by"`
	At     time.Time `json:"at"`
	Hash   string    `json:"hash"`
	Type   string    `json:"type"`
	Width  int       `json:"width"`
	Height int       `json:"height"`
	Bytes  []byte    `json:"-"`
}

// Stage is one stage and the tools it was made with.
type Stage struct {
	Number     int     `json:"number"`
	Share      float64 `json:"sharePercent"`
	Torque     float64 `json:"torqueNm"`
	Tools      string  `json:"tools"`
	Setting    float64 `json:"setting"`
	Unit       string  `json:"unit"`
	Lands      float64 `json:"landsNm"`
	Calibrated string  `json:"calibrated,omitempty"`
	Due        string  `json:"due,omitempty"`
}

// Tool is one that pulls were made with.
type Tool struct {
	Tag        string   `json:"tag"`
	Made       []string `json:"made"`
	Calibrated string   `json:"calibrated,omitempty"`
	Due        string   `json:"due,omitempty"`
}

// Round is one going round until nothing moves.
type Round struct {
	Number  int    `json:"number"`
	Tried   int    `json:"tried"`
	Moved   []int  `json:"moved"`
	Counted bool   `json:"counted"`
	Text    string `json:"text"`
}

// Signature is who signed for what.
type Signature struct {
	Part   string    `json:"part"`
	By     string    `json:"by"`
	At     time.Time `json:"at"`
	Reason string    `json:"reason,omitempty"`
}

// Entry is one line of the run as it was stored.
type Entry struct {
	Number   int       `json:"number"`
	ID       string    `json:"id"`
	Kind     string    `json:"kind"`
	AtTool   time.Time `json:"atTool"`
	AtDevice time.Time `json:"atDevice,omitzero"` // by the device's own clock, where that was off
	AtServer time.Time `json:"atServer"`
	Person   string    `json:"person"`
	Group    string    `json:"group,omitempty"`
	Bolt     int       `json:"bolt,omitempty"`
	Share    float64   `json:"sharePercent,omitempty"`
	Round    int       `json:"round,omitempty"`
	What     string    `json:"what"`
	Outcome  string    `json:"outcome"`
	Setting  float64   `json:"setting,omitempty"`
	Unit     string    `json:"unit,omitempty"`
	Reading  float64   `json:"reading,omitempty"`
	ReadIn   string    `json:"readingUnit,omitempty"`
	Tools    string    `json:"tools,omitempty"`
	Struck   bool      `json:"struck,omitempty"`
	Note     string    `json:"note,omitempty"`
}

// Bolt is where one bolt ended.
type Bolt struct {
	Group    string  `json:"group,omitempty"`
	Position int     `json:"position"`
	Level    float64 `json:"level"`
	Mark     string  `json:"mark"`
}

// Number is a number of the plan with where it comes from, in words.
type Number struct {
	Of        string   `json:"of"`
	Part      string   `json:"part"` // what that is, in words
	Key       string   `json:"key"`
	Name      string   `json:"name"`
	Formula   string   `json:"formula"`
	Numbers   string   `json:"numbers"`
	Comes     string   `json:"comes"`
	Source    string   `json:"source"`
	Valid     string   `json:"valid"`
	Uncertain string   `json:"uncertain"`
	Changes   string   `json:"changes"`
	Symbols   []Symbol `json:"symbols"`
}

// Symbol is a letter of a formula with what it stands for. Key, where it is not empty,
// is the number it is.
type Symbol struct {
	Sign   string `json:"sign"`
	Name   string `json:"name"`
	Amount string `json:"amount"`
	From   string `json:"from,omitempty"`
	Key    string `json:"key,omitempty"`
}

// JSON writes r as one JSON object.
func JSON(w io.Writer, r Record) error {
	e := json.NewEncoder(w)
	e.SetIndent("", "  ")
	return e.Encode(r)
}

// CSV writes r's entries, one a line, with a head line. Times are RFC 3339.
func CSV(w io.Writer, r Record) error {
	c := csv.NewWriter(w)
	_ = c.Write([]string{"tag", "revision", "number", "id", "kind", "at_tool", "at_server", "person", "group", "bolt", "share_percent",
		"round", "what", "outcome", "setting", "setting_unit", "reading", "reading_unit", "tools", "struck_out", "note", "at_device"})
	for _, e := range r.Entries {
		_ = c.Write([]string{r.Tag, strconv.Itoa(r.Revision), strconv.Itoa(e.Number), e.ID, e.Kind,
			e.AtTool.UTC().Format(time.RFC3339Nano), e.AtServer.UTC().Format(time.RFC3339Nano), cell(e.Person),
			cell(e.Group), whole(e.Bolt), decimal(e.Share), whole(e.Round), cell(e.What), cell(e.Outcome), decimal(e.Setting), e.Unit,
			decimal(e.Reading), e.ReadIn, cell(e.Tools), strconv.FormatBool(e.Struck), cell(e.Note), device(e)})
	}
	c.Flush()
	return c.Error()
}

// device is the time by a clock that was off; empty where it was not.
func device(e Entry) string {
	if e.AtDevice.IsZero() {
		return ""
	}
	return e.AtDevice.UTC().Format(time.RFC3339Nano)
}

// cell keeps a spreadsheet from taking what somebody typed for a formula.
func cell(s string) string {
	if s != "" && (s[0] == '=' || s[0] == '+' || s[0] == '-' || s[0] == '@' || s[0] == '\t' || s[0] == '\r') {
		return "'" + s
	}
	return s
}

func whole(n int) string {
	if n == 0 {
		return ""
	}
	return strconv.Itoa(n)
}

func decimal(v float64) string {
	if v == 0 {
		return ""
	}
	return strconv.FormatFloat(v, 'f', -1, 64)
}
