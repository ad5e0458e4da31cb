import { Button, Group, SegmentedControl, Text, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useMay } from "../api/queries";
import type { CribTool } from "../api/types";
import { InBar } from "../app/Shell";
import { Refusal } from "../ui/Refusal";
import { Board } from "./Board";
import { ImportTools } from "./ImportTools";
import { ToolDialog } from "./ToolDialog";
import { ToolPage } from "./ToolPage";
import { useCrib } from "./queries";
import classes from "./crib.module.css";
import { told, tr } from "../words/words";

const shows = {
  all: tr("All"),
  out: tr("Out"),
  due: tr("Due"),
  held: tr("Held"),
} as const;
type Shows = keyof typeof shows;

const among = (t: CribTool, what: Shows) =>
  what === "all"
    ? t.standing !== "scrapped"
    : what === "out"
      ? !!t.lent
      : what === "due"
        ? t.standing === "soon" || t.standing === "over"
        : t.standing === "held" || t.standing === "scrapped";

/** The tools of the site: a board of all by their reach, and one of them with its life. */
export function Crib() {
  const crib = useCrib();
  const { tool } = useParams();
  const navigate = useNavigate();
  const keeper = useMay("crib keeper");
  const [what, setWhat] = useState<Shows>("all");
  const [find, setFind] = useInputState("");
  const [adding, setAdding] = useState(false);
  const [importing, setImporting] = useState(false);
  const c = crib.data;
  if (!c) return crib.isError ? <Refusal error={crib.error} /> : null;
  const sought = find.trim().toLowerCase();
  const list = c.tools.filter(
    (t) =>
      among(t, what) && (sought === "" || `${t.tag} ${t.name} ${t.text} ${t.lent ?? ""} ${t.place ?? ""}`.toLowerCase().includes(sought)),
  );
  const there = c.tools.filter((t) => t.standing !== "scrapped").length;
  return (
    <main className={classes.crib} data-tool={tool ? "" : undefined}>
      <InBar>
        <Text fz={18} fw={700}>
          {tr("Crib")}
        </Text>
        <span className={classes.counts}>
          {tr("{count} tools · {out} out at joints · {held} held back · {soon} due within 14 days{over}", {
            count: there,
            out: c.out,
            held: c.held,
            soon: c.soon,
            over: c.over > 0 && tr(" · {over} past due", { over: c.over }),
          })}
        </span>
      </InBar>
      <h1 className="visually-hidden">{tr("The Crib")}</h1>
      <section className={classes.left} aria-label={tr("The board")}>
        <Group gap={10} className={classes.head}>
          <SegmentedControl
            aria-label={tr("Which tools")}
            data={Object.entries(shows).map(([value, label]) => ({ value, label }))}
            value={what}
            onChange={(v) => setWhat(v as Shows)}
          />
          <TextInput
            className={classes.find}
            aria-label={tr("Find a tool")}
            placeholder={tr("tag, name, who has it")}
            value={find}
            onChange={setFind}
            onKeyDown={(e) => {
              if (e.key === "Enter" && list[0]) void navigate(`/crib/${encodeURIComponent(list[0].tag)}`);
            }}
          />
          {keeper && (
            <Group gap={8} ml="auto">
              <Button variant="default" onClick={() => setImporting(true)}>
                {tr("Lists")}
              </Button>
              <Button onClick={() => setAdding(true)} color="plan">
                {tr("Add a tool")}
              </Button>
            </Group>
          )}
        </Group>
        <Board tools={list} from={c.from} to={c.to} open={tool} />
      </section>
      <aside className={classes.right} data-scrolls>
        {tool ? <ToolPage key={tool} tag={tool} people={c.people} /> : <Nobody tools={c.tools} />}
      </aside>
      {adding && (
        <ToolDialog
          onClose={() => setAdding(false)}
          onDone={(tag) => {
            setAdding(false);
            void navigate(`/crib/${encodeURIComponent(tag)}`);
          }}
        />
      )}
      {importing && <ImportTools onClose={() => setImporting(false)} />}
    </main>
  );
}

/** What stands beside the board before a tool is chosen: what wants somebody. */
function Nobody({ tools }: { tools: CribTool[] }) {
  const wants = tools.filter((t) => ["held", "over", "soon"].includes(t.standing));
  const navigate = useNavigate();
  return (
    <>
      <h2 className={classes.asideTitle}>{tr("Wants the crib keeper")}</h2>
      {wants.length === 0 && <p className="soft">{tr("Nothing. Choose a tool on the board.")}</p>}
      <ul className={`lines ${classes.wants}`}>
        {wants.map((t) => (
          <li key={t.tag}>
            <button type="button" className="bare" onClick={() => void navigate(`/crib/${encodeURIComponent(t.tag)}`)}>
              <b className="mono">{t.tag}</b> <span className="soft">{told(t.text)}</span>
              <br />
              <span data-standing={t.standing} className={classes.words}>
                {t.standing === "held" ? tr("held back: {held}", { held: told(t.held) }) : told(t.due)}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
