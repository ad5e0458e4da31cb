import { Button, SimpleGrid, Stack, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useEffect, useRef, useState } from "react";
import { useOwn } from "../../api/queries";
import type { Bolts } from "../../api/types";
import { Form } from "../../ui/Form";
import { readNumber } from "../../ui/format";
import { Choose, Field, Set, Units } from "./editors";
import { tr } from "../../words/words";

const byCertificate = "by certificate";

/** The grade on the head, or the strength that the paper of the lot gives. */
export function Grade({ grades, bolts, value, onSet }: { grades: string[]; bolts?: Bolts; value: string; onSet: (c: Bolts) => void }) {
  const kept = (useOwn().data?.certificates ?? []).filter((c) => c.kept.usable).map((c) => c.given);
  const [typed, setTyped] = useState(bolts?.grade === byCertificate);
  if (!typed)
    return (
      <Stack gap={12}>
        <Button variant="default" onClick={() => setTyped(true)} data-act="certificate">
          {tr("By certificate")}
        </Button>
        <Choose
          options={[
            ...kept.map((c) => ({ value: c.number, text: tr("certificate {number}", { number: c.number }), note: tr("in the Library") })),
            ...grades.map((x) => ({ value: x, text: x })),
          ]}
          value={value}
          onChoose={(chosen) => {
            const certificate = kept.find((c) => c.number === chosen);
            onSet(certificate ? { grade: byCertificate, certificate } : { grade: chosen, certificate: undefined });
          }}
        />
      </Stack>
    );
  return <Paper certificate={bolts?.certificate} onBack={() => setTyped(false)} onSet={onSet} />;
}

interface PaperProps {
  certificate?: Bolts["certificate"];
  onBack?: () => void;
  onSet: (c: Bolts) => void;
}

/** The strength that a paper gives, with its number. */
export function Paper({ certificate: c, onBack, onSet }: PaperProps) {
  const [number, setNumber] = useInputState(c?.number ?? "");
  const [unit, setUnit] = useState(c?.yield.unit ?? "MPa");
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), []); // the button that led here is gone
  const shown = (q?: { value: number }) => (q ? String(q.value) : "");
  const [proof, setProof] = useState(shown(c?.proof));
  const [least, setLeast] = useState(shown(c?.yield));
  const [tensile, setTensile] = useState(shown(c?.tensile));
  const stress = (text: string) => {
    const value = readNumber(text);
    return value === undefined ? undefined : { value, unit };
  };
  const y = stress(least);
  const t = stress(tensile);
  return (
    <Form
      onSend={() =>
        y &&
        t &&
        onSet({
          grade: byCertificate,
          certificate: { number: number.trim(), yield: y, tensile: t, ...(stress(proof) && { proof: stress(proof) }) },
        })
      }
    >
      <TextInput
        label={tr("Number of the certificate")}
        value={number}
        onChange={setNumber}
        maxLength={40}
        autoComplete="off"
        ref={first}
      />
      <SimpleGrid cols={2} spacing={12} verticalSpacing={12} style={{ alignItems: "end" }}>
        <Field label={tr("Yield or 0.2 %")} value={least} onChange={setLeast} unit={unit} />
        <Field label={tr("Tensile strength")} value={tensile} onChange={setTensile} unit={unit} />
        <Field label={tr("Proof, if given")} value={proof} onChange={setProof} unit={unit} />
        <Units units={["MPa", "psi"]} value={unit} onChange={setUnit} />
      </SimpleGrid>
      <Set disabled={!number.trim() || !y || !t || (proof.trim() !== "" && !stress(proof))} />
      {onBack && (
        <Button variant="default" onClick={onBack}>
          {tr("A grade from the list")}
        </Button>
      )}
    </Form>
  );
}
