import { Button } from "@mantine/core";
import { useState } from "react";
import type { SiteRoom } from "../api/types";
import { dateTime } from "../ui/format";
import classes from "./site.module.css";
import { told, tr } from "../words/words";

/** How much of a log stands there before more is asked for. */
export const FIRST = 5;

/** What was changed, by whom and when, the newest first. */
export function Log({ entries }: { entries: SiteRoom["log"] }) {
  const [all, setAll] = useState(false);
  if (entries.length === 0) return <p className="soft">{tr("Nothing yet.")}</p>;
  return (
    <>
      <ol className={classes.log}>
        {entries.slice(0, all ? entries.length : FIRST).map((e) => (
          <li key={`${e.at} ${e.kind} ${e.subject} ${e.words}`}>
            <b>{e.subject}</b>
            {": "}
            {told(e.words)}
            <small>
              {e.by || tr("the command line")}
              {", "}
              {dateTime(e.at)}
            </small>
          </li>
        ))}
      </ol>
      {!all && entries.length > FIRST && (
        <Button variant="default" mt={10} onClick={() => setAll(true)}>
          {tr("Earlier")}
        </Button>
      )}
    </>
  );
}
