import type { Publish } from '../../core/live';
import { hasOutputs, outputKeys, outputView, type OutputView } from '../../core/outputs';
import { clockKeys, clockView, type ClockView } from '../../core/timers';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';
import type { StatusBoard } from '../topics/status-board';
import type { TopicBook } from '../topics/topic-book';
import { DeviceBoard } from './device-board';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly publish: Publish;
  readonly topics: TopicBook;
  readonly status: StatusBoard;
}

/** Every clock of the rig. */
export function clockBoard({ publish, topics, status, ...base }: Sources): DeviceBoard<ClockView> {
  const board = new DeviceBoard<ClockView>({
    ...base,
    isShown: ({ data }) => data.role === 'clock',
    keysOf: clockKeys,
    viewOf: clockView,
    onDiff: (diff) => publish('clocks', diff),
    onCount: (clocks) => status.set({ clocks }),
  });
  topics.serve('clocks', { whole: () => board.whole });
  return board;
}

/** Everything that streams and records. */
export function outputBoard({ publish, topics, status, ...base }: Sources): DeviceBoard<OutputView> {
  const board = new DeviceBoard<OutputView>({
    ...base,
    isShown: (_, document) => hasOutputs(document),
    keysOf: outputKeys,
    viewOf: outputView,
    onDiff: (diff) => publish('outputs', diff),
    onCount: (outputs) => status.set({ outputs }),
  });
  topics.serve('outputs', { whole: () => board.whole });
  return board;
}
