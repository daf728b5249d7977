import { ensureSyntaxTree, syntaxTree } from '@codemirror/language';
import type { EditorState } from '@codemirror/state';
import type { SyntaxNode } from '@lezer/common';

const parseWithinMs = 200;

/** The whole document as it is read, as far as that is quick: a driver of 50 kB takes some milliseconds. */
export const treeOf = (state: EditorState) =>
  ensureSyntaxTree(state, state.doc.length, parseWithinMs) ?? syntaxTree(state);

type Path = readonly (string | number)[];

/** The keys and indices that lead to a position in a JSON document. A key that is being typed is not yet part of it. */
export function pathAt(state: EditorState, position: number): Path {
  const path: (string | number)[] = [];
  let node: SyntaxNode | null = treeOf(state).resolveInner(position, -1);
  // Behind a comma or a colon the tree is at what holds them already.
  for (let child: SyntaxNode | null = null; node; child = node, node = node.parent) {
    if (node.name === 'Property' && child && child.name !== 'PropertyName') path.unshift(keyOf(state, node) ?? '');
    if (node.name === 'Property' && !child) path.unshift(keyOf(state, node) ?? '');
    if (node.name === 'Array' && child) path.unshift(elementsOf(node).findIndex((each) => each.from === child?.from));
  }
  return path;
}

/** The place of the value at a dotted path; where it is missing, of its nearest parent. A key may contain dots. */
export function placeOf(state: EditorState, path: string): { readonly from: number; readonly to: number } {
  let node: SyntaxNode | null = treeOf(state).topNode.firstChild;
  let rest = path;
  let found = node;
  while (node && rest !== '') {
    const next = stepInto(state, node, rest);
    if (!next) break;
    [node, rest] = next;
    found = node;
  }
  // Of something large its first line says where it is.
  const from = found?.from ?? 0;
  return { from, to: Math.min(found?.to ?? 0, state.doc.lineAt(from).to) };
}

function stepInto(state: EditorState, node: SyntaxNode, rest: string): [SyntaxNode, string] | undefined {
  if (node.name === 'Array') {
    const index = /^\d+/.exec(rest)?.[0];
    const element = index === undefined ? undefined : elementsOf(node)[Number(index)];
    return element && [element, rest.slice((index?.length ?? 0) + 1)];
  }
  if (node.name !== 'Object') return undefined;
  const fitting = node
    .getChildren('Property')
    .map((property) => ({ property, key: keyOf(state, property) ?? '' }))
    .filter(({ key }) => rest === key || rest.startsWith(`${key}.`))
    .sort((a, b) => b.key.length - a.key.length)[0];
  const value = fitting?.property.lastChild;
  if (!fitting || !value) return undefined;
  // A value that is missing altogether is marked at its key.
  return [value, rest.slice(fitting.key.length + 1)];
}

function keyOf(state: EditorState, property: SyntaxNode): string | undefined {
  const name = property.getChild('PropertyName');
  if (!name) return undefined;
  try {
    return JSON.parse(state.sliceDoc(name.from, name.to)) as string;
  } catch {
    // It is being typed.
    return undefined;
  }
}

const values = new Set(['Object', 'Array', 'String', 'Number', 'True', 'False', 'Null']);

function elementsOf(array: SyntaxNode): SyntaxNode[] {
  const elements: SyntaxNode[] = [];
  for (let child = array.firstChild; child; child = child.nextSibling) if (values.has(child.name)) elements.push(child);
  return elements;
}
