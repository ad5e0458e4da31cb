import classes from "./library.module.css";
import { told } from "../words/words";

/** The variants that something is there in. */
export function Only({ when }: { when: string }) {
  return when ? <span className={classes.only}>{told(when)}</span> : null;
}
