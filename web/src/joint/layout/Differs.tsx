import { Link } from "react-router";

/** The way from a choice to where practitioners differ about it. */
export function Differs({ about }: { about: string }) {
  return (
    <Link to={`/library/differ#${about}`} className="link">
      Where practitioners differ
    </Link>
  );
}
