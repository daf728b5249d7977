'use client';

import { useRouter } from 'next/navigation';
import { findControls, retargetEdit } from '../../core/page';
import { devicesOf } from '../../core/show';
import { useEditor, useEditorStore } from './editor-store';
import { useFacts } from './facts';
import { lostText } from './many-pane';
import { Retarget } from './retarget';
import { useVerbs } from './verbs';

const most = 200;

/** Finds controls on all pages by what they show and do, goes to them, and makes those found about another device. */
export function FindPane() {
  const verbs = useVerbs();
  const router = useRouter();
  const facts = useFacts();
  const { show, page, documentOf } = facts;
  const store = useEditorStore();
  const typed = useEditor((state) => state.find);
  const found = typed.trim() === '' ? [] : findControls(show.records, typed, ({ id }) => documentOf(id));
  const pages = new Set(found.map(({ page: on }) => on.id)).size;
  const go = (on: string, control: string) => {
    if (on === page.id) verbs.choose([control]);
    else router.push(`/pages/${on}?edit=1&control=${control}&find=${encodeURIComponent(typed)}`);
  };
  return (
    <div className="form">
      <h2 className="sr-only">Find on all pages</h2>
      <label>
        Label, command, device or parameter
        <input type="search" value={typed} onChange={(event) => store.setState({ find: event.target.value })} />
      </label>
      <p role="status" className="text-ink-soft">
        {typed.trim() === ''
          ? 'Searches the controls of all pages.'
          : `${found.length === 1 ? '1 control' : `${found.length} controls`} on ${pages === 1 ? '1 page' : `${pages} pages`}`}
      </p>
      <ul className="mt-1.5 mb-3.5 border-t border-rule [&_button]:flex [&_button]:w-full [&_button]:flex-col [&_button]:border-b [&_button]:border-rule [&_button]:px-1.5 [&_button]:py-2 [&_button]:text-left [&_button:hover]:bg-tape">
        {found.slice(0, most).map(({ control, page: on, label, by }) => (
          <li key={control.id}>
            <button type="button" onClick={() => go(on.id, control.id)}>
              <span>
                <span className="text-[13px] text-ink-soft">{on.data.name} · </span>
                <b>{label || 'without a label'}</b>
              </span>
              <span className="text-[13px] text-ink-soft">{by.slice(0, 3).join(', ')}</span>
            </button>
          </li>
        ))}
      </ul>
      {found.length > most && <p className="text-ink-soft">Only the first {most} are shown. Type more words.</p>}
      {found.length > 0 && (
        <Retarget
          from={[...new Set(found.flatMap(({ control }) => devicesOf(control.data)))]}
          act={`Re-target all ${found.length}`}
          onRetarget={(from, to) => {
            const controls = found.map(({ control }) => control);
            const { edit, changed, lost } = retargetEdit(
              controls,
              from,
              to,
              facts,
              `Re-target ${found.length} controls to ${to.data.tag}`,
            );
            if (!edit) return verbs.say('None of them uses that device.', true);
            void verbs
              .edit(edit)
              .then(
                (done) =>
                  done &&
                  verbs.say(
                    lost.length > 0 ? lostText(to.data.tag, lost) : `${changed} controls are about ${to.data.tag} now.`,
                    lost.length > 0,
                  ),
              );
          }}
        />
      )}
    </div>
  );
}
