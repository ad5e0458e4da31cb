// Answers questions to judges, one a line.
import { readFileSync } from "node:fs";
import { createInterface } from "node:readline";
import { pathToFileURL } from "node:url";

const from = process.argv.at(-1);
await import(pathToFileURL(`${from}/wasm_exec.js`));
const module = new WebAssembly.Module(readFileSync(`${from}/pocket.wasm`));
const judges = new Map();

async function judgeOf(name) {
  if (!judges.has(name)) {
    const go = new globalThis.Go();
    void go.run(await WebAssembly.instantiate(module, go.importObject));
    judges.set(name, globalThis.dynacor);
  }
  return judges.get(name);
}

for await (const line of createInterface({ input: process.stdin })) {
  const { no, judge, what, body, at } = JSON.parse(line);
  let out;
  try {
    const ask = await judgeOf(judge);
    out = { no, ...JSON.parse(ask(what, body, at)) };
  } catch (e) {
    out = { no, failed: String(e) };
  }
  process.stdout.write(`${JSON.stringify(out)}\n`);
}
process.exit(0);
