import { Group } from "@mantine/core";
import type { Run } from "../../api/types";
import { Bolt } from "../../drawing/Bolt";
import { told, tr } from "../../words/words";

/** What the signs on the bolts mean, and how many locks are on. */
export function Signs({ run }: { run: Run }) {
  return (
    <Group component="ul" gap="8px 20px" fz={15} c="dimmed" visibleFrom="sm">
      {run.legend.map((s) => (
        <Group component="li" gap={6} key={s.text}>
          <svg viewBox="-14 -14 28 28" width="26" height="26" aria-hidden="true">
            <Bolt r={12} level={s.level} mark={s.mark} />
          </svg>
          {told(s.text)}
        </Group>
      ))}
      {run.lockable > 0 && (
        <Group component="li" gap={6} ml="auto" fw={700}>
          <svg viewBox="-14 -14 28 28" width="26" height="26" aria-hidden="true">
            <Bolt r={10} level={1} />
            <rect x="-6" y="9" width="12" height="4" fill="var(--held)" />
          </svg>
          {/* as one text: a Group leaves a lone 0 out */}
          {tr("locked: {locks} of {lockable}", { locks: run.locks, lockable: run.lockable })}
        </Group>
      )}
    </Group>
  );
}
