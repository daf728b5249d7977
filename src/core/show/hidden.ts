import type { RecordChange } from './edit';
import { panelsOf } from './panel-edits';
import type { ShowRecord } from './records';

/** The panels on which a control is hidden. */
export const panelsHiding = (records: readonly ShowRecord[], control: string): string[] =>
  panelsOf(records).flatMap(({ id, data }) => (data.hidden.includes(control) ? [id] : []));

/**
 * Hides new controls on the panels on which those are hidden that they were made of: what somebody took off a panel does not come back
 * to it under another id.
 *
 * @param made for each new control, the panels on which it is hidden
 */
export function hideOn(records: readonly ShowRecord[], made: ReadonlyMap<string, readonly string[]>): RecordChange[] {
  return panelsOf(records).flatMap((panel): RecordChange[] => {
    const own = [...made].flatMap(([control, panels]) => (panels.includes(panel.id) ? [control] : []));
    const fresh = own.filter((control) => !panel.data.hidden.includes(control));
    if (fresh.length === 0) return [];
    const to = { ...panel, data: { ...panel.data, hidden: [...panel.data.hidden, ...fresh] } };
    return [{ op: 'update', from: panel, to }];
  });
}
