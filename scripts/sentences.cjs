/**
 * Every sentence that users meet, found by walking the syntax of the sources: texts, templates and the text of elements. Technical strings
 * (keys, names of classes, lines of programs, addresses, SQL) are left out.
 */
const { readdirSync, readFileSync } = require("node:fs");
const { join } = require("node:path");
const ts = require("typescript");

const root = join(__dirname, "..");

/** Elements' properties whose text is shown or read out. */
const SHOWN_PROPERTIES = new Set([
  "label",
  "title",
  "placeholder",
  "aria-label",
  "okText",
  "cancelText",
  "alt",
  "what",
  "says",
  "unit",
]);
/** Properties whose text is technical, whatever it looks like. */
const TECHNICAL = new Set([
  "className",
  "class",
  "key",
  "id",
  "href",
  "src",
  "d",
  "style",
  "role",
  "type",
  "name",
  "path",
  "transform",
  "viewBox",
]);
/** Calls whose text nobody is shown. */
const UNSEEN_CALLS =
  /^(prepare|exec|pragma|require|import|querySelector|querySelectorAll|addEventListener|matchMedia|getContext|createHash|log|warn|debug|error)$/;

/** Whether a text reads like words for people. */
function isSaid(text, isElementText) {
  const words = text.trim();
  if (!/[A-Za-z]{2}/.test(words)) return false;
  if (isElementText) return true;
  // A sentence or a label: begins with a capital or holds a space between words, and is no line of a program, SQL, address or style.
  if (/^\s*(SELECT|INSERT|UPDATE|DELETE|CREATE|PRAGMA|VACUUM|BEGIN|COMMIT|WITH|ALTER|DROP)\b/.test(text)) return false;
  if (/^[MGT]\d+\b/.test(words) || /^(https?:|\/|\.|#|@|--|\[)/.test(words)) return false;
  if (/^[a-z0-9-]+(\.[a-z0-9-]+)*$/i.test(words) && !/^[A-Z][a-z]+$/.test(words)) return false;
  if (/var\(--|px\b.*px\b|minmax\(|solid |rgba?\(|monospace|sans-serif/.test(words)) return false;
  return /[A-Za-z]{2,} +\S*[A-Za-z]{2,}/.test(words) || /^[A-Z][a-z]+$/.test(words);
}

/** A template with its blanks as `…`. */
function templateText(node) {
  return node.head.text + node.templateSpans.map(({ literal }) => `…${literal.text}`).join("");
}

function calleeName(node) {
  const { expression } = node;
  if (ts.isIdentifier(expression)) return expression.text;
  return ts.isPropertyAccessExpression(expression) ? expression.name.text : "";
}

/** Whether a text stands where nobody is shown it: in an import, a type, a technical property, a comparison, an index. */
function isUnseen(node) {
  const { parent } = node;
  if (!parent) return true;
  if (ts.isImportDeclaration(parent) || ts.isExportDeclaration(parent) || ts.isLiteralTypeNode(parent)) return true;
  if (ts.isElementAccessExpression(parent) && parent.argumentExpression === node) return true;
  if ((ts.isPropertyAssignment(parent) || ts.isPropertySignature(parent)) && parent.name === node) return true;
  if (ts.isJsxAttribute(parent))
    return TECHNICAL.has(parent.name.getText()) && !SHOWN_PROPERTIES.has(parent.name.getText());
  if (ts.isCaseClause(parent)) return true;
  if (ts.isBinaryExpression(parent) && /^[!=]==?$/.test(parent.operatorToken.getText())) return true;
  if (ts.isCallExpression(parent) && UNSEEN_CALLS.test(calleeName(parent))) return true;
  if (ts.isTaggedTemplateExpression(parent)) return true;
  return false;
}

/** All sentences of one source: the text with `…` for its blanks, and the line (from 1) it stands in. */
function sentencesOf(file, text) {
  const source = ts.createSourceFile(
    file,
    text,
    ts.ScriptTarget.Latest,
    true,
    file.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found = [];
  const add = (node, said, isElementText = false) => {
    const clean = said.replace(/\s+/g, " ").trim();
    if (!isSaid(clean, isElementText)) return;
    found.push({ text: clean, line: source.getLineAndCharacterOfPosition(node.getStart(source)).line + 1 });
  };
  const visit = (node) => {
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) {
      if (!isUnseen(node)) add(node, node.text);
    } else if (ts.isTemplateExpression(node)) {
      if (!isUnseen(node)) add(node, templateText(node));
      node.templateSpans.forEach(({ expression }) => visit(expression));
      return;
    } else if (ts.isJsxText(node)) {
      add(node, node.text, true);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** The room of a source, for the order of the list: `ui/trials`, `core/checks`. */
const roomOf = (file) => file.split("/").slice(0, 2).join("/");

/** Every sentence of the program, by room, file and line. */
function allSentences() {
  const files = readdirSync(join(root, "src"), { recursive: true })
    .map((name) => name.split("\\").join("/"))
    .filter((name) => /\.tsx?$/.test(name))
    .sort();
  return files.flatMap((file) =>
    sentencesOf(file, readFileSync(join(root, "src", file), "utf8")).map((one) => ({
      room: roomOf(file),
      file: `src/${file}`,
      ...one,
    })),
  );
}

/** Ways of speaking that a reader stumbles over, and what is said instead. */
const STUMBLING = [
  [/\bbehind (this G|it\b(?! reads))/i, "after"],
  [/\b(lies|lie) (outside|inside|on|in|at|over|between|beside|above|below|there)\b/i, "is, are"],
  [/\bcomes? to (no|a|an|nothing)\b/i, "has no, is"],
  [/\b(is|was|were|are|be) told\b(?! apart)/i, "is set to, is sent"],
  [/\b(of|by|without|no|any|old|new|plain|\d+) figures?\b/i, "number, value"],
  [/^figures?\b/i, "number, value"],
  [/\b(\d+|most|least|many|control|holds?|…) letters\b(?! to be)/i, "characters"],
  [/\b(left|leave|stays?|sent|along|file|sheet) as it (is|was|stands)\b/i, "unchanged"],
  [/\bin force\b/i, "set now"],
  [/\bwants? to be (drawn|pressed|laid)\b/i, "needs"],
  [/\bas chance would have it\b/i, "at random"],
  [/\bnobody (has|knows|sees)\b/i, "unknown"],
  [/\bknows no half\b/i, "can't run at half speed"],
  [/\bputs? right\b/i, "corrects"],
  [/\b(names|named) (a|the) position anew\b/i, "resets a position"],
  [/\btyped as it was read\b/i, "did you type it correctly"],
];

/** What a sentence stumbles over: the words, and what is said instead; null if nothing. */
function stumbled(text) {
  for (const [words, instead] of STUMBLING) {
    const found = words.exec(text);
    if (found) return { words: found[0], instead };
  }
  return null;
}

module.exports = { allSentences, sentencesOf, stumbled };
