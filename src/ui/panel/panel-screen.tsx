'use client';

import { useSyncExternalStore } from 'react';
import { LiveProvider } from '../live';
import { goTo, onAddress, pathInAddress } from './address';
import { PanelPages } from './panel-pages';
import { TallyScreen } from './tally-screen';

/** A panel: pages alone, without the desk. It needs nothing but the engine, so that it comes up while the desk is away. */
export function PanelScreen() {
  return (
    <LiveProvider role="panel">
      <Panel />
    </LiveProvider>
  );
}

function Panel() {
  const address = useSyncExternalStore(onAddress, pathInAddress, () => '');
  const [first = '', second = ''] = address.split('/');
  return first === 'tally' ? (
    <TallyScreen tag={decodeURIComponent(second)} onGo={(path) => goTo(`/panel/${path}`)} />
  ) : (
    <PanelPages address={address} />
  );
}
