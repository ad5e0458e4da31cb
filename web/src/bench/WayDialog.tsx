import { Button, Group as Row, Modal, NativeSelect, NumberInput, SegmentedControl, Stack, Text } from "@mantine/core";
import { useState } from "react";
import type { BenchStart, BenchWay } from "../api/types";
import { told, tr } from "../words/words";
import { stagesOf } from "./words";

interface WayDialogProps {
  way: BenchWay;
  bolts: number;
  start: BenchStart;
  onChange: (w: BenchWay) => void;
  onClose: () => void;
}

/** A way, changed: its stages, order and start, its tools and rounds. */
export function WayDialog({ way, bolts, start, onChange, onClose }: WayDialogProps) {
  const [w, setWay] = useState(way);
  const school = start.schools.find((s) => s.name === w.school);
  const own = w.school === "" ? [{ value: "", label: stagesOf(way) }] : [];
  const change = (c: Partial<BenchWay>) => setWay({ ...w, ...c });
  return (
    <Modal opened onClose={onClose} title={<b>{tr("A way to make it")}</b>} size="lg">
      <Stack gap={16}>
        <NativeSelect
          label={tr("Stages")}
          value={w.school}
          onChange={(e) => change({ school: e.currentTarget.value, shares: e.currentTarget.value ? [] : way.shares })}
          data={[...own, ...start.schools.map((s) => ({ value: s.name, label: told(s.name) }))]}
        />
        {school && (
          <Text fz={15} c="dimmed" mt={-8}>
            {tr("usual for {usual}; it risks: {risk}", { usual: told(school.usual), risk: told(school.risk) })}
            {!school.fits && <> {tr("A plan cannot carry it; it can be tried.")}</>}
          </Text>
        )}
        {(school?.ordered ?? true) && (
          <NativeSelect
            label={tr("Order")}
            value={w.order}
            onChange={(e) => change({ order: e.currentTarget.value })}
            data={start.orders.map((o) => ({ value: o.order, label: told(o.words) }))}
          />
        )}
        <NumberInput
          size="md"
          label={tr("First bolt")}
          value={w.start}
          min={1}
          max={bolts}
          allowDecimal={false}
          onChange={(v) => change({ start: Number(v) || 1 })}
        />
        {(school?.ordered ?? true) && (
          <div>
            <Text fw={500}>{tr("Tools at once")}</Text>
            <SegmentedControl
              size="md"
              value={String(w.tools)}
              onChange={(v) => change({ tools: Number(v) })}
              data={["1", "2", "4"]}
              aria-label={tr("Tools at once")}
            />
          </div>
        )}
        <NumberInput
          size="md"
          label={tr("Check rounds at most")}
          value={w.rounds}
          min={0}
          max={20}
          allowDecimal={false}
          onChange={(v) => change({ rounds: Number(v) || 0 })}
        />
        <div>
          <Text fw={500}>{tr("A check round takes")}</Text>
          <SegmentedControl
            size="md"
            value={String(w.every)}
            onChange={(v) => change({ every: Number(v) })}
            data={[
              { value: "1", label: tr("every bolt") },
              { value: "2", label: tr("every second") },
              { value: "4", label: tr("every fourth") },
            ]}
            aria-label={tr("A check round takes")}
          />
        </div>
        <Row justify="flex-end" gap={12}>
          <Button variant="default" onClick={onClose}>
            {tr("Leave it")}
          </Button>
          <Button onClick={() => onChange(w)}>{tr("Try it so")}</Button>
        </Row>
      </Stack>
    </Modal>
  );
}
