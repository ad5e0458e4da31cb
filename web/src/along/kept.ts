/**
 * What the page and its service worker agree on: where answers are kept that were taken along, and how an answer says
 * that it is a kept one.
 */

/** The cache that taken answers lie in. Nothing else of ours does, and no release throws it away. */
export const CACHE = "dynacor-along";

/** On a kept answer: when the server gave it. */
export const KEPT = "X-Dynacor-Kept";

/** On a kept answer: to whom; on a question: who asks. */
export const PERSON = "X-Dynacor-Person";

/** What the page says to its worker: take over from the version before. */
export const TAKE_OVER = "take over";

/** The cache that the judge of this device lies in: the one of the program that took something along. */
export const POCKET = "dynacor-pocket";

/** Whether an address is that of a judge. */
export const isPocket = (path: string) => /^\/assets\/pocket-[^/]+\.wasm$/.test(path);

/** The cache that the model of the Bench lies in, once it was there: the one of the program that asked for it. */
export const BENCH = "dynacor-bench";

/** Whether an address is that of a model. */
export const isBench = (path: string) => /^\/assets\/bench-[^/]+\.wasm$/.test(path);

/** What may be answered from what was kept. The stream of changes is never, nor is anything that stores. */
export const mayBeKept = (path: string) => /^\/api\/(session|words|wall|joints\/|photos\/|papers)/.test(path);
