/// <reference lib="webworker" />
import "./wasm_exec.js";
import module from "./pocket.wasm?url";
import type { Answer, Question } from "./pocket";

declare const self: DedicatedWorkerGlobalScope & {
  Go: new () => { importObject: WebAssembly.Imports; run: (i: WebAssembly.Instance) => Promise<void> };
  /** The judge: what is asked, about what, and when; it takes and returns JSON. */
  dynacor: (what: string, body: string, at: string) => string;
};

/** The craft itself, begun once for all questions. */
const begun = (async () => {
  const go = new self.Go();
  const { instance } = await WebAssembly.instantiateStreaming(fetch(module), go.importObject);
  void go.run(instance);
})();

self.onmessage = async ({ data: { no, what, body, at } }: MessageEvent<Question>) => {
  let answer: Answer;
  try {
    await begun;
    const start = performance.now();
    const said = self.dynacor(what, body, at);
    answer = { no, ...(JSON.parse(said) as object), took: performance.now() - start };
  } catch (e) {
    answer = { no, failed: String(e) };
  }
  self.postMessage(answer);
};
