'use client';

import { DndContext, DragOverlay } from '@dnd-kit/core';
import { snapCenterToCursor } from '@dnd-kit/modifiers';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { lackingWith, problemsOfControl, problemsOfPage, warningsOfControl } from '../../core/check';
import {
  controlsOf,
  ownId,
  showLookup,
  readingId,
  type DeskView,
  type DeviceRecord,
  type PageRecord,
} from '../../core/show';
import { documentOfRecord, useShow } from '../desk';
import { useReadingsNowAndThen } from '../live';
import { RigFactsContext } from '../fields';
import { createEditorStore, EditorContext } from './editor-store';
import { EditGrid } from './edit-grid';
import { EditorPane } from './editor-pane';
import { EditorTools } from './editor-tools';
import { FactsContext, type Facts } from './facts';
import { useClipboard } from './use-clipboard';
import { usePlaceDrag } from './use-place-drag';
import { OffersProvider, useOffersOf } from './use-offers';
import { useEditorVerbs, VerbsContext } from './verbs';

/** The page as edited last, to work on. What is edited here is the draft while a revision is in service. */
export function PageEditor({
  page: pageId,
  control,
  find,
  visit,
}: {
  readonly page: string;
  readonly control?: string;
  readonly find?: string;
  readonly visit?: string;
}) {
  const { show, failed } = useShow();
  const page = show?.records.find((record): record is PageRecord => record.kind === 'page' && record.id === pageId);
  if (failed) return <p className="py-6">The show could not be read. The desk may be starting. Trying again.</p>;
  if (!show) return <p className="py-6 text-ink-soft">Fetching the show …</p>;
  if (!page) return <p className="py-6">There is no such page in the show.</p>;
  return <Editor show={show} page={page} first={control} find={find} visit={visit} />;
}

interface Props {
  readonly show: DeskView;
  readonly page: PageRecord;
  /** The control that is chosen at first. */
  readonly first?: string;
  /** What is looked for at first. */
  readonly find?: string;
  /** Another one: somebody was led here again. */
  readonly visit?: string;
}

function Editor({ show, page, first, find, visit }: Props) {
  const [store] = useState(() => createEditorStore(find));
  const controls = useMemo(() => controlsOf(show.records, page.id), [show.records, page.id]);
  const lookUp = useMemo(
    () => showLookup(show.records, (device) => documentOfRecord(show.drivers, device)),
    [show.drivers, show.records],
  );
  const readings = useReadingsNowAndThen(
    useMemo(() => lookUp.readable.map(({ id }) => id), [lookUp]),
    // The grid follows at once; beside it many fields would be worked out anew with each report.
    1000,
  );
  const tried = useStore(store, (state) => state.tried);
  const facts = useMemo((): Facts => {
    const { deviceOf, pageOf, documentOf, macroOf, snapshotOf } = lookUp;
    const readingNow: Facts['readingNow'] = (ref) => tried.get(readingId(ref)) ?? readings.get(ref.device)?.[ref.key];
    const document = ({ id }: DeviceRecord) => documentOf(id);
    const sources = {
      device: deviceOf,
      page: pageOf,
      hasMacro: (id: string) => macroOf(id) !== undefined,
      hasSnapshot: (number: number) => snapshotOf(number) !== undefined,
      document,
      own: documentOf(ownId),
    };
    return {
      ...lookUp,
      show,
      page,
      controls,
      readings,
      readingNow,
      problemsOf: (control) => problemsOfControl(control, sources),
      lackingWith: (control, made, device) => lackingWith(control, made, device, sources),
      pageProblems: problemsOfPage(page, sources),
      warningsOf: (control) => warningsOfControl(control, { device: deviceOf, document, readingNow }),
    };
  }, [show, page, controls, readings, tried, lookUp]);
  const verbs = useEditorVerbs(store, show, page, controls);
  const offers = useOffersOf(show, page);
  // One row more than the page has, to grow into.
  const grown = useMemo(
    (): PageRecord => ({ ...page, data: { ...page.data, rows: Math.min(64, page.data.rows + 1) } }),
    [page],
  );
  useClipboard(verbs);
  const grid = useRef<HTMLDivElement>(null);
  const drag = usePlaceDrag(grid, store, verbs, grown, controls);

  useEffect(() => {
    if (first) verbs.choose([first]);
    else if (visit) store.setState({ tab: 'page' });
    // Only when another one was asked for: what is chosen afterwards is chosen here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [first, visit]);
  useEffect(() => {
    let isDragging = false;
    const onKeyFirst = () => {
      isDragging = store.getState().preview !== undefined;
    };
    const onKey = (event: KeyboardEvent) => {
      // Escape that closes a list or a dialog, or ends a drag, leaves the choice as it is.
      if (event.key !== 'Escape' || event.defaultPrevented || isDragging) return;
      const { series, carried, ids } = store.getState();
      if (series) store.setState({ series: undefined });
      else if (carried) store.setState({ carried: undefined });
      else if (ids.size > 0) store.setState({ ids: new Set(), zone: undefined, area: undefined });
      else store.setState({ zone: undefined, area: undefined, tab: 'page' });
    };
    window.addEventListener('keydown', onKeyFirst, true);
    window.addEventListener('keydown', onKey);
    return () => {
      window.removeEventListener('keydown', onKeyFirst, true);
      window.removeEventListener('keydown', onKey);
    };
  }, [store]);

  return (
    <EditorContext value={store}>
      <FactsContext value={facts}>
        <RigFactsContext value={facts}>
          <VerbsContext value={verbs}>
            <OffersProvider value={offers}>
              <DndContext {...drag.context}>
                <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_336px] gap-4 max-[900px]:grid-cols-[1fr]">
                  <div className="sticky top-0 flex max-h-[calc(100dvh_-_120px)] min-h-105 min-w-0 flex-col self-start overflow-auto px-1.5 pt-0 pb-3 max-[900px]:static max-[900px]:max-h-none">
                    <EditorTools />
                    <EditGrid grid={grid} page={grown} controls={controls} lookUp={lookUp} />
                  </div>
                  <EditorPane />
                </div>
                <DragOverlay dropAnimation={null} modifiers={[snapCenterToCursor]}>
                  {drag.offer && (
                    <span className="offer-ghost inline-block border-2 border-accent bg-tape px-3 py-1.5 font-semibold">
                      {drag.offer.title}
                    </span>
                  )}
                </DragOverlay>
              </DndContext>
            </OffersProvider>
          </VerbsContext>
        </RigFactsContext>
      </FactsContext>
    </EditorContext>
  );
}
