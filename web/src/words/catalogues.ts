import type { Catalogue } from "./words";

type Words = { default: Record<string, string> };

const of = async (...files: Promise<Words>[]): Promise<Catalogue> => {
  const [screens, ...craft] = await Promise.all(files); // all at once: nothing is drawn before
  return { screens: screens!.default, craft: Object.assign({}, ...craft.map((c) => c.default)) as Record<string, string> };
};

/** Reads the words of a language, each when it is wanted. English has its plurals alone: its sentences are in the program. */
export const catalogues: Record<string, () => Promise<Catalogue>> = {
  en: () => of(import("./screens/en.json")),
  de: () =>
    of(import("./screens/de.json"), import("../../../internal/words/recipes/de.json"), import("../../../internal/words/craft/de.json")),
  es: () =>
    of(import("./screens/es.json"), import("../../../internal/words/recipes/es.json"), import("../../../internal/words/craft/es.json")),
  pl: () =>
    of(import("./screens/pl.json"), import("../../../internal/words/recipes/pl.json"), import("../../../internal/words/craft/pl.json")),
};
