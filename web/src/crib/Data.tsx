import { useMay } from "../api/queries";
import type { ToolCard, ToolData } from "../api/types";
import { number } from "../ui/format";
import { useToolKinds } from "./queries";
import classes from "./crib.module.css";
import { told, tr } from "../words/words";

/** A tool's data as its plate says, each with its unit. */
export function Data({ card: c, onChange }: { card: ToolCard; onChange: () => void }) {
  const kinds = useToolKinds().data?.kinds;
  const keeper = useMay("crib keeper");
  const d = c.data;
  const kind = kinds?.find((k) => k.kind === d.kind && (k.face ?? "") === (d.face ?? ""));
  if (!kind) return null;
  const rows = kind.fields
    .map((f) => {
      const v = d[f.name as keyof ToolData];
      if (v === undefined || v === "" || (v === 0 && !f.needed)) return undefined;
      const unit = f.own ? String(d[f.own as keyof ToolData] ?? "") : (f.unit ?? "");
      return { name: f.name, text: told(f.text), value: typeof v === "number" ? number(v) : told(String(v)), unit: told(unit) };
    })
    .filter((r) => r !== undefined);
  return (
    <section className={classes.section}>
      <h3>{tr("What its plate says")}</h3>
      <dl className={classes.data}>
        {rows.map((r) => (
          <Row key={r.name} text={r.text} value={r.value} unit={r.unit} />
        ))}
        {d.falls && <Row text={tr("Its marks rise")} value={tr("toward the hand")} unit="" />}
        {d.chart?.map((r) => (
          <Row
            key={r.pressure}
            text={tr("Chart, {pressure} {pressureUnit}", { pressure: number(r.pressure), pressureUnit: d.pressureUnit })}
            value={number(r.torque)}
            unit="N·m"
          />
        ))}
      </dl>
      {keeper && c.tool.standing !== "scrapped" && (
        <p>
          <button type="button" className="link" onClick={onChange}>
            {tr("Change its data")}
          </button>
        </p>
      )}
    </section>
  );
}

function Row({ text, value, unit }: { text: string; value: string; unit: string }) {
  return (
    <>
      <dt>{text}</dt>
      <dd className="mono">
        {value} {unit}
      </dd>
    </>
  );
}
