import { tr } from "../../words/words";
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

const variants: Asked = { label: tr("Only in these variants") };
const why: Asked = { label: tr("Why"), hint: tr("One sentence; it opens at “why?”."), long: true };

const limit: Record<string, Asked> = {
  low: { label: tr("At least"), usual: true },
  high: { label: tr("At most"), usual: true },
  unit: { label: tr("In"), usual: true, empty: tr("a count or a ratio") },
  word: { label: tr("What a bare number counts"), hint: tr("h, g, threads") },
  above: { label: tr("The low end itself is already outside") },
  even: { label: tr("Differing by at most") },
  of: { label: tr("As a share of"), hint: tr("A value, or what an earlier step keeps; 1 is all of it."), from: "known" },
  highof: { label: tr("At most, as a share of another"), hint: tr("Where the high end follows from another value."), from: "known" },
  plus: { label: tr("Counted from"), hint: tr("A value or what an earlier step keeps; several with “ + ” between."), from: "known" },
  evenof: { label: tr("Differing by, as a share of"), from: "known" },
  over: { label: tr("Diameter the tilt is counted over"), from: "needs" },
  firm: { label: tr("No reason keeps what is outside") },
  why,
  source: { label: tr("Where it is from"), hint: tr("fixed, rule or sheet") },
};

/** What is asked of each kind of thing, in order. */
export const ASKED: Record<string, Record<string, Asked>> = {
  recipe: {
    title: { label: tr("What it is called"), usual: true },
    id: { label: tr("Name of its file"), hint: tr("Small letters and dashes. Another name is another recipe."), usual: true },
    kind: { label: tr("Kind of joint"), usual: true },
    drawing: { label: tr("How its groups lie"), usual: true, empty: tr("side by side") },
    undoes: { label: tr("Variants that undo the joint"), hint: tr("Nothing is proven of it then.") },
    again: { label: tr("Variants that go over a joint that stands"), hint: tr("Only that nothing moves is proven then.") },
    mistakes: { label: tr("What goes wrong"), hint: tr("One a line, with what comes of it."), long: true },
  },
  choices: {
    name: { label: tr("Name"), usual: true },
    text: { label: tr("What is asked"), usual: true },
    options: { label: tr("Options"), hint: tr("One a line; the first is the usual one."), usual: true },
    when: { ...variants, label: tr("Asked only in these variants") },
    plate: { label: tr("It follows from the nameplate: the sheet says which") },
    differ: { label: tr("Question that practitioners differ about") },
  },
  needs: {
    name: { label: tr("Name"), usual: true },
    text: { label: tr("What it is, in words"), usual: true },
    unit: { label: tr("In"), usual: true, empty: tr("a count or a ratio") },
    word: { label: tr("What a bare number counts"), hint: tr("h, g, threads") },
    optional: { label: tr("The plan is issued without it") },
    when: variants,
    rule: { label: tr("Worked out by a rule") },
  },
  rule: {
    name: { label: tr("Rule"), usual: true },
    group: { label: tr("Of the bolts"), from: "groups", usual: true },
    length: { label: tr("Length it takes"), from: "needs" },
    faces: { label: tr("Choice of sloped faces"), from: "choices" },
    k: { label: tr("Nut factor of the lot"), from: "needs" },
  },
  axis: {
    first: { label: tr("First end"), usual: true },
    last: { label: tr("Last end"), usual: true },
    up: { label: tr("It stands: the first part lies lowest") },
    text: { label: tr("How it is looked at"), long: true },
  },
  parts: {
    name: { label: tr("Name"), usual: true },
    family: { label: tr("Shape"), empty: tr("not drawn"), usual: true },
    size: { label: tr("How wide, 1 to 5"), hint: tr("3 where nothing is said") },
    count: { label: tr("How many") },
    face: { label: tr("Which face of it"), usual: true },
    toward: { label: tr("looks toward"), from: "ends", usual: true },
    inside: { label: tr("Lies in"), from: "parts" },
    purpose: { label: tr("What it is for"), long: true, usual: true },
    match: { label: tr("What must match the paper"), hint: tr("size, material, serial") },
    alike: { label: tr("Set in which all marks are alike") },
    text: { label: tr("What else to look at when it is placed"), long: true },
    when: variants,
  },
  kit: {
    tools: { label: tr("Tools"), usual: true },
    materials: { label: tr("Materials"), usual: true },
    wear: { label: tr("Worn"), usual: true },
    nosockets: { label: tr("The tools of the bolts are named here, not worked out") },
  },
  thing: { text: { label: tr("What"), hint: tr("A value in braces is what it comes to."), usual: true, long: true }, when: variants },
  groups: {
    name: { label: tr("Name"), usual: true },
    layout: { label: tr("They lie in a"), usual: true },
    how: { label: tr("Tightened to"), usual: true },
    bolts: { label: tr("How many"), hint: tr("Left out: asked for"), usual: true },
    least: { label: tr("At least, where it is asked for") },
    most: { label: tr("At most, where it is asked for") },
    value: { label: tr("Value it is brought to"), from: "needs", usual: true },
    with: { label: tr("With what alone"), empty: tr("whatever the crib has") },
    tension: { label: tr("How it is drawn") },
    shares: { label: tr("Stages"), hint: tr("20, 60, 100: with commas; left out: at once"), unit: "%", usual: true },
    turns: { label: tr("Turns one after the other"), hint: tr("with commas"), unit: "°" },
    order: { label: tr("Order"), empty: tr("the kind’s own") },
    lubricant: { label: tr("Lubricant"), from: "lubricants", usual: true },
    dry: { label: tr("Nothing on thread and face") },
    still: { label: tr("Gone round until a whole round moves nothing") },
    portion: { label: tr("Turned by so much at a time, until it holds"), unit: "°" },
    until: { label: tr("Going round ends when"), empty: tr("all hold") },
    head: { label: tr("What a tool takes hold of"), empty: tr("as usual for the thread") },
    of: { label: tr("Has the bolts of"), from: "groups" },
    was: { label: tr("Was made as"), from: "groups" },
    stands: { label: tr("Tight already: only gone round") },
    lock: { label: tr("Locked after each bolt") },
    holes: { label: tr("Holes that stay empty") },
    circle: { label: tr("Diameter of the bolt circle"), from: "needs" },
    replaced: { label: tr("A replaced bolt takes with it"), hint: tr("all, or left out: nothing but its own") },
    upperlast: { label: tr("Taken off: the upper ones last") },
    gasket: { label: tr("Gasket between the faces") },
    when: variants,
  },
  tension: {
    length: { label: tr("Length that is clamped"), from: "needs", usual: true },
    lost: { label: tr("Share that the first half loses, in percent"), from: "needs" },
    halves: { label: tr("Variants in which every other bolt is drawn first") },
    first: { label: tr("Name of the first pressure, for limits") },
    second: { label: tr("Name of the second pressure, for limits") },
    free: { label: tr("Name of the pressure that frees a nut, for limits") },
  },
  gasket: {
    choice: { label: tr("Choice of the gasket"), from: "choices", usual: true },
    outer: { label: tr("Outer diameter"), from: "needs", usual: true },
    inner: { label: tr("Inner diameter"), from: "needs", usual: true },
    stress: { label: tr("Least stress that seats it"), from: "needs" },
    service: { label: tr("Least stress in service"), from: "needs" },
    most: { label: tr("Stress that crushes it"), from: "needs" },
    aim: { label: tr("Stress aimed at"), from: "needs" },
    kept: { label: tr("Share of the load that is left"), from: "needs" },
    pressure: { label: tr("Pressure in service"), from: "needs" },
    boltleast: { label: tr("Least stress in the bolts"), from: "needs" },
    boltmost: { label: tr("Most stress in the bolts"), from: "needs" },
    flange: { label: tr("Most the flange bears"), from: "needs" },
    full: { label: tr("Variants in which it covers the whole face") },
  },
  steps: {
    does: { label: tr("What is done"), usual: true },
    station: { label: tr("At"), usual: true },
    text: { label: tr("In words"), hint: tr("A value in braces is what it comes to at the joint."), long: true, usual: true },
    group: { label: tr("On which bolts"), from: "groups" },
    some: { label: tr("Which of them"), empty: "all" },
    at: { label: tr("Draws the bolts of"), from: "groups" },
    shows: { label: tr("Drawn beside it"), empty: "nothing" },
    limit: { label: tr("What it may be") },
    places: { label: tr("Read at so many places") },
    spots: { label: tr("Names of the places"), hint: tr("One a line") },
    reads: { label: tr("Readings") },
    ticks: { label: tr("List that is ticked") },
    marks: { label: tr("Marks that are compared") },
    items: { label: tr("What is placed, all as one act"), hint: tr("One a line, with its direction"), long: true },
    cautions: { label: tr("Cautions") },
    photo: { label: tr("Photograph of") },
    hold: { label: tr("Waited or held for"), unit: "min" },
    holdof: { label: tr("Waited as long as"), from: "needs" },
    must: { label: tr("It cannot be left undone") },
    by: { label: tr("Done by"), from: "people" },
    release: { label: tr("Then released by"), hint: tr("checker: another person"), from: "people" },
    beyond: { label: tr("Outside or undone only with"), from: "people" },
    back: { label: tr("A try that fails goes back to"), from: "steps" },
    proves: { label: tr("Proves") },
    for: { label: tr("Makes ready"), hint: tr("the bolts it lubricates or keeps dry"), from: "groups" },
    voided: { label: tr("Voided by work on"), from: "voiders" },
    sample: { label: tr("Measured on a sample of"), from: "groups" },
    from: { label: tr("Where its reading comes from"), hint: tr("left out: taken at the joint") },
    block: { label: tr("In any order with others of"), hint: tr("a name that steps one after the other share") },
    why,
    when: variants,
    id: { label: tr("Name in the file") },
  },
  limit,
  reads: {
    name: { label: tr("What is read"), usual: true },
    form: { label: tr("Form"), empty: "plain", usual: true },
    limit: { label: tr("What it may be"), usual: true },
    places: { label: tr("At so many places") },
    spots: { label: tr("Names of the places"), hint: tr("One a line") },
    unit: { label: tr("Read in"), empty: tr("as its limit says") },
    word: { label: tr("What a bare number counts") },
    over: { label: tr("Counted over"), from: "known" },
    target: { label: tr("Test pressure"), from: "needs" },
    gas: { label: tr("A gas: both ends brought to one temperature") },
    group: { label: tr("Bolts at the open side"), from: "groups" },
    from: { label: tr("Goes on from"), from: "kept" },
    keep: { label: tr("Kept for later steps as") },
    when: variants,
  },
  ticks: {
    text: { label: tr("What"), usual: true, long: true },
    part: { label: tr("Part that is placed"), from: "parts" },
    when: variants,
  },
  marks: {
    of: { label: tr("Read on"), usual: true },
    is: { label: tr("It must say") },
    alike: { label: tr("Alike within the set") },
    opposite: { label: tr("Across from the mark of"), from: "marks" },
    unlike: { label: tr("Unlike the mark of"), from: "marks" },
    from: { label: tr("Chosen from"), hint: tr("One a line") },
    free: { label: tr("Whatever it says is kept") },
    when: variants,
  },
  cautions: { kind: { label: tr("Kind"), usual: true }, text: { label: tr("What can go wrong"), long: true, usual: true }, why },
  repeats: {
    name: { label: tr("What one of them is"), hint: tr("layer"), usual: true },
    count: { label: tr("How many there are"), from: "needs", usual: true },
    each: { label: tr("Or each by its name"), hint: tr("One a line") },
    first: { label: tr("From the step"), from: "steps", usual: true },
    last: { label: tr("to the step"), from: "steps", usual: true },
    groups: { label: tr("Bolts that each has"), from: "groups", usual: true },
    needs: { label: tr("Values that each has"), from: "needs" },
    also: { label: tr("Steps outside that speak of each"), from: "steps" },
  },
  sheet: { title: { label: tr("Whose sheet it is"), usual: true } },
};

/** What one of a list is called, where it is added. */
export const ONE: Record<string, string> = {
  choices: tr("question"),
  needs: tr("value"),
  parts: tr("part"),
  tools: tr("tool"),
  materials: tr("material"),
  wear: tr("thing to wear"),
  groups: tr("group of bolts"),
  steps: tr("step"),
  reads: tr("reading"),
  ticks: tr("line"),
  marks: tr("mark"),
  cautions: tr("caution"),
  repeats: tr("repeat"),
};

/** What stands first in a new one of a list. */
export const NEW: Record<string, { [key: string]: string }> = {
  cautions: { kind: "danger" },
  groups: { layout: "ring", how: "torque" },
};

/** People whom steps ask for. */
export const PEOPLE = ["second person", "checker", "inspector", "engineer", "pressure person", "rigger", "installer"];
