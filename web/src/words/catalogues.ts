import type { Catalogue } from "./words";

const of = (screens: { default: Record<string, string> }, craft?: { default: Record<string, string> }): Catalogue => ({
  screens: screens.default,
  craft: craft?.default ?? {},
});

/** Reads the words of a language, each when it is wanted. English has its plurals alone: its sentences are in the program. */
export const catalogues: Record<string, () => Promise<Catalogue>> = {
  en: async () => of(await import("./screens/en.json")),
  de: async () => of(await import("./screens/de.json"), await import("../../../internal/words/craft/de.json")),
  es: async () => of(await import("./screens/es.json"), await import("../../../internal/words/craft/es.json")),
  pl: async () => of(await import("./screens/pl.json"), await import("../../../internal/words/craft/pl.json")),
};
