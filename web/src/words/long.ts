const wider: Record<string, string> = {
  a: "à",
  e: "é",
  i: "î",
  o: "ö",
  u: "ü",
  A: "À",
  E: "É",
  I: "Î",
  O: "Ö",
  U: "Ü",
  c: "ç",
  n: "ñ",
  s: "š",
};

/**
 * A sentence half as long again, still read with some patience: each word gets marks on its letters and its own vowels a second
 * time. Holes stay as they are, and so does what is no word.
 */
export function stretch(sentence: string) {
  return sentence
    .split(/(\{[^}]*\})/)
    .map((part) => (part.startsWith("{") ? part : part.replace(/\p{L}{2,}/gu, longer)))
    .join("");
}

function longer(word: string) {
  const more = Math.ceil(word.length / 2);
  const marked = [...word].map((c) => wider[c] ?? c).join("");
  return marked + "öåëïü".repeat(3).slice(0, more);
}
