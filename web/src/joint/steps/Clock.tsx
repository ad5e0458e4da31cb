import { Button, Group, Text } from "@mantine/core";
import { useEffect, useState } from "react";
import { clock } from "../../api/clock";
import type { Step } from "../../api/types";
import { ReadingField } from "./ReadingField";
import classes from "./steps.module.css";
import { tr } from "../../words/words";

interface ClockProps {
  step: Step;
  /** What was typed by whoever has their own watch. */
  value: string;
  onValue: (v: string) => void;
  /** Starts the clock, which the server keeps: it runs on when the page is loaded anew. */
  onStart?: () => void;
  /** It was started, and the server has not said so yet. */
  starting: boolean;
}

/** Minutes since something was started, by the server's clock; undefined where it was not. */
export function useSince(started?: string) {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    if (!started) return;
    setNow(Date.now());
    const tick = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(tick);
  }, [started]);
  return started ? Math.max(0, (now + clock.off() * 1000 - Date.parse(started)) / 60_000) : undefined;
}

/** The time that is held or waited for: a ring that fills, what is left, and, for whoever has a watch, a field. */
export function Clock({ step, value, onValue, onStart, starting }: ClockProps) {
  const gone = useSince(step.started);
  const share = gone === undefined ? 0 : Math.min(1, gone / step.hold);
  const left = Math.max(0, Math.ceil((step.hold - (gone ?? 0)) * 60));
  const round = 2 * Math.PI * 40;
  return (
    <Group gap={18} align="center" mt={10} className={classes.clock}>
      <svg viewBox="-50 -50 100 100" width="92" height="92" aria-hidden="true">
        <circle r="40" />
        <circle r="40" data-on strokeDasharray={`${round * share} ${round}`} transform="rotate(-90)" data-over={share === 1 || undefined} />
        {share === 1 && <path d="M-16 0 L-4 13 L19 -15" />}
      </svg>
      {gone === undefined ? (
        <Button variant="default" size="lg" mih={60} onClick={onStart} disabled={!onStart || starting} data-act="start">
          {starting ? tr("Started") : tr("Start the clock: {hold} min", { hold: step.hold })}
        </Button>
      ) : (
        <Text className="mono" fw={700} fz={34} c={share === 1 ? "held" : undefined} role="timer">
          {share === 1 ? tr("time is over") : `${Math.floor(left / 60)}:${String(left % 60).padStart(2, "0")}`}
          {share < 1 && (
            <Text span fz={17} fw={400}>
              {" "}
              {tr("to go of {hold} min", { hold: step.hold })}
            </Text>
          )}
        </Text>
      )}
      {gone === undefined && <ReadingField label={tr("or held, by a watch")} unit="min" name="held" value={value} onChange={onValue} />}
    </Group>
  );
}
