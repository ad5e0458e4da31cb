import { Button, Group } from "@mantine/core";
import { useState } from "react";
import { useMay, useOwn } from "../api/queries";
import type { Own } from "../api/types";
import { dateTime } from "../ui/format";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import { LotCheck } from "./LotCheck";
import { LubricantDialog } from "./LubricantDialog";
import { k, TrialChart } from "./TrialChart";
import { Kept, Page, Withdraw } from "./OwnPage";
import classes from "./own.module.css";
import { told, tr } from "../words/words";

type OwnLubricant = Own["lubricants"][number];

/** Lubrication conditions: the site's own with what they rest on, and the general figures. */
export function Lubricants() {
  const own = useOwn();
  const engineer = useMay("engineer");
  const [entering, setEntering] = useState(false);
  const [open, setOpen] = useState<string>();
  const o = own.data;
  if (!o) return own.isError ? <Refusal error={own.error} /> : null;
  const shown = o.lubricants.find((l) => l.given.name === open);
  return (
    <Page
      title={tr("Lubricants")}
      words={
        tr("A torque belongs to the condition it was written for. ") +
        tr("The nut factor K says how much of it becomes load; a trial of your own lot says it best.")
      }
      act={engineer && <Button onClick={() => setEntering(true)}>{tr("Enter your own")}</Button>}
    >
      <h2 className={classes.head}>{tr("Your own")}</h2>
      {o.lubricants.length === 0 && <p>{tr("None yet. A trial of five bolts or more, torque and load, gives one.")}</p>}
      <ul className={classes.list}>
        {o.lubricants.map((l) => (
          <li key={l.given.name}>
            <button
              type="button"
              className={classes.item}
              aria-expanded={l === shown}
              onClick={() => setOpen(l === shown ? undefined : l.given.name)}
            >
              <span>
                {l.kept.usable ? <b>{l.given.name}</b> : <s>{l.given.name}</s>}
                <small>
                  {told(l.given.origin)}
                  {l.given.lot && tr(", lot {lot}", { lot: l.given.lot })}
                  {l.kept.withdrawn && tr("; withdrawn: {withdrawn}", { withdrawn: l.kept.withdrawn })}
                  {!l.kept.usable && !l.kept.withdrawn && tr("; past its last day")}
                </small>
              </span>
              <Band low={l.low} nominal={l.nominal} high={l.high} own />
            </button>
            {l === shown && <Detail lubricant={l} />}
          </li>
        ))}
      </ul>
      <h2 className={classes.head}>{tr("General figures, until you have your own")}</h2>
      <ul className={classes.list}>
        {o.general.map((l) => (
          <li key={l.name} className={classes.item}>
            <span>
              {told(l.name)}
              {l.dry && <small>{tr("nothing is put on")}</small>}
            </span>
            <Band low={l.low} nominal={l.nominal} high={l.high} />
          </li>
        ))}
      </ul>
      {entering && <LubricantDialog onClose={() => setEntering(false)} onKept={setOpen} />}
    </Page>
  );
}

const FROM = 0.06;
const TO = 0.42;

/** K from low to high on the scale that all share, and the nominal in it. */
function Band({ low, nominal, high, own }: { low: number; nominal: number; high: number; own?: boolean }) {
  const x = (v: number) => `${Math.max(0, Math.min(100, ((v - FROM) / (TO - FROM)) * 100))}%`;
  return (
    <span className={classes.band}>
      <span className={classes.track} aria-hidden>
        <i style={{ left: x(low), width: `calc(${x(high)} - ${x(low)})` }} data-own={own || undefined} />
        <b style={{ left: x(nominal) }} />
      </span>
      <span className="mono">
        {"K "}
        {k(low)}
        {" · "}
        <b>{k(nominal)}</b>
        {" · "}
        {k(high)}
      </span>
    </span>
  );
}

function Detail({ lubricant: l }: { lubricant: OwnLubricant }) {
  const g = l.given;
  return (
    <Panel className={classes.detail}>
      <Group align="start" gap={24}>
        {l.tried && <TrialChart tried={l.tried} />}
        <div className={classes.facts}>
          {l.tried?.words.map((w) => (
            <p key={w}>{told(w)}</p>
          ))}
          <p className="soft">
            {g.source}
            {g.on && tr(", tested {on}", { on: g.on })}
            {g.trial && tr(", {count} bolts of {thread}", { count: g.trial.readings.length, thread: g.trial.thread })}
            {g.expires && tr(". For use until {expires}", { expires: g.expires })}.
          </p>
          <LotCheck lubricant={l} />
          <Kept kept={l.kept} when={dateTime(l.kept.at)} />
          {l.kept.usable && <Withdraw kind="lubricant" name={g.name} />}
        </div>
      </Group>
    </Panel>
  );
}
