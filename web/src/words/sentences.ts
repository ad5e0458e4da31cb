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

const NAMING = /^(label|title|aria-label|placeholder|description|hint|act|words|aside|alt|note|name)$/;
const UNIT = /^\W*(kN|MPa|N·m|mm|bar|min)\W*$/;

/** Finds the words on screen that no catalogue is asked for, each with its file and line. A name that is no word, as of a field, is small. */
export function bare(sources: Record<string, string>): string[] {
  const out: string[] = [];
  for (const [file, source] of Object.entries(sources).filter(([f]) => f.endsWith(".tsx"))) {
    const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
    const look = (n: ts.Node, text: string, naming: boolean) => {
      if (!/\p{L}{2,}/u.test(text) || UNIT.test(text) || (naming && !/^\p{Lu}/u.test(text))) return;
      out.push(`${file}:${tree.getLineAndCharacterOfPosition(n.getStart(tree)).line + 1}: ${text.trim()}`);
    };
    const shown = (n: ts.Node, naming = false): void => {
      if (ts.isStringLiteralLike(n)) look(n, n.text, naming);
      else if (ts.isTemplateExpression(n)) {
        [n.head, ...n.templateSpans.map((s) => s.literal)].forEach((part) => look(n, part.text, naming));
        n.templateSpans.forEach((s) => shown(s.expression, naming));
      } else if (ts.isParenthesizedExpression(n)) shown(n.expression, naming);
      else if (ts.isConditionalExpression(n)) [n.whenTrue, n.whenFalse].forEach((x) => shown(x, naming));
      else if (ts.isBinaryExpression(n) && CHOOSING.has(n.operatorToken.kind)) {
        if (n.operatorToken.kind !== ts.SyntaxKind.AmpersandAmpersandToken) shown(n.left, naming);
        shown(n.right, naming);
      }
    };
    const visit = (n: ts.Node): void => {
      if (ts.isJsxText(n)) look(n, n.text, false);
      if (ts.isJsxExpression(n) && n.expression && !ts.isJsxAttribute(n.parent)) shown(n.expression);
      if (ts.isJsxAttribute(n) && n.initializer && NAMING.test(n.name.getText(tree))) {
        const naming = n.name.getText(tree) === "name";
        if (ts.isStringLiteral(n.initializer)) shown(n.initializer, naming);
        else if (ts.isJsxExpression(n.initializer) && n.initializer.expression) shown(n.initializer.expression, naming);
      }
      ts.forEachChild(n, visit);
    };
    visit(tree);
  }
  return out;
}

const CHOOSING = new Set([
  ts.SyntaxKind.AmpersandAmpersandToken,
  ts.SyntaxKind.BarBarToken,
  ts.SyntaxKind.QuestionQuestionToken,
  ts.SyntaxKind.PlusToken,
]);
