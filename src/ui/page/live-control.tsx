'use client';

import { lazy, Suspense } from 'react';
import type { ControlView, FaceView } from '../../core/live';
import type { PressMark } from '../live';
import { ControlButton } from './control-button';
import { Face } from './face';

// What most pages do not have is fetched when a page has it.
const RangeControl = lazy(() => import('./range-control'));
const StickControl = lazy(() => import('./stick-control'));
const ListControl = lazy(() => import('./list-control'));
const PresetControl = lazy(() => import('./preset-control'));

export interface LiveControlProps {
  readonly id: string;
  readonly page: string;
  /** The context in which the page is looked at, where that is not the usual one. */
  readonly context?: string;
  readonly face: FaceView;
  readonly view: ControlView;
  readonly mark?: PressMark;
  readonly disabled?: boolean;
  readonly onPress: (id: string, guard: boolean) => void;
  /** Where given, what it starts goes on while it is held. */
  readonly onHold?: (id: string, guard: boolean) => () => void;
}

/** A control of any kind, to be handled. */
export function LiveControl(given: LiveControlProps) {
  // What a rule bars is barred for the hand; the engine would not act on it either.
  const props = given.face.barred ? { ...given, disabled: true } : given;
  const { view, face, id } = props;
  switch (view.type) {
    case 'fader':
    case 'dial':
      return <Suspense fallback={<Waiting {...props} />}>{view.range && <RangeControl {...props} />}</Suspense>;
    case 'stick':
      return (
        <Suspense fallback={<Waiting {...props} />}>
          <StickControl {...props} />
        </Suspense>
      );
    case 'list':
      return <Suspense fallback={<Waiting {...props} />}>{view.list && <ListControl {...props} />}</Suspense>;
    case 'presets':
      return <Suspense fallback={<Waiting {...props} />}>{view.presets && <PresetControl {...props} />}</Suspense>;
    case 'readout':
      return (
        <div
          className={`control control-${face.lamp.show}`}
          data-kind="readout"
          data-control={id}
          data-single={(view.cols === 1 && view.rows === 1) || undefined}
        >
          <Face face={face} view={view} />
        </div>
      );
    case 'button':
      return <ControlButton {...props} />;
  }
}

const Waiting = ({ face, view }: LiveControlProps) => (
  <div className="control">
    <Face face={face} view={view} />
  </div>
);
