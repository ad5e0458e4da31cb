import type { Catalogue } from "./words";

type Words = { default: Record<string, string> };

const of = (screens: Words, recipes?: Words, craft?: Words): Catalogue => ({
  screens: screens.default,
  craft: { ...recipes?.default, ...craft?.default },
});

/** Reads the words of a language, each when it is wanted. English has its plurals alone: its sentences are in the program. */
export const catalogues: Record<string, () => Promise<Catalogue>> = {
  en: async () => of(await import("./screens/en.json")),
  de: async () =>
    of(
      await import("./screens/de.json"),
      await import("../../../internal/words/recipes/de.json"),
      await import("../../../internal/words/craft/de.json"),
    ),
  es: async () =>
    of(
      await import("./screens/es.json"),
      await import("../../../internal/words/recipes/es.json"),
      await import("../../../internal/words/craft/es.json"),
    ),
  pl: async () =>
    of(
      await import("./screens/pl.json"),
      await import("../../../internal/words/recipes/pl.json"),
      await import("../../../internal/words/craft/pl.json"),
    ),
};
