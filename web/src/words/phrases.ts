/** A sentence of the core with holes: {0} for words, {#1} for a number, each known by its place. */
interface Pattern {
  match: RegExp;
  holes: string[];
  says: string;
  /** A part of it that must be in what it matches: most others are told apart by that alone. */
  needle: string;
  /** How many letters are its own. */
  own: number;
}

const HOLE = /\{#?\d+\}/g;
const NUMBER = "[-+−]?\\d[\\d.,]*";
const SPLITS = [". ", "; ", ": ", ", ", " · ", " and ", " or ", " + "];

/** A pattern with less of its own would match sentences that it does not mean. */
const LEAST = 4;

/** What a number with its unit looks like in a sentence: its decimal point is the one of its locale. Classes like 10.9 have none. */
const AMOUNT = /(\d)\.(\d+)(?= (?:N·m|cN·m|kN|MPa|mm|µm|bar|psi|ft·lb|in·lb|kgf·m|%|°|kg|min|h|K|N|GB|MB|kB)(?![\p{L}]))/gu;

const escaped = (s: string) => s.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
const upper = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);
const lower = (s: string) => s.charAt(0).toLowerCase() + s.slice(1);

/**
 * Says in one language what the core and the recipes say in English. What is stored and signed stays as it was said: this is for
 * the eye, and what the catalogue does not have stays English. Numbers are carried over as they are, but for their decimal mark.
 */
export class Phrases {
  private readonly patterns: Pattern[];
  private readonly known = new Map<string, string>();
  private readonly mark: string;

  constructor(
    private readonly craft: Record<string, string>,
    locale: string,
  ) {
    this.patterns = Object.entries(craft)
      .filter(([key]) => key.includes("{"))
      .map(([key, says]) => pattern(key, says))
      .filter((p) => p.own >= LEAST || !p.holes.some((h) => !h.startsWith("#")))
      .sort((a, b) => b.own - a.own);
    this.mark = new Intl.NumberFormat(locale).formatToParts(1.5).find((p) => p.type === "decimal")?.value ?? ".";
  }

  say(text: string): string {
    const known = this.known.get(text);
    if (known !== undefined) return known;
    const says = this.find(text, 0) ?? this.amounts(text);
    if (this.known.size > 5000) this.known.clear();
    this.known.set(text, says);
    return says;
  }

  /** Whether the catalogue has all of a text. */
  has(text: string): boolean {
    return this.find(text, 0) !== undefined;
  }

  private find(text: string, depth: number): string | undefined {
    if (depth > 6) return undefined;
    const exact = this.exact(text);
    if (exact !== undefined) return exact;
    for (const p of this.patterns) {
      if (!text.includes(p.needle)) continue;
      const m = p.match.exec(text);
      if (m) return this.fill(p, m, depth);
    }
    const end = /^(.+?)([.:!?]+)$/su.exec(text);
    if (end) {
      const says = this.find(end[1]!, depth + 1);
      if (says !== undefined) return says + end[2];
    }
    for (const by of SPLITS) {
      const parts = text.split(by);
      if (parts.length < 2) continue;
      const said = parts.map((p) => this.find(p, depth + 1));
      if (said.some((s) => s !== undefined)) return said.map((s, i) => s ?? this.amounts(parts[i]!)).join(this.exact(by) ?? by);
    }
    return undefined;
  }

  private exact(text: string) {
    const says = this.craft[text];
    if (says !== undefined) return says;
    const small = this.craft[lower(text)];
    if (small !== undefined) return upper(small);
    return this.craft[upper(text)];
  }

  private fill(p: Pattern, m: RegExpExecArray, depth: number) {
    const by = new Map(p.holes.map((hole, i) => [hole, m[i + 1]!]));
    return p.says.replace(HOLE, (hole) => {
      const name = hole.slice(1, -1);
      const text = by.get(name) ?? "";
      return name.startsWith("#") ? text.replace(".", this.mark) : (this.find(text, depth + 1) ?? this.amounts(text));
    });
  }

  private amounts(text: string) {
    return this.mark === "." ? text : text.replace(AMOUNT, `$1${this.mark}$2`);
  }
}

function pattern(key: string, says: string): Pattern {
  const holes = [...key.matchAll(HOLE)].map((m) => m[0].slice(1, -1));
  const parts = key.split(HOLE);
  const match = new RegExp(
    `^${parts.map((part, i) => escaped(part) + (i < holes.length ? (holes[i]!.startsWith("#") ? `(${NUMBER})` : "(.+?)") : "")).join("")}$`,
    "su",
  );
  const needle = parts.reduce((a, b) => (b.length > a.length ? b : a), "");
  return { match, holes, says, needle, own: parts.join("").replace(/[^\p{L}]/gu, "").length };
}
