import { Popover } from "@mantine/core";
import { type ReactNode, useState } from "react";
import type { Problem } from "../../api/types";
import { Refusal } from "../../ui/Refusal";
import classes from "./layout.module.css";

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
  children: (close: () => void) => ReactNode;
}

/** A word of the sentence that is a control. */
export function Word({ text, name, fields, problem, mayChange, quiet, children }: WordProps) {
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
            aria-label={`${name}: ${text}`}
            disabled={!mayChange}
            onClick={() => setOpen(!open)}
          >
            {text}
          </button>
        </Popover.Target>
        <Popover.Dropdown className={classes.editor}>{children(() => setOpen(false))}</Popover.Dropdown>
      </Popover>
      {mine && (
        <span className={classes.refused}>
          <Refusal problem={problem} />
        </span>
      )}
    </>
  );
}
