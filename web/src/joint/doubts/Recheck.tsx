import { Button, Group, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { sendEntry } from "../../api/client";
import type { Doubt, Run } from "../../api/types";
import { Form } from "../../ui/Form";
import { readNumber } from "../../ui/format";
import { Refusal } from "../../ui/Refusal";
import { Field } from "../layout/editors";
import { tr } from "../../words/words";

/** The bolts of a sample, tried on in the tightening direction with another tool until each first moves. */
export function Recheck({ run, doubt, onTried }: { run: Run; doubt: Doubt; onTried: () => void }) {
  const sample = doubt.sample[0]!;
  const [tool, setTool] = useInputState("");
  const [typed, setTyped] = useState<Record<number, string>>({});
  const [id, setID] = useState(() => crypto.randomUUID());
  const readings = sample.bolts.map((b) => readNumber(typed[b] ?? ""));
  const ready = tool.trim() !== "" && readings.every((r) => r !== undefined);
  const send = useMutation({
    mutationFn: () =>
      sendEntry(run.id, {
        id,
        at: new Date().toISOString(),
        content: {
          kind: "re-check",
          tool: doubt.tool,
          with: tool.trim(),
          group: sample.group,
          bolts: sample.bolts,
          readings: readings as number[],
        },
      }),
    onSuccess: () => {
      setTyped({});
      setID(crypto.randomUUID());
      onTried();
    },
  });
  return (
    <Form onSend={() => ready && !send.isPending && send.mutate()}>
      <p>
        {tr(
          "Try them on in the tightening direction, slowly, and read where each first moves. Hands clear of what moves; nothing under pressure.",
        )}
      </p>
      <Group gap={12} align="flex-end">
        <TextInput
          label={tr("With which tool")}
          name="with"
          placeholder={tr("its tag")}
          value={tool}
          onChange={setTool}
          maxLength={40}
          w={150}
        />
        {sample.bolts.map((b) => (
          <Field
            key={b}
            label={tr("Bolt {b}", { b })}
            name={`bolt ${b}`}
            unit="N·m"
            value={typed[b] ?? ""}
            onChange={(v) => setTyped({ ...typed, [b]: v })}
          />
        ))}
        <Button type="submit" color="now" disabled={!ready} loading={send.isPending}>
          {tr("Keep these")}
        </Button>
      </Group>
      <Refusal error={send.error} />
    </Form>
  );
}
