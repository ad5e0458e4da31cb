import { useState } from "react";
import classes from "./ui.module.css";
import { Told } from "./Told";
import { tr } from "../words/words";

/** The reason for a limit or a caution, opened where it stands. */
export function Why({ text }: { text: string }) {
  const [open, setOpen] = useState(false);
  if (!text) return null;
  return (
    <>
      <button type="button" className={`link ${classes.why}`} aria-expanded={open} onClick={() => setOpen(!open)}>
        {tr("why?")}
      </button>
      {open && (
        <span className={classes.because}>
          <Told text={text} />
        </span>
      )}
    </>
  );
}
