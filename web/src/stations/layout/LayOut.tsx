import { Button } from "@mantine/core";
import { useEffect, useState } from "react";
import { useMay, useWords } from "../../api/queries";
import type { RingJoint } from "../../api/types";
import { Ring } from "../../drawing/Ring";
import { number, percent, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { Issue } from "./Issue";
import { LoadBar } from "./LoadBar";
import { Sentence } from "./Sentence";
import { useDraft } from "./useDraft";
import classes from "./layout.module.css";

/** Station one: the joint in one sentence, and what it comes to. */
export function LayOut({ joint }: { joint: RingJoint }) {
  const words = useWords();
  const mayChange = [useMay("fitter"), useMay("engineer")].some(Boolean) && joint.run?.stage !== "signed";
  const draft = useDraft(joint);
  const [labels, setLabels] = useState<"order" | "position">("order");
  const { input, result, problem } = draft;
  const mmOf = (q: { value: number; unit: string }) => q.value * (q.unit === "in" ? 25.4 : 1);
  const circle = mmOf(input.boltCircle);
  const order = new Map(result.order.map((p, i) => [p, i + 1]));
  const changed = joint.plan && JSON.stringify(joint.plan.input) !== JSON.stringify(joint.draft.input);
  const orderWords = words.data?.orders.find((o) => o.name === joint.draft.input.order)?.words ?? joint.draft.input.order;
  useEffect(() => {
    document.title = `${joint.tag} · Dynacor`;
  }, [joint.tag]);
  return (
    <div className={classes.layout}>
      <div className={classes.left}>
        <div className={classes.drawing} data-waits={problem ? true : undefined}>
          <Ring
            title={`${joint.draft.input.bolts} bolts in ${orderWords} order`}
            bolts={result.order.toSorted((a, b) => a - b).map((position) => ({ position }))}
            onCentre={joint.draft.input.onCentre}
            labels={labels === "order" ? order : undefined}
            path={result.order}
            gasket={{ outer: mmOf(joint.draft.input.gasket.outer) / circle, inner: mmOf(joint.draft.input.gasket.inner) / circle }}
          />
          <button type="button" className={classes.centre} onClick={() => setLabels(labels === "order" ? "position" : "order")}>
            <span>written on the bolts:</span>
            <b>{labels === "order" ? "turn order" : "stamped number"}</b>
            <span>{orderWords}</span>
          </button>
        </div>
            <Panel title="Mind" kind="mind">
              {result.minds.length === 0 && <p>Nothing special. The maker’s value wins over anything computed here.</p>}
              <ul className={classes.minds}>
                {result.minds.map((m) => (
                  <li key={m.code + m.text}>
                    {m.text}{" "}
                    {m.offer && m.take && mayChange && (
                      <button type="button" className={classes.offer} onClick={() => draft.change({ decision: m.take })}>
                        {m.offer}
                      </button>
                    )}
                  </li>
                ))}
              </ul>
            </Panel>
      </div>
      <div className={classes.right}>
        <Panel title="The joint, in one sentence" aside={<Saved draft={draft} revision={joint.plan?.revision} changed={changed} />}>
          {words.data && <Sentence words={words.data} draft={draft} mayChange={mayChange} />}
        </Panel>
        <div className={classes.answer} data-waits={problem ? true : undefined}>
          <Panel title="What each bolt will carry" aside={`nut factor ${number(result.k)}, ${number(result.kLow)} to ${number(result.kHigh)} (µ ${number(Math.round(result.mu * 1000) / 1000)}); wrench ± ${percent(result.toolAccuracy)} %`}>
            <LoadBar result={result} />
          </Panel>
          <div className={classes.pair}>
            <Panel title="Passes">
              <ol className={`mono ${classes.passes}`}>
                {result.passes.map((p) => (
                  <li key={p.number} data-last={p.share === 100 || undefined}>
                    <span>{p.number}</span>
                    <span>{p.share} %</span>
                    <span>{torque(p.torque)} N·m</span>
                  </li>
                ))}
                <li>
                  <span>✓</span>
                  <span>rounds</span>
                  <span>{torque(result.passes.at(-1)?.torque ?? 0)} N·m</span>
                </li>
              </ol>
            </Panel>
            <Panel title="Before a wrench touches it">
              <p>Isolate, drain, prove zero. Clean faces, no abrasive. Threads run free by hand.</p>
              <p>Two bottom studs first, gasket in, then the rest. Gap at four quarters.</p>
            </Panel>
          </div>
        </div>
        {problem && problem.code === "changed-meanwhile" && (
          <div className={classes.row}>
            <Refusal problem={problem} />
            <Button onClick={draft.takeTheirs}>Show theirs</Button>
          </div>
        )}
        <Issue joint={joint} changed={Boolean(changed)} blocked={Boolean(problem) || draft.saving} />
      </div>
    </div>
  );
}

function Saved({ draft, revision, changed }: { draft: ReturnType<typeof useDraft>; revision?: number; changed?: boolean }) {
  if (draft.problem) return <span data-saved="no">not stored: see below</span>;
  if (draft.saving) return <span data-saved="saving">storing</span>;
  if (revision && !changed) return <span data-saved="yes">plan {revision}, issued</span>;
  if (revision) return <span data-saved="yes">draft after plan {revision}</span>;
  return <span data-saved="yes">{draft.version ? "draft, stored" : "not laid out yet"}</span>;
}
