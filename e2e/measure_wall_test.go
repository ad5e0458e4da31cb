package e2e

import (
	"context"
	"fmt"
	"slices"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"
)

// The Wall with the demo's joints and with 5 000: from the address to the first
// card on the screen, and how long frames take while it is scrolled. The first
// look after a start finds the cards that were kept.
func TestMeasureWall(t *testing.T) {
	measured(t)
	for _, want := range []int{0, 5000} {
		s := open(t)
		u := s.signIn("marta")
		u.MustEvalOnNewDocument(painted)
		u.sees("h1", "joints signed")
		if want > 0 {
			multiply(t, s, want)
			require.NoError(t, s.cmd.Process.Kill())
			_ = s.cmd.Wait()
			s.start()
		}
		n := s.query("select count(*) from joints")[0]
		first := firstCard(u, s)
		var later []float64
		for range 5 {
			later = append(later, firstCard(u, s))
		}
		slices.Sort(later)
		server := u.MustEval(`() => {
			const r = performance.getEntriesByType("resource").filter(r => r.name.endsWith("/api/wall")).at(-1)
			return [r.responseEnd - r.startTime, r.encodedBodySize / 1e6]
		}`).Arr()
		frames := u.MustEval(`() => new Promise(done => {
			const page = document.querySelector("[data-scrolls]"), gaps = []; let last = performance.now(), n = 0
			const step = now => {
				gaps.push(now - last); last = now; page.scrollTop += 120
				if (++n < 120) return requestAnimationFrame(step)
				gaps.sort((a, b) => a - b)
				done([gaps[60], gaps[118]])
			}
			requestAnimationFrame(step)
		})`).Arr()
		fmt.Printf("Wall of %s joints: first card after a start %.0f ms, later %.0f ms, at most %.0f, of which the answer (%.1f MB) "+
			"takes %.0f; scrolling, a frame: median %.1f ms, most %.1f ms\n",
			n, first, later[len(later)/2], later[len(later)-1], server[1].Num(), server[0].Num(), frames[0].Num(), frames[1].Num())
	}
}

// painted notes when the first card is painted, ms from the address.
const painted = `new MutationObserver((_, seen) => {
	if (!document.querySelector("[data-state] b")) return
	seen.disconnect()
	requestAnimationFrame(() => { window.painted = performance.now() })
}).observe(document, { subtree: true, childList: true })`

// firstCard opens the Wall and returns the ms until a card is painted.
func firstCard(u *user, s *site) float64 {
	u.MustNavigate("about:blank")
	u.MustNavigate(s.url("/wall"))
	u.MustWait("() => window.painted > 0")
	return u.MustEval("() => window.painted").Num()
}

// multiply copies the demo's joints with their plans and runs until there are
// so many.
func multiply(t *testing.T, s *site, want int) {
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, s.database)
	require.NoError(t, err)
	defer conn.Close(ctx)
	for _, sql := range []string{
		`create temp table copies as select j.id as old, gen_random_uuid() as new, k
			from joints j, generate_series(1, ($1 / (select count(*) from joints))::int) k
			order by k limit $1 - (select count(*) from joints)`,
	} {
		_, err := conn.Exec(ctx, sql, want)
		require.NoError(t, err)
	}
	for _, sql := range []string{
		`insert into joints (id, area, tag, title, assigned, made_at, recipe)
			select c.new, area, tag || ' ' || k, title, assigned, made_at, recipe from joints j join copies c on c.old = j.id`,
		`insert into drafts (joint, version, input, changed_by, changed_at)
			select c.new, version, input, changed_by, changed_at from drafts d join copies c on c.old = d.joint`,
		`insert into plans (joint, revision, input, result, core_version, reason, issued_by, issued_at, hash)
			select c.new, revision, input, result, core_version, reason, issued_by, issued_at, hash
			from plans p join copies c on c.old = p.joint`,
		`create temp table runcopies as select r.id as old, gen_random_uuid() as new, c.new as joint
			from runs r join copies c on c.old = r.joint`,
		`insert into runs (id, joint, revision, begun_at, head_seq, head_hash, closed)
			select c.new, c.joint, revision, begun_at, head_seq, head_hash, closed from runs r join runcopies c on c.old = r.id`,
		`insert into cards (run, seq, card) select c.new, seq, card from cards join runcopies c on c.old = run`,
		`insert into entries (run, seq, id, kind, at_tool, at_server, person, confirmed, tools, body, prev_hash, hash)
			select c.new, seq, gen_random_uuid(), kind, at_tool, at_server, person, confirmed, tools, body, prev_hash, hash
			from entries e join runcopies c on c.old = e.run`,
		`analyze`,
	} {
		_, err := conn.Exec(ctx, sql)
		require.NoError(t, err, sql)
	}
}
