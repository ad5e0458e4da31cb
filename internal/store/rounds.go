package store

import "context"

// RoundMoved is what moved in a check round: of all runs of a recipe whose joints have one
// lubricant.
type RoundMoved struct {
	Recipe    string
	Lubricant string
	Round     int
	Joints    int
	Nuts      int // that were tried
	Moved     int
}

// mostRoundsTold is as many rounds as are told apart; later ones are rare.
const mostRoundsTold = 4

// RoundsMoved returns what moved in the check rounds of the latest plans of this site, by recipe, lubricant and round.
func (s *Store) RoundsMoved(ctx context.Context) ([]RoundMoved, error) {
	return all[RoundMoved](s.pool.Query(ctx, `
		with alike as (
			select p.joint, p.revision, min(g ->> 'lubrication') as lubricant
			from plans p, jsonb_array_elements(p.result::jsonb -> 'groups') g
			where g ->> 'lubrication' <> '' group by p.joint, p.revision having count(distinct g ->> 'lubrication') = 1
			order by max(p.issued_at) desc limit $2
		)
		select j.recipe, a.lubricant, (e.body::jsonb ->> 'round')::int as round, count(distinct r.id)::int as joints,
			count(*)::int as nuts, (count(*) filter (where e.body::jsonb -> 'moved' = 'true'))::int as moved
		from entries e join runs r on r.id = e.run join joints j on j.id = r.joint
			join alike a on a.joint = r.joint and a.revision = r.revision
		where e.kind = 'done' and e.body::jsonb ? 'round' and (e.body::jsonb ->> 'round')::int <= $1
		group by 1, 2, 3 order by 1, 2, 3`, mostRoundsTold, mostLookedAt))
}

// RunsRead returns the heads of the latest runs of a recipe in which the angles of pulls were read.
func (s *Store) RunsRead(ctx context.Context, recipe string, most int) ([]Run, error) {
	return all[Run](s.pool.Query(ctx, `
		select r.id, r.joint, r.revision, r.begun_at, r.head_seq, r.head_hash, r.closed from runs r join joints j on j.id = r.joint
		where j.recipe = $1 and exists (select from entries e where e.run = r.id and e.kind = 'done' and e.body::jsonb ? 'angle')
		order by r.begun_at desc limit $2`, recipe, most))
}
