import { describe, expect, it } from "vitest";
import de from "./screens/de.json";
import en from "./screens/en.json";
import es from "./screens/es.json";
import pl from "./screens/pl.json";
import { bare, sentences } from "./sentences";

const sources = import.meta.glob<string>(["../**/*.{ts,tsx}", "!../**/*.test.ts", "!../api/schema.ts", "!./**"], {
  query: "?raw",
  import: "default",
  eager: true,
});
const said = new Map(sentences(sources).map((s) => [s.key, s.file]));
const holes = (s: string) => [...s.matchAll(/\{\w+\}/g)].map((m) => m[0]).sort();
const plurals = (language: string) => new Intl.PluralRules(language).resolvedOptions().pluralCategories;

/** What a catalogue is asked for a sentence: each plural of one that counts. */
const wanted = (key: string, language: string) => (key.includes("{count}") ? plurals(language).map((p) => `${key}_${p}`) : [key]);

describe.each<[string, Record<string, string>]>([
  ["de", de],
  ["es", es],
  ["pl", pl],
])("the catalogue of %s", (language, words) => {
  it("has every sentence that a screen says", () => {
    const missing = [...said].flatMap(([key, file]) =>
      wanted(key, language)
        .filter((k) => !words[k])
        .map((k) => `${file}: ${k}`),
    );
    expect(missing).toEqual([]);
  });

  it("has no sentence that no screen says any more", () => {
    const all = new Set([...said.keys()].flatMap((key) => wanted(key, language)));
    expect(Object.keys(words).filter((key) => !all.has(key))).toEqual([]);
  });

  it("has the holes of each, and the spaces at its ends", () => {
    const ends = (s: string) => [/^\s*/.exec(s)![0], /\s*$/.exec(s)![0]];
    for (const [key, says] of Object.entries(words)) {
      const sentence = key.replace(/(\|\w+)?(_(one|few|many|other))?$/, "");
      // "one" may say it in a word.
      const counted = key.endsWith("_one") ? holes(sentence).filter((h) => h !== "{count}") : holes(sentence);
      expect(
        holes(says).filter((h) => counted.includes(h) || !key.endsWith("_one")),
        key,
      ).toEqual(counted);
      expect(ends(says), key).toEqual(ends(sentence));
    }
  });
});

it("English says one thing as one", () => {
  const counting = [...said.keys()].filter((key) => key.includes("{count}"));
  expect(Object.keys(en).sort()).toEqual(counting.map((key) => `${key}_one`).sort());
});

it("no screen shows a word that no catalogue was asked for", () => {
  expect(bare(sources)).toEqual([]);
  expect(bare({ "a.tsx": 'const a = <p title="Turned">{on ? "yes" : `${n} bolts`} and <b name="part">kN</b></p>;' })).toEqual([
    "a.tsx:1: Turned",
    "a.tsx:1: yes",
    "a.tsx:1: bolts",
    "a.tsx:1: and",
  ]);
});
