// Package browser starts Debian's Chromium for the tests and the screenshots.
package browser

import (
	"fmt"
	"os/exec"
	"syscall"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/launcher/flags"
)

// Start returns a browser that keeps its profile in a folder of its own, and
// what stops it.
func Start() (*rod.Browser, func(), error) {
	b, l, err := launched("")
	if err != nil {
		return nil, nil, err
	}
	return b, func() {
		_ = b.Close()
		l.Kill()
		l.Cleanup()
	}, nil
}

// Device returns a browser that keeps its profile in a folder, as a tablet does, and what
// kills it: at once, as an empty battery would.
func Device(folder string) (*rod.Browser, func(), error) {
	b, l, err := launched(folder)
	if err != nil {
		return nil, nil, err
	}
	return b, func() {
		_ = syscall.Kill(-l.PID(), syscall.SIGKILL) // its whole group
	}, nil
}

func launched(folder string) (*rod.Browser, *launcher.Launcher, error) {
	bin, err := exec.LookPath("chromium")
	if err != nil {
		return nil, nil, fmt.Errorf("chromium is not installed: %w", err)
	}
	l := launcher.New().Bin(bin).NoSandbox(true).Leakless(false).HeadlessNew(true)
	for _, f := range []string{"disable-gpu", "disable-background-networking", "disable-component-update", "disable-sync", "disable-quic",
		"no-first-run", "disable-dev-shm-usage", "hide-scrollbars"} {
		l = l.Set(flags.Flag(f))
	}
	l = l.Set("force-color-profile", "srgb").Set("lang", "en-US")
	if folder != "" {
		l = l.UserDataDir(folder)
	}
	address, err := l.Launch()
	if err != nil {
		return nil, nil, err
	}
	b := rod.New().ControlURL(address)
	if err := b.Connect(); err != nil {
		l.Kill()
		return nil, nil, err
	}
	return b, l, nil
}
