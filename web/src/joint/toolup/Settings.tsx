import { Group } from "@mantine/core";
import { type ReactNode, useState } from "react";
import type { StageTool } from "../../api/types";
import { day, number, percent, signed, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { FaceView } from "../../drawing/faces/Face";
import { Num } from "../numbers/Numbers";
import classes from "./toolup.module.css";

/** What a chain gives; of names the group it was chosen for. */
export function Facts({ tool, of }: { tool: StageTool; of?: string }) {
  return (
    <Group component="ul" gap="4px 24px">
      <li>
        lands on{" "}
        <Maybe of={of} number={`lands/${tool.stage}`}>
          <b className="mono">{torque(tool.lands)}</b> N·m
        </Maybe>{" "}
        ({signed(tool.error)} %)
      </li>
      <li>
        chain accuracy{" "}
        <Maybe of={of} number={`accuracy/${tool.stage}`}>
          <b className="mono">± {percent(tool.accuracy)} %</b>
        </Maybe>
      </li>
      {tool.force > 0 && (
        <li>
          hand force{" "}
          <Maybe of={of} number={`force/${tool.stage}`}>
            <b className="mono">{number(Math.round(tool.force))} N</b>
          </Maybe>
          {tool.heavy ? ", heavy" : ""}
        </li>
      )}
      <li>{tool.due ? `in calibration to ${day(tool.due)}` : "calibration not known"}</li>
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
  const geared = tools.some((x) => x.links.some((l) => l.kind === "multiplier"));
  return (
    <div className={classes.settings}>
      <Panel
        title={
          <>
            Set {t.tools[0]} to{" "}
            <Maybe of={of} number={`setting/${t.stage}`}>
              {number(t.setting.value)} {t.setting.unit}
            </Maybe>
          </>
        }
        aside={`stage ${t.stage}`}
      >
        <FaceView face={t.face} name={t.tools.join(" + ")} />
      </Panel>
      <Panel title="Per stage">
        <ol className={`options lines ${classes.perStage}`}>
          {tools.map((p, i) => (
            <li key={p.stage}>
              <button type="button" className="bare" aria-pressed={i === shown} onClick={() => setShown(i)}>
                <span className="mono">{torque(p.torque)} N·m</span>
                <span>{p.tools.join(" + ")}</span>
                <b className="mono">
                  {number(p.setting.value)} {p.setting.unit}
                </b>
                <span className="soft mono">{signed(p.error)} %</span>
              </button>
            </li>
          ))}
        </ol>
      </Panel>
      <Panel title={geared ? "Reaction" : "Hands"} kind="stop">
        {geared ? (
          <p>
            Arm flat on the neighbouring nut or the flange’s edge, same side as the pull. Nothing that gives. Hands off the arm while you
            pull. Gloves.
          </p>
        ) : (
          <p>
            Hand on the middle of the grip, square to the nut. Smooth, one click, stop. Never a pipe on it, never to loosen. Sure footing.
          </p>
        )}
      </Panel>
    </div>
  );
}
