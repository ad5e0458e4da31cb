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
          {joint.title}, {joint.area}. {draft.recipe.title}, {draft.nameplate}. Plan {run.revision}, {run.words}.
        </p>
      </header>
      <h2>Deviations</h2>
      {run.deviations.length === 0 ? (
        <p>None.</p>
      ) : (
        <Stack component="ul" gap={3}>
          {run.deviations.map((d) => (
            <li key={d.text} className="edge" data-edge={d.outside ? "stop" : "mind"}>
              {d.text}
              {d.outside && <b> (outside its limit, or left undone)</b>}
            </li>
          ))}
        </Stack>
      )}
      <h2>The joint</h2>
      <div className={classes.jointRow}>
        <div>
          {alike(run.groups).map(({ names, words, tools }) => (
            <p key={names}>
              <b>{capital(names)}</b>: {words} {tools && <span className="soft">{tools}.</span>}
            </p>
          ))}
          {run.groups
            .filter((g) => g.load > 0)
            .map((g) => (
              <p key={g.name} className="soft" data-numbers={g.name}>
                {capital(g.name)}, where it comes from:{" "}
                <Num of={g.name} number="torque">
                  {torque(g.torque)} N·m
                </Num>
                ,{" "}
                <Num of={g.name} number="load">
                  {kilonewtons(g.load)} kN
                </Num>
                , likely{" "}
                <Num of={g.name} number="likelyLow">
                  {kilonewtons(g.likelyLow)}
                </Num>{" "}
                to{" "}
                <Num of={g.name} number="likelyHigh">
                  {kilonewtons(g.likelyHigh)} kN
                </Num>
                . All of them are on the record’s last pages.
              </p>
            ))}
          {plan && (
            <p className="soft">
              Issued by {plan.issuedBy}, {dateTime(plan.issuedAt)}, by edition {plan.edition} of its recipe. {plan.reason}
            </p>
          )}
        </div>
        <Box w={210} h={210}>
          <Figure figure={run.figure} bolts={boltsOf(run)} title="The joint" />
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
      {s.text} {s.readings && <b className="mono">{s.readings}</b>}{" "}
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
          {s.ticks.flatMap((t) => (t.done && !t.left ? [[t.part, t.text].filter(Boolean).join(": ")] : [])).join("; ")}.
        </span>
      )}
      <Photos run={run} step={s.id} />
      {s.marks.length > 0 && <span className="soft"> {s.marks.join("; ")}.</span>}
      {s.tries.length > 1 && (
        <span className="soft">
          {" "}
          {s.tries.length} tries: {s.tries.map((t) => t.readings).join(", ")}.
        </span>
      )}
      {s.outside && (
        <b>
          {" "}
          {s.outside}. Because: {s.reason}
        </b>
      )}
      <span className="soft"> {s.done && s.doneBy && s.doneAt ? `${s.doneBy}, ${dateTime(s.doneAt)}` : s.done ? "" : "open"}</span>
    </li>
  );
}

/** Groups that are made alike, named together. */
function alike(groups: Group[]) {
  const out: { names: string; words: string; tools: string }[] = [];
  for (const g of groups) {
    const tools = [...new Set((g.tooling ?? []).map((t) => `${t.tools.join(" + ")} at ${number(t.setting.value)} ${t.setting.unit}`))].join(
      "; ",
    );
    const same = out.find((o) => o.words === g.words && o.tools === tools);
    if (same) same.names += `, ${g.name}`;
    else out.push({ names: g.name, words: g.words, tools });
  }
  return out;
}

/** Who signed, and the footing of every record. */
function SignedBy({ run }: { run: Run }) {
  return (
    <>
      <h2>Signed</h2>
      {run.signatures.length === 0 && <p>Nobody has signed yet.</p>}
      {run.signatures.map((s) => (
        <p key={s.part}>
          <b>{s.part === "made" ? "Made" : "Checked"}</b> by {s.by}, {dateTime(s.at)}. {s.reason}
        </p>
      ))}
      <footer>
        This record supports and does not replace the maker’s instructions, local codes, the site’s permits and qualified persons.
      </footer>
    </>
  );
}
