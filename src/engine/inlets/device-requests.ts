import { answerLine, errorAnswer, requestOfLine, SourceBudget, type InletAnswer } from '../../core/inlet';
import type { DeviceRequest } from '../../core/driver';
import { fitted } from '../../core/lamp';
import { longestInletText, type DeviceRecord } from '../../core/show';
import type { Aims } from '../aim/aims';
import { prepare } from '../devices/prepare';
import type { Dispatcher } from '../presses/dispatcher';
import type { WireLog } from '../record/wire-log';
import type { RunningShow } from '../show/running-show';
import type { Watches } from '../watches/watches';
import type { InletHand } from './inlet-hand';
import { InletWire } from './inlet-wire';
import { isPress } from './inlets';

interface Sources {
  readonly show: RunningShow;
  readonly aims: Aims;
  readonly dispatcher: Dispatcher;
  readonly watches: Watches;
  readonly hand: InletHand;
  readonly wire: Pick<WireLog, 'record'>;
  readonly newId: () => string;
  /** Proofs beside the show: nothing is carried out there. */
  readonly isPrivate: boolean;
}

/** Carries out what devices request over the connection that drives them, like a message on an inlet and within the rights of the device. */
export class DeviceRequests {
  private readonly budget = new SourceBudget();
  private readonly wires = new Map<string, InletWire>();

  constructor(private readonly sources: Sources) {}

  readonly onRequest = (device: string, request: DeviceRequest): void => {
    const { show, watches, hand, newId, isPrivate } = this.sources;
    const record = show.devices.get(device);
    if (!record || isPrivate) return;
    const { requests: rights, tag } = record.data;
    const wire = this.wireOf(device);
    const text = request.line.trim();
    // Before anything else: refusals to a flood would be a flood, too.
    if (!this.budget.takes(device, performance.now())) return wire.refused('too many requests per second', tag);
    if (rights === undefined) {
      const message = `${tag} may not send requests. Allow them in its settings.`;
      return this.answer(record, request, errorAnswer({ code: 'not-allowed', message }), wire);
    }
    if (text.length > longestInletText) return wire.refused('request too long', tag);
    const came = (answer: InletAnswer) => this.answer(record, request, answer, wire);
    const fired = watches.onMessage(device, text, tag);
    if (fired > 0) return came({ is: 'ok', said: fired === 1 ? '1 watch' : `${fired} watches` });
    const asked = requestOfLine(text);
    const press = newId();
    const asker = { name: `device ${tag}`, readsOnly: rights === 'reads', confirms: false, press };
    const done = asked.ok
      ? hand.carryOut(asker, asked.value, (answer) =>
          this.answer(record, request, answer, wire, isPress(asked.value) ? press : undefined),
        )
      : asked;
    if (!done.ok) came(errorAnswer(done.error));
  };

  private wireOf(device: string): InletWire {
    const known = this.wires.get(device) ?? new InletWire(this.sources.wire, device);
    this.wires.set(device, known);
    return known;
  }

  /** Says what came of it, on the wire and to the device where its driver has words for it. */
  private answer(
    record: DeviceRecord,
    { line, groups, done, refused }: DeviceRequest,
    answer: InletAnswer,
    wire: InletWire,
    press?: string,
  ): void {
    const said = answerLine(answer);
    wire.came(`request ${line.slice(0, 80)}: ${said}`, undefined, press);
    const command = answer.is === 'error' ? refused : done;
    const driver = command === undefined ? undefined : this.sources.show.driverOf(record);
    const taken = driver?.document.commands[command ?? '']?.params;
    if (command === undefined || !driver || !taken) return;
    const known: Readonly<Record<string, string | undefined>> = {
      ...groups,
      said,
      ...(answer.is === 'error' ? { code: answer.code, reason: answer.message } : {}),
    };
    const params = Object.fromEntries(
      Object.entries(taken).flatMap(([name, param]) => {
        const value = known[name];
        return value === undefined ? [] : [[name, fitted(value, param)] as const];
      }),
    );
    const prepared = prepare(driver, command, params);
    if (!prepared.ok) return wire.refused(prepared.error.message, record.data.tag);
    const order = {
      device: record,
      prepared: prepared.value,
      aim: this.sources.aims.aim,
      who: `device ${record.data.tag}`,
    };
    this.sources.dispatcher.dispatch({ ...order, isConfirmed: true, owners: [], stopOwner: 'answer' }, () => undefined);
  }
}
