'use client';

import type { CompletionContext, CompletionResult } from '@codemirror/autocomplete';
import { json } from '@codemirror/lang-json';
import { foldGutter } from '@codemirror/language';
import { linter, lintGutter, type Diagnostic } from '@codemirror/lint';
import { unifiedMergeView } from '@codemirror/merge';
import type { EditorState, Extension } from '@codemirror/state';
import { EditorView, hoverTooltip, lineNumbers } from '@codemirror/view';
import { useMemo } from 'react';
import { checkNewDriver, schemaAt } from '../../core/driver';
import { CodeField } from '../kit';
import { pathAt, placeOf, treeOf } from './json-place';

interface Props {
  readonly text: string;
  /** Another version, whose differences are shown in the text. */
  readonly compared?: string;
  readonly onText: (text: string) => void;
  /** Told where the caret is: the keys and indices that lead there. */
  readonly onPlace: (path: readonly (string | number)[]) => void;
}

/** A driver document as text: keys and values are completed from the schema, and each mistake is marked at its place. */
export default function DriverText({ text, compared, onText, onPlace }: Props) {
  const extensions = useMemo(
    (): readonly Extension[] => [
      json(),
      lineNumbers(),
      EditorView.lineWrapping,
      foldGutter(),
      lintGutter(),
      linter(({ state }) => mistakesIn(state), { delay: 300 }),
      hover,
      EditorView.updateListener.of(({ state, selectionSet, docChanged }) => {
        if (selectionSet || docChanged) onPlace(pathAt(state, state.selection.main.head));
      }),
      ...(compared === undefined ? [] : [unifiedMergeView({ original: compared, mergeControls: false })]),
    ],
    [compared, onPlace],
  );
  return (
    <CodeField label="Driver document" value={text} extensions={extensions} complete={complete} onChange={onText} />
  );
}

function mistakesIn(state: EditorState): Diagnostic[] {
  const text = state.doc.toString();
  if (text.trim() === '') return [];
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch (cause) {
    return [{ ...firstError(state), severity: 'error', message: `This is not JSON. ${(cause as Error).message}` }];
  }
  const compiled = checkNewDriver(document);
  if (compiled.ok) return [];
  return compiled.error.map(({ path, message }) => ({
    ...placeOf(state, path),
    severity: 'error',
    message: path === '' ? message : `${path}: ${message}`,
  }));
}

/** Where the text stops being JSON. */
function firstError(state: EditorState): { readonly from: number; readonly to: number } {
  let from: number | undefined;
  treeOf(state).iterate({
    enter: (node) => {
      if (node.type.isError) from ??= node.from;
    },
  });
  const at = Math.min(from ?? state.doc.length, state.doc.length);
  return { from: Math.max(0, at - 1), to: at };
}

function complete({ state, pos, explicit }: CompletionContext): CompletionResult | null {
  const node = treeOf(state).resolveInner(pos, -1);
  const isKey = node.name === 'PropertyName';
  const isValue = node.name === 'String';
  if (!isKey && !isValue) return null;
  const path = pathAt(state, node.from + 1);
  const { keys, values } = schemaAt(path);
  const put = (text: string) => (view: EditorView) =>
    view.dispatch({
      changes: { from: node.from, to: node.to, insert: text },
      selection: { anchor: node.from + text.length },
      userEvent: 'input.complete',
    });
  const options = isKey
    ? keys.map(({ name, what, isRequired }) => ({
        label: name,
        detail: `${what}${isRequired ? ', required' : ''}`,
        apply: put(JSON.stringify(name)),
      }))
    : values.map((value) => ({ label: value.replace(/^"|"$/g, ''), apply: put(value) }));
  // When the list is opened by a key, it offers everything that is allowed here, whatever the present text is.
  return options.length === 0 ? null : { from: node.from + 1, options, filter: !explicit };
}

/** What the schema says of the key under the pointer. */
const hover = hoverTooltip(({ state }, position) => {
  const node = treeOf(state).resolveInner(position, -1);
  if (node.name !== 'PropertyName') return null;
  const path = pathAt(state, node.from + 1);
  const name = state.sliceDoc(node.from + 1, node.to - 1);
  const key = schemaAt(path).keys.find((each) => each.name === name);
  if (!key) return null;
  return {
    pos: node.from,
    end: node.to,
    create: () => {
      const dom = document.createElement('div');
      dom.className = 'driver-hover';
      dom.textContent = `${name}: ${key.what}${key.isRequired ? ', required' : ''}`;
      return { dom };
    },
  };
});
