'use client';

import { EllipsisVertical } from 'lucide-react';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState, type CSSProperties } from 'react';
import {
  calledAmong,
  contextKey,
  pageToShow,
  panelPlace,
  readContextKey,
  usualContext,
  type PageContext,
} from '../../core/page';
import { AimWord, CutOff, HealthMark, LinkStrip, NewsLine, RunsLine, AlertLine } from '../frame';
import { LearnBar, useGear } from '../hand';
import { useConnection, useLinked, useLive, useStatus, useTopicsAhead } from '../live';
import { LivePage, useScreenKey } from '../page';
import { goTo } from './address';
import { recall, remember, screenTitle, type PanelMemory } from './panel-memory';
import { ScreenActs } from './screen-acts';
import { PageTabs } from './page-tabs';
import { useWakeLock } from './use-wake-lock';

// What is only opened now and then is fetched then.
const GearPart = lazy(() => import('../hand/gear-part'));
const PanelMenu = lazy(() => import('./panel-menu'));
const PanelLock = lazy(() => import('./panel-lock'));

/** The most pages that are kept up to date in advance, so that they appear at once when they are chosen. */
const mostAhead = 16;
/** The brightness to which a screen key dims, in percent. */
const dimmedPercent = 40;
const noPlace = { panels: [], pages: [] } as const;

/** The pages of a panel, one at a time. What this screen showed is remembered here; linked panels show the same everywhere. */
export function PanelPages({ address }: { readonly address: string }) {
  const live = useLive();
  const status = useStatus();
  const connection = useConnection();
  const awake = useWakeLock();
  const place = useMemo(() => panelPlace(address, status ?? noPlace), [address, status]);
  const { panel, base, pages } = place;
  const own = panel?.path ?? 'all';
  const [memories, setMemories] = useState<Readonly<Record<string, PanelMemory>>>({});
  const memory = memories[own] ?? recall(own);
  const [menu, setMenu] = useState(false);
  const [isLocked, setLocked] = useState(false);
  const [drawn, setDrawn] = useState(0);
  const linked = useLinked(panel?.linked ? panel.id : 'none');
  const keep = useCallback(
    (change: Partial<PanelMemory>) =>
      setMemories((before) => {
        const next = { ...(before[own] ?? recall(own)), ...change };
        remember(own, next);
        return { ...before, [own]: next };
      }),
    [own],
  );

  // Before anybody has said what they show, each goes by what it remembers.
  const together = panel?.linked && linked && linked.page !== null ? linked : undefined;
  const page = together?.page ?? pageToShow(place, memory.page);
  const name = pages.find(({ id }) => id === page)?.name;
  const show = useCallback(
    (id: string) => {
      keep({ page: id });
      goTo(`${base}/${id}`);
      if (panel?.linked) live.together(panel.id, id, undefined);
    },
    [keep, base, panel, live],
  );
  useTopicsAhead(pages.slice(0, mostAhead).map(({ id }) => `page:${id}`));
  useEffect(() => {
    document.title = [name, panel?.name].filter(Boolean).join(' · ') || 'Sorrelfinch';
  }, [name, panel?.name]);
  // What all of them show is remembered by each, so that they come up with it again after a restart.
  useEffect(() => {
    if (!together) return;
    const contexts = Object.entries(together.contexts).map(([id, key]) => [id, readContextKey(key).context] as const);
    queueMicrotask(() => keep({ page: together.page ?? undefined, contexts: Object.fromEntries(contexts) }));
  }, [keep, together]);
  const contextNow = (id: string): PageContext => {
    const key = together?.contexts[id];
    if (together) return key === undefined ? usualContext : readContextKey(key).context;
    return memory.contexts[id] ?? usualContext;
  };
  const keyNow = (id: string) => {
    const key = contextKey(id, contextNow(id));
    return key === id ? undefined : key;
  };
  const redraw = useCallback(() => setDrawn((count) => count + 1), []);
  // Several changes may come before the next drawing: each is made on what the one before left.
  const looks = useRef<Readonly<Record<string, PageContext>>>({});
  useEffect(() => {
    looks.current = Object.fromEntries([...pages.map(({ id }) => id), page ?? ''].map((id) => [id, contextNow(id)]));
  });
  const look = useCallback(
    (id: string, change: (before: PageContext) => PageContext) => {
      const to = change(looks.current[id] ?? usualContext);
      looks.current = { ...looks.current, [id]: to };
      if (panel?.linked) live.together(panel.id, id, contextKey(id, to));
      else keep({ contexts: looks.current });
    },
    [keep, live, panel],
  );
  const brightness = status ? (memory.brightness ?? panel?.brightness ?? 100) : 100;
  const onScreenKey = useScreenKey(pages, page, show, (act) => {
    if (act === 'lock') setLocked(true);
    else keep({ brightness: brightness < 100 ? 100 : dimmedPercent });
  });
  const gear = useGear(panel?.id, status !== undefined, page, keyNow, look, onScreenKey);
  const sayHere = useCallback(
    () =>
      live.here({
        title: screenTitle(),
        ...(panel ? { panel: panel.id } : {}),
        ...(page ? { page } : {}),
        gear: gear.list.slice(0, 16),
      }),
    [live, panel, page, gear.list],
  );
  useEffect(sayHere, [sayHere]);
  useManifest(own);

  const called = status && calledAmong(pages, status.called);
  const following = memory.following ?? panel?.follows === true;
  useEffect(() => {
    if (following && called !== undefined && called !== page) queueMicrotask(() => show(called));
    // Only when another page is called: a person who goes elsewhere meanwhile stays there.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [following, called]);

  const dim = useCallback((to: number) => keep({ brightness: to }), [keep]);
  const cut = connection.at !== 'open';
  return (
    <div
      className="panel flex min-h-dvh touch-pan-x touch-pan-y flex-col overscroll-none pt-[env(safe-area-inset-top)] pr-[env(safe-area-inset-right)] pb-[env(safe-area-inset-bottom)] pl-[env(safe-area-inset-left)] [&[data-connection=cut]_.page-grid]:[filter:grayscale(1)_opacity(0.5)]"
      data-connection={connection.at}
      style={{ '--dim': (100 - brightness) / 100 } as CSSProperties}
    >
      <header
        className="flex items-center gap-x-5 gap-y-1 border-b border-rule px-3 py-1 max-[600px]:gap-x-2.5 max-[600px]:has-[.panel-follow]:flex-wrap"
        inert={isLocked}
      >
        {panel && <span className="font-[750] font-stretch-[85%] max-[600px]:hidden">{panel.name}</span>}
        <PageTabs pages={pages} page={page} isOpenToAll={!panel} onShow={show} />
        <button
          type="button"
          className="min-h-11 min-w-11 border border-rule-strong text-[22px]"
          aria-expanded={menu}
          onClick={() => setMenu(!menu)}
          aria-label="This screen"
        >
          <EllipsisVertical aria-hidden className="m-auto" />
        </button>
        {pages.some(({ call }) => call) && (
          <label className="flex min-h-11 items-center gap-2.5">
            <input
              type="checkbox"
              checked={following}
              onChange={(event) => keep({ following: event.target.checked })}
            />
            follow the show
          </label>
        )}
        <LinkStrip />
        {panel?.tellsHealth && <HealthMark />}
        <AimWord />
      </header>
      {menu && (
        <Suspense>
          <PanelMenu
            brightness={brightness}
            awake={awake}
            onBrightness={(to) => keep({ brightness: to })}
            onTitle={sayHere}
            onLock={() => {
              setMenu(false);
              setLocked(true);
            }}
            onClose={() => setMenu(false)}
          />
        </Suspense>
      )}
      {menu && (
        <Suspense>
          <GearPart gear={gear} pages={pages} />
        </Suspense>
      )}
      <LearnBar gear={gear} />
      <CutOff />
      <AlertLine panel />
      <NewsLine />
      <main
        className="panel-work flex min-h-0 flex-1 flex-col px-3 pt-1 pb-2 [&>.live-page]:h-auto [&>.live-page]:flex-1"
        inert={cut || isLocked}
        data-learning={gear.learning.at === 'control' || undefined}
      >
        <h1 className="sr-only">{name ?? 'Panel'}</h1>
        {page ? (
          <LivePage
            key={`${page} ${drawn}`}
            page={page}
            hidden={panel?.hidden}
            keep={{ context: contextNow(page), set: (to) => look(page, () => to) }}
            onScreenKey={onScreenKey}
            none={<p className="py-6">There is no page “{page}” in the running show. Choose another above.</p>}
          />
        ) : (
          <p className="py-6 text-ink-soft">
            {status ? 'This panel has no pages yet. Lay one out at the desk.' : 'Connecting to the engine …'}
          </p>
        )}
      </main>
      <RunsLine />
      <ScreenActs
        onGo={(id) => pages.some((each) => each.id === id) && show(id)}
        onRedraw={redraw}
        onLook={look}
        onDim={dim}
      />
      {isLocked && (
        <Suspense>
          <PanelLock onUnlock={() => setLocked(false)} />
        </Suspense>
      )}
      <div className="panel-dim pointer-events-none fixed inset-0 z-30 bg-black opacity-[var(--dim)]" aria-hidden />
    </div>
  );
}

/** What a browser needs to install the panel as a program of its own. */
function useManifest(panel: string): void {
  useEffect(() => {
    const link = document.createElement('link');
    link.rel = 'manifest';
    link.crossOrigin = 'use-credentials';
    link.href = `/panel.webmanifest?panel=${panel}`;
    document.head.append(link);
    return () => link.remove();
  }, [panel]);
}
