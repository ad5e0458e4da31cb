import { Link } from "react-router";
import { tr } from "../../words/words";

/** The way from a choice to where practitioners differ about it. */
export function Differs({ about }: { about: string }) {
  return (
    <Link to={`/library/differ#${about}`} className="link">
      {tr("Where practitioners differ")}
    </Link>
  );
}
