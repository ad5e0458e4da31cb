import { Box, Text } from "@mantine/core";
import type { Act, Group, Joint, Run, StageTool } from "../../api/types";
import { useKeys } from "../../app/keys";
import { Act as Main } from "../../ui/Act";
import { number, torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { FaceView } from "../../drawing/faces/Face";
import { handTools, ofHand } from "../bolts";
import { Num } from "../numbers/Numbers";
import { LinkedBadge } from "./Linked";
import classes from "./tighten.module.css";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

interface SetToolProps {
  joint: Joint;
  run: Run;
  next: Act;
  group: Group;
  tool: StageTool;
  onSet: () => void;
}

/**
 * The tool of a stage, taken in hand and set, with its face as the hand will see it. Its key is not the one that pulls:
 * a press too many must not be a pull with the wrong tool.
 */
export function SetTool({ joint, run, next, group, tool, onSet }: SetToolProps) {
  useKeys({ s: onSet });
  const before = next.round === 0 && next.stage > 1 ? handTools(group, next.hand)?.[next.stage - 2] : undefined;
  const down = before && before.tools.join() !== tool.tools.join() ? before.tools.join(tr(" and ")) : "";
  return (
    <Panel
      kind="mind"
      title={
        next.stages > 1
          ? tr("Before stage {stage} of {stages}, {share} %", { stage: next.stage, stages: next.stages, share: number(next.share) })
          : tr("Before the {group}", { group: told(group.name) })
      }
    >
      <div className={classes.setWords} data-setting={`${number(tool.setting.value)} ${tool.setting.unit}`}>
        {down && (
          <Text c="mind" fw={700} fz={18}>
            {tr("Put {down} down.", { down })}
          </Text>
        )}
        <Say
          of={tool.tools.length > 1 ? "Take {tools}, set {first} to {value}" : "Take {tools}, set to {value}"}
          with={{
            tools: <b>{tool.tools.join(tr(" and "))}</b>,
            first: tool.tools[0],
            value: (
              <Num of={ofHand(group.name, next.hand)} number={`setting/${tool.stage}`}>
                <b className="mono">
                  {number(tool.setting.value)} {tool.setting.unit}
                </b>
              </Num>
            ),
          }}
        />
      </div>
      <Box my={10}>
        <FaceView face={tool.face} name={tool.tools.join(" + ")} />
      </Box>
      <LinkedBadge joint={joint} run={run} tool={tool.tools[0]} />
      <p className="soft">
        <Say
          of="It gives {lands} at the nut. First: {next}.{tools}"
          with={{
            lands: (
              <Num of={ofHand(group.name, next.hand)} number={`lands/${tool.stage}`}>
                {torque(tool.lands)}
                {" N·m"}
              </Num>
            ),
            next: told(next.words),
            tools: tool.tools.length > 1 && tr(" Reaction arm flat on the neighbouring nut, same side as the pull; hands off it."),
          }}
        />
      </p>
      <Main act={tr("It is set, I looked")} hint={tr("key S; the pedal does not")} kind="mind" onClick={onSet} data-act="set" />
      {run.begun && <p className="fine">{tr("Asked after each change, a pause, a hand-over and a night.")}</p>}
    </Panel>
  );
}
