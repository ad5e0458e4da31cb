import type { Language, Session } from "../api/types";

/** What a person reads: a language, and how numbers, dates and paper go where they work. */
export interface Locale {
  /** As BCP 47 writes it, "de-AT". */
  id: NonNullable<Session["locale"]>;
  /** In its own words, for whoever cannot read the language that is set. */
  name: string;
}

/** All that can be chosen; the first of a language is what that language alone means. */
export const LOCALES: readonly Locale[] = [
  { id: "en-GB", name: "English, United Kingdom" },
  { id: "en-IE", name: "English, Ireland" },
  { id: "en-US", name: "English, United States" },
  { id: "en-CA", name: "English, Canada" },
  { id: "de-DE", name: "Deutsch, Deutschland" },
  { id: "de-AT", name: "Deutsch, Österreich" },
  { id: "de-CH", name: "Deutsch, Schweiz" },
  { id: "es-ES", name: "Español, España" },
  { id: "es-MX", name: "Español, México" },
  { id: "pl-PL", name: "Polski, Polska" },
];

/** English with every word half as long again: no language of people, but what a layout has to bear. */
export const LONG = "en-x-long";

const LOCALE = "dynacor-locale";

const known = (id: string | null | undefined) => id === LONG || LOCALES.some((l) => l.id === id);

/** The language of a locale, "de". */
export const languageOf = (id: string) => (id === LONG ? LONG : (id.split("-")[0] ?? "en"));

/** Whether a language is one that English is translated into. */
export const spoken = (language: string): language is Language => LOCALES.some((l) => languageOf(l.id) === language) && language !== "en";

/** The locale that fits best of those that somebody asks for, in their order. */
export function fitting(asked: readonly string[]): string {
  for (const a of asked) {
    const same = LOCALES.find((l) => l.id === a) ?? LOCALES.find((l) => languageOf(l.id) === languageOf(a));
    if (same) return same.id;
  }
  return "en-GB";
}

function here(): string {
  const kept = globalThis.localStorage?.getItem(LOCALE);
  if (known(kept)) return kept!;
  // English is read everywhere as it is written here; another language is what the browser was set up for.
  const asked = globalThis.navigator?.languages ?? [];
  return languageOf(asked[0] ?? "en") === "en" ? "en-GB" : fitting(asked);
}

/** The locale of this page: settled before its first line is drawn. */
export const locale = here();

/** The language of this page. */
export const language = languageOf(locale);

/** What browsers know the locale by: its numbers, dates and plurals. */
export const tag = locale === LONG ? "en-GB" : locale;

/**
 * Changes the locale of this device. The page is drawn anew from its first line; what was done is kept as at any reload. One that a
 * newer server has and this page has not would have it drawn anew for ever: it stays as it is.
 */
export function change(id: string) {
  if (id === locale || !known(id)) return;
  localStorage.setItem(LOCALE, id);
  location.reload();
}
