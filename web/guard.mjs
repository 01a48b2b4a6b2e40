/**
 * Two things the page does not do: judge the document, and say something that does not stand in `texts/`.
 *
 * What the core alone computes must not be computed here: no formula, and no sum or comparison of values of the document.
 *
 * A number of the document may be shown, converted (`texts/units.ts`) and drawn (`ui/Plot.tsx`, drawings). Where one is laid beside another, or beside a limit,
 * that is a judgement, and the core has it. The few places that may are named in ALLOWED, each with its reason.
 */
import { existsSync, readdirSync, readFileSync } from "node:fs";
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

/**
 * What is read on the screen stands in `texts/`, sentence by sentence. A string elsewhere that reads like words is a value the generated types
 * name, tells how a thing looks, or is in SPELLED, each with its reason.
 */
const VALUES = new Set(
  ["api/choices.ts", "api/schema.d.ts"].flatMap((name) =>
    [...readFileSync(join(ROOT, name), "utf8").matchAll(/"([^"\n]+)"/g)].map((one) => one[1]),
  ),
);
const SPELLED = {
  "ui/Field.tsx: FormProvider is missing": "for whoever writes a screen",
  "lib/settings.tsx: SettingsProvider is missing": "for whoever writes a screen",
  "rack/kinds.ts: plug colours": "a kind of part",
  "stages/hookup/ColoursSection.tsx: plug colours": "a kind of part",
  "stages/hookup/ColoursSection.tsx: plug colours.csv": "a file",
  "sheet/DrawingSheets.tsx: @page { size: …mm …mm; margin: …mm; }": "a style",
  "stages/drive/Fields.tsx: Kv": "a symbol",
  "start/Arrangement.tsx: best start": "a value of the core",
  "stages/drive/LimitsSection.tsx: tips back": "a value of the core",
  "stages/hookup/LogicSection.tsx: Pedal switch": "a name the core gives",
  "stages/hookup/MeterSection.tsx: minus_bar.": "an id of the hookup",
  "stages/stage.ts: back.": "an id of the hookup",
  "frame/Shortcuts.tsx: input, textarea, select, [contenteditable], [role=dialog], [role=menu]": "a selector",
  "stages/hookup/StepCard.tsx: input, button[type=submit]": "a selector",
};
const LOOKS =
  /^(class|className|style|d|viewBox|to|href|key|id|queryKey|transform|pointer|path|htmlFor|type|accept|background|stroke|fill|tone|box|rests|aria-describedby|autoComplete|colour|gridTemplateColumns)$/;
const SAID = /^(aria-label|aria-valuetext|description|label|line|names|note|options|otherwise|placeholder|title|words|xLabel|yLabel|alt|aside)$/;
const SENTENCE = /[A-Za-z]{2,}[,.;:]? [A-Za-z]{2,}|^ [a-z]{2,}|[a-z]{3,}[.…]$/;
const CLASSES =
  /(^| )([a-z-]+:)*-?!?(text|bg|border|grid|flex|p|px|py|m|mx|my|mt|mb|ml|mr|pl|pr|w|h|min|max|gap|rounded|font|inline|block|absolute|relative|size|col|row|items|justify|whitespace|overflow|sticky|inset|opacity|z|hidden|truncate|btn|input|shrink|self|content|underline|cursor|table|animate|noprint)(-|:|$| )/;
const isString = (node) => ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node) || ts.isTemplateExpression(node);
const textOf = (node) =>
  ts.isTemplateExpression(node) ? node.head.text + node.templateSpans.map((span) => `…${span.literal.text}`).join("") : node.text;

/** What a string becomes a part of: past any choice between strings, what stands in for a missing one, and the template it is put into. */
function carrier(node) {
  const up = node.parent;
  const chosen = ts.isConditionalExpression(up) && up.condition !== node;
  const otherwise = ts.isBinaryExpression(up) && ["??", "||", "&&"].includes(up.operatorToken.getText());
  const put = ts.isTemplateSpan(up) || ts.isTemplateExpression(up);
  return ts.isParenthesizedExpression(up) || chosen || otherwise || put ? carrier(up) : up;
}

/** The attribute a string is the value of, one of a table's names or of what can be chosen too, and whether it is said right between tags. */
function place(node) {
  let up = carrier(node);
  for (; ts.isArrayLiteralExpression(up); up = carrier(up)) if (ts.isArrayLiteralExpression(up.parent) && up.elements[0] === node) break;
  if (!ts.isJsxExpression(up)) return { attribute: ts.isJsxAttribute(up) ? up.name.getText() : "", child: false };
  return { attribute: ts.isJsxAttribute(up.parent) ? up.parent.name.getText() : "", child: !ts.isJsxAttribute(up.parent) };
}

/** Words in a file that should stand in `texts/`. */
function wordsIn(tree, name) {
  const words = [];
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node) || ts.isInterfaceDeclaration(node)) return;
    if ((ts.isJsxAttribute(node) || ts.isPropertyAssignment(node)) && LOOKS.test(node.name.getText())) return;
    if (ts.isJsxText(node) && /[A-Za-z]{2,}/.test(node.text)) words.push(node.text.trim());
    if (isString(node)) {
      const text = textOf(node);
      const { attribute, child } = place(node);
      const shown = SAID.test(attribute) || child;
      const read = shown ? /[A-Za-z]{2,}/.test(text) : SENTENCE.test(text) && !CLASSES.test(text) && !VALUES.has(text);
      if (read && !SPELLED[`${name}: ${text}`]) words.push(text);
    }
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return words;
}

/** Texts nobody says, and files they name that are not there. */
function unsaid(tree) {
  const left = [];
  for (const statement of tree.statements) {
    const where = /In ([\w/.]+)\. \*\//.exec(tree.text.slice(statement.pos, statement.getStart()))?.[1];
    if (!ts.isVariableStatement(statement) || !where) continue;
    const speaker = existsSync(join(ROOT, where)) ? readFileSync(join(ROOT, where), "utf8") : "";
    for (const text of statement.declarationList.declarations[0].initializer.properties)
      if (!new RegExp(`\\bsay\\.${text.name.text}\\b`).test(speaker)) left.push(`${where} does not say ${text.name.text}`);
  }
  return left;
}

const files = readdirSync(ROOT, { recursive: true, withFileTypes: true })
  .filter((one) => one.isFile() && /\.tsx?$/.test(one.name) && !/\.test\.|schema\.d\.ts$/.test(one.name))
  .map((one) => join(one.parentPath, one.name));
const found = [];
const unspoken = [];
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
  if (name.startsWith("texts/")) unspoken.push(...unsaid(tree));
  else if (!/^(api|testing)\//.test(name)) for (const words of wordsIn(tree, name)) unspoken.push(`src/${name} says “${words.slice(0, 80)}” itself`);
}
for (const text of unspoken) console.log(`Texts of the screen stand in texts/, each said by the file named above it: ${text}`);
for (const place of found) console.log(`The web computes and judges nothing of the document, this looks like it: ${place}`);
process.exit(found.length || unspoken.length ? 1 : 0);
