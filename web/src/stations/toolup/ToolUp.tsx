import { Button } from "@mantine/core";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { useMay } from "../../api/queries";
import type { Joint, PassTool } from "../../api/types";
import { torque } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Nothing } from "../Nothing";
import { Choice } from "./Choice";
import { Facts, Settings } from "./Settings";
import classes from "./toolup.module.css";

/** Station two: which tool, and how it is set. */
export function ToolUp({ joint }: { joint: Joint }) {
  if (!joint.plan || !joint.run) return <Nothing joint={joint} what="No plan is issued yet, so there is no value to set a tool to." station={1} act="Lay out" />;
  return <Ways joint={joint} />;
}

function Ways({ joint }: { joint: Joint }) {
  const run = joint.run!;
  const fitter = useMay("fitter");
  const [changing, setChanging] = useState(false);
  const chosen = run.tooling;
  if (chosen && !changing) return <Chosen joint={joint} tools={chosen} onChange={fitter && run.stage !== "signed" ? () => setChanging(true) : undefined} />;
  if (!fitter) return <Nothing joint={joint} what="A fitter chooses the tool." station={1} act="The plan" />;
  return <Choice joint={joint.id} run={run.id} target={joint.plan!.result.torque} thread={joint.plan!.input.thread} onChosen={() => setChanging(false)} />;
}

function Chosen({ joint, tools, onChange }: { joint: Joint; tools: PassTool[]; onChange?: () => void }) {
  const navigate = useNavigate();
  const last = tools.at(-1)!;
  return (
    <div className={classes.toolup}>
      <header className={classes.head}>
        <h1>{last.tools.join(" and ")} chosen</h1>
        <span className="soft">for {torque(last.torque)} N·m</span>
        {onChange && (
          <Button variant="default" onClick={onChange}>
            Change the tool
          </Button>
        )}
        <Button color="now" onClick={() => void navigate(`/joint/${joint.id}/3`)}>
          Tighten
        </Button>
      </header>
      <Panel kind="held">
        <Facts tool={last} />
      </Panel>
      <Settings tools={tools} links={last.tools.length} />
      <Panel title="Before, during, after">
        <p>Before: not dropped, worked a few times at mid scale, drive and socket clean. After: wound back to its lowest mark, not past it; clean, dry, in its case.</p>
      </Panel>
      <p>
        <Link to={`/joint/${joint.id}/1`}>The plan</Link>
      </p>
    </div>
  );
}
