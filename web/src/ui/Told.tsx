import classes from "./ui.module.css";
import { toldWhole, tr } from "../words/words";

interface ToldProps {
  /** As the recipe says it, in English. */
  text: string;
  /** What becomes of it where it is said. */
  as?: (says: string) => string;
}

/** What a recipe says, in the language of the page; what of it is English alone is marked so, for the eye and for a voice. */
export function Told({ text, as = (s) => s }: ToldProps) {
  const { says, whole } = toldWhole(text);
  if (whole) return as(says);
  return (
    <span lang="en" data-english>
      {as(says)}{" "}
      <abbr className={classes.english} title={tr("in English alone")}>
        {tr("EN")}
      </abbr>
    </span>
  );
}
