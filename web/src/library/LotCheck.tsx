import { Button, SimpleGrid, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../api/client";
import { useFreshOwn, useMay, useOwn, useTorqueUnit } from "../api/queries";
import type { Own } from "../api/types";
import { Dialog } from "../ui/Form";
import { readNumber } from "../ui/format";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import { k } from "./TrialChart";
import { told, tr } from "../words/words";

type Lubricant = Own["lubricants"][number];

const BOLTS = 3;

/** When a lot was last held against its trial, and the way to do it today. */
export function LotCheck({ lubricant: l }: { lubricant: Lubricant }) {
  const may = useMay("fitter", "inspector", "engineer");
  const [open, setOpen] = useState(false);
  if (!l.tried) return null;
  return (
    <>
      <p className="edge" data-edge={edge(l)} data-lotcheck={l.given.name}>
        {told(l.check?.words) ?? tr("Not checked since its trial.")}
        {!l.check?.today && l.kept.usable && tr(" On a day it is worked with, measure a bolt or more of it first.")}
      </p>
      {may && l.kept.usable && (
        <Button variant="default" onClick={() => setOpen(true)}>
          {tr("Check the lot")}
        </Button>
      )}
      {open && <CheckDialog lubricant={l} onClose={() => setOpen(false)} />}
    </>
  );
}

const edge = ({ check }: Lubricant) => (check && !check.holds ? "stop" : check?.today ? "held" : "mind");

function CheckDialog({ lubricant: l, onClose }: { lubricant: Lubricant; onClose: () => void }) {
  const fresh = useFreshOwn();
  const [rows, setRows] = useState(() => Array.from({ length: BOLTS }, () => ({ torque: "", load: "" })));
  const unit = l.given.trial?.readings[0];
  const own = useTorqueUnit();
  const torqueUnit = unit?.torque.unit ?? own;
  const loadUnit = unit?.load.unit ?? "kN";
  const typed = rows.filter((r) => r.torque.trim() !== "" || r.load.trim() !== "");
  const readings = typed.flatMap((r) => {
    const [torque, load] = [readNumber(r.torque), readNumber(r.load)];
    if (torque === undefined || load === undefined) return [];
    return [{ torque: { value: torque, unit: torqueUnit }, load: { value: load, unit: loadUnit } }];
  });
  const body = { name: l.given.name, readings };
  const [asked] = useDebouncedValue(body, 250);
  const whole = readings.length > 0 && readings.length === typed.length;
  const judged = useQuery({
    queryKey: ["lot", JSON.stringify(asked)],
    queryFn: () => take(http.POST("/api/own/check", { body: asked })),
    enabled: whole && asked.readings.length > 0,
    retry: false,
  });
  const keep = useMutation({
    mutationFn: () => take(http.POST("/api/own/check", { body: { ...body, keep: true } })),
    onSuccess: () => {
      fresh();
      onClose();
    },
  });
  // Of what stands there now, not of what stood there before the last key.
  const verdict = whole && JSON.stringify(asked) === JSON.stringify(body) ? judged.data : undefined;
  return (
    <Dialog
      title={tr("Check {given}", { given: l.given.name })}
      act={verdict && !verdict.holds ? tr("Keep it: out of use") : tr("Keep the check")}
      color={verdict && !verdict.holds ? "stop" : "plan"}
      ready={verdict !== undefined}
      busy={keep.isPending}
      onClose={onClose}
      onAct={() => keep.mutate()}
    >
      <p>
        {tr("A bolt or more of {thread}, as they are worked with today, on the load cell. The trial found K {low} to {high}.", {
          thread: l.given.trial?.thread,
          low: k(l.low),
          high: k(l.high),
        })}
      </p>
      {rows.map((r, i) => (
        // The rows have no identity but their place.
        // oxlint-disable-next-line react/no-array-index-key
        <SimpleGrid key={i} cols={2} spacing={12}>
          {(["torque", "load"] as const).map((which) => (
            <TextInput
              key={which}
              label={tr("Bolt {i}, {which}", { i: i + 1, which })}
              name={`${which}${i + 1}`}
              inputMode="decimal"
              autoComplete="off"
              value={r[which]}
              onChange={(e) => setRows(rows.with(i, { ...r, [which]: e.currentTarget.value }))}
              rightSection={<span className="mono soft">{which === "torque" ? torqueUnit : loadUnit}</span>}
              rightSectionWidth={64}
              {...(i === 0 && which === "torque" ? { "data-autofocus": true } : {})}
            />
          ))}
        </SimpleGrid>
      ))}
      <div aria-live="polite">
        {verdict && (
          <p className="edge" data-edge={verdict.holds ? "held" : "stop"}>
            {told(verdict.words)}
            {!verdict.holds && tr(" No new plan may rest on it; stop the work that does, and ask the engineer.")}
          </p>
        )}
        {!whole && typed.length > 0 && <p className="soft">{tr("Each bolt wants both its torque and its load, in numbers.")}</p>}
      </div>
      <Refusal error={judged.error ?? keep.error} />
    </Dialog>
  );
}

/** The lots that a joint is made with and that were not held against their trial today. */
export function LotsToday({ names }: { names: string[] }) {
  const lots = (useOwn().data?.lubricants ?? []).filter(
    (l) => l.tried && names.includes(l.given.name) && !(l.check?.today && l.check.holds),
  );
  return lots.map((l) => (
    <Panel key={l.given.name} kind="mind" title={l.given.name}>
      <LotCheck lubricant={l} />
    </Panel>
  ));
}
