import { Button, Group, Menu } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";
import { useMay } from "../api/queries";
import type { ToolCard } from "../api/types";
import { FaceView } from "../drawing/faces/Face";
import { dateTime } from "../ui/format";
import { Act } from "../ui/Act";
import { Refusal } from "../ui/Refusal";
import { stateWords } from "./Board";
import { CheckDialog } from "./CheckDialog";
import { Data } from "./Data";
import { LendDialog, SayDialog, PaperDialog, type Saying } from "./LifeDialogs";
import { Life } from "./Life";
import { Speaks } from "./Speaks";
import { ToolDialog } from "./ToolDialog";
import { Touched } from "./Touched";
import { useTool } from "./queries";
import classes from "./crib.module.css";
import { told, tr } from "../words/words";

type Open = "check" | "calibrate" | "lend" | "paper" | "change" | Saying;

interface ToolPageProps {
  tag: string;
  people: { id: string; name: string }[];
}

/** One tool: where it stands, what is done about that, what it touched, its data, its life. */
export function ToolPage({ tag, people }: ToolPageProps) {
  const tool = useTool(tag);
  const [open, setOpen] = useState<Open>();
  const c = tool.data;
  if (!c) return tool.isError ? <Refusal error={tool.error} /> : null;
  const t = c.tool;
  const close = () => setOpen(undefined);
  return (
    <article aria-label={`${t.tag}, ${told(t.name)}`}>
      <Link to="/crib" className={classes.back}>
        {tr("‹ the board")}
      </Link>
      <header className={classes.title}>
        <h2 className="mono">{t.tag}</h2>
        <span>{told(t.name)}</span>
      </header>
      <p className={classes.standing} data-standing={t.standing}>
        {t.standing === "held" && c.heldSince ? tr("held back since {heldSince}", { heldSince: dateTime(c.heldSince) }) : stateWords(t)}
      </p>
      {t.held && (
        <p>
          {told(t.held)}
          {c.heldBy && `. ${c.heldBy}`}
        </p>
      )}
      {!t.lent && t.place && <p className="soft">{tr("Its place: {place}", { place: t.place })}</p>}
      <Acts card={c} onOpen={setOpen} />
      <Touched card={c} />
      <Face card={c} />
      <Speaks card={c} />
      <Data card={c} onChange={() => setOpen("change")} />
      <Life card={c} />
      {(open === "check" || open === "calibrate") && <CheckDialog card={c} renews={open === "calibrate"} onClose={close} />}
      {open === "lend" && <LendDialog card={c} people={people} onClose={close} />}
      {open === "paper" && <PaperDialog card={c} onClose={close} />}
      {open === "change" && <ToolDialog of={c} onClose={close} onDone={close} />}
      {open && open in { dropped: 1, overloaded: 1, held: 1, back: 1, returned: 1, adjusted: 1, scrapped: 1 } && (
        <SayDialog card={c} saying={open as Saying} onClose={close} />
      )}
    </article>
  );
}

/** What can be done about a tool: the one thing that is next, and the rest behind it. */
function Acts({ card: c, onOpen }: { card: ToolCard; onOpen: (what: Open) => void }) {
  const keeper = useMay("crib keeper");
  const checks = useMay("crib keeper", "inspector");
  const hurts = useMay("crib keeper", "inspector", "engineer", "fitter");
  const holds = useMay("crib keeper", "inspector", "engineer");
  const t = c.tool;
  if (t.standing === "scrapped") return null;
  const check = c.measures
    ? tr("Check it now: {count} readings at {marks} marks", { count: c.checkReadings, marks: c.marks.length })
    : tr("Look at it now");
  const main =
    checks && c.doubt
      ? { act: check, open: "check" as const }
      : keeper && t.held
        ? { act: tr("Back in service"), open: "back" as const }
        : keeper && t.lent
          ? { act: tr("It came back"), open: "returned" as const }
          : checks && t.standing === "over" && c.measures
            ? { act: tr("Enter its calibration"), open: "calibrate" as const }
            : keeper
              ? { act: tr("Lend it"), open: "lend" as const }
              : undefined;
  const others: [Open, string, boolean][] = [
    ["returned", tr("It came back"), keeper && !!t.lent],
    ["check", c.measures ? tr("Check it here") : tr("Look at it"), checks],
    ["calibrate", tr("Enter a calibration"), checks && c.measures],
    ["adjusted", tr("It was adjusted"), keeper],
    ["paper", tr("Add a paper"), keeper],
    ["change", tr("Change its data"), keeper],
    ["held", tr("Hold it back"), holds && !t.held],
    ["scrapped", tr("Scrap it"), keeper],
  ];
  const rest = others.filter(([what, , may]) => may && what !== main?.open);
  return (
    <div className={classes.acts}>
      {main && <Act act={main.act} kind={c.doubt ? "now" : "plan"} onClick={() => onOpen(main.open)} data-act={main.open} />}
      {c.doubt && checks && (
        <p className="fine">
          {c.asFound
            ? tr(
                "Within ± {accuracy} %: it goes back, and what it made stands. Outside: each joint below waits for an engineer’s word, and its record says so.",
                { accuracy: c.accuracy },
              )
            : tr("It was adjusted since it was good: a check puts it back, but says nothing of what it made.")}
        </p>
      )}
      <Group gap={8} mt={10}>
        {hurts && (
          <>
            <Button variant="default" onClick={() => onOpen("dropped")} data-say="dropped">
              {tr("It was dropped")}
            </Button>
            <Button variant="default" onClick={() => onOpen("overloaded")} data-say="overloaded">
              {tr("Overloaded")}
            </Button>
          </>
        )}
        {rest.length > 0 && (
          <Menu position="bottom-end" withinPortal>
            <Menu.Target>
              <Button variant="default">{tr("More")}</Button>
            </Menu.Target>
            <Menu.Dropdown>
              {rest.map(([what, words]) => (
                <Menu.Item key={what} mih={48} fz={16} onClick={() => onOpen(what)} data-say={what}>
                  {words}
                </Menu.Item>
              ))}
            </Menu.Dropdown>
          </Menu>
        )}
      </Group>
    </div>
  );
}

/** Its face at the marks it is checked at: its lowest, its middle, its greatest. */
function Face({ card: c }: { card: ToolCard }) {
  if (c.faces.length === 0) return null;
  return (
    <section className={classes.section}>
      <h3>{tr("Its face")}</h3>
      <div className={classes.faces}>
        {c.faces.map((f) => (
          <FaceView key={f.value} face={f} words={false} />
        ))}
      </div>
      <p>{told(c.faces[Math.floor(c.faces.length / 2)]!.words)}</p>
    </section>
  );
}
