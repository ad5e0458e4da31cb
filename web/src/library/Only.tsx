import classes from "./library.module.css";

/** The variants that something is there in. */
export function Only({ when }: { when: string }) {
  return when ? <span className={classes.only}>{when}</span> : null;
}
