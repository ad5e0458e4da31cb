import { Button, NumberInput } from "@mantine/core";
import type { BenchFigure, BenchSubject, Problem } from "../api/types";
import { Panel } from "../ui/Panel";
import { told, tr } from "../words/words";
import classes from "./bench.module.css";

type Figures = "circle" | "gasket" | "flange" | "bolt" | "friction" | "tool" | "kept" | "pull" | "pass";
type Loads = "load" | "needed" | "crushes" | "limit";

/** How figures are shown: each in a unit that people say. */
const FIGURES: { key: Figures; name: string; unit: string; per: number; single?: boolean }[] = [
  { key: "gasket", name: tr("Stiffness of the gasket, per length of ring"), unit: "N/mm²", per: 1 },
  { key: "flange", name: tr("Stiffness of the flange against bending"), unit: "kN·m²", per: 1e9 },
  { key: "bolt", name: tr("What a bolt gives"), unit: "µm/kN", per: 1e-6 },
  { key: "friction", name: tr("Scatter of friction, 2 σ"), unit: "%", per: 0.01 },
  { key: "tool", name: tr("Scatter of the tool, 2 σ"), unit: "%", per: 0.01, single: true },
  { key: "kept", name: tr("Load that a pass leaves to the next"), unit: "%", per: 0.01 },
  { key: "circle", name: tr("Bolt circle"), unit: "mm", per: 1, single: true },
  { key: "pull", name: tr("Time of a pull"), unit: "s", per: 1 },
  { key: "pass", name: tr("Getting ready for a pass"), unit: "s", per: 1 },
];

const LOADS: { key: Loads; name: string }[] = [
  { key: "load", name: tr("Load that a pull aims at") },
  { key: "needed", name: tr("Load that is needed at least") },
  { key: "crushes", name: tr("Load that crushes the gasket") },
  { key: "limit", name: tr("Load at which a bolt yields") },
];

const ORIGINS: Record<BenchFigure["origin"], string> = {
  plan: tr("the plan"),
  fitted: tr("fitted"),
  record: tr("this site’s record"),
  "by hand": tr("by hand"),
  supposed: tr("supposed"),
};

interface RestsProps {
  subject: BenchSubject;
  /** As it was begun with. */
  begun: BenchSubject;
  /** It is a joint's: what its plan says is changed there. */
  joint: boolean;
  problem?: Problem;
  onChange: (s: BenchSubject) => void;
}

/** What a trial rests on: each figure with its range and where it comes from. */
export function Rests({ subject, begun, joint, problem, onChange }: RestsProps) {
  return (
    <Panel
      title={tr("What is not certain is tried with its lowest, its likely and its highest value, every combination as often.")}
      aside={
        subject !== begun && (
          <Button variant="default" onClick={() => onChange(begun)}>
            {tr("As it was")}
          </Button>
        )
      }
    >
      {problem && !known(problem.field) && <p role="alert">{told(problem.detail)}</p>}
      <ul className={classes.figures}>
        {!joint && (
          <li>
            <span className={classes.figureName}>{tr("Bolts")}</span>
            <NumberInput
              size="md"
              aria-label={tr("Bolts")}
              value={subject.bolts}
              allowDecimal={false}
              error={problem?.field === "bolts" && told(`${problem.detail} ${problem.way ?? ""}`)}
              onChange={(v) => onChange({ ...subject, bolts: Number(v) || 0 })}
            />
          </li>
        )}
        {FIGURES.map(({ key, ...f }) => (
          <Figured
            key={key}
            {...f}
            figure={subject[key]}
            problem={problem?.field === key ? problem : undefined}
            onSet={(v) => onChange({ ...subject, [key]: v })}
          />
        ))}
        {LOADS.map((l) => (
          <li key={l.key}>
            <span className={classes.figureName}>{l.name}</span>
            {joint ? (
              <span className="mono">{subject[l.key] > 0 ? `${Math.round(subject[l.key] / 100) / 10} kN` : tr("not known")}</span>
            ) : (
              <NumberInput
                size="md"
                aria-label={l.name}
                suffix=" kN"
                value={subject[l.key] / 1000}
                error={problem?.field === l.key && told(problem.detail)}
                onChange={(v) => onChange({ ...subject, [l.key]: (Number(v) || 0) * 1000 })}
              />
            )}
            {joint && <span className="fine">{tr("Of the plan; it is changed at Lay out.")}</span>}
          </li>
        ))}
      </ul>
    </Panel>
  );
}

const known = (field: string | undefined) =>
  field === "bolts" || FIGURES.some((f) => f.key === field) || LOADS.some((l) => l.key === field);

interface FiguredProps {
  name: string;
  unit: string;
  per: number;
  /** It is one number, and tried as one. */
  single?: boolean;
  figure: BenchFigure;
  problem?: Problem;
  onSet: (f: BenchFigure) => void;
}

function Figured({ name, unit, per, single, figure, problem, onSet }: FiguredProps) {
  const shown = (v: number) => Number((v / per).toPrecision(4));
  const set = (c: Partial<Pick<BenchFigure, "low" | "middle" | "high">>) =>
    onSet({ ...figure, ...c, origin: "by hand", from: tr("Typed here.") });
  return (
    <li>
      <span className={classes.figureName}>
        {name}
        {", "}
        {unit}
      </span>
      <span className={classes.range} role="group" aria-label={name}>
        {(single ? (["middle"] as const) : (["low", "middle", "high"] as const)).map((end) => (
          <NumberInput
            key={end}
            size="md"
            hideControls
            aria-label={{ low: tr("lowest"), middle: tr("likely"), high: tr("highest") }[end]}
            value={shown(figure[end])}
            error={problem !== undefined}
            onChange={(v) =>
              v !== "" &&
              v !== "-" &&
              Number(v) !== shown(figure[end]) &&
              set(single ? { low: Number(v) * per, middle: Number(v) * per, high: Number(v) * per } : { [end]: Number(v) * per })
            }
          />
        ))}
      </span>
      <span className="fine">
        <b>{ORIGINS[figure.origin]}</b>
        {": "}
        {told(figure.from)}
        {problem && (
          <span role="alert" className={classes.wrong}>
            {told(problem.detail)} {problem.way && told(problem.way)}
          </span>
        )}
      </span>
    </li>
  );
}
