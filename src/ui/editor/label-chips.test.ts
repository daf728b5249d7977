// @vitest-environment jsdom
import { EditorState } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { expect, it, onTestFinished } from 'vitest';
import { labelChips } from './label-chips';

/** A label with chips for what is known; all else stays as it was typed. */
function made(doc: string) {
  const known: Record<string, string> = { '{SW1.program}': '3', '{SW1.input[3].name}': 'Finish' };
  const chipOf = (reference: string) => {
    const text = known[reference];
    return text === undefined ? undefined : { text, title: reference, isDoubtful: text === '3' };
  };
  const view = new EditorView({
    parent: document.body,
    state: EditorState.create({ doc, extensions: [labelChips(chipOf)] }),
  });
  onTestFinished(() => view.destroy());
  const shown = () => view.contentDOM.textContent;
  const chips = () => [...view.contentDOM.querySelectorAll('.label-chip')];
  return { view, shown, chips };
}
const press = (view: EditorView, key: string) =>
  view.contentDOM.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));

it('shows references as what they say now, and leaves the text as it is', () => {
  const { view, shown, chips } = made('Lane {SW1.input[3].name} of {SW1.program} {{x}} {SW9.what}');
  expect(shown()).toBe('Lane Finish of 3 {{x}} {SW9.what}');
  expect(chips().map((chip) => chip.hasAttribute('data-doubt'))).toEqual([false, true]);
  expect(view.state.doc.toString()).toContain('{SW1.input[3].name}');
});

it('opens the text of a chip that is chosen with Enter, and shows the chip again behind it', () => {
  const { view, shown, chips } = made('{SW1.program} on');
  chips()[0]?.dispatchEvent(new MouseEvent('mousedown', { bubbles: true, cancelable: true }));
  const { from, to } = view.state.selection.main;
  expect([from, to]).toEqual([0, 13]);
  press(view, 'Enter');
  expect(shown()).toBe('{SW1.program} on');
  view.dispatch({ selection: { anchor: view.state.doc.length } });
  expect(shown()).toBe('3 on');
});

it('takes a chip out whole', () => {
  const { view, shown, chips } = made('a {SW1.program} b');
  chips()[0]?.dispatchEvent(new MouseEvent('mousedown', { bubbles: true, cancelable: true }));
  view.dispatch(view.state.replaceSelection(''));
  expect(shown()).toBe('a  b');
});
