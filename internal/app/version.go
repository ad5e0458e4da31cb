package app

import (
	"fmt"
	"os"
	"runtime/debug"
	"strings"
	"sync"
	"time"
)

// Version is the commit this was built from, where the builder knew it.
var Version = sync.OnceValue(func() string {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return "unknown"
	}
	set := map[string]string{}
	for _, s := range info.Settings {
		set[s.Key] = s.Value
	}
	v := set["vcs.revision"]
	if v == "" {
		return info.Main.Version
	}
	if set["vcs.modified"] == "true" {
		v += ", changed"
	}
	return fmt.Sprintf("%s of %s, %s", v, set["vcs.time"], info.GoVersion)
})

// localZone is the zone of this machine, by a name that another machine knows it by; UTC
// where that cannot be told.
func localZone() *time.Location {
	name := os.Getenv("TZ")
	if name == "" {
		if link, err := os.Readlink("/etc/localtime"); err == nil {
			if _, in, ok := strings.Cut(link, "zoneinfo/"); ok {
				name = in
			}
		}
	}
	if zone, err := time.LoadLocation(name); err == nil { // of "": UTC
		return zone
	}
	return time.UTC
}
