package store

import "context"

// mostPaces is how many pulls say how fast a site works: the latest.
const mostPaces = 500

// mostLookedAt is how many plans are looked at for what a site does: the latest.
const mostLookedAt = 1000

// PullTimes returns how long pulls of a thread took, s, the latest first: each the time since
// the pull before it, where both were of one stage of one run. Runs whose joints have bolts of
// several threads are left out, and so is what took longer than a quarter of an hour: somebody
// did something else.
func (s *Store) PullTimes(ctx context.Context, thread string) ([]float64, error) {
	rows, err := all[struct{ Took float64 }](s.pool.Query(ctx, `
		with alike as (
			select p.joint, p.revision from plans p, jsonb_array_elements(p.result::jsonb -> 'groups') g
			where g ->> 'thread' <> '' group by p.joint, p.revision
			having count(distinct g ->> 'thread') = 1 and min(g ->> 'thread') = $1
			order by max(p.issued_at) desc limit $3
		), pulls as (
			select e.at_tool, e.body::jsonb as body, lag(e.at_tool) over w as before, lag(e.body::jsonb) over w as prior
			from entries e join runs r on r.id = e.run join alike a on a.joint = r.joint and a.revision = r.revision
			where e.kind = 'done' window w as (partition by e.run order by e.seq)
		)
		select extract(epoch from at_tool - before)::float8 as took from pulls
		where body ? 'share' and body -> 'share' = prior -> 'share' and body -> 'step' = prior -> 'step'
			and at_tool > before and at_tool - before < interval '15 minutes'
		order by at_tool desc limit $2`, thread, mostPaces, mostLookedAt))
	out := make([]float64, len(rows))
	for i, r := range rows {
		out[i] = r.Took
	}
	return out, err
}
