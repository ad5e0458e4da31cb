import { expect, test } from "vitest";
import { another, at, insert, move, names, put, text, type Doc } from "./document";

const doc: Doc = { id: "a", steps: [{ id: "x", limit: { low: 0 } }, { id: "y" }], kit: { tools: [{ text: "rag" }] } };

test("what is put is there, and what was before stays", () => {
  const next = put(doc, ["steps", 0, "limit", "high"], 2);
  expect(at(next, ["steps", 0, "limit"])).toEqual({ low: 0, high: 2 });
  expect(at(doc, ["steps", 0, "limit"])).toEqual({ low: 0 });
  expect(next.kit).toBe(doc.kit);
  expect(at(put(doc, ["axis", "first"], "gas end"), ["axis"])).toEqual({ first: "gas end" });
});

test("what is taken out is gone, of a thing and of a list", () => {
  expect(put(doc, ["steps", 0, "limit"], undefined).steps).toEqual([{ id: "x" }, { id: "y" }]);
  expect(put(doc, ["steps", 0], undefined).steps).toEqual([{ id: "y" }]);
});

test("things of a list are added and moved, and not past its ends", () => {
  expect(names(insert(doc, ["steps"], 1, { id: "z" }), ["steps"], "id")).toEqual(["x", "z", "y"]);
  expect(names(insert(doc, ["parts"], 0, { name: "nut" }), ["parts"], "name")).toEqual(["nut"]);
  expect(names(move(doc, ["steps"], 1, 0), ["steps"], "id")).toEqual(["y", "x"]);
  expect(move(doc, ["steps"], 1, 2)).toBe(doc);
  expect(move(doc, ["steps"], 0, -1)).toBe(doc);
});

test("names are told apart", () => {
  expect(another("x", ["x", "x-2"])).toBe("x-3");
  expect(another("q", ["x"])).toBe("q");
  expect(text(doc, "kit", "tools", 0, "text")).toBe("rag");
  expect(text(doc, "nothing", 3)).toBe("");
});
