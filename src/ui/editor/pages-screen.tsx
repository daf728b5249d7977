'use client';

import { usePathname, useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { addPageEdit, placePageEdit } from '../../core/page';
import { controlsOf, pagesOf, type PageRecord } from '../../core/show';
import { useDesk, useShow } from '../desk';
import { useStatus } from '../live';
import { LivePage, useScreenKey } from '../page';
import { newId } from '../parts';
import { CameraPageMenu } from './camera-page-menu';
import { CheckPage } from './check-page';
import { ImportPages } from './import-pages';
import { PageEditor } from './page-editor';
import { PageList } from './page-list';
import { Button, buttonClass, Segmented, tellDone } from '../kit';
import { UnresolvedBar } from './unresolved-bar';

/** One page at the desk: to press it, or to edit it. */
export function PagesScreen({
  page: asked,
  edit = false,
  control,
  find,
  visit,
}: {
  readonly page: string | undefined;
  readonly edit?: boolean;
  /** The control that is chosen at first when editing. */
  readonly control?: string;
  /** What is looked for on all pages at first when editing. */
  readonly find?: string;
  /** Another one: somebody was led here again. */
  readonly visit?: string;
}) {
  const status = useStatus();
  const { show } = useShow();
  const desk = useDesk();
  const router = useRouter();
  const [mode, setMode] = useState<'press' | 'check' | 'edit'>(edit ? 'edit' : 'press');
  // The running show has what can be pressed, the edited one what can be edited.
  const drafted = useMemo(
    () =>
      show
        ? pagesOf(show.records).map(({ id, data }) => ({
            id,
            name: data.name,
            count: controlsOf(show.records, id).length,
          }))
        : [],
    [show],
  );
  const pages = mode === 'edit' ? drafted : (status?.pages ?? []);
  // The address is the page: going to another one asks nothing of the server.
  const inAddress = /^\/pages\/([^/]+)$/.exec(usePathname())?.[1];
  const page = inAddress ?? asked ?? pages[0]?.id;
  const name = pages.find(({ id }) => id === page)?.name;
  const onScreenKey = useScreenKey(
    pages,
    page,
    (goal) => router.push(`/pages/${goal}`),
    (act) =>
      tellDone(
        `On a panel this ${act === 'lock' ? 'locks' : 'dims'} the screen. It does nothing on the desk.`,
        'screen key',
      ),
  );
  const add = async () => {
    if (!show) return;
    const made = addPageEdit(show.records, 'New page', newId('page'));
    if (await desk.edit(made.edit)) router.push(`/pages/${made.page.id}?edit=1`);
  };
  const place = (id: string, at: number) => {
    const record = show?.records.find((each): each is PageRecord => each.kind === 'page' && each.id === id);
    if (show && record) void desk.edit(placePageEdit(show.records, record, at));
  };
  return (
    <section
      className="grid h-full min-h-0 grid-cols-[176px_minmax(0,1fr)] max-[900px]:grid-cols-1 max-[900px]:grid-rows-[auto_minmax(0,1fr)]"
      aria-labelledby="page-title"
    >
      <div className="flex min-h-0 flex-col border-r border-rule pb-2 max-[900px]:flex-row max-[900px]:border-r-0">
        <div className="flex min-h-14 items-center justify-between gap-2 px-3">
          <b aria-hidden className="text-[17px]">
            Pages
          </b>
          <Button disabled={!show} onClick={() => void add()}>
            New page
          </Button>
        </div>
        <PageList
          pages={pages}
          page={page}
          isEditing={mode === 'edit'}
          {...(mode === 'edit' ? { onPlace: place } : {})}
        />
      </div>
      <div className="flex min-h-full min-w-0 flex-col overflow-auto px-4 pt-3.5 pb-3 [&>.live-page]:h-auto [&>.live-page]:flex-1">
        <div className="mb-2.5 flex min-h-9.5 flex-wrap items-center gap-x-3.5 gap-y-2">
          <h1 id="page-title">{name ?? 'Pages'}</h1>
          <Segmented
            label="Press, check or edit"
            className="ml-auto"
            value={mode}
            options={[
              { value: 'press', title: 'Press' },
              { value: 'check', title: 'Check' },
              { value: 'edit', title: 'Edit' },
            ]}
            onChoose={setMode}
          />
          {show && mode === 'edit' && (
            <CameraPageMenu
              show={show}
              onMake={(edit, made) => void desk.edit(edit).then((done) => done && router.push(`/pages/${made}?edit=1`))}
            />
          )}
          {show && !page && <ImportPages show={show} />}
          {page && (
            <a className={buttonClass()} href={`/panel/${page}`} target="_blank" rel="noreferrer">
              Open as panel
            </a>
          )}
        </div>
        {!page && (
          <p className="py-6 text-ink-soft">
            {status ? 'The show has no pages yet. “New page” makes the first one.' : 'Connecting to the engine …'}
          </p>
        )}
        {page && mode === 'press' && (
          <LivePage key={page} page={page} none={<NoPage page={page} />} onScreenKey={onScreenKey} />
        )}
        {page && mode === 'check' && <CheckPage key={page} page={page} none={<NoPage page={page} />} />}
        {page && mode === 'edit' && (
          <>
            <UnresolvedBar />
            <PageEditor
              key={page}
              page={page}
              control={page === asked ? control : undefined}
              find={find}
              visit={visit}
            />
          </>
        )}
      </div>
    </section>
  );
}

const NoPage = ({ page }: { readonly page: string }) => (
  <p className="py-6">
    There is no page “{page}” in the running show. It may be a draft that is not in service yet: look under Edit.
  </p>
);
