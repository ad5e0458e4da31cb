import { Link } from "react-router";
import classes from "./layout.module.css";

/** The way from a choice to where practitioners differ about it. */
export function Differs({ about }: { about: string }) {
  return (
    <Link to={`/library/differ#${about}`} className={classes.differs}>
      Where practitioners differ
    </Link>
  );
}
