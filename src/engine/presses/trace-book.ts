import { readingText } from '../../core/driver';
import type { Explanation, Moment } from '../../core/explain';
import type { FaceView } from '../../core/face';
import { tallySender } from '../../core/live';
import type { RunningShow } from '../show/running-show';
import { PressTrace } from './press-trace';
import type { PressSubject } from './press-request';

/** How many presses are kept, and as many steps of macros and sends of tally beside them. */
const keptTraces = 2000;

/** Keeps the accounts of the last presses, to explain how each of them ended. */
export class TraceBook {
  private readonly presses = new Map<string, PressTrace>();
  /** Steps of macros and tally have room of their own: they do not push out what was pressed. */
  private readonly steps = new Map<string, PressTrace>();
  /** The last press of each control. */
  private readonly ofControls = new Map<string, PressTrace>();

  constructor(private readonly show: RunningShow) {}

  begin(subject: PressSubject): PressTrace {
    const { request, control } = subject;
    const trace = new PressTrace(subject);
    const kept = request.run === undefined && request.who !== tallySender ? this.presses : this.steps;
    kept.set(request.id, trace);
    dropOldest(kept);
    this.ofControls.delete(control.id);
    this.ofControls.set(control.id, trace);
    dropOldest(this.ofControls);
    return trace;
  }

  /** The account of a press; `undefined` when it is too long ago or was never made here. */
  explain(press: string): Explanation | undefined {
    const view = (this.presses.get(press) ?? this.steps.get(press))?.view;
    return view && { ...view, moments: view.moments.map((moment) => this.inWords(view, moment)) };
  }

  private inWords({ sends }: Explanation, moment: Moment): Moment {
    if (moment.is !== 'reported') return moment;
    const tag = sends[moment.send]?.device;
    const document = this.show.documentOfTag(tag ?? '');
    const readings = moment.readings.map((each) => {
      const { name, shown } = readingText(document, each.key, each.value);
      return { ...each, says: `${name} ${shown}` };
    });
    return { ...moment, readings };
  }

  /** Told of every face that has changed. */
  readonly onFace = (control: string, face: FaceView, before: FaceView | undefined): void => {
    this.ofControls.get(control)?.onFace(face, before);
  };
}

function dropOldest(traces: Map<string, PressTrace>): void {
  if (traces.size <= keptTraces) return;
  const oldest = traces.keys().next().value;
  if (oldest !== undefined) traces.delete(oldest);
}
