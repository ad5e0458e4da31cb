import { createContext, useContext } from "react";
import type { RecipeFault } from "../../api/types";
import { list, names, text, type Doc, type Json, type Path } from "./document";
import type { Shape } from "./shape";
import { PEOPLE, type Source } from "./words";

export interface Editing {
  doc: Doc;
  shape: Shape;
  faults: RecipeFault[];
  lubricants: string[];
  /** Puts a value at a path; undefined takes it out. */
  set: (path: Path, value: Json | undefined) => void;
  change: (to: (doc: Doc) => Doc) => void;
}

export const EditingContext = createContext<Editing | undefined>(undefined);

export function useEditing() {
  const editing = useContext(EditingContext);
  if (!editing) throw new Error("no recipe above this component");
  return editing;
}

/** What is wrong with what stands at a path, or within it. */
export function faultsAt(faults: RecipeFault[], path: Path) {
  const field = path.join(".");
  return faults.filter((f) => f.field === field || f.field.startsWith(`${field}.`));
}

/** The names that a field of a source can take, for something at a path. */
export function namesOf({ doc, lubricants }: Editing, from: Source, path: Path): string[] {
  const step = path[0] === "steps" ? Number(path[1]) : Number.POSITIVE_INFINITY;
  const before = list(doc, ["steps"]).slice(0, step);
  const kept = () => [
    ...new Set(
      list(doc, ["steps"])
        .slice(0, step + 1)
        .flatMap((s) => names(s, ["reads"], "keep")),
    ),
  ];
  switch (from) {
    case "needs":
      return names(doc, ["needs"], "name");
    case "groups":
      return names(doc, ["groups"], "name");
    case "choices":
      return names(doc, ["choices"], "name");
    case "parts":
      return names(doc, ["parts"], "name");
    case "ends":
      return [text(doc, "axis", "first"), ...names(doc, ["parts"], "name"), text(doc, "axis", "last")].filter(Boolean);
    case "steps":
      return names(before, [], "id");
    case "voiders":
      return [...names(doc, ["groups"], "name"), ...names(before, [], "id"), "another tool", "nothing"];
    case "kept":
      return kept();
    case "known":
      return [...names(doc, ["needs"], "name"), ...kept()];
    case "marks":
      return names(doc, ["steps", step, "marks"], "of");
    case "people":
      return PEOPLE;
    case "lubricants":
      return lubricants;
  }
}
