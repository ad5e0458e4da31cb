// Package pgdev runs a private PostgreSQL cluster on loopback, for the demo and
// for tests.
//
// The server binaries are Debian's. Under root the cluster belongs to the user
// postgres, because the server refuses to run as root. The server is told to
// stop when its parent ends; a cluster that was left behind all the same is
// stopped and recovered at the next start.
package pgdev

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"runtime"
	"sort"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
)

// Options say how a cluster is kept.
type Options struct {
	Folder   string // holds the cluster and its password; made when missing
	Fleeting bool   // for tests: nothing is synced to disk
	Port     int    // on loopback; 0 for one that is free
}

// Cluster is a running private server.
type Cluster struct {
	port     int
	password string
	cmd      *exec.Cmd
	done     chan error
}

// Start brings the cluster in o.Folder up, making it first if need be, and
// waits until it answers.
func Start(ctx context.Context, o Options) (*Cluster, error) {
	bin, err := binaries()
	if err != nil {
		return nil, err
	}
	as, err := account()
	if err != nil {
		return nil, err
	}
	folder, err := filepath.Abs(o.Folder)
	if err != nil {
		return nil, err
	}
	k := keeper{bin: bin, as: as, folder: folder, fleeting: o.Fleeting}
	password, err := k.prepare()
	if err != nil {
		return nil, err
	}
	if err := k.stopStale(); err != nil {
		return nil, err
	}
	port := o.Port
	if port == 0 {
		if port, err = freePort(); err != nil {
			return nil, err
		}
	}
	c := &Cluster{port: port, password: password, done: make(chan error, 1)}
	if err := c.launch(k); err != nil {
		return nil, err
	}
	if err := c.wait(ctx); err != nil {
		c.Stop()
		return nil, fmt.Errorf("%w; its log is %s", err, k.log())
	}
	return c, nil
}

// URL returns the address of database name on the cluster.
func (c *Cluster) URL(name string) string {
	return fmt.Sprintf("postgres://dynacor:%s@127.0.0.1:%d/%s?sslmode=disable", c.password, c.port, name)
}

// Port returns the port on loopback where the cluster answers.
func (c *Cluster) Port() int { return c.port }

// Kill ends the server as a power cut would; what it started ends itself soon after.
func (c *Cluster) Kill() {
	_ = c.cmd.Process.Kill()
	<-c.done
	c.cmd = nil
}

// Has reports whether the cluster has database name.
func (c *Cluster) Has(ctx context.Context, name string) (there bool, err error) {
	err = c.do(ctx, func(conn *pgx.Conn) error {
		return conn.QueryRow(ctx, "select exists (select from pg_database where datname = $1)", name).Scan(&there)
	})
	return there, err
}

// Create makes database name anew, from template when one is given.
func (c *Cluster) Create(ctx context.Context, name, template string) error {
	return c.do(ctx, func(conn *pgx.Conn) error {
		if _, err := conn.Exec(ctx, "drop database if exists "+pgx.Identifier{name}.Sanitize()); err != nil {
			return err
		}
		sql := "create database " + pgx.Identifier{name}.Sanitize()
		if template != "" {
			sql += " template " + pgx.Identifier{template}.Sanitize()
		}
		_, err := conn.Exec(ctx, sql)
		return err
	})
}

// Rename gives a database nobody is connected to another name.
func (c *Cluster) Rename(ctx context.Context, from, to string) error {
	return c.do(ctx, func(conn *pgx.Conn) error {
		_, err := conn.Exec(ctx, "alter database "+pgx.Identifier{from}.Sanitize()+" rename to "+pgx.Identifier{to}.Sanitize())
		return err
	})
}

func (c *Cluster) do(ctx context.Context, f func(*pgx.Conn) error) error {
	conn, err := pgx.Connect(ctx, c.URL("postgres"))
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	return f(conn)
}

// Stop shuts the server down, waiting for it to write everything out.
func (c *Cluster) Stop() {
	if c.cmd == nil || c.cmd.Process == nil {
		return
	}
	_ = c.cmd.Process.Signal(syscall.SIGINT) // fast shutdown
	select {
	case <-c.done:
	case <-time.After(20 * time.Second):
		_ = c.cmd.Process.Signal(syscall.SIGQUIT)
		<-c.done
	}
}

type keeper struct {
	bin, folder string
	as          *syscall.Credential
	fleeting    bool
}

func (k keeper) data() string { return filepath.Join(k.folder, "pg") }
func (k keeper) log() string  { return filepath.Join(k.folder, "postgres.log") }

// prepare makes the folder and the cluster and returns its password.
func (k keeper) prepare() (string, error) {
	if err := os.MkdirAll(k.folder, 0o700); err != nil {
		return "", err
	}
	if k.as != nil {
		if err := traversable(filepath.Dir(k.folder)); err != nil {
			return "", err
		}
		if err := os.Chown(k.folder, int(k.as.Uid), int(k.as.Gid)); err != nil {
			return "", err
		}
	}
	secret := filepath.Join(k.folder, "password")
	if _, err := os.Stat(filepath.Join(k.data(), "PG_VERSION")); err == nil {
		b, err := os.ReadFile(secret)
		return strings.TrimSpace(string(b)), err
	}
	_ = os.RemoveAll(k.data()) // an initdb that was broken off
	raw := make([]byte, 16)
	if _, err := rand.Read(raw); err != nil {
		return "", err
	}
	password := hex.EncodeToString(raw)
	if err := os.WriteFile(secret, []byte(password+"\n"), 0o600); err != nil {
		return "", err
	}
	if k.as != nil {
		if err := os.Chown(secret, int(k.as.Uid), int(k.as.Gid)); err != nil {
			return "", err
		}
	}
	args := []string{"-D", k.data(), "-U", "dynacor", "--pwfile", secret, "-A", "scram-sha-256", "-E", "UTF8", "--locale=C.UTF-8"}
	if k.fleeting {
		args = append(args, "--no-sync")
	}
	if out, err := k.command("initdb", args...).CombinedOutput(); err != nil {
		return "", fmt.Errorf("initdb: %w: %s", err, out)
	}
	return password, nil
}

// stopStale stops a server that an earlier parent left running here.
func (k keeper) stopStale() error {
	if _, err := os.Stat(filepath.Join(k.data(), "postmaster.pid")); err != nil {
		return nil
	}
	if k.command("pg_ctl", "status", "-D", k.data()).Run() != nil {
		return nil // a leftover file only; the server clears it itself
	}
	if out, err := k.command("pg_ctl", "stop", "-D", k.data(), "-m", "fast", "-w").CombinedOutput(); err != nil {
		return fmt.Errorf("stopping the database left by an earlier run: %w: %s", err, out)
	}
	return nil
}

func (k keeper) command(name string, args ...string) *exec.Cmd {
	cmd := exec.Command(filepath.Join(k.bin, name), args...)
	cmd.Dir = k.folder
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: k.as}
	return cmd
}

// launch starts the server so that it stops when this process ends.
func (c *Cluster) launch(k keeper) error {
	args := []string{"-D", k.data(), "-p", strconv.Itoa(c.port), "-c", "listen_addresses=127.0.0.1", "-c", "unix_socket_directories=",
		"-c", "max_connections=120"}
	if k.fleeting {
		args = append(args, "-F", "-c", "synchronous_commit=off", "-c", "full_page_writes=off")
	}
	log, err := os.OpenFile(k.log(), os.O_CREATE|os.O_WRONLY|os.O_TRUNC, 0o600)
	if err != nil {
		return err
	}
	defer log.Close()
	c.cmd = k.command("postgres", args...)
	c.cmd.Stdout, c.cmd.Stderr = log, log
	c.cmd.SysProcAttr.Pdeathsig = syscall.SIGINT
	c.cmd.SysProcAttr.Setpgid = true // Ctrl-C reaches us, and we stop the server in order
	started := make(chan error)
	go func() {
		// The death signal is tied to the thread that started the child, so
		// this one is kept until the child has ended.
		runtime.LockOSThread()
		if err := c.cmd.Start(); err != nil {
			started <- err
			return
		}
		started <- nil
		c.done <- c.cmd.Wait()
	}()
	return <-started
}

func (c *Cluster) wait(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, 60*time.Second)
	defer cancel()
	for {
		conn, err := pgx.Connect(ctx, c.URL("postgres"))
		if err == nil {
			return conn.Close(ctx)
		}
		select {
		case end := <-c.done:
			c.done <- end
			return fmt.Errorf("the database ended while starting: %v", end)
		case <-ctx.Done():
			return fmt.Errorf("the database did not answer: %w", err)
		case <-time.After(20 * time.Millisecond):
		}
	}
}

// binaries finds the newest installed server's folder.
func binaries() (string, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/initdb")
	sort.Slice(found, func(i, j int) bool { return version(found[i]) < version(found[j]) })
	if len(found) > 0 {
		return filepath.Dir(found[len(found)-1]), nil
	}
	if p, err := exec.LookPath("initdb"); err == nil {
		return filepath.Dir(p), nil
	}
	return "", errors.New("PostgreSQL's server is not installed; install Debian's package postgresql")
}

// Program finds a program of PostgreSQL's, such as pg_dump: the newest that is installed.
func Program(name string) (string, error) {
	if folder, err := binaries(); err == nil {
		if path := filepath.Join(folder, name); exists(path) {
			return path, nil
		}
	}
	if path, err := exec.LookPath(name); err == nil {
		return path, nil
	}
	return "", fmt.Errorf("%s is not installed; install Debian's package postgresql-client", name)
}

func exists(path string) bool {
	_, err := os.Stat(path)
	return err == nil
}

func version(path string) int {
	n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(path))))
	return n
}

// account returns the user the server runs as: nil for our own, postgres
// where we are root.
func account() (*syscall.Credential, error) {
	if os.Geteuid() != 0 {
		return nil, nil
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return nil, fmt.Errorf("the database cannot run as root, and there is no user postgres: %w", err)
	}
	uid, err1 := strconv.ParseUint(u.Uid, 10, 32)
	gid, err2 := strconv.ParseUint(u.Gid, 10, 32)
	return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, errors.Join(err1, err2)
}

// traversable refuses a folder that others may not pass through.
func traversable(folder string) error {
	for p := folder; ; p = filepath.Dir(p) {
		st, err := os.Stat(p)
		if err != nil {
			return err
		}
		if st.Mode().Perm()&0o001 == 0 {
			return fmt.Errorf("the database runs as the user postgres and cannot reach %s: %s is closed to others", folder, p)
		}
		if p == filepath.Dir(p) {
			return nil
		}
	}
}

// Reachable reports whether a cluster may be kept below folder.
func Reachable(folder string) bool { return os.Geteuid() != 0 || traversable(folder) == nil }

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// Remove deletes the cluster in folder, stopping it first if it was left
// running.
func Remove(folder string) error {
	if _, err := os.Stat(folder); errors.Is(err, os.ErrNotExist) {
		return nil
	}
	bin, err := binaries()
	if err != nil {
		return err
	}
	as, err := account()
	if err != nil {
		return err
	}
	k := keeper{bin: bin, as: as, folder: folder}
	if err := k.stopStale(); err != nil {
		return err
	}
	return os.RemoveAll(folder)
}
