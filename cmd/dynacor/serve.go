package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"runtime/debug"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"dynacor/internal/app"
	"dynacor/internal/server"
	"dynacor/internal/store"
	"dynacor/internal/toollink"
	"dynacor/web"
)

func serveCommand() *cobra.Command {
	var listen string
	c := &cobra.Command{Use: "serve", Short: "Serve Dynacor from the database named by " + databaseVariable, Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if err := checkSettings(); err != nil {
				return err
			}
			if err := logAs(set(logVariable)); err != nil {
				return err
			}
			insecure := set(insecureVariable) == "1"
			if insecure {
				if err := onlyHere(listen, insecureVariable+"=1"); err != nil {
					return err
				}
			}
			url := os.Getenv(databaseVariable)
			s, err := openMigrated(cmd.Context(), url)
			if err != nil {
				return err
			}
			defer s.Close()
			if err := s.Served(cmd.Context()); err != nil {
				return err
			}
			k, err := keeping(url)
			if err != nil {
				return err
			}
			l, err := net.Listen("tcp", listen)
			if err != nil {
				return err
			}
			fmt.Printf("Dynacor serves http://%s\n", l.Addr())
			return serve(cmd.Context(), s, l, server.Options{SecureCookie: !insecure,
				Origins: strings.Fields(set(originsVariable)), Proxies: strings.Fields(set(proxiesVariable))},
				func(ctx context.Context, a *app.App) error {
					if err := sealed(ctx, a, s); err != nil {
						return err
					}
					k.begin(ctx, a)
					return nil
				})
		}}
	c.Flags().StringVar(&listen, "listen", "127.0.0.1:8080", "address to listen on")
	return c
}

// keeping is what the settings say that the server does beside serving.
func keeping(url string) (k kept, err error) {
	k = kept{url: url, folder: set(backupVariable), every: duration(everyVariable), keep: duration(keepVariable),
		audit: duration(auditVariable)}
	if k.against, err = auditAgainst(); err != nil {
		return k, err
	}
	key, has, err := siteKey()
	if has {
		k.key = &key
	}
	return k, err
}

// logAs has the log written as JSON lines on standard error, from a level on.
func logAs(level string) error {
	var from slog.Level
	if level != "" {
		if err := from.UnmarshalText([]byte(level)); err != nil {
			return fmt.Errorf("%s=%q: say debug, info, warn or error", logVariable, level)
		}
	}
	slog.SetDefault(slog.New(slog.NewJSONHandler(os.Stderr, &slog.HandlerOptions{Level: from})))
	return nil
}

// onlyHere refuses an address that others can reach: what goes over it is not encrypted,
// or signs anybody in.
func onlyHere(listen, because string) error {
	host, _, err := net.SplitHostPort(listen)
	if err != nil {
		return fmt.Errorf("--listen %q: %w", listen, err)
	}
	if ip := net.ParseIP(host); host == "localhost" || ip != nil && ip.IsLoopback() {
		return nil
	}
	return fmt.Errorf("%s serves this machine alone; --listen %s is open to others: use 127.0.0.1, or put a proxy with TLS in front",
		because, listen)
}

// serve answers on l until ctx ends.
func serve(ctx context.Context, s *store.Store, l net.Listener, o server.Options,
	begin func(context.Context, *app.App) error) error {
	front, err := web.Front()
	if err != nil {
		return err
	}
	o.Front = front
	a := app.New(s, time.Now)
	if err := begin(ctx, a); err != nil {
		return err
	}
	hub := server.NewHub()
	tools := toollink.New(a, hub, time.Now)
	o.Link, o.LinkPath = tools, toollink.Path
	h, err := server.New(a, s.Sessions(), hub, o)
	if err != nil {
		return err
	}
	if os.Getenv("GOGC") == "" && os.Getenv("GOMEMLIMIT") == "" {
		// The heap is small and each request leaves some: to collect it at nine times
		// what is in use costs some MB and less time; near a gigabyte it is collected sooner.
		debug.SetGCPercent(800)
		debug.SetMemoryLimit(1 << 30)
	}
	background, stop := context.WithCancel(context.WithoutCancel(ctx))
	defer stop() // after the last request has been answered
	a.Start(background)
	following, leave := context.WithCancel(ctx)
	defer leave()
	go hub.Follow(following, s) // the streams end first, or nothing else would
	if at := set(metricsVariable); at != "" {
		m, err := net.Listen("tcp", at)
		if err != nil {
			return fmt.Errorf("%s: %w", metricsVariable, err)
		}
		mux := http.NewServeMux()
		mux.Handle("GET /metrics", h.Metrics())
		figures := &http.Server{Handler: mux, ReadHeaderTimeout: 10 * time.Second}
		defer figures.Close()
		go func() { _ = figures.Serve(m) }()
	}
	if at := set(toolsVariable); at != "" {
		t, err := net.Listen("tcp", at)
		if err != nil {
			return fmt.Errorf("%s: %w", toolsVariable, err)
		}
		go func() { _ = tools.Serve(following, t) }()
	}
	srv := &http.Server{Handler: h, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: 30 * time.Second, WriteTimeout: 60 * time.Second,
		IdleTimeout: 2 * time.Minute}
	ended := make(chan error, 1)
	go func() { ended <- srv.Serve(l) }()
	select {
	case err := <-ended:
		return err
	case <-ctx.Done():
	}
	grace, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	if err := srv.Shutdown(grace); err != nil && !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}

func migrateCommand() *cobra.Command {
	var status bool
	var role string
	c := &cobra.Command{Use: "migrate", Short: "Bring the database to the newest shape, as the role that owns it", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			url, err := database()
			if err != nil {
				return err
			}
			s, err := reached(cmd.Context(), url)
			if err != nil {
				return err
			}
			defer s.Close()
			if !status {
				if err := s.Migrate(cmd.Context()); err != nil || role == "" {
					return err
				}
				return s.Grant(cmd.Context(), role)
			}
			list, err := s.Migrations(cmd.Context())
			for _, m := range list {
				done := "to be done"
				if !m.At.IsZero() {
					done = m.At.Format(time.DateTime)
				}
				fmt.Fprintf(cmd.OutOrStdout(), "%-24s %s\n", m.Name, done)
			}
			return err
		}}
	c.Flags().StringVar(&role, "for", "", "role that serves: it gets what it needs for that, and can neither alter nor drop anything")
	c.Flags().BoolVar(&status, "status", false, "say what is done and what is not, and change nothing")
	return c
}
