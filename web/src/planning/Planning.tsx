import { Button, Group, NativeSelect } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { http, take } from "../api/client";
import { inBase64 } from "../api/files";
import type { ImportLook, ImportResult, ImportRow } from "../api/types";
import { InBar } from "../app/Shell";
import { ChooseFile } from "../ui/ChooseFile";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import classes from "./planning.module.css";
import { told, tr } from "../words/words";

interface Chosen {
  name: string;
  file: string;
  look: ImportLook;
}

/** Joints from planning: a list is chosen, its columns are matched, what comes of it is seen, and then it is taken in. */
export function Planning() {
  const queries = useQueryClient();
  const [chosen, setChosen] = useState<Chosen>();
  const [columns, setColumns] = useState<string[]>([]);
  const attempt = useMutation({
    mutationFn: (v: { file: string; columns: string[] }) => take(http.POST("/api/imports", { body: { ...v, try: true } })),
  });
  const look = useMutation({
    mutationFn: async (f: File) => {
      const file = await inBase64(f);
      return { name: f.name, file, look: await take(http.POST("/api/imports/look", { body: { file } })) };
    },
    onSuccess: (c) => {
      setChosen(c);
      match(
        c,
        c.look.columns.map((x) => x.field),
      );
    },
  });
  const takeIn = useMutation({
    mutationFn: () => take(http.POST("/api/imports", { body: { file: chosen!.file, columns } })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["wall"] });
      void queries.invalidateQueries({ queryKey: ["joint"] });
    },
  });
  const match = (c: Chosen, next: string[]) => {
    setColumns(next);
    takeIn.reset();
    attempt.mutate({ file: c.file, columns: next });
  };
  const result = takeIn.data ?? attempt.data;
  const missing = chosen?.look.offers.filter((o) => o.needed && !columns.includes(o.field)) ?? [];
  return (
    // Scrolled by key as well, so it takes the focus.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <main className={classes.planning} tabIndex={0} aria-label={tr("From planning")}>
      <InBar>
        <span>{tr("From planning")}</span>
      </InBar>
      <section>
        <Group justify="space-between" mb={12} wrap="nowrap">
          <div>
            <h1>{chosen ? chosen.name : tr("Joints from planning")}</h1>
            <p className="soft">
              {chosen
                ? tr("{count} lines. ", { count: chosen.look.lines }) +
                  (chosen.look.before ? tr("A list with these headings was matched before.") : tr("Say what each column is."))
                : tr("A list as CSV or XLSX: one joint a line, below one line of headings.")}
            </p>
          </div>
          <ChooseFile
            label={tr("List of joints")}
            accept=".csv,.xlsx,text/csv"
            variant={chosen ? "default" : "filled"}
            color="now"
            loading={look.isPending}
            onFile={(f) => look.mutate(f)}
          >
            {chosen ? tr("Another list") : tr("Choose the list")}
          </ChooseFile>
        </Group>
        <Refusal error={look.error} />
        {!chosen && <Sheet />}
        {chosen && (
          <ol className={classes.columns}>
            {chosen.look.columns.map((c, i) => (
              <li key={i} data-out={columns[i] ? undefined : true}>
                <div className={classes.heading}>
                  <b>{c.heading || tr("column {i}", { i: i + 1 })}</b>
                  <span className="fine">
                    {[...new Set(chosen.look.start.map((l) => l[i]).filter(Boolean))].slice(0, 3).join(" · ") || tr("empty")}
                  </span>
                </div>
                <svg viewBox="0 0 40 16" width="40" height="16" aria-hidden="true" className={classes.arrow}>
                  {columns[i] ? <path d="M2 8 H34 M28 2 L36 8 L28 14" /> : <path d="M2 8 H16 M22 8 H26 M32 8 H36" />}
                </svg>
                <NativeSelect
                  aria-label={tr("What {heading} is", { heading: c.heading || tr("column {i}", { i: i + 1 }) })}
                  value={columns[i] ?? ""}
                  onChange={(e) => match(chosen, columns.with(i, e.currentTarget.value))}
                >
                  <option value="">{tr("left out")}</option>
                  {chosen.look.offers.map((o) => (
                    <option key={o.field} value={o.field} disabled={o.field !== columns[i] && columns.includes(o.field)}>
                      {told(o.text)}
                      {o.unit && `, ${o.field === columns[i] && c.unit ? c.unit : o.unit}`}
                      {o.needed && tr(" (needed)")}
                    </option>
                  ))}
                </NativeSelect>
              </li>
            ))}
          </ol>
        )}
      </section>
      {chosen && (
        <aside className={classes.aside}>
          <Panel title={takeIn.data ? tr("Taken in") : tr("What comes of it")} kind={takeIn.data ? "held" : undefined}>
            {missing.length > 0 ? (
              <p>{tr("Still to be matched: {missing}.", { missing: missing.map((o) => o.text).join(", ") })}</p>
            ) : (
              <>
                <Refusal error={takeIn.error ?? attempt.error} />
                {result && <Comes of={result} />}
              </>
            )}
            {takeIn.data ? (
              <Button component={Link} to="/wall" fullWidth mt={12}>
                {tr("To the Wall")}
              </Button>
            ) : (
              <Button
                color="now"
                size="lg"
                fullWidth
                mt={12}
                disabled={!attempt.data || attempt.isPending || missing.length > 0 || attempt.data.fresh + attempt.data.changed === 0}
                loading={takeIn.isPending}
                onClick={() => takeIn.mutate()}
              >
                {attempt.data ? tr("Take {fresh} in", { fresh: attempt.data.fresh + attempt.data.changed }) : tr("Take them in")}
              </Button>
            )}
          </Panel>
          {result && result.wrong > 0 && missing.length === 0 && <LeftOut rows={result.rows} wrong={result.wrong} />}
        </aside>
      )}
    </main>
  );
}

const words: [keyof ImportResult & ("fresh" | "changed" | "same" | "issued" | "wrong"), string][] = [
  ["fresh", tr("new, with a draft")],
  ["changed", tr("drafts changed")],
  ["same", tr("as they are")],
  ["issued", tr("have a plan: they stay as they are")],
  ["wrong", tr("left out")],
];

/** What comes of the lines, each share by its length and in words. */
function Comes({ of }: { of: ImportResult }) {
  const all = words.reduce((n, [key]) => n + of[key], 0);
  return (
    <ul className={classes.comes}>
      {words
        .filter(([key]) => of[key] > 0)
        .map(([key, text]) => (
          <li key={key} data-what={key}>
            <b>{of[key]}</b> {text}
            <i style={{ width: `${Math.max(1, (100 * of[key]) / all)}%` }} />
          </li>
        ))}
    </ul>
  );
}

/** How many lines that are left out are shown. */
const MOST = 40;

function LeftOut({ rows, wrong }: { rows: ImportRow[]; wrong: number }) {
  const out = rows.filter((r) => r.what === "wrong");
  return (
    <Panel title={tr("Left out")} aside={tr("{count} lines", { count: wrong })} kind="mind">
      <ol className={classes.wrong}>
        {out.slice(0, MOST).map((r) => (
          <li key={r.line}>
            <b>
              {tr("Line {line}", { line: r.line })}
              {r.tag && (
                <span className="mono">
                  {", "}
                  {r.tag}
                </span>
              )}
            </b>
            {r.wrong.map((w) => (
              <p key={w.column + w.text}>
                {w.column && (
                  <i>
                    {w.column}
                    {": "}
                  </i>
                )}
                {told(w.text)}
              </p>
            ))}
          </li>
        ))}
      </ol>
      {wrong > MOST && <p className="soft">{tr("and {wrong} more", { wrong: wrong - MOST })}</p>}
    </Panel>
  );
}

/** What a list looks like. */
function Sheet() {
  const head = ["Tag", "Area", "What it is", "Kind of joint", "Torque (N·m)", "Bolts", "Thread", "Grade"];
  const line = ["PS-1 / BYPASS", "Penstock gallery", "Bypass flange", "Gasketed pipe flange", "260", "8", "M20", "8.8"];
  return (
    <figure className={classes.sheet}>
      {/* Scrolled by key as well, so it takes the focus. */}
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <div tabIndex={0} role="group" aria-label={tr("What a list looks like")}>
        <table>
          <thead>
            <tr>
              {head.map((h) => (
                <th key={h}>{h}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr>
              {line.map((c) => (
                <td key={c}>{c}</td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
      <figcaption className="soft">
        {tr(
          "Columns may have other names and any order; a number may have its unit beside it, or in its heading. A list of all joints, which can be changed and taken in again, is at the Wall under Lists.",
        )}
      </figcaption>
    </figure>
  );
}
