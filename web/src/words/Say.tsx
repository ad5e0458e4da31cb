import { Fragment, type ReactNode } from "react";
import { tr } from "./words";

interface SayProps {
  /** The sentence in English, with its holes in braces. */
  of: string;
  /** What stands in the holes; a number that is named count chooses the plural. */
  with: Record<string, ReactNode>;
}

/** A sentence with something drawn or emphasised in it: each language puts that where it belongs. */
export function Say({ of, with: holes }: SayProps) {
  const marks = Object.fromEntries(Object.entries(holes).map(([name, v]) => [name, typeof v === "number" ? v : `\u0001${name}\u0001`]));
  return tr(of, marks)
    .split("\u0001")
    .map((part, i) => <Fragment key={i}>{i % 2 ? holes[part] : part}</Fragment>);
}
