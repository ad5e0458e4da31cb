import { Button, SegmentedControl, SimpleGrid, Stack } from "@mantine/core";
import { useState } from "react";
import type { Bolts, Check, Group, Quantity, Stay } from "../../api/types";
import { Form } from "../../ui/Form";
import { kilonewtons, number, percent, readNumber, torque } from "../../ui/format";
import { Num } from "../numbers/Numbers";
import { ClampEditor } from "./Aims";
import { Field, Set } from "./editors";
import { Answer, Mark } from "./GasketWindow";
import type { SentenceProps } from "./Sentence";
import classes from "./window.module.css";
import { Word } from "./Word";
import { Say } from "../../words/Say";
import { told, tr } from "../../words/words";

/** What becomes of the load after the pull: what is known of it, in words, and a row for each that is. */
export function Stays({ draft, group: g, mayChange }: SentenceProps & { group: Group }) {
  const b = draft.input.groups[g.name] ?? {};
  const s = b.stay ?? {};
  const at = `groups.${g.name}`;
  const shared = { problem: draft.problem, mayChange, fields: [`${at}.stay`] };
  const set = (close: () => void) => (c: Stay) => {
    close();
    draft.changeGroup(g.name, { stay: { ...s, ...c } });
  };
  return (
    <div className={classes.window} data-stays={g.name}>
      <h3 className={classes.title}>{tr("Will it stay?")}</h3>
      <p className={classes.needs}>
        <Say
          of="It clamps {clamp}; thread engaged: {engaged}; pressed under the head up to {pressure}; its faces {faces}; in service {service}; pulled at by {pull}."
          with={{
            clamp: (
              <Word {...shared} fields={[`${at}.clamp`]} name={tr("What is clamped")} text={clampWords(b)}>
                {(close) => (
                  <ClampEditor
                    bolts={b}
                    onSet={(c) => {
                      close();
                      draft.changeGroup(g.name, c);
                    }}
                  />
                )}
              </Word>
            ),
            engaged: (
              <Word {...shared} name={tr("Thread engaged")} text={s.engaged ? said(s.engaged) : tr("not said")}>
                {(close) => <Engaged stay={s} onSet={set(close)} />}
              </Word>
            ),
            pressure: (
              <Word {...shared} name={tr("Pressure the parts take")} text={s.bears ? said(s.bears) : tr("what they take")} usual={!s.bears}>
                {(close) => (
                  <One label={tr("Pressure that the parts take")} unit="MPa" value={s.bears} onSet={(bears) => set(close)({ bears })} />
                )}
              </Word>
            ),
            faces: (
              <Word {...shared} name={tr("How the faces settle")} text={settleWords(s)}>
                {(close) => <Faces stay={s} onSet={set(close)} />}
              </Word>
            ),
            service: (
              <Word {...shared} name={tr("Warmer in service")} text={warmWords(s)}>
                {(close) => <Warmer stay={s} onSet={set(close)} />}
              </Word>
            ),
            pull: (
              <Word {...shared} name={tr("Load from outside")} text={pullWords(s)}>
                {(close) => <Pulled stay={s} onSet={set(close)} />}
              </Word>
            ),
          }}
        />
      </p>
      {g.stays.length > 0 && (
        <ol className={classes.rows}>
          {g.stays.map((r) => (
            <li key={r.key} data-row={r.key} data-holds={r.holds}>
              <StayRow row={r} group={g} />
              <Answer draft={draft} row={r} mayChange={mayChange} />
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}

function StayRow({ row: r, group: g }: { row: Check; group: Group }) {
  const top = 1.15 * Math.max(r.value, r.limit);
  const x = (v: number) => `${(v / top) * 100}%`;
  const why = { of: g.name, number: r.key };
  const words = (v: number) => (r.unit === "N" ? `${kilonewtons(v)} kN` : `${torque(v)} ${r.unit}`);
  return (
    <div className={classes.row}>
      <span className={classes.name}>
        {!r.informs && <Mark holds={r.holds} />} {told(r.name)}
      </span>
      <span className={classes.bar} data-holds={r.holds || r.informs} aria-hidden>
        <i
          className={classes.not}
          style={r.least ? { left: 0, width: r.informs ? 0 : x(r.limit) } : { left: x(r.limit), width: `calc(100% - ${x(r.limit)})` }}
        />
        <i className={classes.likely} style={{ left: 0, width: x(r.value) }} />
        {r.informs && <i className={classes.at} style={{ left: x(r.limit) }} />}
      </span>
      <span className={classes.limit}>
        <span className="mono">{r.ofLimit ? words(r.value) : <Num {...why}>{words(r.value)}</Num>}</span>
        <small>
          <Say
            of={r.informs ? "of {limit}" : r.least ? "at least {limit}" : "at most {limit}"}
            with={{ limit: r.ofLimit ? <Num {...why}>{words(r.limit)}</Num> : words(r.limit) }}
          />
        </small>
      </span>
      {r.note && <small className={classes.note}>{told(r.note)}</small>}
    </div>
  );
}

const said = (q: Quantity) => `${number(q.value)} ${q.unit}`;

function clampWords(b: Bolts) {
  if (!b.clamp?.length) return tr("how much?");
  return tr("{clamp} of {parts}", { clamp: said(b.clamp.length), parts: told(b.clamp.parts) || tr("steel") });
}

function settleWords(s: Stay) {
  if (s.settles) return tr("settling by {settles} µm, measured", { settles: number(s.settles) });
  return s.finish ? tr("{finish}, {count} between the parts", { finish: told(s.finish), count: s.faces ?? 0 }) : tr("not said");
}

function warmWords(s: Stay) {
  const warm = s.boltsWarmer || s.partsWarmer;
  const stiff = s.boltsStiff || s.partsStiff;
  if (!warm && !stiff) return tr("as warm as now");
  const parts = [
    warm &&
      tr("bolts {boltsWarmer} K and parts {partsWarmer} K warmer", {
        boltsWarmer: number(s.boltsWarmer ?? 0),
        partsWarmer: number(s.partsWarmer ?? 0),
      }),
    stiff &&
      tr("{boltsStiff} % and {partsStiff} % as stiff", { boltsStiff: percent(s.boltsStiff || 1), partsStiff: percent(s.partsStiff || 1) }),
  ];
  return parts.filter(Boolean).join(", ");
}

function pullWords(s: Stay) {
  const parts = [
    s.axial && tr("{axial} along it", { axial: said(s.axial) }),
    s.across && tr("{across} across", { across: said(s.across) }),
  ].filter(Boolean);
  return parts.join(tr(" and ")) || tr("nothing");
}

interface EditProps {
  stay: Stay;
  onSet: (c: Stay) => void;
}

function useNumber(start?: number) {
  const [text, setText] = useState(start ? String(start) : "");
  const value = text.trim() === "" ? undefined : readNumber(text);
  return { text, setText, value, wrong: text.trim() !== "" && value === undefined };
}

const quantity = (value: number | undefined, unit: string) => (value === undefined ? undefined : { value, unit });

function One({ label, unit, value, onSet }: { label: string; unit: string; value?: Quantity; onSet: (q?: Quantity) => void }) {
  const v = useNumber(value?.value);
  return (
    <Form onSend={() => !v.wrong && onSet(quantity(v.value, unit))}>
      <Field label={label} value={v.text} onChange={v.setText} unit={unit} first />
      <Set disabled={v.wrong} />
    </Form>
  );
}

function Engaged({ stay: s, onSet }: EditProps) {
  const long = useNumber(s.engaged?.value);
  const rm = useNumber(s.partTensile?.value);
  return (
    <Form onSend={() => onSet({ engaged: quantity(long.value, "mm"), partTensile: quantity(rm.value, "MPa") })}>
      <Field label={tr("Length of thread engaged")} value={long.text} onChange={long.setText} unit="mm" first />
      <Field label={tr("Tensile strength of the part, if known")} value={rm.text} onChange={rm.setText} unit="MPa" />
      <Set disabled={long.wrong || rm.wrong} />
    </Form>
  );
}

function Faces({ stay: s, onSet }: EditProps) {
  const [finish, setFinish] = useState<string>(s.finish || "usual");
  const faces = useNumber(s.faces);
  const settles = useNumber(s.settles);
  return (
    <Form onSend={() => onSet({ finish: finish as Stay["finish"], faces: Math.trunc(faces.value ?? 0), settles: settles.value })}>
      <SegmentedControl
        data={["fine", "usual", "coarse"]}
        value={finish}
        onChange={setFinish}
        fullWidth
        size="md"
        aria-label={tr("Faces")}
      />
      <Field label={tr("Faces between the parts")} value={faces.text} onChange={faces.setText} unit="faces" first />
      <Field label={tr("Or how far they settle, where it was measured")} value={settles.text} onChange={settles.setText} unit="µm" />
      <Set disabled={faces.wrong || settles.wrong} />
      {(s.finish || s.settles) && (
        <Button variant="default" onClick={() => onSet({ finish: "", faces: undefined, settles: undefined })}>
          {tr("Not known")}
        </Button>
      )}
    </Form>
  );
}

function Warmer({ stay: s, onSet }: EditProps) {
  const bolts = useNumber(s.boltsWarmer);
  const parts = useNumber(s.partsWarmer);
  const stiffBolts = useNumber(s.boltsStiff && 100 * s.boltsStiff);
  const stiffParts = useNumber(s.partsStiff && 100 * s.partsStiff);
  const share = (v?: number) => (v === undefined ? undefined : v / 100);
  return (
    <Form
      onSend={() =>
        onSet({
          boltsWarmer: bolts.value,
          partsWarmer: parts.value,
          boltsStiff: share(stiffBolts.value),
          partsStiff: share(stiffParts.value),
        })
      }
    >
      <p className="soft">{tr("Than when it was made; below zero is colder.")}</p>
      <SimpleGrid cols={2} spacing={12} style={{ alignItems: "end" }}>
        <Field label={tr("Bolts")} value={bolts.text} onChange={bolts.setText} unit="K" first />
        <Field label={tr("Parts")} value={parts.text} onChange={parts.setText} unit="K" />
      </SimpleGrid>
      <p className="soft">{tr("Modulus then, of what it is at 20 °C; nothing where it is the same.")}</p>
      <SimpleGrid cols={2} spacing={12} style={{ alignItems: "end" }}>
        <Field label={tr("Bolts as stiff")} value={stiffBolts.text} onChange={stiffBolts.setText} unit="%" />
        <Field label={tr("Parts as stiff")} value={stiffParts.text} onChange={stiffParts.setText} unit="%" />
      </SimpleGrid>
      <Set disabled={[bolts, parts, stiffBolts, stiffParts].some((v) => v.wrong)} />
    </Form>
  );
}

function Pulled({ stay: s, onSet }: EditProps) {
  const axial = useNumber(s.axial?.value);
  const across = useNumber(s.across?.value);
  const enters = useNumber(s.enters);
  const friction = useNumber(s.friction);
  const planes = useNumber(s.planes);
  const wrong = [axial, across, enters, friction, planes].some((v) => v.wrong);
  return (
    <Form
      onSend={() =>
        onSet({
          axial: quantity(axial.value, "kN"),
          across: quantity(across.value, "kN"),
          enters: enters.value,
          friction: friction.value,
          planes: planes.value === undefined ? undefined : Math.trunc(planes.value),
        })
      }
    >
      <Stack gap={10}>
        <Field label={tr("Pull along each bolt")} value={axial.text} onChange={axial.setText} unit="kN" first />
        <Field label={tr("Where it enters, 0 to 1; 1 under the head")} value={enters.text} onChange={enters.setText} />
        <Field label={tr("Force across, each bolt")} value={across.text} onChange={across.setText} unit="kN" />
        <SimpleGrid cols={2} spacing={12} style={{ alignItems: "end" }}>
          <Field label={tr("Friction of the faces")} value={friction.text} onChange={friction.setText} />
          <Field label={tr("Faces that slide")} value={planes.text} onChange={planes.setText} />
        </SimpleGrid>
      </Stack>
      <Set disabled={wrong} />
    </Form>
  );
}
