/**
 * Prints every text that a person can read in the program, with its place, for somebody who reads them all in one go:
 *
 *   npm run words [folder …]
 *
 * By default the interface, the application and the core. Texts are found by where they stand in the code: between tags, in attributes
 * that are read out or shown, in fields that hold words, and wherever a string has several words.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';

const folders = process.argv.slice(2);
if (folders.length === 0) folders.push('src/ui', 'src/app', 'src/core');

/** Attributes and fields whose strings are words, however short. */
const wordy = new Set([
  'aria-label',
  'title',
  'placeholder',
  'label',
  'remark',
  'alt',
  'health',
  'message',
  'tryNext',
  'means',
  'help',
  'say',
]);
/** Attributes that are never words. */
const silent = new Set(['className', 'style', 'd', 'viewBox', 'href', 'pattern', 'key', 'id', 'htmlFor', 'data-stage']);

const files = folders.flatMap((folder) =>
  readdirSync(folder, { recursive: true })
    .map((name) => join(folder, String(name)))
    .filter((name) => /\.tsx?$/.test(name) && !/\.(test|d)\.tsx?$/.test(name)),
);

let count = 0;
for (const file of files.sort()) {
  const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true);
  const say = (node, text) => {
    const words = text.replace(/\s+/g, ' ').trim();
    if (!/[A-Za-z]{2}/.test(words)) return;
    count += 1;
    const { line } = source.getLineAndCharacterOfPosition(node.getStart());
    console.log(`${file}:${line + 1}\t${words}`);
  };
  const walk = (node) => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isTypeNode(node)) return;
    if (ts.isJsxAttribute(node) && silent.has(node.name.getText())) return;
    if (ts.isJsxText(node)) return say(node, node.text);
    const text = textOf(node);
    if (text !== undefined) {
      if (isWordyPlace(node) || / [a-zA-Z]/.test(text)) if (!looksLikeClasses(text)) say(node, text);
      return;
    }
    ts.forEachChild(node, walk);
  };
  walk(source);
}
console.error(`${count} texts in ${files.length} files`);

/** A string, or a template with `…` for what is filled in. */
function textOf(node) {
  if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return node.text;
  if (!ts.isTemplateExpression(node)) return undefined;
  return node.head.text + node.templateSpans.map(({ literal }) => `…${literal.text}`).join('');
}

function isWordyPlace(node) {
  for (let { parent } = node; parent; parent = parent.parent) {
    if (ts.isJsxAttribute(parent) || ts.isPropertyAssignment(parent))
      return wordy.has(parent.name.getText().replace(/['"]/g, ''));
    if (ts.isStatement(parent)) return false;
  }
  return false;
}

/** Utilities of the style sheet are words with hyphens and brackets, not a sentence. */
function looksLikeClasses(text) {
  const tokens = text.trim().split(/\s+/);
  return (
    tokens.filter(
      (token) =>
        /^[a-z!-]+(?:[-:[(].*)$/.test(token) ||
        /^(flex|grid|border|block|hidden|truncate|relative|absolute|fixed)$/.test(token),
    ).length *
      2 >
    tokens.length
  );
}
