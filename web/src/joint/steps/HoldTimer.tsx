import { Button, Group, Text } from "@mantine/core";
import { useEffect, useState } from "react";
import { ReadingField } from "./ReadingField";

interface HoldTimerProps {
  /** How long is to be waited. */
  minutes: number;
  value: string;
  onValue: (v: string) => void;
}

/** Counts the time that is to be waited; whoever has their own watch types it. */
export function HoldTimer({ minutes, value, onValue }: HoldTimerProps) {
  const [since, setSince] = useState<number>();
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (since === undefined) return;
    const tick = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(tick);
  }, [since]);
  const gone = since === undefined ? 0 : Math.max(0, now - since) / 60_000;
  const over = gone >= minutes;
  const left = Math.max(0, Math.ceil((minutes - gone) * 60));
  useEffect(() => {
    if (over && since !== undefined) onValue(String(minutes));
  }, [over, since, minutes, onValue]);
  return (
    <Group gap={16} align="end" mt={10}>
      {since === undefined ? (
        <Button
          variant="default"
          onClick={() => {
            setSince(Date.now());
            setNow(Date.now());
          }}
        >
          Start the clock: {minutes} min
        </Button>
      ) : (
        <Text className="mono" fw={700} fz={26} c={over ? "held" : undefined} role="timer">
          {over ? "time is over" : `${Math.floor(left / 60)}:${String(left % 60).padStart(2, "0")} to go`}
        </Text>
      )}
      <ReadingField label="held for" unit="min" name="held" value={value} onChange={onValue} />
    </Group>
  );
}
