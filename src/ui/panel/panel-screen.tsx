'use client';

import { useEffect, useState, useSyncExternalStore } from 'react';
import { AimWord, CutOff, LinkStrip } from '../frame';
import { LiveProvider, useConnection, useStatus } from '../live';
import { LivePage } from '../page';
import { TallyScreen } from './tally-screen';

/** A panel: a page alone, without the desk. It needs nothing but the engine, so that it comes up while the desk is away. */
export function PanelScreen() {
  return (
    <LiveProvider role="panel">
      <Panel />
    </LiveProvider>
  );
}

const onAddress = (listener: () => void) => {
  window.addEventListener('popstate', listener);
  return () => window.removeEventListener('popstate', listener);
};

/** What stands in the address after `/panel/`: a page, or `tally` and a device. Changing it loads nothing. */
const pathInAddress = () => window.location.pathname.split('/').slice(2).join('/');
const pageInAddress = () => window.location.pathname.split('/')[2] ?? '';

function goTo(page: string) {
  window.history.pushState(null, '', `/panel/${page}`);
  window.dispatchEvent(new PopStateEvent('popstate'));
}

function Panel() {
  const address = useSyncExternalStore(onAddress, pathInAddress, () => '');
  const [first = '', second = ''] = address.split('/');
  return first === 'tally' ? <TallyScreen tag={decodeURIComponent(second)} onGo={goTo} /> : <Pages />;
}

function Pages() {
  const status = useStatus();
  const connection = useConnection();
  const asked = useSyncExternalStore(onAddress, pageInAddress, () => '');
  const page = asked || status?.pages[0]?.id;
  const name = status?.pages.find(({ id }) => id === page)?.name;
  useEffect(() => {
    if (name) document.title = `${name} · Sorrelfinch`;
  }, [name]);
  const called = status?.called ?? null;
  const [following, setFollowing] = useState(false);
  useEffect(() => {
    if (following && called !== null && called !== pageInAddress()) goTo(called);
  }, [following, called]);
  const canFollow = (status?.pages ?? []).some((each) => each.called);
  return (
    <div className="panel" data-connection={connection.at}>
      <header className="panel-head">
        <nav aria-label="Pages" className="panel-pages">
          {(status?.pages ?? []).map(({ id, name: title }) => (
            <button
              key={id}
              type="button"
              aria-current={id === page ? 'page' : undefined}
              onPointerDown={() => goTo(id)}
              onClick={() => goTo(id)}
            >
              {title}
            </button>
          ))}
          {(status?.tallies ?? 0) > 0 && (
            <button type="button" onClick={() => goTo('tally')}>
              Tally
            </button>
          )}
        </nav>
        {canFollow && (
          <label className="panel-follow">
            <input type="checkbox" checked={following} onChange={(event) => setFollowing(event.target.checked)} />
            follow the show
          </label>
        )}
        <LinkStrip />
        <AimWord />
      </header>
      <CutOff />
      <main className="panel-work">
        <h1 className="sr-only">{name ?? 'Panel'}</h1>
        {page ? (
          <LivePage
            key={page}
            page={page}
            none={<p className="page-waiting">There is no page “{page}” in the running show. Choose another above.</p>}
          />
        ) : (
          <p className="page-waiting muted">
            {status ? 'The show has no pages yet. Lay one out at the desk.' : 'Calling the engine …'}
          </p>
        )}
      </main>
    </div>
  );
}
