import ts from "typescript";

/** A sentence that some screen says. */
export interface Sentence {
  /** The English, with its context after a bar where it has one: as catalogues have it. */
  key: string;
  /** The file that says it. */
  file: string;
}

/** Reads every sentence that screens say from their sources, by path. What is no literal cannot be translated, and is refused. */
export function sentences(sources: Record<string, string>): Sentence[] {
  const out: Sentence[] = [];
  for (const [file, text] of Object.entries(sources)) {
    const tree = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
    const add = (e: ts.Expression, context = ""): void => {
      if (ts.isStringLiteralLike(e)) out.push({ key: e.text + context, file });
      else if (ts.isConditionalExpression(e)) [e.whenTrue, e.whenFalse].forEach((x) => add(x, context));
      else throw new Error(`${file}: ${e.getText(tree)} is no sentence; say it as one`);
    };
    const visit = (n: ts.Node): void => {
      if (ts.isCallExpression(n) && n.expression.getText(tree) === "tr") add(n.arguments[0]!, contextOf(n.arguments[1]));
      if (ts.isJsxSelfClosingElement(n) && n.tagName.getText(tree) === "Say") add(saidBy(n));
      ts.forEachChild(n, visit);
    };
    visit(tree);
  }
  return out;
}

function contextOf(holes: ts.Expression | undefined) {
  if (!holes || !ts.isObjectLiteralExpression(holes)) return "";
  const context = holes.properties.find((p): p is ts.PropertyAssignment => ts.isPropertyAssignment(p) && p.name.getText() === "context");
  return context && ts.isStringLiteralLike(context.initializer) ? `|${context.initializer.text}` : "";
}

function saidBy(say: ts.JsxSelfClosingElement): ts.Expression {
  const of = say.attributes.properties.find((p): p is ts.JsxAttribute => ts.isJsxAttribute(p) && p.name.getText() === "of")?.initializer;
  if (of && ts.isStringLiteral(of)) return of;
  if (of && ts.isJsxExpression(of) && of.expression) return of.expression;
  throw new Error("a Say without its sentence");
}
