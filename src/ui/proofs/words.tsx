import type { ItemKind, ProofBy, Standing } from '../../core/line-check';
import { Cross, Tick } from '../parts';

const standingWords: Readonly<Record<Standing, string>> = {
  passed: 'proved',
  doubtful: 'needs a look',
  failed: 'failed',
  due: 'due again',
  open: 'not proved',
  none: 'no proof',
};

/** Where an item stands, for paper. */
export const standingText = (standing: Standing): string => standingWords[standing];

export const proofWords: Readonly<Record<ProofBy, string>> = {
  test: 'Connection test',
  query: 'Query to the device',
  'put-back': 'Tried at the device and put back',
  use: 'Used and confirmed',
  reported: 'Reported by the device',
  names: 'Names compared',
  screen: 'Screen connected',
  gear: 'Plugged in and used',
  inlet: 'Message received',
  rehearsal: 'Rehearsed on a stand-in',
  lamp: 'Indication rehearsed on stand-ins',
  person: 'Seen by a person',
};

export const kindWords: Readonly<Record<ItemKind, string>> = {
  connection: 'Connection',
  command: 'Command',
  indication: 'Indication',
  tie: 'Tie',
  tally: 'Tally',
  display: 'Display',
  panel: 'Panel',
  gear: 'Hand gear',
  inlet: 'Inlet',
};

const standingClass: Readonly<Partial<Record<Standing, string>>> = {
  failed: 'bg-fault px-2 font-semibold text-fault-ink',
  doubtful: 'bg-warning px-2 font-semibold text-warning-ink',
  due: 'border border-rule-strong px-2',
  open: 'text-ink-soft',
  none: 'text-ink-soft',
};

const markClass: Readonly<Record<Standing, string>> = {
  failed: 'bg-fault text-fault-ink',
  doubtful: 'bg-warning text-warning-ink',
  due: 'border-rule-strong bg-ground text-ink',
  open: 'border-rule-strong bg-ground text-ink-soft',
  none: 'border-rule bg-ground text-ink-soft',
  passed: 'border-rule-strong bg-ground text-ink',
};

/** Where a control stands, in its corner. */
export const StandingMark = ({ standing }: { readonly standing: Standing }) => (
  <span
    className={`absolute right-1 bottom-1 border border-transparent px-1.5 text-[12px] leading-4.5 font-semibold ${markClass[standing]}`}
  >
    {standing === 'failed' && <Cross />}
    {standing === 'passed' && <Tick />}
    {standingWords[standing]}
  </span>
);

/** Where an item stands, as a word: quiet where all is well. */
export const StandingWord = ({ standing }: { readonly standing: Standing }) => (
  <span className={`justify-self-start ${standingClass[standing] ?? ''}`}>
    {standing === 'failed' && <Cross />}
    {standing === 'passed' && <Tick />}
    {standingWords[standing]}
  </span>
);
