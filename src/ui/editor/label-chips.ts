import {
  Decoration,
  EditorView,
  keymap,
  ViewPlugin,
  WidgetType,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view';
import { EditorSelection, Prec, type Extension, type Range } from '@codemirror/state';

/** What a chip shows in place of a reference in a label: the value now, and what it is. */
export interface Chip {
  readonly text: string;
  readonly title: string;
  readonly isDoubtful: boolean;
}

/** A whole reference; doubled braces stand for themselves. */
const reference = /\{\{|\}\}|\{[^{}]*\}/g;

class ChipWidget extends WidgetType {
  constructor(private readonly chip: Chip) {
    super();
  }

  override eq({ chip }: ChipWidget): boolean {
    const { text, title, isDoubtful } = this.chip;
    return chip.text === text && chip.title === title && chip.isDoubtful === isDoubtful;
  }

  toDOM(): HTMLElement {
    const { text, title, isDoubtful } = this.chip;
    const element = document.createElement('span');
    element.className = `label-chip inline-block cursor-pointer border border-rule-strong bg-raised px-1.25 leading-5 whitespace-nowrap ${isDoubtful ? 'border-dashed text-ink-soft' : ''}`;
    if (isDoubtful) element.dataset.doubt = '';
    element.textContent = text;
    element.title = `${title}. Double-click to change it.`;
    return element;
  }

  override ignoreEvent(): boolean {
    return false;
  }
}

/**
 * References in a label as chips. A click chooses one, Delete removes it whole; a double click, or Enter on a chosen one, opens its text.
 *
 * @param chipOf what a reference shows; `undefined` where it cannot be read, so that its text stays
 */
export function labelChips(chipOf: (reference: string) => Chip | undefined): Extension {
  const build = ({ state }: EditorView): DecorationSet => {
    const text = state.doc.toString();
    const { from: selFrom, to: selTo, empty } = state.selection.main;
    const chips: Range<Decoration>[] = [];
    for (const { 0: whole, index } of text.matchAll(reference)) {
      if (whole.length === 2) continue;
      const end = index + whole.length;
      // The one whose text is open: the caret is inside it.
      if (empty && selFrom > index && selTo < end) continue;
      const chip = chipOf(whole);
      if (chip) chips.push(Decoration.replace({ widget: new ChipWidget(chip) }).range(index, end));
    }
    return Decoration.set(chips);
  };
  const plugin = ViewPlugin.fromClass(
    class {
      chips: DecorationSet;
      constructor(view: EditorView) {
        this.chips = build(view);
      }
      update(update: ViewUpdate) {
        if (update.docChanged || update.selectionSet || update.viewportChanged) this.chips = build(update.view);
      }
    },
    {
      decorations: ({ chips }) => chips,
      // A caret inside a reference has opened its text, which is then no chip.
      provide: (self) => EditorView.atomicRanges.of((view) => view.plugin(self)?.chips ?? Decoration.none),
      eventHandlers: {
        mousedown(event, view) {
          const range = chipAt(this.chips, view, event.target);
          if (!range) return false;
          event.preventDefault();
          view.focus();
          view.dispatch({ selection: EditorSelection.single(range.from, range.to) });
          return true;
        },
        dblclick(event, view) {
          const range = chipAt(this.chips, view, event.target);
          return range !== undefined && open(view, range.to);
        },
      },
    },
  );
  const openChosen = (view: EditorView): boolean => {
    const { from, to } = view.state.selection.main;
    return to - from > 2 && /^\{[^{}]*\}$/.test(view.state.sliceDoc(from, to)) && open(view, to);
  };
  return [plugin, Prec.high(keymap.of([{ key: 'Enter', run: openChosen }]))];
}

/** Puts the caret inside a reference, before its closing brace: its text is shown. */
function open(view: EditorView, end: number): boolean {
  view.dispatch({ selection: { anchor: end - 1 } });
  return true;
}

function chipAt(chips: DecorationSet, view: EditorView, target: EventTarget | null) {
  if (!(target instanceof HTMLElement) || !target.classList.contains('label-chip')) return undefined;
  const at = view.posAtDOM(target);
  let found: { readonly from: number; readonly to: number } | undefined;
  chips.between(at, at, (from, to) => {
    if (from === at || to === at) found ??= { from, to };
  });
  return found;
}
