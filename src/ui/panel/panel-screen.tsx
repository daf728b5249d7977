'use client';

import { lazy, Suspense, useSyncExternalStore } from 'react';
import { LiveProvider } from '../live';
import { goTo, onAddress, pathInAddress } from './address';
import { PanelPages } from './panel-pages';
import { TallyScreen } from './tally-screen';

// Only phones for the walk-round need it.
const WalkScreen = lazy(() => import('./walk-screen'));
// Only screens that show a clock need it.
const ClockScreen = lazy(() => import('./clock-screen'));
const OutputsScreen = lazy(() => import('./outputs-screen'));

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
  if (first === 'walk')
    return (
      <Suspense>
        <WalkScreen />
      </Suspense>
    );
  if (first === 'clock')
    return (
      <Suspense>
        <ClockScreen tag={decodeURIComponent(second)} onGo={(path) => goTo(`/panel/${path}`)} />
      </Suspense>
    );
  if (first === 'outputs')
    return (
      <Suspense>
        <OutputsScreen onGo={(path) => goTo(`/panel/${path}`)} />
      </Suspense>
    );
  return first === 'tally' ? (
    <TallyScreen tag={decodeURIComponent(second)} onGo={(path) => goTo(`/panel/${path}`)} />
  ) : (
    <PanelPages address={address} />
  );
}
