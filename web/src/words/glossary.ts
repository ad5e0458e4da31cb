/** A term of the trade in one language, as the server sends it. */
export interface Term {
  /** In English, in small letters. */
  term: string;
  /** The forms of its word in our sentences; one that ends with "-" begins other words, one that begins with it ends them. */
  is: readonly string[];
  /** What the site says instead, form by form; one alone is said for all of them, none is nothing. */
  own: readonly string[];
}

const upper = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);
const lower = (s: string) => s.charAt(0).toLowerCase() + s.slice(1);
const alike = (own: string, word: string) => (/^\p{Lu}/u.test(word) ? upper(own) : own);

/**
 * A catalogue with the site's own words: in the sentences that say the term in English, and nowhere else, as a word may mean two
 * things. The server prints by the same rules: internal/words/glossary.go, with the same examples.
 */
export function overruled(catalogue: Record<string, string>, terms: readonly Term[]): Record<string, string> {
  const own = terms.filter((t) => t.own.length > 0).map((t) => ({ ...t, at: new RegExp(`(?<!\\p{L})${t.term}`, "u") }));
  if (own.length === 0) return catalogue;
  return Object.fromEntries(Object.entries(catalogue).map(([key, says]) => [key, sentence(key, says, own)]));
}

function sentence(key: string, says: string, terms: readonly (Term & { at: RegExp })[]): string {
  const outside = key.replace(/\{[^}]*\}/g, "{}").toLowerCase();
  for (const t of terms) {
    if (t.at.test(outside)) says = says.replace(/\{[^}]*\}|\p{L}+/gu, (word) => (word.startsWith("{") ? word : said(word, t)));
  }
  return says;
}

/** One word with the site's own for it: whole, by its beginning, or by its end. */
function said(word: string, t: Term): string {
  const small = word.toLowerCase();
  for (const [i, form] of t.is.entries()) {
    const own = (t.own[Math.min(i, t.own.length - 1)] ?? "").replace(/^-+|-+$/g, "");
    const [begins, ends] = [form.endsWith("-"), form.startsWith("-")];
    const core = form.replace(/^-+|-+$/g, "");
    if (begins && ends) {
      const at = small.indexOf(core);
      if (at > 0 && at + core.length < word.length) return word.slice(0, at) + lower(own) + word.slice(at + core.length);
    } else if (begins) {
      if (small.startsWith(core.toLowerCase()) && word.length > core.length) return alike(own, word) + word.slice(core.length);
    } else if (ends) {
      if (small.endsWith(core) && word.length > core.length) return word.slice(0, -core.length) + lower(own);
    } else if (small === form.toLowerCase()) return alike(own, word);
  }
  return word;
}
