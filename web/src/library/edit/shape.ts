import type { Path } from "./document";
import { ASKED, type Asked } from "./words";

/** The schema of a recipe file, as the server gives it: as much of JSON Schema as it uses. */
export interface Shape {
  type?: string;
  enum?: string[];
  properties?: Record<string, Shape>;
  items?: Shape;
  required?: string[];
  additionalProperties?: boolean | Shape;
}

/** The schema of what stands at a path. */
export function shapeAt(root: Shape, path: Path): Shape {
  let s: Shape = root;
  for (const key of path) s = (typeof key === "number" ? s.items : s.properties?.[key]) ?? {};
  return s;
}

/** The stations, in their order, as the schema lists them. */
export const stationsOf = (root: Shape) => shapeAt(root, ["steps", 0, "station"]).enum ?? [];

/** What kind of thing stands at a path: a step, a limit; empty for the recipe itself. */
export function kindAt(path: Path): string {
  const kinds = path.filter((p) => typeof p === "string");
  const last = kinds.at(-1) ?? "recipe";
  return kinds.length > 1 && kinds[0] === "kit" ? "thing" : last;
}

/** What is asked of a thing, in the order it is asked; what the schema has besides comes last, by its own name. */
export function asked(path: Path, shape: Shape): [string, Asked][] {
  const known = ASKED[kindAt(path)] ?? {};
  const keys = Object.keys(shape.properties ?? {});
  return [
    ...Object.entries(known).filter(([key]) => keys.includes(key)),
    ...keys.filter((key) => !(key in known)).map((key): [string, Asked] => [key, { label: key }]),
  ];
}

/** How a thing is edited. */
export type Way = "one of" | "yes" | "number" | "text" | "lines" | "names" | "numbers" | "variants" | "thing" | "things";

export function wayOf(shape: Shape, a: Asked): Way {
  if (shape.enum) return "one of";
  switch (shape.type) {
    case "boolean":
      return "yes";
    case "integer":
    case "number":
      return "number";
    case "array":
      if (shape.items?.type === "number") return "numbers";
      if (shape.items?.type === "object") return "things";
      return a.from ? "names" : "lines";
    case "object":
      return shape.properties ? "thing" : "variants";
  }
  return "text";
}
