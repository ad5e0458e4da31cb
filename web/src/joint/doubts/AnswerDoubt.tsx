import { Button, Radio, Stack, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { sendEntry } from "../../api/client";
import { Dialog } from "../../ui/Form";
import { Refusal } from "../../ui/Refusal";
import { tr } from "../../words/words";

const answers = {
  "": [tr("The pulls stand"), tr("What was found, and why they may stand")],
  sample: [tr("Try a sample first, with another tool"), tr("What is to be looked at (may stay empty)")],
  again: [tr("Make them again, with another tool"), tr("What was found")],
} as const;
type How = keyof typeof answers;

interface AnswerDoubtProps {
  run: string;
  tool: string;
  tag: string;
  onAnswered: () => void;
}

/** An engineer answers for what a doubtful tool made of one joint. */
export function AnswerDoubt({ run, tool, tag, onAnswered }: AnswerDoubtProps) {
  const [asking, setAsking] = useState(false);
  const [how, setHow] = useState<How>("sample");
  const [reason, setReason] = useInputState("");
  const [id] = useState(() => crypto.randomUUID()); // the same, however often it is sent
  const answer = useMutation({
    mutationFn: () =>
      sendEntry(run, {
        id,
        at: new Date().toISOString(),
        content: { kind: "answer", tool, reason: reason.trim(), ...(how ? { how } : {}) },
      }),
    onSuccess: () => {
      setAsking(false);
      onAnswered();
    },
  });
  return (
    <>
      <Button variant="default" mt={6} onClick={() => setAsking(true)} data-answer={tag}>
        {tr("Answer for {tag}", { tag })}
      </Button>
      {asking && (
        <Dialog
          title={tr("What {tool} made of {tag}", { tool, tag })}
          act={tr("Answer")}
          ready={how === "sample" || reason.trim() !== ""}
          busy={answer.isPending}
          onClose={() => setAsking(false)}
          onAct={() => answer.mutate()}
        >
          <Radio.Group value={how} onChange={(v) => setHow(v as How)} label={tr("What is to be done")}>
            <Stack gap={4} mt={6}>
              {(Object.keys(answers) as How[]).map((k) => (
                <Radio key={k} value={k} label={answers[k][0]} size="md" styles={{ body: { minHeight: 48, alignItems: "center" } }} />
              ))}
            </Stack>
          </Radio.Group>
          <Textarea label={answers[how][1]} name="reason" value={reason} onChange={setReason} minRows={2} maxLength={500} />
          <p className="soft">{tr("It stands in the joint’s record, first.")}</p>
          <Refusal error={answer.error} />
        </Dialog>
      )}
    </>
  );
}
