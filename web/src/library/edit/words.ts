/** Where names come from that a field can take. */
export type Source =
  "needs" | "groups" | "choices" | "parts" | "ends" | "steps" | "voiders" | "kept" | "known" | "marks" | "people" | "lubricants";

/** What is asked of a thing in one field. */
export interface Asked {
  label: string;
  hint?: string;
  /** It is a sentence. */
  long?: boolean;
  /** Shown before anything is in it. */
  usual?: boolean;
  from?: Source;
  /** What nothing chosen means. */
  empty?: string;
  unit?: string;
}

const variants: Asked = { label: "Only in these variants" };
const why: Asked = { label: "Why", hint: "One sentence; it opens at “why?”.", long: true };

const limit: Record<string, Asked> = {
  low: { label: "At least", usual: true },
  high: { label: "At most", usual: true },
  unit: { label: "In", usual: true, empty: "a count or a ratio" },
  word: { label: "What a bare number counts", hint: "h, g, threads" },
  above: { label: "The low end itself is already outside" },
  even: { label: "Differing by at most" },
  of: { label: "As a share of", hint: "A value, or what an earlier step keeps; 1 is all of it.", from: "known" },
  highof: { label: "At most, as a share of another", hint: "Where the high end follows from another value.", from: "known" },
  plus: { label: "Counted from", hint: "A value or what an earlier step keeps; several with “ + ” between.", from: "known" },
  evenof: { label: "Differing by, as a share of", from: "known" },
  over: { label: "Diameter the tilt is counted over", from: "needs" },
  firm: { label: "No reason keeps what is outside" },
  why,
  source: { label: "Where it is from", hint: "fixed, rule or sheet" },
};

/** What is asked of each kind of thing, in order. */
export const ASKED: Record<string, Record<string, Asked>> = {
  recipe: {
    title: { label: "What it is called", usual: true },
    id: { label: "Name of its file", hint: "Small letters and dashes. Another name is another recipe.", usual: true },
    kind: { label: "Kind of joint", usual: true },
    drawing: { label: "How its groups lie", usual: true, empty: "side by side" },
    undoes: { label: "Variants that undo the joint", hint: "Nothing is proven of it then." },
    again: { label: "Variants that go over a joint that stands", hint: "Only that nothing moves is proven then." },
    mistakes: { label: "What goes wrong", hint: "One a line, with what comes of it.", long: true },
  },
  choices: {
    name: { label: "Name", usual: true },
    text: { label: "What is asked", usual: true },
    options: { label: "Options", hint: "One a line; the first is the usual one.", usual: true },
    when: { ...variants, label: "Asked only in these variants" },
    plate: { label: "It follows from the nameplate: the sheet says which" },
    differ: { label: "Question that practitioners differ about" },
  },
  needs: {
    name: { label: "Name", usual: true },
    text: { label: "What it is, in words", usual: true },
    unit: { label: "In", usual: true, empty: "a count or a ratio" },
    word: { label: "What a bare number counts", hint: "h, g, threads" },
    optional: { label: "The plan is issued without it" },
    when: variants,
    rule: { label: "Worked out by a rule" },
  },
  rule: {
    name: { label: "Rule", usual: true },
    group: { label: "Of the bolts", from: "groups", usual: true },
    length: { label: "Length it takes", from: "needs" },
    faces: { label: "Choice of sloped faces", from: "choices" },
    k: { label: "Nut factor of the lot", from: "needs" },
  },
  axis: {
    first: { label: "First end", usual: true },
    last: { label: "Last end", usual: true },
    up: { label: "It stands: the first part lies lowest" },
    text: { label: "How it is looked at", long: true },
  },
  parts: {
    name: { label: "Name", usual: true },
    family: { label: "Shape", empty: "not drawn", usual: true },
    size: { label: "How wide, 1 to 5", hint: "3 where nothing is said" },
    count: { label: "How many" },
    face: { label: "Which face of it", usual: true },
    toward: { label: "looks toward", from: "ends", usual: true },
    inside: { label: "Lies in", from: "parts" },
    purpose: { label: "What it is for", long: true, usual: true },
    match: { label: "What must match the paper", hint: "size, material, serial" },
    alike: { label: "Set in which all marks are alike" },
    text: { label: "What else to look at when it is placed", long: true },
    when: variants,
  },
  kit: {
    tools: { label: "Tools", usual: true },
    materials: { label: "Materials", usual: true },
    wear: { label: "Worn", usual: true },
    nosockets: { label: "The tools of the bolts are named here, not worked out" },
  },
  thing: { text: { label: "What", hint: "A value in braces is what it comes to.", usual: true, long: true }, when: variants },
  groups: {
    name: { label: "Name", usual: true },
    layout: { label: "They lie in a", usual: true },
    how: { label: "Tightened to", usual: true },
    bolts: { label: "How many", hint: "Left out: asked for", usual: true },
    least: { label: "At least, where it is asked for" },
    most: { label: "At most, where it is asked for" },
    value: { label: "Value it is brought to", from: "needs", usual: true },
    with: { label: "With what alone", empty: "whatever the crib has" },
    tension: { label: "How it is drawn" },
    shares: { label: "Stages", hint: "20, 60, 100: with commas; left out: at once", unit: "%", usual: true },
    turns: { label: "Turns one after the other", hint: "with commas", unit: "°" },
    order: { label: "Order", empty: "the kind’s own" },
    lubricant: { label: "Lubricant", from: "lubricants", usual: true },
    dry: { label: "Nothing on thread and face" },
    still: { label: "Gone round until a whole round moves nothing" },
    portion: { label: "Turned by so much at a time, until it holds", unit: "°" },
    until: { label: "Going round ends when", empty: "all hold" },
    head: { label: "What a tool takes hold of", empty: "as usual for the thread" },
    of: { label: "Has the bolts of", from: "groups" },
    was: { label: "Was made as", from: "groups" },
    stands: { label: "Tight already: only gone round" },
    lock: { label: "Locked after each bolt" },
    holes: { label: "Holes that stay empty" },
    circle: { label: "Diameter of the bolt circle", from: "needs" },
    replaced: { label: "A replaced bolt takes with it", hint: "all, or left out: nothing but its own" },
    upperlast: { label: "Taken off: the upper ones last" },
    gasket: { label: "Gasket between the faces" },
    when: variants,
  },
  tension: {
    length: { label: "Length that is clamped", from: "needs", usual: true },
    lost: { label: "Share that the first half loses, in percent", from: "needs" },
    halves: { label: "Variants in which every other bolt is drawn first" },
    first: { label: "Name of the first pressure, for limits" },
    second: { label: "Name of the second pressure, for limits" },
    free: { label: "Name of the pressure that frees a nut, for limits" },
  },
  gasket: {
    choice: { label: "Choice of the gasket", from: "choices", usual: true },
    outer: { label: "Outer diameter", from: "needs", usual: true },
    inner: { label: "Inner diameter", from: "needs", usual: true },
    stress: { label: "Least stress that seats it", from: "needs" },
    service: { label: "Least stress in service", from: "needs" },
    most: { label: "Stress that crushes it", from: "needs" },
    aim: { label: "Stress aimed at", from: "needs" },
    kept: { label: "Share of the load that is left", from: "needs" },
    pressure: { label: "Pressure in service", from: "needs" },
    boltleast: { label: "Least stress in the bolts", from: "needs" },
    boltmost: { label: "Most stress in the bolts", from: "needs" },
    flange: { label: "Most the flange bears", from: "needs" },
    full: { label: "Variants in which it covers the whole face" },
  },
  steps: {
    does: { label: "What is done", usual: true },
    station: { label: "At", usual: true },
    text: { label: "In words", hint: "A value in braces is what it comes to at the joint.", long: true, usual: true },
    group: { label: "On which bolts", from: "groups" },
    some: { label: "Which of them", empty: "all" },
    at: { label: "Draws the bolts of", from: "groups" },
    shows: { label: "Drawn beside it", empty: "nothing" },
    limit: { label: "What it may be" },
    places: { label: "Read at so many places" },
    spots: { label: "Names of the places", hint: "One a line" },
    reads: { label: "Readings" },
    ticks: { label: "List that is ticked" },
    marks: { label: "Marks that are compared" },
    items: { label: "What is placed, all as one act", hint: "One a line, with its direction", long: true },
    cautions: { label: "Cautions" },
    photo: { label: "Photograph of" },
    hold: { label: "Waited or held for", unit: "min" },
    holdof: { label: "Waited as long as", from: "needs" },
    must: { label: "It cannot be left undone" },
    by: { label: "Done by", from: "people" },
    release: { label: "Then released by", hint: "checker: another person", from: "people" },
    beyond: { label: "Outside or undone only with", from: "people" },
    back: { label: "A try that fails goes back to", from: "steps" },
    proves: { label: "Proves" },
    for: { label: "Makes ready", hint: "the bolts it lubricates or keeps dry", from: "groups" },
    voided: { label: "Voided by work on", from: "voiders" },
    sample: { label: "Measured on a sample of", from: "groups" },
    from: { label: "Where its reading comes from", hint: "left out: taken at the joint" },
    block: { label: "In any order with others of", hint: "a name that steps one after the other share" },
    why,
    when: variants,
    id: { label: "Name in the file" },
  },
  limit,
  reads: {
    name: { label: "What is read", usual: true },
    form: { label: "Form", empty: "plain", usual: true },
    limit: { label: "What it may be", usual: true },
    places: { label: "At so many places" },
    spots: { label: "Names of the places", hint: "One a line" },
    unit: { label: "Read in", empty: "as its limit says" },
    word: { label: "What a bare number counts" },
    over: { label: "Counted over", from: "known" },
    target: { label: "Test pressure", from: "needs" },
    gas: { label: "A gas: both ends brought to one temperature" },
    group: { label: "Bolts at the open side", from: "groups" },
    from: { label: "Goes on from", from: "kept" },
    keep: { label: "Kept for later steps as" },
    when: variants,
  },
  ticks: { text: { label: "What", usual: true, long: true }, part: { label: "Part that is placed", from: "parts" }, when: variants },
  marks: {
    of: { label: "Read on", usual: true },
    is: { label: "It must say" },
    alike: { label: "Alike within the set" },
    opposite: { label: "Across from the mark of", from: "marks" },
    unlike: { label: "Unlike the mark of", from: "marks" },
    from: { label: "Chosen from", hint: "One a line" },
    free: { label: "Whatever it says is kept" },
    when: variants,
  },
  cautions: { kind: { label: "Kind", usual: true }, text: { label: "What can go wrong", long: true, usual: true }, why },
  repeats: {
    name: { label: "What one of them is", hint: "layer", usual: true },
    count: { label: "How many there are", from: "needs", usual: true },
    each: { label: "Or each by its name", hint: "One a line" },
    first: { label: "From the step", from: "steps", usual: true },
    last: { label: "to the step", from: "steps", usual: true },
    groups: { label: "Bolts that each has", from: "groups", usual: true },
    needs: { label: "Values that each has", from: "needs" },
    also: { label: "Steps outside that speak of each", from: "steps" },
  },
  sheet: { title: { label: "Whose sheet it is", usual: true } },
};

/** What one of a list is called, where it is added. */
export const ONE: Record<string, string> = {
  choices: "question",
  needs: "value",
  parts: "part",
  tools: "tool",
  materials: "material",
  wear: "thing to wear",
  groups: "group of bolts",
  steps: "step",
  reads: "reading",
  ticks: "line",
  marks: "mark",
  cautions: "caution",
  repeats: "repeat",
};

/** What stands first in a new one of a list. */
export const NEW: Record<string, { [key: string]: string }> = {
  cautions: { kind: "danger" },
  groups: { layout: "ring", how: "torque" },
};

/** People whom steps ask for. */
export const PEOPLE = ["second person", "checker", "inspector", "engineer", "pressure person", "rigger", "installer"];
