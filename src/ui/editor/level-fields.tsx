'use client';

import { changePageEdit } from '../../core/page';
import { newId } from '../parts';
import { Button, CommitInput, formPartClass } from '../kit';
import { useEditor, useEditorStore } from './editor-store';
import { useFacts } from './facts';
import { useVerbs } from './verbs';

const mostLevels = 8;

/** The shift levels of a page. */
export function LevelFields() {
  const verbs = useVerbs();
  const store = useEditorStore();
  const level = useEditor((state) => state.level);
  const { page, controls } = useFacts();
  const { shifts = [] } = page.data;
  const put = (to: typeof shifts) => void verbs.edit(changePageEdit(page, { shifts: to }, 'Shift levels'));
  return (
    <details className={formPartClass} open={shifts.length > 0}>
      <summary>Shift levels</summary>
      <p className="col-span-full text-[13px] text-ink-soft">
        On a level, chosen controls do and show something else; the others stay as they are. Choose the level above the
        grid to edit it.
      </p>
      {shifts.map(({ id, name }) => {
        const used = controls.filter(({ data }) => data.shifts?.[id]).length;
        return (
          <div key={id} className="grid grid-cols-[minmax(0,1fr)_auto_auto] items-center gap-2">
            <CommitInput
              aria-label="Name of the level"
              value={name}
              maxLength={30}
              onCommit={(to) => to.trim() && put(shifts.map((each) => (each.id === id ? { id, name: to } : each)))}
            />
            <span className="whitespace-nowrap text-ink-soft">{used} differ</span>
            <Button
              onClick={() => {
                if (level === id) store.setState({ level: undefined });
                put(shifts.filter((each) => each.id !== id));
              }}
            >
              Remove
            </Button>
          </div>
        );
      })}
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button
          disabled={shifts.length >= mostLevels}
          onClick={() => put([...shifts, { id: newId('shift'), name: `level ${shifts.length + 2}` }])}
        >
          Add a level
        </Button>
      </div>
    </details>
  );
}
