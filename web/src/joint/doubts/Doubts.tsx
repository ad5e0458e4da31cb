import { useMay } from "../../api/queries";
import type { Doubt, Joint, Run } from "../../api/types";
import { useQueryClient } from "@tanstack/react-query";
import { Panel } from "../../ui/Panel";
import { AnswerDoubt } from "./AnswerDoubt";
import { Recheck } from "./Recheck";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

/** What of a joint is in doubt because of a tool, and what is done about it. */
export function Doubts({ joint, run }: { joint: Joint; run: Run }) {
  return run.doubts?.map((d) => <InDoubt key={d.tool} doubt={d} joint={joint} run={run} />);
}

function InDoubt({ doubt: d, joint, run }: { doubt: Doubt; joint: Joint; run: Run }) {
  const queries = useQueryClient();
  const engineer = useMay("engineer");
  const tries = useMay("fitter", "inspector");
  const fresh = () => void queries.invalidateQueries();
  return (
    <Panel kind="stop" title={tr("Pulls with {tool} are in doubt", { tool: d.tool })}>
      <p>
        <Say
          of="It made {made} here since its last good check. {d}"
          with={{ made: d.made.map((m) => told(m)).join("; "), d: <b>{told(d.words)}.</b> }}
        />
      </p>
      {d.state === "sample" && tries && <Recheck run={run} doubt={d} onTried={fresh} />}
      {engineer && <AnswerDoubt run={run.id} tool={d.tool} tag={joint.tag} onAnswered={fresh} />}
      {!engineer && d.state === "waits" && (
        <p>{tr("Ask an engineer, or have the tool checked: found good as it is, it answers by itself.")}</p>
      )}
    </Panel>
  );
}
