import { Button, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { http, take } from "../../api/client";
import type { Joint } from "../../api/types";
import { Form } from "../../ui/Form";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";

/** Tools of this joint that are held back, and what puts each into service again. */
export function HeldTools({ joint }: { joint: Joint }) {
  return joint.held.map((t) => <HeldTool key={t.tag} tag={t.tag} why={t.why} />);
}

function HeldTool({ tag, why }: { tag: string; why: string }) {
  const queries = useQueryClient();
  const [check, setCheck] = useInputState("");
  const release = useMutation({
    mutationFn: () => take(http.POST("/api/tools/{tool}/service", { params: { path: { tool: tag } }, body: { check: check.trim() } })),
    onSuccess: () => void queries.invalidateQueries(),
  });
  return (
    <Panel kind="stop" title={`${tag} is held back`}>
      <p>{why}. No bolt is pulled with it until it was checked and found good.</p>
      <Form onSend={() => release.mutate()}>
        <TextInput label="How it was checked, and what was found" name="check" value={check} onChange={setCheck} maxLength={500} />
        <Button type="submit" color="plan" loading={release.isPending} disabled={check.trim() === ""}>
          Into service again
        </Button>
      </Form>
      <Refusal error={release.error} />
    </Panel>
  );
}
