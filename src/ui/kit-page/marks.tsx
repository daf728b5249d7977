import type { Outcome } from '../../core/press';
import { Cross, LinkWord, OutcomeShape, Tick, WireWay } from '../parts';
import { Specimen, Specimens } from './specimen';

const outcomes: readonly Outcome[] = ['taken', 'waiting', 'confirmed', 'sent', 'late', 'refused', 'lost', 'skipped'];

/** States: each a shape and a word. */
export const Marks = () => (
  <Specimens title="Marks">
    <Specimen title="Outcomes">
      {outcomes.map((outcome) => (
        <span key={outcome} className={`outcome outcome-${outcome}`}>
          <OutcomeShape outcome={outcome} />
          {outcome}
        </span>
      ))}
    </Specimen>
    <Specimen title="Links">
      <LinkWord link={{ word: 'up' }} />
      <LinkWord link={{ word: 'calling' }} />
      <LinkWord link={{ word: 'silent' }} />
      <LinkWord link={{ word: 'down', cause: 'refused' }} />
    </Specimen>
    <Specimen title="Fault, done, and the ways on the wire">
      <Cross /> <Tick /> <WireWay dir="out" /> <WireWay dir="in" /> <WireWay dir="note" />
    </Specimen>
  </Specimens>
);
