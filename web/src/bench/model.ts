/// <reference lib="webworker" />
import "../pocket/wasm_exec.js";
import module from "./bench.wasm?url";
import type { BenchReply, BenchQuestion } from "./trier";

declare const self: DedicatedWorkerGlobalScope & {
  Go: new () => { importObject: WebAssembly.Imports; run: (i: WebAssembly.Instance) => Promise<void> };
  /** What is asked, about what; it takes and returns JSON. */
  dynacorBench: (what: string, body: string) => string;
};

const begun = (async () => {
  const go = new self.Go();
  const { instance } = await WebAssembly.instantiateStreaming(fetch(module), go.importObject);
  void go.run(instance);
})();

self.onmessage = async ({ data: { no, what, body } }: MessageEvent<BenchQuestion>) => {
  let answer: BenchReply;
  try {
    await begun;
    const start = performance.now();
    const said = self.dynacorBench(what, body);
    const took = performance.now() - start;
    answer = { no, said, took };
  } catch (e) {
    answer = { no, failed: String(e) };
  }
  self.postMessage(answer);
};
