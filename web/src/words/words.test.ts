import { describe, expect, it } from "vitest";
import plurals from "../../../internal/words/testdata/plurals.json";
import said from "../../../internal/words/testdata/said.json";
import glossary from "../../../internal/words/testdata/glossary.json";
import { catalogues } from "./catalogues";
import { overruled } from "./glossary";
import { change, fitting } from "./locale";
import { stretch } from "./long";
import { Phrases } from "./phrases";
import { inFigures } from "./spoken";
import { take, tr, type Catalogue } from "./words";

const craft = {
  "{0}: {1} moved in round {#2}": "{0}: {1} ruszyła się w rundzie {#2}",
  "at most {#0} mm": "höchstens {#0} mm",
  "stage {#0} of {#1}": "Stufe {#0} von {#1}",
  "clean the threads": "Gewinde reinigen",
  "Wipe both faces": "Beide Flächen abwischen",
  "bolt {#0}": "Schraube {#0}",
  bolts: "Schrauben",
  " and ": " und ",
  "{0} is held back: {1}": "{0} wird zurückgehalten: {1}",
};

// Read before anything is timed.
const read: Record<string, Catalogue> = {};
for (const language of ["de", "es", "pl"]) read[language] = await catalogues[language]!();

describe("what the core says", () => {
  const phrases = new Phrases(craft, "de-DE");
  const says = (text: string) => phrases.say(text);

  it("is said as it is, with its numbers as they are written there", () => {
    expect(says("at most 0.25 mm")).toBe("höchstens 0,25 mm");
    expect(says("stage 2 of 3")).toBe("Stufe 2 von 3");
  });

  it("is what the server prints, by the same examples", () => {
    const print = new Phrases(read.de!.craft, "de-AT");
    for (const x of said) expect(print.said(x.text)).toEqual({ says: x.says, whole: !("english" in x) });
  });

  it.each(plurals)("counts as its language does: $says", ({ locale, text, says }) => {
    const language = new Phrases(read[locale.slice(0, 2)]!.craft, locale);
    expect(language.say(text)).toBe(says);
  });

  it("keeps capitals and stops", () => {
    expect(says("Clean the threads.")).toBe("Gewinde reinigen.");
    expect(says("wipe both faces")).toBe("Beide Flächen abwischen");
  });

  it("is said part by part where it is made of several", () => {
    expect(says("Clean the threads; bolt 4 and bolt 5")).toBe("Gewinde reinigen; Schraube 4 und Schraube 5");
    expect(says("bolt 4 and what nobody knows")).toBe("bolt 4 and what nobody knows");
    expect(says("TW-7 is held back: clean the threads")).toBe("TW-7 wird zurückgehalten: Gewinde reinigen");
  });

  it("stays English where the catalogue lacks it, but for the decimal mark of an amount", () => {
    expect(says("Nobody knows this of 3.5 kN")).toBe("Nobody knows this of 3,5 kN");
    expect(says("class 10.9")).toBe("class 10.9");
    expect(phrases.said("Nobody knows this").whole).toBe(false);
  });
});

describe("a site's own words", () => {
  it("are said in every form, as the server prints them", () => {
    for (const x of glossary) expect(overruled({ [x.key]: x.says }, x.terms)).toEqual({ [x.key]: x.then });
  });
});

describe("what is said aloud", () => {
  it("has its numbers in figures for a voice of another language", () => {
    expect(inFigures("Bolt eleven, three four two newton metres, stage two of three.")).toBe("Bolt 11, 342 newton metres, stage 2 of 3.");
    expect(inFigures("bolt one hundred and nineteen, forty-two foot pounds")).toBe("bolt 119, 42 foot pounds");
    expect(inFigures("one two point five newton metres")).toBe("12.5 newton metres");
    expect(inFigures("three hundred newton metres, one nought seven bar")).toBe("300 newton metres, 107 bar");
    expect(inFigures("Set TW-1 to minus five degrees. Then: bolt twenty-four")).toBe("Set TW-1 to -5 degrees. Then: bolt 24");
  });
});

describe("a sentence of a screen", () => {
  it("is said with what stands in it, one thing as one", () => {
    take({ screens: { "{count} joints_one": "1 joint" }, craft: {} });
    expect(tr("{count} joints", { count: 1 })).toBe("1 joint");
    expect(tr("{count} joints", { count: 2 })).toBe("2 joints");
    expect(tr("{a} of {b}{c}", { a: 0.5, b: "1 $t(x) {a}", c: false })).toBe("0.5 of 1 $t(x) {a}");
  });
});

it("the made-up language is half as long again, and keeps its holes", () => {
  const long = stretch("Take {tools}, set to {value}");
  expect(long).toMatch(/^\S+ \{tools\}, \S+ \S+ \{value\}$/);
  expect(long.replace(/\{\w+\}/g, "").length).toBeGreaterThanOrEqual(1.35 * "Take , set to ".length);
});

it("a locale is the nearest there is", () => {
  expect(fitting(["fr-FR", "de-LI"])).toBe("de-DE");
  expect(fitting(["es-MX"])).toBe("es-MX");
  expect(fitting(["ja"])).toBe("en-GB");
});

it("a locale of a newer server is let be: the page would be drawn anew for ever", () => {
  expect(() => change("fr-FR")).not.toThrow(); // there is no page here that could be drawn anew
  expect(() => change("pl-PL")).toThrow();
});
