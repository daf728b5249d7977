import type { ControlRecord } from '../show';
import { withPick, withShift, type PageContext } from './context-key';

type Sets = NonNullable<ControlRecord['data']['sets']>;

/**
 * How a page is looked at after a control that chooses was pressed (`down`) or let go. A pick is a pick, also of what is picked or followed
 * already; a level that is chosen is left by choosing it again.
 */
export function setBy(context: PageContext, sets: Sets, down: boolean): PageContext {
  if ('zone' in sets) return down ? withPick(context, sets.zone, sets.device) : context;
  if (sets.while === 'held') return withShift(context, down ? sets.shift : undefined);
  return down ? withShift(context, context.shift === sets.shift ? undefined : sets.shift) : context;
}
