// Package backup writes a database to a file of pg_dump's own format with a note beside
// it, signed with the site's key, that says what is in it; reads such a pair back; and
// keeps as many of them as is asked for.
package backup

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"dynacor/internal/pgdev"
	"dynacor/internal/seal"
	"dynacor/internal/store"
)

// Note is what stands beside a dump.
type Note struct {
	At     time.Time   `json:"at"`
	Dump   string      `json:"dump"` // name of its file
	Size   int64       `json:"size"` // bytes
	Sum    string      `json:"sha256"`
	State  store.State `json:"state"`
	Public string      `json:"key"` // hex; empty: nobody signed
}

// signedNote is how it is kept: what was signed, byte for byte.
type signedNote struct {
	Body      string `json:"body"`
	Signature []byte `json:"signature,omitempty"`
}

const (
	prefix   = "dynacor-"
	dumpEnd  = ".dump"
	noteEnd  = ".json"
	inWork   = ".part"
	nameTime = "20060102T150405Z"
)

// Write dumps a database to a folder, and returns the note and the path of the dump. What
// breaks off leaves nothing that looks like a backup. A nil key leaves the note unsigned.
func Write(ctx context.Context, url, folder string, key *seal.Key) (n Note, path string, err error) {
	s, err := store.Open(ctx, url)
	if err != nil {
		return n, "", err
	}
	defer s.Close()
	n = Note{At: time.Now().UTC().Truncate(time.Second)}
	n.Dump = prefix + n.At.Format(nameTime) + dumpEnd
	path = filepath.Join(folder, n.Dump)
	part := path + inWork
	defer os.Remove(part)
	err = s.Snapshot(ctx, func(snapshot string, is store.State) error {
		n.State = is
		return run(ctx, url, "pg_dump", "--format=custom", "--no-owner", "--no-privileges", "--snapshot="+snapshot, "--file="+part)
	})
	if err != nil {
		return n, "", err
	}
	if n.Sum, n.Size, err = sum(part); err != nil {
		return n, "", err
	}
	if key != nil {
		n.Public = key.Public().String()
	}
	body, err := json.Marshal(n)
	if err != nil {
		return n, "", err
	}
	note := signedNote{Body: string(body)}
	if key != nil {
		note.Signature = key.Sign(body)
	}
	text, err := json.MarshalIndent(note, "", "  ")
	if err != nil {
		return n, "", err
	}
	if err := durable(part); err != nil {
		return n, "", err
	}
	// The note comes last: a dump without one is not whole.
	if err := os.Rename(part, path); err != nil {
		return n, "", err
	}
	return n, path, write(noteOf(path), text)
}

func noteOf(dump string) string { return strings.TrimSuffix(dump, dumpEnd) + noteEnd }

// ErrUnsigned is what a backup comes to whose note nobody signed.
var ErrUnsigned = errors.New("nobody signed this backup")

// Read says what is in a dump, when it is what was written: by one of the keys. Without
// keys the signature is not looked at.
func Read(dump string, keys ...seal.Public) (n Note, err error) {
	text, err := os.ReadFile(noteOf(dump))
	if err != nil {
		return n, fmt.Errorf("the note beside the dump: %w", err)
	}
	var note signedNote
	if err := json.Unmarshal(text, &note); err != nil {
		return n, fmt.Errorf("%s: %w", noteOf(dump), err)
	}
	if err := json.Unmarshal([]byte(note.Body), &n); err != nil {
		return n, fmt.Errorf("%s: %w", noteOf(dump), err)
	}
	if len(keys) > 0 {
		if note.Signature == nil {
			return n, ErrUnsigned
		}
		if !slices.ContainsFunc(keys, func(k seal.Public) bool { return k.Holds([]byte(note.Body), note.Signature) }) {
			return n, errors.New("the note beside the dump was not signed with the site’s key, or changed since")
		}
	}
	if n.Dump != filepath.Base(dump) {
		return n, fmt.Errorf("the note is that of %s", n.Dump)
	}
	got, size, err := sum(dump)
	if err != nil {
		return n, err
	}
	if got != n.Sum || size != n.Size {
		return n, fmt.Errorf("%s is not the dump that its note is of: %d bytes, and %d were written", dump, size, n.Size)
	}
	return n, nil
}

// Restore puts a dump into a database that no server is on, and holds what came of it to
// the note. Over says that what is there is to go; else only an empty one is taken.
func Restore(ctx context.Context, url, dump string, n Note, over bool) error {
	empty, err := store.IsEmpty(ctx, url)
	if err != nil {
		return err
	}
	if !empty && !over {
		return errors.New("this database is set up; --over puts the backup in its place, nothing was changed")
	}
	return store.Alone(ctx, url, func() error {
		if err := run(ctx, url, "pg_restore", "--clean", "--if-exists", "--no-owner", "--no-privileges", "--single-transaction",
			"--exit-on-error", dump); err != nil {
			return err
		}
		s, err := store.Open(ctx, url)
		if err != nil {
			return err
		}
		defer s.Close()
		return s.Snapshot(ctx, func(_ string, is store.State) error {
			if is != n.State {
				return fmt.Errorf("what was restored is not what was written: %+v, and %+v was", is, n.State)
			}
			return nil
		})
	})
}

// leastKept is how many backups stay, however old they are.
const leastKept = 3

// Tidy deletes backups that are older than a time, but for the newest few, and returns how
// many.
func Tidy(folder string, before time.Time) (gone int, err error) {
	list, err := List(folder)
	if err != nil {
		return 0, err
	}
	for i, dump := range list {
		at, _ := timeOf(dump)
		if i >= len(list)-leastKept || !at.Before(before) {
			break
		}
		for _, name := range []string{noteOf(dump), dump} {
			if err := os.Remove(name); err != nil && !errors.Is(err, os.ErrNotExist) {
				return gone, err
			}
		}
		gone++
	}
	return gone, nil
}

// List returns the dumps of a folder that have their note, the oldest first.
func List(folder string) ([]string, error) {
	all, err := filepath.Glob(filepath.Join(folder, prefix+"*"+dumpEnd))
	if err != nil {
		return nil, err
	}
	slices.Sort(all)
	return slices.DeleteFunc(all, func(dump string) bool {
		_, named := timeOf(dump)
		_, err := os.Stat(noteOf(dump))
		return !named || err != nil
	}), nil
}

// Newest is when the newest backup of a folder was made; zero where there is none.
func Newest(folder string) (time.Time, error) {
	list, err := List(folder)
	if err != nil || len(list) == 0 {
		return time.Time{}, err
	}
	at, _ := timeOf(list[len(list)-1])
	return at, nil
}

func timeOf(dump string) (time.Time, bool) {
	at, err := time.Parse(nameTime, strings.TrimSuffix(strings.TrimPrefix(filepath.Base(dump), prefix), dumpEnd))
	return at, err == nil
}

// run starts one of PostgreSQL's programs on a database. The address goes by way of the
// environment: others on the machine can read what a program is started with.
func run(ctx context.Context, address, name string, args ...string) error {
	path, err := pgdev.Program(name)
	if err != nil {
		return err
	}
	cfg, err := pgx.ParseConfig(address)
	if err != nil {
		return err
	}
	cmd := exec.CommandContext(ctx, path, args...)
	if name == "pg_restore" {
		cmd.Args = append(cmd.Args, "--dbname="+cfg.Database)
	}
	cmd.Env = append(os.Environ(), "PGHOST="+cfg.Host, fmt.Sprintf("PGPORT=%d", cfg.Port), "PGUSER="+cfg.User, "PGPASSWORD="+cfg.Password,
		"PGDATABASE="+cfg.Database)
	cmd.Env = append(cmd.Env, encryption(address, cfg)...)
	var said bytes.Buffer
	cmd.Stderr = &said
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("%s: %w: %s", name, err, strings.TrimSpace(said.String()))
	}
	return nil
}

// encryption has the program encrypt its connection as the address asks for.
func encryption(address string, cfg *pgx.ConnConfig) (env []string) {
	if u, err := url.Parse(address); err == nil && strings.HasPrefix(u.Scheme, "postgres") {
		for _, name := range []string{"sslmode", "sslrootcert", "sslcert", "sslkey"} {
			if v := u.Query().Get(name); v != "" {
				env = append(env, "PG"+strings.ToUpper(name)+"="+v)
			}
		}
		return env
	}
	switch {
	case cfg.TLSConfig == nil:
		return []string{"PGSSLMODE=disable"}
	case len(cfg.Fallbacks) == 0: // it is not given up
		return []string{"PGSSLMODE=require"}
	}
	return nil
}

func sum(path string) (hash string, size int64, err error) {
	f, err := os.Open(path)
	if err != nil {
		return "", 0, err
	}
	defer f.Close()
	h := sha256.New()
	size, err = io.Copy(h, f)
	return hex.EncodeToString(h.Sum(nil)), size, err
}

// durable has a file on the disk before it gets its name.
func durable(path string) error {
	f, err := os.OpenFile(path, os.O_RDWR, 0)
	if err != nil {
		return err
	}
	defer f.Close()
	return f.Sync()
}

func write(path string, text []byte) error {
	if err := os.WriteFile(path+inWork, append(text, '\n'), 0o640); err != nil {
		return err
	}
	if err := durable(path + inWork); err != nil {
		return err
	}
	return os.Rename(path+inWork, path)
}
