const ones =
  "nought one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen".split(
    " ",
  );
const tens = ["", "", ..."twenty thirty forty fifty sixty seventy eighty ninety".split(" ")];
const word = `(?:${[...ones, ...tens.slice(2), "hundred", "point", "minus"].join("|")})`;
const RUN = new RegExp(`\\b${word}(?:(?:[ -]| and )${word})*\\b`, "g");

/**
 * The numbers of a spoken sentence in figures, "one nought seven" as 107 and "forty-two" as 42: a voice of another language says
 * them as its people do.
 */
export const inFigures = (sentence: string) => sentence.replace(RUN, (run) => figures(run.split(/[ -]/).filter((w) => w !== "and")));

function figures(words: string[]): string {
  let out = "";
  let left = [...words];
  if (left[0] === "minus") {
    out = "-";
    left = left.slice(1);
  }
  const counted = left.some((w) => w === "hundred" || tens.indexOf(w) > 0) || left.length === 1;
  if (!counted) return out + left.map((w) => (w === "point" ? "." : String(ones.indexOf(w)))).join("");
  let n = 0;
  for (const w of left) {
    if (w === "hundred") n *= 100;
    else n += tens.indexOf(w) > 0 ? tens.indexOf(w) * 10 : ones.indexOf(w);
  }
  return out + String(n);
}
