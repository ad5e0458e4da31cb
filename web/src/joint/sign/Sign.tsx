import { Box, Stack, Text } from "@mantine/core";
import type { Shown } from "../../api/queries";
import type { Group, Joint, Run, Step } from "../../api/types";
import { Figure } from "../../drawing/Figure";
import { dateTime, kilonewtons, number, torque } from "../../ui/format";
import { boltsOf } from "../bolts";
import { Num } from "../numbers/Numbers";
import { Comes, Limit } from "../steps/Limit";
import { Photos } from "../steps/Photo";
import { stations } from "../Stud";
import { capital } from "../words";
import { Doubts } from "../doubts/Doubts";
import { Before } from "./Before";
import { Files } from "./Files";
import { MadeWith } from "./MadeWith";
import classes from "./sign.module.css";
import { Signing } from "./Signing";
import { WhatFollows } from "./WhatFollows";
import { Say } from "../../words/Say";
import { Told } from "../../ui/Told";
import { told, tr } from "../../words/words";

/** Station five: the record as it will print, and who signs it. */
export function Sign({ joint, run }: { joint: Shown; run: Run }) {
  return (
    <div className={classes.sign}>
      <Paper joint={joint} run={run} />
      <Stack gap={14} className={classes.right}>
        <Doubts joint={joint} run={run} />
        <Signing joint={joint} run={run} />
        <MadeWith run={run} />
        <Files joint={joint.id} entries={run.entries} />
        <WhatFollows joint={joint} />
        <Before joint={joint} />
      </Stack>
    </div>
  );
}

function Paper({ joint, run }: { joint: Joint; run: Run }) {
  const { plan, draft } = joint;
  return (
    <article className={classes.paper}>
      <header>
        <Text className="mono" fw={700} fz={28} lh={1.2}>
          {joint.tag}
        </Text>
        <p>
          {tr("{title}, {area}. {recipe}, {nameplate}. Plan {revision}, {run}.", {
            title: told(joint.title),
            area: joint.area,
            recipe: told(draft.recipe.title),
            nameplate: told(draft.nameplate),
            revision: run.revision,
            run: told(run.words),
          })}
        </p>
      </header>
      <h2>{tr("Deviations")}</h2>
      {run.deviations.length === 0 ? (
        <p>{tr("None.")}</p>
      ) : (
        <Stack component="ul" gap={3}>
          {run.deviations.map((d) => (
            <li key={d.text} className="edge" data-edge={d.outside ? "stop" : "mind"}>
              {told(d.text)}
              {d.outside && <b> {tr("(outside its limit, or left undone)")}</b>}
            </li>
          ))}
        </Stack>
      )}
      <h2>{tr("The joint")}</h2>
      <div className={classes.jointRow}>
        <div>
          {alike(run.groups).map(({ names, words, tools }) => (
            <p key={names}>
              <b>{capital(names)}</b>
              {": "}
              {words} {tools && <span className="soft">{tools}.</span>}
            </p>
          ))}
          {run.groups
            .filter((g) => g.load > 0)
            .map((g) => (
              <p key={g.name} className="soft" data-numbers={g.name}>
                <Say
                  of="{group}, where it comes from: {torque}, {load}, likely {likelyLow} to {likelyHigh}. All of them are on the record’s last pages."
                  with={{
                    group: capital(told(g.name)),
                    torque: (
                      <Num of={g.name} number="torque">
                        {torque(g.torque)}
                        {" N·m"}
                      </Num>
                    ),
                    load: (
                      <Num of={g.name} number="load">
                        {kilonewtons(g.load)}
                        {" kN"}
                      </Num>
                    ),
                    likelyLow: (
                      <Num of={g.name} number="likelyLow">
                        {kilonewtons(g.likelyLow)}
                      </Num>
                    ),
                    likelyHigh: (
                      <Num of={g.name} number="likelyHigh">
                        {kilonewtons(g.likelyHigh)}
                        {" kN"}
                      </Num>
                    ),
                  }}
                />
              </p>
            ))}
          {plan && (
            <p className="soft">
              {tr("Issued by {issuedBy}, {issuedAt}, by edition {edition} of its recipe. {reason}", {
                issuedBy: plan.issuedBy,
                issuedAt: dateTime(plan.issuedAt),
                edition: plan.edition,
                reason: plan.reason,
              })}
            </p>
          )}
        </div>
        <Box w={210} h={210}>
          <Figure figure={run.figure} bolts={boltsOf(run)} title={tr("The joint")} />
        </Box>
      </div>
      {stations.slice(0, 4).map((name, i) => (
        <section key={name}>
          <h2>{name}</h2>
          <Stack component="ul" gap={2} fz={15}>
            {run.steps.map((s) => s.station === i + 1 && <RecordStep key={s.id} run={run} step={s} />)}
          </Stack>
        </section>
      ))}
      <SignedBy run={run} />
    </article>
  );
}

/** A step as the record has it: what it is, what was read, who did it when. */
function RecordStep({ run, step: s }: { run: Run; step: Step }) {
  return (
    <li className="edge" data-edge={s.outside ? "stop" : s.done ? "held" : undefined}>
      <Told text={s.text} /> {s.readings && <b className="mono">{told(s.readings)}</b>}{" "}
      <span className="soft">
        {s.reads.some((r) => r.limit.length > 0) && (
          <>
            (<Limit step={s} />){" "}
          </>
        )}
        <Comes step={s} />
      </span>
      {s.ticks.some((t) => t.done && !t.left) && (
        <span className="soft">
          {" "}
          {s.ticks
            .flatMap((t) =>
              t.done && !t.left
                ? [
                    [t.part, t.text]
                      .filter(Boolean)
                      .map((x) => told(x))
                      .join(": "),
                  ]
                : [],
            )
            .join("; ")}
          .
        </span>
      )}
      <Photos run={run} step={s.id} />
      {s.marks.length > 0 && <span className="soft"> {s.marks.map((m) => told(m)).join("; ")}.</span>}
      {s.tries.length > 1 && (
        <span className="soft">
          {" "}
          {tr("{count} tries: {tries}.", { count: s.tries.length, tries: s.tries.map((t) => told(t.readings)).join(", ") })}
        </span>
      )}
      {s.outside && <b> {tr("{outside}. Because: {reason}", { outside: told(s.outside), reason: s.reason })}</b>}
      <span className="soft"> {s.done && s.doneBy && s.doneAt ? `${s.doneBy}, ${dateTime(s.doneAt)}` : s.done ? "" : tr("open")}</span>
    </li>
  );
}

/** Groups that are made alike, named together. */
function alike(groups: Group[]) {
  const out: { names: string; words: string; tools: string }[] = [];
  for (const g of groups) {
    const tools = [
      ...new Set(
        (g.tooling ?? []).map((t) =>
          tr("{tools} at {setting} {unit}", { tools: t.tools.join(" + "), setting: number(t.setting.value), unit: t.setting.unit }),
        ),
      ),
    ].join("; ");
    const same = out.find((o) => o.words === told(g.words) && o.tools === tools);
    if (same) same.names += `, ${told(g.name)}`;
    else out.push({ names: told(g.name), words: told(g.words), tools });
  }
  return out;
}

/** Who signed, and the footing of every record. */
function SignedBy({ run }: { run: Run }) {
  return (
    <>
      <h2>{tr("Signed")}</h2>
      {run.signatures.length === 0 && <p>{tr("Nobody has signed yet.")}</p>}
      {run.signatures.map((s) => (
        <p key={s.part}>
          <Say
            of="{part} by {by}, {at}. {reason}"
            with={{ part: <b>{s.part === "made" ? tr("Made") : tr("Checked")}</b>, by: s.by, at: dateTime(s.at), reason: s.reason }}
          />
        </p>
      ))}
      <footer>
        {tr("This record supports and does not replace the maker’s instructions, local codes, the site’s permits and qualified persons.")}
      </footer>
    </>
  );
}
