/** A recipe as it is edited: the document of its file. Nothing here knows the rules; the server holds it to them. */

export type Json = string | number | boolean | null | Json[] | { [key: string]: Json };
export type Doc = { [key: string]: Json };
export type Path = readonly (string | number)[];

const isObject = (v: Json | undefined): v is Doc => typeof v === "object" && v !== null && !Array.isArray(v);

/** What stands at a path; undefined where nothing does. */
export function at(doc: Json | undefined, path: Path): Json | undefined {
  let v = doc;
  for (const key of path) {
    if (Array.isArray(v)) v = v[Number(key)];
    else if (isObject(v)) v = v[String(key)];
    else return undefined;
  }
  return v;
}

/** The document with a value at a path; undefined takes what is there out. What was there before stays as it was. */
export function put<T extends Json>(doc: T, path: Path, value: Json | undefined): T {
  const [key, ...rest] = path;
  if (key === undefined) return value as T;
  if (Array.isArray(doc)) {
    const i = Number(key);
    if (rest.length === 0 && value === undefined) return doc.toSpliced(i, 1) as unknown as T;
    return doc.with(i, put(doc[i] ?? {}, rest, value)) as unknown as T;
  }
  const object: Doc = isObject(doc) ? doc : {};
  if (rest.length > 0) {
    const inner = object[String(key)] ?? (typeof rest[0] === "number" ? [] : {});
    return { ...object, [String(key)]: put(inner, rest, value) } as unknown as T;
  }
  if (value !== undefined) return { ...object, [String(key)]: value } as unknown as T;
  const { [String(key)]: _, ...others } = object;
  return others as unknown as T;
}

/** The list at a path; an empty one where there is none. */
export function list(doc: Json | undefined, path: Path): Json[] {
  const v = at(doc, path);
  return Array.isArray(v) ? v : [];
}

/** The document with something put into the list at a path. */
export function insert(doc: Doc, path: Path, index: number, value: Json): Doc {
  return put(doc, path, list(doc, path).toSpliced(index, 0, value));
}

/** The document with something of the list at a path at another place. */
export function move(doc: Doc, path: Path, from: number, to: number): Doc {
  const l = list(doc, path);
  const one = l[from];
  if (one === undefined || to < 0 || to >= l.length) return doc;
  return put(doc, path, l.toSpliced(from, 1).toSpliced(to, 0, one));
}

/** A text at a path; empty where there is none. */
export function text(doc: Json | undefined, ...path: Path): string {
  const v = at(doc, path);
  return typeof v === "string" ? v : typeof v === "number" ? String(v) : "";
}

/** The names under a key of each thing in a list, each once. */
export function names(doc: Json | undefined, path: Path, key: string): string[] {
  return [
    ...new Set(
      list(doc, path)
        .map((x) => text(x, key))
        .filter(Boolean),
    ),
  ];
}

/** A name like this one that none of the others is. */
export function another(name: string, others: readonly string[]): string {
  let n = 2;
  let out = name;
  while (others.includes(out)) out = `${name}-${n++}`;
  return out;
}
