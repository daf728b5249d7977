import type { Extension } from '@codemirror/state';
import { Decoration, EditorView } from '@codemirror/view';

const mark = Decoration.mark({ class: 'bg-fault font-bold text-fault-ink' });

/**
 * Marks one place of a text as wrong.
 *
 * @param from the character it begins at, from 0; a fault at the end of the text marks its last character
 * @param to behind its last character; one character when left out
 */
export const faultMark = (from: number, to = from + 1): Extension =>
  EditorView.decorations.compute(['doc'], ({ doc }) => {
    const end = Math.min(to, doc.length);
    const start = Math.min(from, end - 1);
    return start < 0 ? Decoration.none : Decoration.set([mark.range(start, end)]);
  });
