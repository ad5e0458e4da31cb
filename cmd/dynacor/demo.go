package main

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"net"
	"os"
	"path/filepath"
	"syscall"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/sys/unix"

	"dynacor/internal/app"
	"dynacor/internal/demo"
	"dynacor/internal/pgdev"
	"dynacor/internal/seal"
	"dynacor/internal/server"
	"dynacor/internal/store"
)

func demoCommand() *cobra.Command {
	var folder, listen string
	var anew bool
	c := &cobra.Command{Use: "demo", Short: "Show Dynacor with demo data, on a private database", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if err := onlyHere(listen, "The demo"); err != nil {
				return err
			}
			return showDemo(cmd.Context(), keepIn(folder), listen, anew)
		}}
	c.Flags().StringVar(&folder, "data", ".dynacor", "folder the data stays in between starts")
	c.Flags().StringVar(&listen, "listen", "127.0.0.1:8080", "address to listen on; another port is taken when it is in use")
	c.Flags().BoolVar(&anew, "fresh", false, "begin again with new data")
	return c
}

func showDemo(ctx context.Context, folder, listen string, anew bool) error {
	ctx, cancel := withParent(ctx)
	defer cancel()
	unlock, err := only(folder)
	if errors.Is(err, errHeld) {
		return fmt.Errorf("another demo is running on %s; stop it first", folder)
	}
	if err != nil {
		return err
	}
	defer unlock()
	if anew {
		if err := pgdev.Remove(filepath.Join(folder, "database")); err != nil {
			return err
		}
	}
	cluster, err := pgdev.Start(ctx, pgdev.Options{Folder: filepath.Join(folder, "database")})
	if err != nil {
		return err
	}
	defer cluster.Stop()
	s, err := demoStore(ctx, cluster)
	if err != nil {
		return err
	}
	defer s.Close()
	l, err := net.Listen("tcp", listen)
	if errors.Is(err, syscall.EADDRINUSE) {
		l, err = net.Listen("tcp", "127.0.0.1:0")
	}
	if err != nil {
		return err
	}
	fmt.Printf("\nDynacor is at http://%s\n\nSign in with PIN %s as\n", l.Addr(), demo.Pin)
	for _, p := range demo.SignIns() {
		fmt.Printf("  %-8s %s, %s\n", p.Login, p.Name, p.Role)
	}
	fmt.Printf("\nThe data is in %s. The database is\n  %s\nCtrl-C stops both.\n", folder, cluster.URL("dynacor"))
	return serve(ctx, s, l, server.Options{SecureCookie: false}, func(ctx context.Context, a *app.App) error {
		key, err := seal.LoadOrMake(filepath.Join(folder, "seal.key"))
		if err != nil {
			return err
		}
		fmt.Printf("Records are sealed with the key %s.\n", key.Public())
		if err := a.SealWith(ctx, key, nil); err != nil {
			return err
		}
		return a.Seal(ctx)
	})
}

const demoDatabase = "dynacor"

// demoStore opens the demo's database, making it first if need be: under
// another name, so that one broken off half way is never taken for whole.
func demoStore(ctx context.Context, c *pgdev.Cluster) (*store.Store, error) {
	there, err := c.Has(ctx, demoDatabase)
	if err != nil {
		return nil, err
	}
	if !there {
		if err := c.Create(ctx, "loading", ""); err != nil {
			return nil, err
		}
		s, err := openMigrated(ctx, c.URL("loading"))
		if err != nil {
			return nil, err
		}
		err = demo.Load(ctx, s, time.Now())
		s.Close()
		if err != nil {
			return nil, fmt.Errorf("loading the demo: %w", err)
		}
		if err := c.Rename(ctx, "loading", demoDatabase); err != nil {
			return nil, err
		}
	}
	return openMigrated(ctx, c.URL(demoDatabase))
}

// A server that starts before its database waits for it: so long, and looks so often.
const (
	longestWait = 5 * time.Minute
	lookEvery   = time.Second
)

// reached opens the database, and waits for one that is not there yet.
func reached(ctx context.Context, url string) (*store.Store, error) {
	until := time.Now().Add(longestWait)
	for said := false; ; said = true {
		s, err := store.Open(ctx, url)
		if err == nil || !store.Unavailable(err) || ctx.Err() != nil || time.Now().After(until) {
			return s, err
		}
		if !said {
			fmt.Fprintf(os.Stderr, "dynacor: waiting for the database: %v\n", err)
		}
		select {
		case <-ctx.Done():
		case <-time.After(lookEvery):
		}
	}
}

// openMigrated brings the database to its newest shape, in whatever time that takes, and
// opens it to be served.
func openMigrated(ctx context.Context, url string) (*store.Store, error) {
	s, err := reached(ctx, url)
	if err != nil {
		return nil, err
	}
	err = s.Migrate(ctx)
	s.Close()
	if err != nil {
		return nil, err
	}
	return store.OpenWithin(ctx, url, store.Serving)
}

// keepIn returns where the data is kept: folder, or where the database's user
// can get at it when it cannot reach that.
func keepIn(folder string) string {
	abs, err := filepath.Abs(folder)
	if err != nil {
		abs = folder
	}
	if pgdev.Reachable(filepath.Dir(abs)) {
		return abs
	}
	return filepath.Join("/var/tmp", fmt.Sprintf("dynacor-%x", sha256.Sum256([]byte(abs)))[:16])
}

// errHeld is that another process holds a folder.
var errHeld = errors.New("another process holds it")

// only holds folder for this process alone; errHeld where another does.
func only(folder string) (func(), error) {
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return nil, err
	}
	f, err := os.OpenFile(filepath.Join(folder, "lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	if err := unix.Flock(int(f.Fd()), unix.LOCK_EX|unix.LOCK_NB); err != nil {
		f.Close()
		if errors.Is(err, unix.EWOULDBLOCK) {
			err = errHeld
		}
		return nil, fmt.Errorf("%s: %w", folder, err)
	}
	return func() { f.Close() }, nil
}

// withParent returns a context that ends when the process that started this
// one does.
func withParent(ctx context.Context) (context.Context, context.CancelFunc) {
	ctx, cancel := context.WithCancel(ctx)
	parent := os.Getppid()
	if parent == 1 {
		return ctx, cancel
	}
	go func() {
		for ctx.Err() == nil && os.Getppid() == parent {
			time.Sleep(500 * time.Millisecond)
		}
		cancel()
	}()
	return ctx, cancel
}
