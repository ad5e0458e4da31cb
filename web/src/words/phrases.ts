/** A sentence of the core with holes: {0} for words, {#1} for a number, each known by its place. */
interface Pattern {
  key: string;
  says: string;
  holes: string[];
  /** A part of it that must be in what it matches: most others are told apart by that alone. */
  needle: string;
  /** How many letters are its own. */
  own: number;
  match?: RegExp;
}

const HOLE = /\{#?\d+\}/g;
const NUMBER = "[-+−]?\\d(?:[\\d.,]*\\d)?";

/** Between clauses, each of which says something by itself; between parts of one, which are said all or not at all. */
const CLAUSES = [". ", "; ", ": "];
const PARTS = [", ", " · ", " and ", " or ", " + "];

/** A pattern with less of its own would match sentences that it does not mean. */
const LEAST = 2;

/** A pattern with as much of its own is meant, whatever stands in its holes. */
const FIRM = 16;

const UNIT = "N·m|cN·m|kN|°C|mm/m|bar/min|MPa|mm|km|µm|m|bar|psi|ft·lbf|in·lbf|ft·lb|in·lb|kgf·m|%|°|kg|g|l|min|h|s|K|N|GB|MB|kB";

/** In which several readings follow one another. */
const READ_IN = "mm/m|mm|µm|m|bar|psi|°C|kN|N·m|l|h";

/** A number with its unit in a sentence: its decimal point is the one of its locale. Classes like 10.9 have none. */
const AMOUNT = new RegExp(`(\\d)\\.(\\d+)(?=°| (?:${UNIT})(?![\\p{L}]))`, "gu");
/** The lower end of "0.5 to 1.5 mm". */
const RANGED = new RegExp(`(\\d)\\.(\\d+)(?= (?:to|and) ${NUMBER} (?:${UNIT})(?![\\p{L}]))`, "gu");
const UNITS = new RegExp(`(?:\\d |^)(?:${UNIT})(?![\\p{L}])`, "gu");

/** So many of a thing, one by its number, or what was read: "2 × top nuts", "disc screw 6", "gap 1.5, 2 mm". */
const COUNTED = new RegExp(`^(\\d+ × )?(.*?\\p{L})( ${NUMBER}(?: ?(?:${UNIT})|(?:, ${NUMBER})+ (?:${READ_IN}))?)?$`, "su");

/** Readings, one after the other: "0.1, 0.2, 0.3 mm". */
const BARE = new RegExp(`^${NUMBER}$`, "u");
/** Forms of a word that is counted, behind its number: as many as the language has for whole numbers. */
const FORMS_OF = /<([^<>|]*\|[^<>]*)>/g;
const NUMBERS = new RegExp(NUMBER, "gu");
const FORMS = ["one", "few", "many"];

/** The last of them: "1.4 threads". */
const ENDED = new RegExp(`^${NUMBER} (?:${READ_IN}|\\p{L}{3,})$`, "u");
const ACROSS = /^[,;:]|[,;:]$|[.;:] /u;
const LISTED = new RegExp(`^${NUMBER} \\P{N}`, "u");

/** The key under which a catalogue has the months, one after the other. */
const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec";
const DATE = /\b(\d{1,2}) (Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)\b/g;

const escaped = (s: string) => s.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
const upper = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);
const lower = (s: string) => s.charAt(0).toLowerCase() + s.slice(1);

/** Names, tags and numbers: nothing that a language would say otherwise. */
const isName = (text: string) => !/(^|[\s(])\p{Ll}{2,}/u.test(text.replace(UNITS, "0"));

/** A text in a language, and whether all of it is: what a catalogue lacks stays English. */
export interface Said {
  says: string;
  whole: boolean;
}

/** What several pieces are together; a name need not be known. */
const wholly = (said: (Said | undefined)[], pieces: string[]) => said.every((s, i) => (s ? s.whole : isName(pieces[i]!)));

/**
 * Says in one language what the core and the recipes say in English. What is stored and signed stays as it was said: this is for
 * the eye, and what the catalogue does not have stays English. Numbers are carried over as they are, but for their decimal mark.
 * The server prints by the same rules: internal/words, with the same examples.
 */
export class Phrases {
  private readonly patterns: Pattern[];
  private readonly known = new Map<string, Said>();
  /** What the parts of the text that is said are called: each is looked up once. */
  private readonly heard = new Map<string, Said | undefined>();
  private readonly mark: string;
  private readonly months: string[];
  private readonly plurals: Intl.PluralRules;
  /** What stands between numbers: where a comma is their decimal mark, another sign. */
  private readonly between: string;

  constructor(
    private readonly craft: Record<string, string>,
    locale: string,
  ) {
    this.patterns = Object.entries(craft)
      .filter(([key]) => key.includes("{"))
      .map(([key, says]) => pattern(key, says))
      .filter((p) => p.own >= LEAST || p.holes.every((h) => h.startsWith("#")))
      .sort((a, b) => b.own - a.own || (a.key < b.key ? -1 : 1));
    this.mark = new Intl.NumberFormat(locale).formatToParts(1.5).find((p) => p.type === "decimal")?.value ?? ".";
    this.plurals = new Intl.PluralRules(locale);
    this.between = this.mark === "," ? " · " : ", ";
    this.months = craft[MONTHS]?.split(" ") ?? [];
  }

  say(text: string): string {
    return this.said(text).says;
  }

  said(text: string): Said {
    const known = this.known.get(text);
    if (known !== undefined) return known;
    this.heard.clear();
    const said = this.find(text, 0) ?? { says: this.amounts(text), whole: isName(text) };
    if (this.known.size > 5000) this.known.clear();
    this.known.set(text, said);
    return said;
  }

  private find(text: string, depth: number): Said | undefined {
    if (depth > 6 || text === "") return undefined;
    if (this.heard.has(text)) return this.heard.get(text);
    const said = this.look(text, depth);
    this.heard.set(text, said);
    return said;
  }

  private look(text: string, depth: number): Said | undefined {
    const exact = this.exact(text);
    if (exact !== undefined) return { says: exact, whole: true };
    const filled = this.filled(text, depth);
    if (filled !== undefined) return filled;
    const small = lower(text);
    const other = this.filled(small === text ? upper(text) : small, depth);
    if (other !== undefined) return small === text ? other : { ...other, says: upper(other.says) };
    const end = /^(.+?)([.:!?]+)$/su.exec(text);
    if (end) {
      const said = this.find(end[1]!, depth + 1);
      if (said !== undefined) return { ...said, says: said.says + end[2] };
    } else {
      const stopped = this.exact(text + ".") ?? this.filled(text + ".", depth);
      const said = typeof stopped === "string" ? { says: stopped, whole: true } : stopped;
      if (said?.says.endsWith(".")) return { ...said, says: said.says.slice(0, -1) };
    }
    const headed = this.headed(text, depth);
    if (headed !== undefined) return headed;
    for (const by of CLAUSES) {
      const parts = text.split(by);
      if (parts.length < 2) continue;
      const said = parts.map((p) => this.find(p, depth + 1));
      if (said.some((s) => s !== undefined)) return this.joined(said, parts, by);
    }
    const counted = COUNTED.exec(text);
    if (counted && (counted[1] || counted[3])) {
      const said = this.find(counted[2]!, depth + 1);
      if (said !== undefined) return { ...said, says: (counted[1] ?? "") + said.says + this.listed(counted[3] ?? "") };
    }
    for (const by of PARTS) {
      const parts = text.split(by);
      if (parts.length < 2) continue;
      const numbers = by === ", " && LISTED.test(parts.at(-1)!) && parts.slice(1, -1).every((p) => BARE.test(p));
      const said = parts.map((p, i) =>
        numbers && i < parts.length - 1 && BARE.test(p) ? { says: p.replace(".", this.mark), whole: true } : this.find(p, depth + 1),
      );
      if (said.some((s) => s !== undefined) && said.every((s, i) => s !== undefined || isName(parts[i]!)))
        return this.joined(
          said,
          parts,
          numbers && BARE.test(parts[0]!) && ENDED.test(parts.at(-1)!) ? this.between : (this.craft[by] ?? by),
        );
    }
    return undefined;
  }

  /** Numbers, one after the other. */
  private listed(numbers: string) {
    return numbers.replaceAll(", ", this.between).replaceAll(".", this.mark);
  }

  /** A sentence of the catalogue, whatever clauses it has, with what it is of before it: layer 1, a part. */
  private headed(text: string, depth: number): Said | undefined {
    const at = text.indexOf(": ");
    const [head, rest] = [text.slice(0, at), text.slice(at + 2)];
    if (at < 0 || !/[;:.]/.test(rest)) return undefined;
    const says = this.exact(rest) ?? this.exact(rest + ".")?.replace(/\.$/, "");
    if (says === undefined) return undefined;
    const of = this.find(head, depth + 1);
    return { says: `${of?.says ?? this.amounts(head)}: ${says}`, whole: wholly([of], [head]) };
  }

  private joined(said: (Said | undefined)[], parts: string[], by: string): Said {
    return { says: said.map((s, i) => s?.says ?? this.amounts(parts[i]!)).join(by), whole: wholly(said, parts) };
  }

  private exact(text: string) {
    const says = this.craft[text];
    if (says !== undefined) return says;
    const small = this.craft[lower(text)];
    if (small !== undefined) return upper(small);
    return this.craft[upper(text)] ?? this.craft[" " + text]?.slice(1); // the last follows another
  }

  /** Says a text that is a sentence with holes. */
  private filled(text: string, depth: number): Said | undefined {
    for (const p of this.patterns) {
      if (!text.includes(p.needle)) continue;
      const m = (p.match ??= matching(p)).exec(text);
      const said = m && this.fill(p, m, depth);
      if (said) return said;
    }
    return undefined;
  }

  private fill(p: Pattern, m: RegExpExecArray, depth: number): Said | undefined {
    const by = new Map<string, string>();
    let whole = true;
    for (const [i, hole] of p.holes.entries()) {
      const text = m[i + 1]!;
      if (hole.startsWith("#")) {
        by.set(hole, text.replace(".", this.mark));
        continue;
      }
      if (p.own < FIRM && this.exact(text) === undefined && ACROSS.test(text)) return undefined; // it would say pieces of two clauses as one
      const said = this.find(text, depth + 1);
      if (said === undefined && p.own < FIRM && !isName(text)) return undefined;
      whole &&= wholly([said], [text]);
      by.set(hole, said?.says ?? this.amounts(text));
    }
    return { says: this.agree(p.says.replace(HOLE, (hole) => by.get(hole.slice(1, -1)) ?? "")), whole };
  }

  /** Chooses the form that goes with the number before it: "2 <pull|pulls>", by the rules of Unicode (CLDR). */
  private agree(says: string) {
    if (!says.includes("|")) return says;
    return says.replace(FORMS_OF, (whole, forms: string, at: number) => {
      const number = says.slice(0, at).match(NUMBERS)?.at(-1);
      if (number === undefined) return whole;
      const all = forms.split("|");
      const last = all.at(-1)!;
      if (!/^[-+−]?\d+$/.test(number)) return last; // 1.5
      const is = FORMS.indexOf(this.plurals.select(Math.abs(Number(number.replace("−", "-")))));
      return all.length === 2 ? (is === 0 ? all[0]! : last) : (all[is] ?? last);
    });
  }

  private amounts(text: string) {
    const dated =
      this.months.length > 0 ? text.replace(DATE, (_, d, month) => `${d} ${this.months[MONTHS.split(" ").indexOf(month)]}`) : text;
    return this.mark === "." ? dated : dated.replace(AMOUNT, `$1${this.mark}$2`).replace(RANGED, `$1${this.mark}$2`);
  }
}

function pattern(key: string, says: string): Pattern {
  const holes = [...key.matchAll(HOLE)].map((m) => m[0].slice(1, -1));
  const parts = key.split(HOLE);
  const needle = parts.reduce((a, b) => (b.length > a.length ? b : a), "");
  return { key, says, holes, needle, own: parts.join("").replace(/[^\p{L}]/gu, "").length };
}

function matching({ key, holes }: Pattern) {
  const parts = key.split(HOLE).map(escaped);
  const filled = parts.map((part, i) => part + (i < holes.length ? (holes[i]!.startsWith("#") ? `(${NUMBER})` : "(.+?)") : ""));
  return new RegExp(`^${filled.join("")}$`, "su");
}
