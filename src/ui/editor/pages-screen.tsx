'use client';

import Link from 'next/link';
import { ToggleGroup } from 'radix-ui';
import { usePathname, useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { addPageEdit } from '../../core/page';
import { pagesOf } from '../../core/show';
import { useDesk, useShow } from '../desk';
import { useStatus } from '../live';
import { LivePage } from '../page';
import { Button, newId } from '../parts';
import { ImportPages } from './import-pages';
import { PageEditor } from './page-editor';
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
  const [mode, setMode] = useState<'press' | 'edit'>(edit ? 'edit' : 'press');
  // The running show has what can be pressed, the edited one what can be edited.
  const drafted = useMemo(
    () => (show ? pagesOf(show.records).map(({ id, data }) => ({ id, name: data.name })) : []),
    [show],
  );
  const pages = mode === 'edit' ? drafted : (status?.pages ?? []);
  // The address is the page: going to another one asks nothing of the server.
  const inAddress = /^\/pages\/([^/]+)$/.exec(usePathname())?.[1];
  const page = inAddress ?? asked ?? pages[0]?.id;
  const name = pages.find(({ id }) => id === page)?.name;
  const add = async () => {
    if (!show) return;
    const made = addPageEdit(show.records, 'New page', newId('page'));
    if (await desk.edit(made.edit)) router.push(`/pages/${made.page.id}?edit=1`);
  };
  return (
    <section className="screen" aria-labelledby="page-title">
      <div className="screen-head">
        <h1 id="page-title">{name ?? 'Pages'}</h1>
        <nav aria-label="Pages" className="page-tabs">
          {pages.length > 1 &&
            pages.map(({ id, name: title }) => (
              <Link
                key={id}
                href={`/pages/${id}${mode === 'edit' ? '?edit=1' : ''}`}
                aria-current={id === page ? 'page' : undefined}
              >
                {title}
              </Link>
            ))}
        </nav>
        <ToggleGroup.Root
          type="single"
          className="modes"
          aria-label="Press or edit"
          value={mode}
          onValueChange={(value) => value && setMode(value === 'edit' ? 'edit' : 'press')}
        >
          <ToggleGroup.Item value="press">Press</ToggleGroup.Item>
          <ToggleGroup.Item value="edit">Edit</ToggleGroup.Item>
        </ToggleGroup.Root>
        <Button disabled={!show} onClick={() => void add()}>
          New page
        </Button>
        {show && !page && <ImportPages show={show} />}
        {page && (
          <a className="btn btn-plain" href={`/panel/${page}`} target="_blank" rel="noreferrer">
            Open as a panel
          </a>
        )}
      </div>
      {!page && (
        <p className="muted page-waiting">
          {status ? 'The show has no pages yet. “New page” makes the first one.' : 'Calling the engine …'}
        </p>
      )}
      {page && mode === 'press' && <LivePage key={page} page={page} none={<NoPage page={page} />} />}
      {page && mode === 'edit' && (
        <>
          <UnresolvedBar />
          <PageEditor key={page} page={page} control={page === asked ? control : undefined} find={find} visit={visit} />
        </>
      )}
    </section>
  );
}

const NoPage = ({ page }: { readonly page: string }) => (
  <p className="page-waiting">
    There is no page “{page}” in the running show. It may be a draft that is not in service yet: look under Edit.
  </p>
);
