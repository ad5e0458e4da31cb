package seal

import (
	"bufio"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"time"
)

// Line is one line of a journal: the head of a run as it was stored, or a seal.
type Line struct {
	At   time.Time `json:"at"`
	Run  string    `json:"run,omitzero"`
	Seq  int       `json:"seq,omitzero"`
	Hash []byte    `json:"hash,omitempty"`

	Seal      int    `json:"seal,omitzero"` // its number
	Body      string `json:"body,omitzero"`
	Signature []byte `json:"signature,omitempty"`
}

// Journal writes heads and seals to a folder as they come, best on another disk or
// machine: what is cut off or replaced in the database is still told there. One file a
// day and process, one JSON object a line.
type Journal struct {
	folder string
	file   *os.File
	name   string
}

// NewJournal writes to a folder, which must be there.
func NewJournal(folder string) (*Journal, error) {
	info, err := os.Stat(folder)
	if err != nil {
		return nil, err
	}
	if !info.IsDir() {
		return nil, fmt.Errorf("%s is no folder", folder)
	}
	return &Journal{folder: folder}, nil
}

// Write adds lines; when it returns they are on the disk.
func (j *Journal) Write(lines []Line) error {
	if len(lines) == 0 {
		return nil
	}
	name := fmt.Sprintf("heads-%s-%d.jsonl", lines[0].At.UTC().Format(time.DateOnly), os.Getpid())
	if name != j.name || j.file == nil {
		j.Close()
		f, err := os.OpenFile(filepath.Join(j.folder, name), os.O_APPEND|os.O_CREATE|os.O_WRONLY, 0o640)
		if err != nil {
			return err
		}
		j.file, j.name = f, name
	}
	var b []byte
	for _, l := range lines {
		text, err := json.Marshal(l)
		if err != nil {
			return err
		}
		b = append(append(b, text...), '\n')
	}
	if _, err := j.file.Write(b); err != nil {
		j.Close()
		return err
	}
	return j.file.Sync()
}

// Close ends the file in hand.
func (j *Journal) Close() {
	if j.file != nil {
		j.file.Close()
		j.file = nil
	}
}

// longestLine is how long a line of a journal may be: a seal of many heads.
const longestLine = 16 << 20

// ReadJournal gives each line of a folder to do, file by file. A last line that was cut
// off in the writing is left out.
func ReadJournal(folder string, do func(Line) error) error {
	files, err := filepath.Glob(filepath.Join(folder, "heads-*.jsonl"))
	if err != nil {
		return err
	}
	slices.Sort(files)
	for _, name := range files {
		if err := readLines(name, do); err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
	}
	return nil
}

func readLines(name string, do func(Line) error) error {
	f, err := os.Open(name)
	if err != nil {
		return err
	}
	defer f.Close()
	in := bufio.NewReaderSize(f, 1<<20)
	for n := 1; ; n++ {
		text, err := in.ReadBytes('\n')
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return err
		}
		if len(text) > longestLine {
			return fmt.Errorf("line %d is longer than %d bytes", n, longestLine)
		}
		var l Line
		if err := json.Unmarshal(text, &l); err != nil {
			return fmt.Errorf("line %d: %w", n, err)
		}
		if err := do(l); err != nil {
			return err
		}
	}
}
