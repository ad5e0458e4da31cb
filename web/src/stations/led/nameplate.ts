import type { Job } from "../../api/types";

/** A joint by its nameplate, or by its variant where there is none. */
export function nameplate({ input, recipe }: Job) {
  return `${input.type} ${input.size}`.trim() || recipe.choices.map((c) => input.choices[c.name]).join(", ") || recipe.title;
}
