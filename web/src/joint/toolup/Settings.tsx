import { Group } from "@mantine/core";
import { type ReactNode, useState } from "react";
import type { StageTool } from "../../api/types";
import { day, kilonewtons, number, percent, signed, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { FaceView } from "../../drawing/faces/Face";
import { DriveSide } from "../../drawing/hydraulics/DriveSide";
import { Num } from "../numbers/Numbers";
import { OwnChart } from "./OwnChart";
import classes from "./toolup.module.css";
import { Say } from "../../words/Say";
import { tr } from "../../words/words";

/** What a chain gives; of names the group it was chosen for. */
export function Facts({ tool, of }: { tool: StageTool; of?: string }) {
  if (tool.draw) return <DrawnFacts tool={tool} of={of} />;
  return (
    <Group component="ul" gap="4px 24px">
      <li>
        <Say
          of="lands on {maybe} ({error} %)"
          with={{
            maybe: (
              <Maybe of={of} number={`lands/${tool.stage}`}>
                <b className="mono">{torque(tool.lands)}</b>
                {" N·m"}
              </Maybe>
            ),
            error: signed(tool.error),
          }}
        />
      </li>
      <li>
        {tool.pressed ? tr("with its gauge accurate to") : tr("chain accuracy")}{" "}
        <Maybe of={tool.pressed ? undefined : of} number={`accuracy/${tool.stage}`}>
          <b className="mono">
            {"± "}
            {percent(tool.accuracy)}
            {" %"}
          </b>
        </Maybe>
      </li>
      {tool.force > 0 && (
        <li>
          <Say
            of="hand force {maybe}{heavy}"
            with={{
              maybe: (
                <Maybe of={of} number={`force/${tool.stage}`}>
                  <b className="mono">
                    {number(Math.round(tool.force))}
                    {" N"}
                  </b>
                </Maybe>
              ),
              heavy: tool.heavy ? tr(", heavy") : "",
            }}
          />
        </li>
      )}
      <li>{tool.due ? tr("in calibration to {due}", { due: day(tool.due) }) : tr("calibration not known")}</li>
    </Group>
  );
}

/** What a tensioner does at its last draw. */
function DrawnFacts({ tool: t, of }: { tool: StageTool; of?: string }) {
  const d = t.draw!;
  return (
    <Group component="ul" gap="4px 24px">
      <li>
        <Say
          of="drawn with {maybe} times what stays once the nut has taken over"
          with={{
            maybe: (
              <Maybe of={of} number="factor">
                <b className="mono">{number(Math.round(d.factor * 1000) / 1000)}</b>
              </Maybe>
            ),
          }}
        />
      </li>
      <li>
        <Say
          of="a nut comes free at {maybe}"
          with={{
            maybe: (
              <Maybe of={of} number="free">
                <b className="mono">
                  {number(Math.round(d.residual))} {t.setting.unit}
                </b>
              </Maybe>
            ),
          }}
        />
      </li>
      <li>
        <Say
          of="with its gauge accurate to {accuracy}"
          with={{
            accuracy: (
              <b className="mono">
                {"± "}
                {percent(t.accuracy)}
                {" %"}
              </b>
            ),
          }}
        />
      </li>
      <li>{t.due ? tr("in calibration to {due}", { due: day(t.due) }) : tr("calibration not known")}</li>
    </Group>
  );
}

function Maybe({ of, number: key, children }: { of?: string; number: string; children: ReactNode }) {
  if (!of) return <>{children}</>;
  return (
    <Num of={of} number={key}>
      {children}
    </Num>
  );
}

/** How each stage is set, and the scale as the hand sees it for the last. */
export function Settings({ tools, of }: { tools: StageTool[]; of?: string }) {
  const [shown, setShown] = useState(tools.length - 1);
  const t = tools[Math.min(shown, tools.length - 1)]!;
  if (t.draw) return <Draws tools={tools} of={of} shown={shown} onShown={setShown} />;
  const geared = tools.some((x) => x.links.some((l) => l.kind === "multiplier"));
  return (
    <div className={classes.settings} data-pressed={t.pressed || undefined}>
      <Panel
        title={
          <>
            <Say
              of="Set {tools} to {setting}"
              with={{
                tools: t.tools[0],
                setting: (
                  <Maybe of={of} number={`setting/${t.stage}`}>
                    {number(t.setting.value)} {t.setting.unit}
                  </Maybe>
                ),
              }}
            />
          </>
        }
        aside={tr("stage {stage}", { stage: t.stage })}
      >
        <FaceView face={t.face} name={t.tools.join(" + ")} />
      </Panel>
      <Panel title={tr("Per stage")}>
        <Each
          tools={tools}
          at={shown}
          onAt={setShown}
          says={(p) => (
            <>
              <span className="mono">
                {torque(p.torque)}
                {" N·m"}
              </span>
              <span>{p.tools.join(" + ")}</span>
            </>
          )}
        />
      </Panel>
      {t.pressed && <OwnChart tools={tools} shown={Math.min(shown, tools.length - 1)} />}
      <Panel title={geared || t.pressed ? tr("Reaction") : tr("Hands")} kind="stop">
        {t.pressed && <DriveSide to="tighten" />}
        {t.pressed ? (
          <p>
            {tr(
              "Arm on the drive’s side, flat on a firm point, not on a stud or a tube. Nobody’s hand on arm, hose or back-up while the pump runs; one gives the word. Face guard. The maker’s own instructions come first.",
            )}
          </p>
        ) : geared ? (
          <p>
            {tr(
              "Arm flat on the neighbouring nut or the flange’s edge, same side as the pull. Nothing that gives. Hands off the arm while you pull. Gloves.",
            )}
          </p>
        ) : (
          <p>
            {tr(
              "Hand on the middle of the grip, square to the nut. Smooth, one click, stop. Never a pipe on it, never to loosen. Sure footing.",
            )}
          </p>
        )}
      </Panel>
    </div>
  );
}

interface EachProps {
  tools: StageTool[];
  at: number;
  onAt: (i: number) => void;
  says: (tool: StageTool, i: number) => ReactNode;
}

/** What the tool of each stage, or draw, is set to; the one that is touched is shown. */
function Each({ tools, at, onAt, says }: EachProps) {
  return (
    <ol className={`options lines ${classes.perStage}`}>
      {tools.map((p, i) => (
        <li key={p.stage}>
          <button type="button" className="bare" aria-pressed={i === at} onClick={() => onAt(i)}>
            {says(p, i)}
            <b className="mono">
              {number(p.setting.value)} {p.setting.unit}
            </b>
            <span className="soft mono">
              {signed(p.error)}
              {" %"}
            </span>
          </button>
        </li>
      ))}
    </ol>
  );
}

interface DrawsProps {
  tools: StageTool[];
  of?: string;
  shown: number;
  onShown: (i: number) => void;
}

/** The draws of a tensioner, the gauge of the one that is looked at, and where nobody stands. */
function Draws({ tools, of, shown, onShown }: DrawsProps) {
  const at = Math.min(shown, tools.length - 1);
  const t = tools[at]!;
  return (
    <div className={classes.settings}>
      <Panel
        title={
          <>
            {halfWords(tools, at)}:{" "}
            <Maybe of={of} number={`setting/${t.stage}`}>
              {number(t.setting.value)} {t.setting.unit}
            </Maybe>
          </>
        }
      >
        <FaceView face={t.face} name={t.tools.join(" + ")} />
      </Panel>
      <Panel title={tr("Per draw")}>
        <Each
          tools={tools}
          at={at}
          onAt={onShown}
          says={(p, i) => (
            <>
              <span>{halfWords(tools, i)}</span>
              <span className="mono">
                {kilonewtons(p.draw!.applied)}
                {" kN"}
              </span>
            </>
          )}
        />
        {tools.length > 1 && (
          <p className="soft">
            {tr("Then the first half once more at {setting} {unit}: no nut moves.", {
              setting: number(tools[1]!.setting.value),
              unit: t.setting.unit,
            })}
          </p>
        )}
      </Panel>
      <Panel title={tr("Stand")} kind="stop">
        <p>
          {tr(
            "Nobody in line with a drawn bolt, over it or under. Hands at the side, by the nut’s bar. Stroke watched: at its end let down. The maker’s own instructions come first.",
          )}
        </p>
      </Panel>
    </div>
  );
}

const halfWords = (tools: StageTool[], i: number) =>
  tools.length === 1 ? tr("all at once") : i === 0 ? tr("every other bolt") : tr("those between");
