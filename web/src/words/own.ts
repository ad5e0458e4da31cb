import type { Spoken } from "../api/types";

/** The cache that a site's own words lie in, so that a page has them before its first line is drawn, and without a network. */
const CACHE = "dynacor-own-words";

const address = (language: string) => `/api/terms/${language}`;

/** A site's own words as they were last heard of; nothing where they never were, or no cache can be had. */
export async function keptWords(language: string): Promise<Spoken | undefined> {
  try {
    const kept = await (await globalThis.caches?.open(CACHE))?.match(address(language));
    return kept && ((await kept.json()) as Spoken);
  } catch {
    return undefined;
  }
}

/** Keeps them for the next page. Where that fails, that page hears of them again. */
export async function keepWords(language: string, words: Spoken) {
  try {
    await (await globalThis.caches?.open(CACHE))?.put(address(language), Response.json(words));
  } catch {
    // The device has no room, or keeps nothing.
  }
}
