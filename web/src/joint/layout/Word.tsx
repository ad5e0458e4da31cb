import { Popover } from "@mantine/core";
import { type ReactNode, useState } from "react";
import type { Problem } from "../../api/types";
import { Refusal } from "../../ui/Refusal";
import { useAsks, type Which } from "../numbers/Numbers";
import classes from "./layout.module.css";
import { tr } from "../../words/words";

export interface WordProps {
  /** The word as it stands in the sentence. */
  text: string;
  /** What it is, for whoever cannot see it. */
  name: string;
  /** Fields of the input whose refusal belongs here. */
  fields: string[];
  problem?: Problem;
  mayChange: boolean;
  /** Less of a word than a way aside. */
  quiet?: boolean;
  /** What is usual, and not what was given. */
  usual?: boolean;
  /** The number that it is, which can say where it comes from. */
  why?: Which;
  children: (close: () => void) => ReactNode;
}

/** A word of the sentence that is a control. */
export function Word({ text, name, fields, problem, mayChange, quiet, usual, why, children }: WordProps) {
  const asks = useAsks(why);
  const [open, setOpen] = useState(false);
  const mine = !quiet && problem && fields.some((f) => problem.field === f || problem.field?.startsWith(`${f}.`));
  return (
    <>
      <Popover opened={open} onChange={setOpen} width={370} position="bottom" trapFocus returnFocus>
        <Popover.Target>
          <button
            type="button"
            className={classes.word}
            data-refused={mine || undefined}
            data-word={quiet ? undefined : fields[0]}
            data-quiet={quiet || undefined}
            data-usual={usual || undefined}
            aria-label={`${name}: ${text}`}
            data-number={why && `${why.of}/${why.number}`}
            disabled={!mayChange}
            onClick={() => setOpen(!open)}
            onKeyDown={asks?.onKeyDown}
          >
            {text}
          </button>
        </Popover.Target>
        <Popover.Dropdown className={classes.editor}>
          {children(() => setOpen(false))}
          {asks && (
            <button type="button" className={`link ${classes.from}`} onClick={asks.ask}>
              {tr("Where it comes from")}
            </button>
          )}
        </Popover.Dropdown>
      </Popover>
      {mine && (
        <span className={classes.refused}>
          <Refusal problem={problem} />
        </span>
      )}
    </>
  );
}
