import type { AsRunSend, GlideView } from '../../core/live';
import { prepare } from '../devices/prepare';
import type { ReadingStore } from '../devices/readings';
import type { SendListener } from '../devices/send-book';
import { sendText } from '../devices/send-text';
import type { AsRun } from '../record/as-run';
import type { RunningShow } from '../show/running-show';
import type { Ended } from './glide-run';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
}

/** The most commands of a call-up that are in its row of the record. */
const mostRecorded = 100;

/** The as-run row of a call-up, beside that of the press: what was sent last on each track, and what came of it. */
export function rowOfCall(
  { show, readings }: Sources,
  { id, who, aim, name }: GlideView,
  { outcome, why, ms, reason }: Parameters<SendListener>[0],
  endings: readonly Ended[],
): Parameters<AsRun['record']>[0] {
  const sends = endings.flatMap(({ send, ...ending }): AsRunSend[] => {
    const device = send && show.devices.get(send.device);
    const driver = device && show.driverOf(device);
    const made = driver && send && prepare(driver, send.command, send.params);
    if (!device || !made?.ok) return [];
    const { id: command, given: params, command: spec, encoded } = made.value;
    return [
      {
        device: device.data.tag,
        command: spec.title,
        text: encoded?.text ?? spec.title,
        says: sendText(made.value, device.id, readings),
        call: { command, params },
        outcome: ending.outcome,
        ms: ending.ms ?? 0,
        why: ending.why,
        reason: ending.reason,
      },
    ];
  });
  return {
    kind: 'press',
    press: id,
    who,
    page: '',
    label: `Snapshot ${name}`,
    aim,
    outcome,
    ms,
    reason,
    why,
    sends: sends.slice(0, mostRecorded),
  };
}
