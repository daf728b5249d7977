import { ArrowLeft, ArrowRight, Ban, Check, Circle, Clock, Dot, Minus, X, type LucideIcon } from 'lucide-react';
import type { WireRow } from '../../core/live';
import type { Outcome } from '../../core/press';

/** As high as the letters beside them, and hidden from screen readers: a word follows. */
const inLine = 'mr-[0.25em] inline size-[0.95em] shrink-0 align-[-0.12em]';

/** The cross of a fault. */
export const Cross = () => <X aria-hidden strokeWidth={3.5} className={inLine} />;

/** Something is done, or true. */
export const Tick = () => <Check aria-hidden strokeWidth={3.5} className={inLine} />;

const shapes: Readonly<Record<Outcome, LucideIcon>> = {
  taken: Dot,
  waiting: Circle,
  confirmed: Check,
  sent: ArrowRight,
  late: Clock,
  refused: Ban,
  lost: X,
  skipped: Minus,
};

/** The shape of an outcome, beside its word. */
export function OutcomeShape({ outcome }: { readonly outcome: Outcome }) {
  const Shape = shapes[outcome];
  return <Shape aria-hidden strokeWidth={3} className={inLine} />;
}

const ways: Readonly<Record<WireRow['dir'], LucideIcon>> = { out: ArrowRight, in: ArrowLeft, note: Dot };
const wayWords: Readonly<Record<WireRow['dir'], string>> = { out: 'sent', in: 'received', note: 'note' };

/** Which way bytes went on the wire. */
export function WireWay({ dir }: { readonly dir: WireRow['dir'] }) {
  const Way = ways[dir];
  return <Way role="img" aria-label={wayWords[dir]} strokeWidth={2.5} className={inLine} />;
}
