package app

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
	"dynacor/internal/store"
)

// silentAfter is how long a device that took joints along may say nothing before the Wall says
// so: one that is in use says something every two minutes.
const silentAfter = 10 * time.Minute

// What a device may say of itself.
const (
	MostDeviceName = 40
	mostActs       = 100_000
	mostAlong      = 5000
)

// AtWork is a device that has something of ours on it.
type AtWork struct {
	store.Device
	By     string        // whose it was last
	Silent bool          // it was not heard of lately
	At     []store.Joint // that it took along, and that are in hand
}

// HeardDevice keeps what a device says of itself.
func (a *App) HeardDevice(ctx context.Context, who Who, d store.Device) error {
	d.Name, d.Person, d.Seen = strings.TrimSpace(d.Name), who.ID, a.now()
	if n := len([]rune(d.Name)); n > MostDeviceName {
		return refusal.Number(refusal.TooLarge, "name", float64(n), MostDeviceName, "letters", "That is too long a name for a device.",
			"Write what is on it: T-07.")
	}
	if d.Acts < 0 || d.Acts > mostActs || len(d.Joints) > mostAlong || len(d.Waiting) > mostAlong {
		return refusal.Number(refusal.OutOfRange, "acts", float64(d.Acts), mostActs, "", "No device holds so much.", "Say what waits on it.")
	}
	if d.Acts == 0 {
		d.Since = nil
	}
	if d.Joints == nil {
		d.Joints = []uuid.UUID{}
	}
	if d.Waiting == nil {
		d.Waiting = []store.Waiting{}
	}
	return a.store.HeardDevice(ctx, d)
}

// GoneDevice no longer looks for a device: it is found, or lost, or was wiped. What it had not
// sent is named in the site's log; where it is lost, also in the record of each joint in hand that
// it took along, or had acts of.
func (a *App) GoneDevice(ctx context.Context, who Who, id uuid.UUID, why string, lost bool) error {
	d, err := a.store.DeviceByID(ctx, id)
	if err != nil {
		return found(err, "device")
	}
	if why = strings.TrimSpace(why); why == "" {
		return refusal.New(refusal.NeedsReason, "why", "Nobody looks for it any more: why?", "Say that it was found empty, or is lost or wiped.")
	}
	names, err := a.Names(ctx)
	if err != nil {
		return err
	}
	joints, err := a.store.Joints(ctx)
	if err != nil {
		return err
	}
	if lost {
		if err := a.gaps(ctx, who, d, names[d.Person.String()], why); err != nil {
			return err // said again, what is in a record already is there once
		}
	}
	words := fmt.Sprintf("no longer looked for: %s. Of %s; last heard of %s", why,
		names[d.Person.String()], d.Seen.In(a.zone).Format("2 Jan 2006 15:04"))
	if d.Acts > 0 {
		words += fmt.Sprintf(", with %d acts that were not stored", d.Acts)
	}
	if tags := tagsOf(joints, d.Joints); len(tags) > 0 {
		words += "; it had " + strings.Join(tags, ", ")
	}
	return a.change(ctx, a.logged(who, "device", cmp.Or(d.Name, "device"), words), store.GoneDevice(id))
}

// gaps says in each run in hand that a device is lost which had something of it.
func (a *App) gaps(ctx context.Context, who Who, d store.Device, by, why string) error {
	heads, err := a.store.NewestRuns(ctx)
	if err != nil {
		return err
	}
	for _, head := range heads {
		at := slices.IndexFunc(d.Waiting, func(w store.Waiting) bool { return w.Joint == head.Joint })
		if head.Closed || at < 0 && !slices.Contains(d.Joints, head.Joint) {
			continue
		}
		gap := record.Gap{Device: d.Name, By: by, Why: why, Seen: d.Seen}
		if at >= 0 {
			gap.Acts, gap.Since = d.Waiting[at].Acts, d.Waiting[at].Since
		}
		say := func(s *work.State) (record.Content, bool) { return gap, s.Standing != record.Signed }
		as := fmt.Sprintf("%s gone, last heard of %s", d.ID, d.Seen.UTC().Format(time.RFC3339Nano))
		if err := a.sayIn(ctx, who, head, say, as); err != nil {
			return err
		}
	}
	return nil
}

func tagsOf(joints []store.Joint, ids []uuid.UUID) (out []string) {
	for _, j := range joints {
		if slices.Contains(ids, j.ID) {
			out = append(out, j.Tag)
		}
	}
	return out
}

// devices are those that the Wall speaks of: acts wait on them, or they are silent with joints
// that are in hand.
func (a *App) devices(ctx context.Context, cards []JointCard) ([]AtWork, error) {
	silentSince := a.now().Add(-silentAfter)
	list, err := a.store.Devices(ctx, silentSince)
	if err != nil || len(list) == 0 {
		return nil, err
	}
	names, err := a.Names(ctx)
	if err != nil {
		return nil, err
	}
	inHand := map[uuid.UUID]store.Joint{}
	for _, c := range cards {
		if !slices.Contains([]string{"new", "draft", "signed"}, c.State) {
			inHand[c.Joint.ID] = c.Joint
		}
	}
	var out []AtWork
	for _, d := range list {
		x := AtWork{Device: d, By: names[d.Person.String()], Silent: d.Seen.Before(silentSince)}
		for _, id := range d.Joints {
			if j, ok := inHand[id]; ok {
				x.At = append(x.At, j)
			}
		}
		if d.Acts > 0 || len(x.At) > 0 {
			out = append(out, x)
		}
	}
	return out, nil
}
