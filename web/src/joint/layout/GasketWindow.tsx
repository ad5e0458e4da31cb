import { useOwn } from "../../api/queries";
import type { Check, Group } from "../../api/types";
import { kilonewtons } from "../../ui/format";
import { Num } from "../numbers/Numbers";
import { Reason } from "./GroupSentence";
import { Listed } from "./Listed";
import classes from "./window.module.css";
import type { SentenceProps } from "./Sentence";
import { ValueWord } from "./Sentence";
import { Say } from "../../words/Say";
import { told, tr, within } from "../../words/words";

/** What bounds the load of a gasketed joint, each limit as a row on one scale of load. */
export function GasketWindow({ draft, group: g, mayChange }: SentenceProps & { group: Group }) {
  if (g.gasketNeeds.length === 0) return null;
  return (
    <div className={classes.window} data-window={g.name}>
      <h3 className={classes.title}>{tr("The gasket’s window")}</h3>
      <Needs draft={draft} group={g} mayChange={mayChange} />
      {g.windowRows.length > 0 ? (
        <Rows draft={draft} group={g} mayChange={mayChange} />
      ) : (
        <p className="soft">{tr("Give the gasket’s diameters, thread and torque, and its window is worked out.")}</p>
      )}
    </div>
  );
}

/** The gasket in words: its size, its stresses, the pressure. */
function Needs({ draft, group: g, mayChange }: SentenceProps & { group: Group }) {
  const values = draft.draft.values.filter((v) => g.gasketNeeds.includes(v.name));
  const own = (useOwn().data?.gaskets ?? []).filter((o) => o.kept.usable && o.given.family === g.gasketFamily);
  const chosen = draft.input.groups[g.name]?.gasket ?? "";
  return (
    <p className={classes.needs}>
      {(own.length > 0 || chosen) && (
        <>
          <Say
            of="by {listed};"
            with={{
              listed: (
                <Listed
                  problem={draft.problem}
                  mayChange={mayChange}
                  name={tr("Whose figures")}
                  fields={[`groups.${g.name}.gasket`]}
                  text={chosen || tr("its family’s figures")}
                  options={[
                    { value: "", text: tr("its family’s figures") },
                    ...own.map((o) => ({ value: o.given.name, text: o.given.name, note: o.given.source })),
                  ]}
                  value={chosen}
                  onChoose={(gasket) => draft.changeGroup(g.name, { gasket })}
                />
              ),
            }}
          />{" "}
        </>
      )}
      {values.map((v, i) => (
        <span key={v.name}>
          {i > 0 && "; "}
          {within(told(v.text))}
          {": "}
          <ValueWord draft={draft} value={v} mayChange={mayChange} />
        </span>
      ))}
      .
    </p>
  );
}

function Rows({ draft, group: g, mayChange }: SentenceProps & { group: Group }) {
  const upper = g.windowRows.filter((r) => !r.least).map((r) => r.limit);
  const lower = g.windowRows.filter((r) => r.least).map((r) => r.limit);
  const top = 1.18 * Math.max(g.likelyHigh, ...lower, Math.min(...upper));
  return (
    <ol className={classes.rows}>
      <li className={classes.scale} aria-hidden>
        <span style={{ left: `${(g.load / top) * 100}%` }}>
          <b>
            {kilonewtons(g.load)}
            {" kN"}
          </b>
        </span>
      </li>
      {g.windowRows.map((r) => (
        <li key={r.key} data-row={r.key} data-holds={r.holds}>
          <div className={classes.row}>
            <span className={classes.name}>
              <Mark holds={r.holds} /> {r.decides ? <b>{told(r.name)}</b> : told(r.name)}
              <small>{told(r.note)}</small>
            </span>
            <Bar row={r} group={g} top={top} />
            <span className={classes.limit}>
              <Num of={g.name} number={r.key}>
                <span className="mono">
                  {r.least ? "≥" : "≤"} {kilonewtons(r.limit)}
                  {" kN"}
                </span>
              </Num>
              <small>
                {r.holds ? tr("{margin} % to spare", { margin: Math.round(r.margin * 100) }) : <b>{short(r)}</b>}
                {r.decides && r.holds && tr(", decides")}
              </small>
            </span>
          </div>
          <Answer draft={draft} row={r} mayChange={mayChange} />
        </li>
      ))}
    </ol>
  );
}

const short = (r: Check) => `${Math.round(-r.margin * 100)} % ${r.least ? tr("too little") : tr("too much")}`;

/** A row that does not hold: the engineer's reason, or where it is wanted. */
export function Answer({ draft, row, mayChange }: SentenceProps & { row: Check }) {
  const key = row.answer;
  if (!key) return null;
  const reason = draft.input.reasons?.[key] ?? "";
  if (!mayChange) return <p className={classes.answer}>{reason || tr("It waits for the engineer’s reason.")}</p>;
  return (
    <div className={classes.answer} data-answer={key}>
      <Reason group={tr("row “{row}”", { row: within(told(row.name)) })} value={reason} onSet={(v) => draft.giveReason(key, v)} />
    </div>
  );
}

export function Mark({ holds }: { holds: boolean }) {
  return (
    <svg viewBox="0 0 20 20" className={classes.mark} data-holds={holds} role="img" aria-label={holds ? tr("holds") : tr("does not hold")}>
      {holds ? <path d="M3 11 L8 16 L17 4" /> : <path d="M4 4 L16 16 M16 4 L4 16" />}
    </svg>
  );
}

/** The scale of load with what a limit forbids, and the band that is likely. */
function Bar({ row: r, group: g, top }: { row: Check; group: Group; top: number }) {
  const x = (v: number) => `${Math.min(100, (v / top) * 100)}%`;
  const from = r.least ? "0%" : x(r.limit);
  const wide = r.least ? x(r.limit) : `calc(100% - ${x(r.limit)})`;
  return (
    <span className={classes.bar} data-holds={r.holds} aria-hidden>
      <i className={classes.not} style={{ left: from, width: wide }} />
      <i className={classes.likely} style={{ left: x(g.likelyLow), width: `calc(${x(g.likelyHigh)} - ${x(g.likelyLow)})` }} />
      <i className={classes.at} style={{ left: x(g.load) }} />
      {!r.least && r.limit > top && <i className={classes.beyond}>›</i>}
    </span>
  );
}
