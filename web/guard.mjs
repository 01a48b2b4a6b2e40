/**
 * What the core alone computes must not be computed here: no formula, and no sum or comparison of values of the document.
 *
 * A number of the document may be shown, converted (`lib/units.ts`) and drawn (`ui/Plot.tsx`, drawings). Where one is laid beside another, or beside a limit,
 * that is a judgement, and the core has it. The few places that may are named in ALLOWED, each with its reason.
 */
import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import ts from "typescript";

const ROOT = join(import.meta.dirname, "src");
const ALLOWED = {
  "stages/power/VoltWindow.tsx": "a drawing: where the controller's words stand between its two volts",
};

const SUMS = new Set([
  ts.SyntaxKind.PlusToken,
  ts.SyntaxKind.MinusToken,
  ts.SyntaxKind.AsteriskToken,
  ts.SyntaxKind.SlashToken,
  ts.SyntaxKind.AsteriskAsteriskToken,
  ts.SyntaxKind.LessThanToken,
  ts.SyntaxKind.LessThanEqualsToken,
  ts.SyntaxKind.GreaterThanToken,
  ts.SyntaxKind.GreaterThanEqualsToken,
]);

/** Whether an expression is a value out of the document: what `read` gives, a figure's `value` that is no form control's, or a name given to one. */
function ofTheDocument(node) {
  if (ts.isIdentifier(node)) return named.has(node.text);
  if (ts.isParenthesizedExpression(node) || ts.isAsExpression(node) || ts.isNonNullExpression(node)) return ofTheDocument(node.expression);
  if (ts.isBinaryExpression(node) && !SUMS.has(node.operatorToken.kind)) return ofTheDocument(node.left) || ofTheDocument(node.right);
  if (ts.isCallExpression(node)) {
    const name = node.expression.getText();
    return name === "read" || (name === "Number" && node.arguments.some(ofTheDocument));
  }
  return ts.isPropertyAccessExpression(node) && node.name.text === "value" && !/\b(target|currentTarget|current)\b/.test(node.expression.getText());
}

const files = readdirSync(ROOT, { recursive: true, withFileTypes: true })
  .filter((one) => one.isFile() && /\.tsx?$/.test(one.name) && !/\.test\.|schema\.d\.ts$/.test(one.name))
  .map((one) => join(one.parentPath, one.name));
const found = [];
let named = new Set();
for (const file of files) {
  const name = relative(ROOT, file);
  const tree = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  named = new Set();
  const names = (node) => {
    if (ts.isVariableDeclaration(node) && ts.isIdentifier(node.name) && node.initializer && ofTheDocument(node.initializer)) named.add(node.name.text);
    ts.forEachChild(node, names);
  };
  names(tree);
  const visit = (node) => {
    // Against nothing: whether it was entered.
    const entered = ts.isBinaryExpression(node) && node.right.getText() === "0";
    if (!entered && ts.isBinaryExpression(node) && SUMS.has(node.operatorToken.kind) && (ofTheDocument(node.left) || ofTheDocument(node.right))) {
      const { line } = tree.getLineAndCharacterOfPosition(node.getStart());
      if (!ALLOWED[name]) found.push(`src/${name}:${line + 1}: ${node.getText().slice(0, 100)}`);
    }
    ts.forEachChild(node, visit);
  };
  visit(tree);
}
for (const place of found) console.log(`The web computes and judges nothing of the document, this looks like it: ${place}`);
process.exit(found.length ? 1 : 0);
