import { Button, Group, Modal } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { http, take } from "../api/client";
import { useMay } from "../api/queries";
import type { ToolCard } from "../api/types";
import { dateTime, number } from "../ui/format";
import { Refusal } from "../ui/Refusal";
import classes from "./crib.module.css";
import { useFreshCrib } from "./queries";
import { told, tr } from "../words/words";

/** How a tool speaks with the server: its key, what it sent last, what nobody understood. */
export function Speaks({ card: c }: { card: ToolCard }) {
  const keeper = useMay("crib keeper");
  const fresh = useFreshCrib();
  const at = { params: { path: { tool: c.tool.tag } } };
  const make = useMutation({ mutationFn: () => take(http.POST("/api/crib/{tool}/key", at)), onSuccess: () => fresh() });
  const drop = useMutation({ mutationFn: () => take(http.DELETE("/api/crib/{tool}/key", at)), onSuccess: () => fresh() });
  const { link } = c;
  if (!c.speaks || (!link && !keeper)) return null;
  return (
    <section aria-label={tr("Its link")} className={classes.section} data-link={link ? "yes" : "no"}>
      <h3>{tr("Its link")}</h3>
      <p className={link ? "" : "soft"}>
        {link
          ? tr("It signs in with its key of {since}{seen}.", {
              since: dateTime(link.since),
              seen: link.seen ? tr(", heard last {seen}", { seen: dateTime(link.seen) }) : tr(", never heard yet"),
            })
          : tr("A tool that sends its readings itself signs in with a key of its own.")}
      </p>
      {keeper && (
        <Group gap={8}>
          <Button variant="default" onClick={() => make.mutate()} data-act="key">
            {link ? tr("Another key") : tr("Make its key")}
          </Button>
          {link && (
            <Button variant="default" onClick={() => drop.mutate()} data-act="unlink">
              {tr("Take its key away")}
            </Button>
          )}
        </Group>
      )}
      <Refusal error={make.error ?? drop.error} />
      {link && link.readings.length > 0 && (
        <ol className="lines">
          {link.readings.slice(0, 6).map((r) => (
            <li key={r.id}>
              <span className="mono">{dateTime(r.at)}</span>{" "}
              <b className="mono">
                {number(r.value)} {r.unit}
              </b>{" "}
              {r.verdict}
              {r.verdict !== "held" && r.says && (
                <span className="soft">
                  {": "}
                  {told(r.says)}
                </span>
              )}
            </li>
          ))}
        </ol>
      )}
      {link && link.lines.length > 0 && (
        <details>
          <summary className="link">{tr("Lines that were none")}</summary>
          <ul className="lines">
            {link.lines.map((l) => (
              <li key={l.at}>
                <span className="mono">{dateTime(l.at)}</span> {told(l.says)} <code>{l.line}</code>
                {l.more > 0 && tr(" and {more} more", { more: l.more })}
              </li>
            ))}
          </ul>
        </details>
      )}
      {make.data && (
        <Modal opened onClose={() => make.reset()} title={<b>{tr("The key of {tag}", { tag: c.tool.tag })}</b>}>
          <p className={`big mono ${classes.key}`} data-key>
            {make.data.key}
          </p>
          <p>{tr("Enter it at the tool now: it is not shown again. The key before it is worth nothing any more.")}</p>
        </Modal>
      )}
    </section>
  );
}
