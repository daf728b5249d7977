'use client';

import { ownId, type WatchData, type WatchRecord } from '../../core/show';
import { changeWatchEdit } from '../../core/watch';
import { useDesk } from '../desk';
import { useLive } from '../live';

/** What is done with a watch on this screen. */
export interface WatchVerbs {
  readonly change: (watch: WatchRecord, what: string, data: WatchData) => void;
  /** At once, also while edits gather as a draft; and in the show, so that it stays so. */
  readonly switch: (watch: WatchRecord, isOn: boolean) => void;
  readonly fire: (watch: WatchRecord) => void;
}

export function useWatchVerbs(): WatchVerbs {
  const desk = useDesk();
  const live = useLive();
  const change: WatchVerbs['change'] = (watch, what, data) => void desk.edit(changeWatchEdit(watch, data, what));
  return {
    change,
    switch: (watch, isOn) => {
      const { off, ...rest } = watch.data;
      if ((off === undefined) !== isOn)
        change(watch, isOn ? 'Switching on' : 'Switching off', isOn ? rest : { ...rest, off: true });
      live.tryCommand(ownId, 'switchWatch', { watch: watch.data.number, on: isOn }, { gesture: 'tap' });
    },
    fire: (watch) => live.tryCommand(ownId, 'fireWatch', { watch: watch.data.number }, { gesture: 'tap' }),
  };
}
