import type { Recipe } from "../api/types";
import { Glyph } from "./Glyph";
import { Stack } from "./Stack";
import classes from "./stack.module.css";

/** The picture of a kind of joint, small: its parts along their axis as a silhouette, or its bolts where none are drawn. */
export function KindMark({ recipe: r, size }: { recipe: Recipe; size: number }) {
  return r.stack ? (
    <span className={classes.mark} aria-hidden="true" data-large={size > 40 || undefined}>
      <Stack stack={r.stack} title="" small />
    </span>
  ) : (
    <Glyph figure={r.figure} size={size} />
  );
}
