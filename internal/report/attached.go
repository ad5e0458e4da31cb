package report

import (
	"bytes"
	"compress/zlib"
	"errors"
	"fmt"
	"io"
)

// ErrNotAttached is what a PDF comes to that carries no record.
var ErrNotAttached = errors.New("this PDF carries no record; it was printed anew, or made by something else")

// mostAttached is how long a record inside a PDF may be, bytes.
const mostAttached = 64 << 20

// FromPDF returns the record as JSON that a PDF of ours carries. It is found by how PDF
// writes it; that the pages say the same is for the caller to look at.
func FromPDF(file []byte) ([]byte, error) {
	at := bytes.Index(file, []byte("/Type /EmbeddedFile"))
	if at < 0 {
		return nil, ErrNotAttached
	}
	begin, found := []byte("stream\n"), bytes.Index(file[at:], []byte("stream\n"))
	if found < 0 {
		return nil, ErrNotAttached
	}
	z, err := zlib.NewReader(bytes.NewReader(file[at+found+len(begin):]))
	if err != nil {
		return nil, fmt.Errorf("the record in this PDF cannot be read: %w", err)
	}
	defer z.Close()
	b, err := io.ReadAll(io.LimitReader(z, mostAttached+1))
	if err != nil {
		return nil, fmt.Errorf("the record in this PDF cannot be read: %w", err)
	}
	if len(b) > mostAttached {
		return nil, fmt.Errorf("the record in this PDF is longer than %d bytes", mostAttached)
	}
	return b, nil
}
