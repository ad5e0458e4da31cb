import { createInstance } from "i18next";
import type { Spoken } from "../api/types";
import { overruled } from "./glossary";
import { language, LONG, tag } from "./locale";
import { stretch } from "./long";
import { Phrases, type Said } from "./phrases";
import { inFigures } from "./spoken";

/** What stands in the holes of a sentence, by name; `count` chooses its plural. */
export type Holes = Record<string, string | number | false | null | undefined>;

/** The words of a language: sentences of the screens, and those of the craft with numbered holes. */
export interface Catalogue {
  screens: Record<string, string>;
  craft: Record<string, string>;
}

const figures = new Intl.NumberFormat(tag, { maximumSignificantDigits: 6, useGrouping: false });

const words = createInstance();
void words.init({
  initAsync: false,
  lng: language === LONG ? "en" : language,
  resources: {},
  // Keys are the English sentences themselves, with their full stops and colons.
  keySeparator: false,
  nsSeparator: false,
  contextSeparator: "|",
  interpolation: { prefix: "{", suffix: "}", escapeValue: false, skipOnVariables: true },
});

let phrases = new Phrases({}, tag);

let ships: Catalogue = { screens: {}, craft: {} };
let own: Spoken = { terms: [], texts: {} };
let version = 0;
const listeners = new Set<() => void>();

/** Takes the words of the page's language, and the site's own before them, before anything is drawn. */
export function take(catalogue: Catalogue, site: Spoken = own) {
  ships = catalogue;
  own = site;
  words.addResourceBundle(words.language, "translation", overruled(ships.screens, own.terms));
  phrases = new Phrases({ ...overruled(ships.craft, own.terms), ...own.texts }, tag);
}

/** Takes the site's own words where they are others than the page has; whoever shows words shows them anew. */
export function takeOwn(site: Spoken) {
  if (JSON.stringify(site) === JSON.stringify(own)) return false;
  take(ships, site);
  version++;
  for (const tell of listeners) tell();
  return true;
}

/** How often the site's own words were taken since the page began. */
export const ownWords = {
  subscribe: (tell: () => void) => {
    listeners.add(tell);
    return () => void listeners.delete(tell);
  },
  version: () => version,
};

/**
 * A sentence of a screen in the language of the page. The key is the sentence in English, with its holes in braces: "{n} of {all}".
 * Where the catalogue lacks it, it stays English.
 */
export function tr(sentence: string, holes?: Holes): string {
  return words.t(language === LONG ? stretch(sentence) : sentence, holes && shown(holes));
}

function shown(holes: Holes) {
  const say = (name: string, v: Holes[string]) => (typeof v === "number" ? (name === "count" ? v : figures.format(v)) : v || "");
  return Object.fromEntries(Object.entries(holes).map(([name, v]) => [name, say(name, v)]));
}

/** What the core or a recipe says, in the language of the page; what its catalogue lacks stays as it is. */
export function told(text: string): string;
export function told(text: string | undefined): string | undefined;
export function told(text: string | undefined) {
  if (!text) return text;
  return language === LONG ? stretch(text) : phrases.say(text);
}

/** What a recipe says, in the language of the page, and whether all of it is: the rest stays English. */
export function toldWhole(text: string): Said {
  return language === LONG || language === "en" ? { says: told(text), whole: true } : phrases.said(text);
}

/** Words as they stand within a sentence: in English with a small letter; other languages write them as they are. */
export const within = (words: string) => (language === "en" ? words.charAt(0).toLowerCase() + words.slice(1) : words);

/** What the core would have called across, for a voice of the page's language. */
export const aloud = (text: string) => (language === "en" ? text : told(inFigures(text)));
