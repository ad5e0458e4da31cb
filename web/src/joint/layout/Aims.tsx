import { Button, Divider, SegmentedControl, SimpleGrid, Stack } from "@mantine/core";
import { useState } from "react";
import { useTorqueUnit, useWords } from "../../api/queries";
import type { Bolts, Group, Quantity } from "../../api/types";
import { Form } from "../../ui/Form";
import { number, percent, readNumber } from "../../ui/format";
import { Amount, Choose, Field, Set, torqueUnits } from "./editors";
import { type SentenceProps, ValueWord } from "./Sentence";
import { Word } from "./Word";
import { told, tr } from "../../words/words";

interface TargetProps extends SentenceProps {
  group: Group;
  value?: Parameters<typeof ValueWord>[0]["value"];
  onSet: (close: () => void) => (c: Bolts) => void;
}

/** What a group is pulled to: the maker's torque, or what it is worked out from. */
export function Target({ draft, mayChange, group: g, value, onSet }: TargetProps) {
  const at = `groups.${g.name}`;
  const shared = { problem: draft.problem, mayChange };
  const bolts = draft.input.groups[g.name];
  const aim = bolts?.aim || (bolts?.share ? "share" : "");
  const why = { of: g.name, number: "torque" };
  return (
    <>
      {aim ? (
        <Word
          {...shared}
          name={tr("What is aimed at")}
          fields={[
            `${at}.aim`,
            `${at}.share`,
            `${at}.shareOf`,
            `${at}.base`,
            `${at}.derate`,
            `${at}.turn`,
            `${at}.stretch`,
            `${at}.service`,
          ]}
          text={aimWords(g, bolts ?? {})}
          why={why}
        >
          {(close) => <Aims group={g} bolts={bolts} onSet={onSet(close)} />}
        </Word>
      ) : (
        value && <ValueWord draft={draft} value={value} mayChange={mayChange} extra={[`${at}.torque`]} why={why} />
      )}
      {!g.stands && mayChange && !aim && (
        <>
          {" "}
          <Word
            {...shared}
            name={tr("Another way to say the torque")}
            fields={[`${at}.aim`, `${at}.prevailing`]}
            text={tr("or otherwise")}
            quiet
          >
            {(close) => (
              <>
                <Aims group={g} bolts={bolts} onSet={onSet(close)} />
                <Divider my={12} />
                <p>{tr("A nut that locks itself turns hard before it seats:")}</p>
                <Prevailing bolts={bolts} onSet={onSet(close)} />
              </>
            )}
          </Word>
        </>
      )}
    </>
  );
}

function aimWords(g: Group, b: Bolts) {
  switch (b.aim || "share") {
    case "share":
      return tr("{share} % of {shareOf}", { share: percent(b.share ?? 0), shareOf: told(b.shareOf || g.shareOf) });
    case "chart":
      return tr("the chart’s {share} % of proof, on {base}", { share: percent(b.share ?? 0), base: told(b.base || g.base) || tr("steel") });
    case "gasket":
      return tr("what the gasket asks for");
    case "pretension":
      return tr("a structural pretension");
    case "turn":
      return b.turn ? tr("{turn}° from snug", { turn: number(b.turn.value) }) : tr("a turn from snug");
    case "service":
      return b.service
        ? tr("{service} {unit} in service", { service: number(b.service.value), unit: b.service.unit })
        : tr("a load in service");
    default:
      return b.stretch ? tr("{stretch} {unit} longer", { stretch: number(b.stretch.value), unit: b.stretch.unit }) : tr("a stretch");
  }
}

/** The ways a target can be said, each with what it is now. */
function Aims({ group: g, bolts, onSet }: { group: Group; bolts?: Bolts; onSet: (c: Bolts) => void }) {
  const [aim, setAim] = useState<string>();
  const now = (name: string) =>
    g.alike
      .filter((s) => s.aim === name)
      .map((s) => s.words)
      .join(", ") || undefined;
  const send = (c: Bolts) =>
    onSet({ share: undefined, shareOf: "", turn: undefined, stretch: undefined, service: undefined, decision: "", ...c });
  switch (aim) {
    case "share":
      return <Share group={g} bolts={bolts} onSet={send} />;
    case "chart":
      return <Chart bolts={bolts} onSet={send} />;
    case "turn":
      return (
        <Amount
          label={tr("Turn from snug")}
          value={bolts?.turn ?? degrees(g.fromSnug)}
          units={["°"]}
          onSet={(turn) => send({ aim: "turn", turn })}
        />
      );
    case "stretch":
      return (
        <Amount
          label={tr("How much longer the bolt gets")}
          value={bolts?.stretch ?? { value: Number(g.stretch.toPrecision(3)), unit: "mm" }}
          units={["mm", "in"]}
          onSet={(stretch) => send({ aim: "stretch", stretch })}
        />
      );
    case "service":
      return (
        <Amount
          label={tr("Load of a bolt that is there in service")}
          value={bolts?.service ?? { value: Number((g.load / 1000).toPrecision(3)), unit: "kN" }}
          units={["kN", "lbf", "kip"]}
          onSet={(service) => send({ aim: "service", service })}
        />
      );
  }
  const ways = [
    { value: "", text: tr("the maker’s torque, or range"), note: now("") },
    { value: "share", text: tr("a share of its strength"), note: now("share") },
    { value: "chart", text: tr("chart by size and base") },
    ...(g.gasketNeeds.length > 0 ? [{ value: "gasket", text: tr("what the gasket asks for"), note: now("gasket") }] : []),
    { value: "pretension", text: tr("a structural pretension"), note: now("pretension") },
    { value: "turn", text: tr("a turn from snug"), note: now("turn") },
    { value: "stretch", text: tr("a stretch, read on the bolt’s end"), note: now("stretch") },
    { value: "service", text: tr("a load that is there in service, warm"), note: now("service") },
  ];
  return (
    <>
      <p className="soft">{tr("What the torque is worked out from, and what it is now. A maker’s torque wins.")}</p>
      <Choose
        options={ways}
        value={g.aim}
        onChoose={(v) => (v === "" || v === "gasket" || v === "pretension" ? send({ aim: v }) : setAim(v))}
      />
    </>
  );
}

const degrees = (v: number): Quantity => ({ value: Number(v.toPrecision(3)), unit: "°" });

interface AimProps {
  bolts?: Bolts;
  onSet: (c: Bolts) => void;
}

function Share({ group: g, bolts, onSet }: AimProps & { group: Group }) {
  const [text, setText] = useState(String(Math.round((bolts?.share || g.share || 0.5) * 1000) / 10));
  const [of, setOf] = useState<string>(g.shareOf || "yield");
  const v = readNumber(text);
  return (
    <Form onSend={() => v !== undefined && onSet({ aim: "share", share: v / 100, shareOf: of === "proof" ? "proof" : "yield" })}>
      <Field label={tr("Share of its strength")} value={text} onChange={setText} unit="%" first />
      <SegmentedControl data={["yield", "proof"]} value={of} onChange={setOf} fullWidth size="md" />
      <Set disabled={v === undefined} />
    </Form>
  );
}

/** A chart by size and base: a share of proof, less where the base is soft. */
function Chart({ bolts, onSet }: AimProps) {
  const bases = useWords().data?.bases ?? [];
  const [share, setShare] = useState(String(Math.round((bolts?.share ?? 0.75) * 1000) / 10));
  const [base, setBase] = useState(bolts?.base || "steel");
  const listed = bases.find((b) => b.name === base)?.derate ?? 1;
  const [derate, setDerate] = useState(bolts?.derate ? String(bolts.derate * 100) : "");
  const s = readNumber(share);
  const d = derate.trim() === "" ? undefined : readNumber(derate);
  return (
    <Form
      onSend={() =>
        s !== undefined && onSet({ aim: "chart", share: s / 100, shareOf: "proof", base, derate: d === undefined ? undefined : d / 100 })
      }
    >
      <Field label={tr("Share of proof, for full thread strength")} value={share} onChange={setShare} unit="%" first />
      <Stack gap={4}>
        <span>{tr("The softer of what the thread engages and the head bears on")}</span>
        <SegmentedControl data={bases.map((b) => b.name)} value={base} onChange={setBase} fullWidth size="md" aria-label={tr("Base")} />
      </Stack>
      <Field label={tr("Derate, where it is not {listed} %", { listed: percent(listed) })} value={derate} onChange={setDerate} unit="%" />
      <Set disabled={s === undefined || (derate.trim() !== "" && d === undefined)} />
    </Form>
  );
}

export function Prevailing({ bolts, onSet }: AimProps) {
  const unit = useTorqueUnit();
  const value = bolts?.prevailing ?? { value: 0, unit };
  return (
    <Amount
      label={tr("Torque to run it down; 0 for none")}
      value={value}
      units={torqueUnits}
      onSet={(prevailing) => onSet({ prevailing })}
    />
  );
}

/** What is clamped: how long, how much of it plain shank, of what. */
export function ClampEditor({ bolts, onSet }: AimProps) {
  const materials = useWords().data?.materials ?? [];
  const c = bolts?.clamp ?? {};
  const [unit, setUnit] = useState(c.length?.unit ?? "mm");
  const [length, setLength] = useState(c.length ? String(c.length.value) : "");
  const [shank, setShank] = useState(c.shank ? String(c.shank.value) : "");
  const [parts, setParts] = useState(c.parts || "steel");
  const [nuts, setNuts] = useState(c.twoNuts ? "two nuts" : "head and nut");
  const of = (text: string) => {
    const value = readNumber(text);
    return value === undefined ? undefined : { value, unit };
  };
  return (
    <Form onSend={() => onSet({ clamp: { length: of(length), shank: of(shank), twoNuts: nuts === "two nuts", parts } })}>
      <SimpleGrid cols={2} spacing={12} style={{ alignItems: "end" }}>
        <Field label={tr("Length clamped")} value={length} onChange={setLength} unit={unit} first />
        <Field label={tr("Plain shank in it")} value={shank} onChange={setShank} unit={unit} />
      </SimpleGrid>
      <SegmentedControl data={["mm", "in"]} value={unit} onChange={setUnit} fullWidth size="md" aria-label={tr("Unit")} />
      <SegmentedControl
        data={[
          { value: "head and nut", label: tr("head and nut") },
          { value: "two nuts", label: tr("two nuts") },
        ]}
        value={nuts}
        onChange={setNuts}
        fullWidth
        size="md"
        aria-label={tr("Ends")}
      />
      <Choose options={materials.map((m) => ({ value: m.name, text: told(m.name) }))} value={parts} onChoose={setParts} />
      <Set disabled={length.trim() === "" ? false : of(length) === undefined} />
      {bolts?.clamp && (
        <Button variant="default" onClick={() => onSet({ clamp: undefined })}>
          {tr("Not known")}
        </Button>
      )}
    </Form>
  );
}
