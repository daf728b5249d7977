'use client';

import {
  acceptCompletion,
  autocompletion,
  closeCompletion,
  completionKeymap,
  completionStatus,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { Compartment, EditorState, type Extension } from '@codemirror/state';
import { EditorView, keymap, placeholder as placeholderText } from '@codemirror/view';
import { useEffect, useEffectEvent, useRef } from 'react';

interface Props {
  readonly id?: string;
  /** The accessible name. */
  readonly label: string;
  readonly value: string;
  /** One line: Enter commits. */
  readonly isLine?: boolean;
  readonly placeholder?: string;
  readonly maxLength?: number;
  readonly invalid?: boolean;
  readonly describedBy?: string;
  /** The language. A new array puts it in anew; keep it while nothing of it changes. */
  readonly extensions?: readonly Extension[];
  /** How the text can go on at the caret. */
  readonly complete?: (context: CompletionContext) => CompletionResult | null;
  /** What is drawn in the text and follows the devices: chips, marks. */
  readonly drawn?: readonly Extension[];
  readonly onChange: (text: string) => void;
  readonly onCommit?: () => void;
  /** Escape, where no list of completions is open. Returns whether it had something to do. */
  readonly onRevert?: () => boolean;
  readonly onBlur?: () => void;
}

const look = EditorView.theme({
  '&': {
    color: 'var(--ink)',
    backgroundColor: 'var(--tape)',
    border: '1px solid var(--rule-strong)',
    fontSize: 'inherit',
  },
  '&.cm-focused': { outline: '2px solid var(--accent)', outlineOffset: '1px' },
  '.cm-scroller': { fontFamily: 'inherit', lineHeight: '1.5' },
  '.cm-content': { caretColor: 'var(--ink)', outline: 'none !important', border: '0 !important' },
  '&:has([aria-invalid="true"])': { borderColor: 'var(--ink)', boxShadow: 'inset 0 0 0 1px var(--ink)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '.cm-placeholder': { color: 'var(--ink-soft)' },
  '.cm-gutters': { backgroundColor: 'var(--raised)', color: 'var(--ink-soft)', borderRight: '1px solid var(--rule)' },
  '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'transparent' },
  '.cm-tooltip': { backgroundColor: 'var(--ground)', color: 'var(--ink)', border: '1px solid var(--rule-strong)' },
  '.cm-tooltip-autocomplete > ul > li[aria-selected]': {
    backgroundColor: 'var(--tape)',
    color: 'var(--ink)',
    boxShadow: 'inset 3px 0 0 var(--accent)',
  },
  '.cm-tooltip.cm-tooltip-autocomplete > ul': { fontFamily: 'var(--text)' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li': { padding: '5px 10px', lineHeight: '1.4' },
  '.cm-completionDetail': { fontStyle: 'normal', color: 'var(--ink-soft)' },
  '.cm-diagnostic.cm-diagnostic-error': { borderLeftColor: 'var(--ink)' },
  // Red is for what is on air.
  '.cm-lintRange-error': { backgroundImage: 'none', textDecoration: 'underline wavy var(--ink)' },
  '.cm-lint-marker-error': { content: 'normal !important' },
  '.cm-lint-marker-error::before': { content: '"✕"', color: 'var(--ink)', fontWeight: '700' },
});
const lineLook = EditorView.theme({
  '.cm-scroller': { overflow: 'hidden' },
  '.cm-content': { padding: '5px 0' },
  '.cm-line': { padding: '0 8px', lineHeight: '24px' },
  '.cm-tooltip.cm-tooltip-autocomplete': { marginTop: '8px' },
});

/** Text with completion, marks and chips: one line of it, or a document. */
export function CodeField(props: Props) {
  const {
    id,
    label,
    value,
    isLine = false,
    placeholder,
    maxLength,
    invalid = false,
    describedBy,
    extensions,
    drawn,
  } = props;
  const box = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(undefined);
  const parts = useRef({ own: new Compartment(), drawn: new Compartment(), attributes: new Compartment() });
  const changed = useEffectEvent((text: string) => props.onChange(text));
  const committed = useEffectEvent(() => props.onCommit?.());
  const reverted = useEffectEvent(() => props.onRevert?.() ?? false);
  const completed = useEffectEvent((context: CompletionContext) => props.complete?.(context) ?? null);
  const blurred = useEffectEvent(() => props.onBlur?.());
  const attributes = () =>
    EditorView.contentAttributes.of({
      ...(id === undefined ? {} : { id }),
      // It can be focused anyway; tools that look for what makes a scrolled part reachable need it in writing.
      tabindex: '0',
      'aria-label': label,
      'aria-multiline': String(!isLine),
      ...(invalid ? { 'aria-invalid': 'true' } : {}),
      ...(describedBy === undefined ? {} : { 'aria-describedby': describedBy }),
    });
  const start = useEffectEvent(() => ({
    value,
    extensions,
    drawn,
    isLine,
    placeholder,
    maxLength,
    attributes: attributes(),
  }));

  useEffect(() => {
    if (!box.current) return;
    const from = start();
    const { own, drawn: over, attributes: told } = parts.current;
    const line: Extension[] = from.isLine
      ? [
          lineLook,
          // A line stays one, also when several are pasted.
          EditorState.transactionFilter.of((edit) => (edit.newDoc.lines > 1 ? [] : edit)),
          EditorView.clipboardInputFilter.of((text) => text.replace(/\s*\r?\n\s*/g, ' ')),
          keymap.of([{ key: 'Enter', run: () => (committed(), true) }]),
        ]
      : [];
    const editor = new EditorView({
      parent: box.current,
      state: EditorState.create({
        doc: from.value,
        extensions: [
          own.of([...(from.extensions ?? [])]),
          over.of([...(from.drawn ?? [])]),
          told.of(from.attributes),
          autocompletion({ override: [(context) => completed(context)], icons: false, interactionDelay: 0 }),
          keymap.of([...completionKeymap, { key: 'Tab', run: acceptCompletion }]),
          ...line,
          keymap.of([{ key: 'Escape', run: () => reverted() }]),
          history(),
          keymap.of([...historyKeymap, ...defaultKeymap]),
          ...(from.placeholder === undefined ? [] : [placeholderText(from.placeholder)]),
          ...(from.maxLength === undefined
            ? []
            : [EditorState.changeFilter.of((edit) => edit.newDoc.length <= (from.maxLength ?? 0))]),
          look,
          EditorView.updateListener.of((update) => {
            // What is put in from outside is no typing.
            if (update.docChanged && !update.transactions.some((edit) => edit.isUserEvent('outside')))
              changed(update.state.doc.toString());
          }),
          EditorView.domEventHandlers({ blur: () => (blurred(), false) }),
        ],
      }),
    });
    view.current = editor;
    // A dialog around it hears Escape before the editor does, and would close with everything typed in it.
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || !editor.hasFocus || completionStatus(editor.state) !== 'active') return;
      event.stopPropagation();
      event.preventDefault();
      closeCompletion(editor);
    };
    window.addEventListener('keydown', onKey, true);
    return () => {
      window.removeEventListener('keydown', onKey, true);
      editor.destroy();
    };
  }, []);

  useEffect(() => {
    const editor = view.current;
    if (!editor || editor.state.doc.toString() === value) return;
    editor.dispatch({
      changes: { from: 0, to: editor.state.doc.length, insert: value },
      userEvent: 'outside',
    });
  }, [value]);

  useEffect(() => {
    view.current?.dispatch({ effects: parts.current.own.reconfigure([...(extensions ?? [])]) });
  }, [extensions]);

  useEffect(() => {
    view.current?.dispatch({ effects: parts.current.drawn.reconfigure([...(drawn ?? [])]) });
  }, [drawn]);

  useEffect(() => {
    view.current?.dispatch({ effects: parts.current.attributes.reconfigure(attributes()) });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what they are made of
  }, [id, label, isLine, invalid, describedBy]);

  return <div ref={box} className={isLine ? '' : 'min-h-0 flex-1 overflow-auto [&>.cm-editor]:h-full'} />;
}
