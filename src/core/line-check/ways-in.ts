import { panelHasPage, type BindingRecord, type InletRecord, type PanelRecord, type ShowRecord } from '../show';
import { fingerprintOf } from './fingerprint';
import { nowhere, type CheckItem } from './item';

/** Whether other programs and systems are heard. What they ask for is proved with the controls and macros. */
export function inletItem({ id, data }: InletRecord): CheckItem {
  const { name, order: _, note: __, ...rest } = data;
  const item = {
    ...nowhere,
    id: `inlet:${id}`,
    kind: 'inlet' as const,
    title: name,
    devices: [],
    fingerprint: fingerprintOf(rest),
  };
  if (!data.on) return { ...item, proofs: [], why: 'It is switched off.' };
  const asks = `Send something to the inlet “${name}” from the program or device that uses it. Does it do what it should?`;
  return {
    ...item,
    proofs: [
      { by: 'inlet', inlet: id },
      { by: 'person', asks },
    ],
  };
}

/** Each piece of hand gear that a panel binds, once for each panel. */
export function gearItems(records: readonly ShowRecord[]): CheckItem[] {
  const panels = new Map<string, PanelRecord>();
  const onPage = new Map<string, string>();
  const bound = new Map<string, BindingRecord[]>();
  for (const record of records) {
    if (record.kind === 'panel') panels.set(record.id, record);
    else if (record.kind === 'control') onPage.set(record.id, record.data.page);
    else if (record.kind === 'binding') {
      const key = `${record.data.panel ?? ''}:${record.data.gear}`;
      bound.set(key, [...(bound.get(key) ?? []), record]);
    }
  }
  return [...bound].map(([key, bindings]) => gearItem(key, bindings, panels, onPage));
}

function gearItem(
  key: string,
  bindings: readonly BindingRecord[],
  panels: ReadonlyMap<string, PanelRecord>,
  onPage: ReadonlyMap<string, string>,
): CheckItem {
  const { panel: panelId, gear = '' } = bindings[0]?.data ?? {};
  const panel = panelId === undefined ? undefined : panels.get(panelId);
  const place = panel ? `the panel “${panel.data.name}”` : 'the screens without a panel';
  const isLost = ({ data }: BindingRecord) => onPage.get(data.control) !== data.page;
  const isOutOfReach = ({ data }: BindingRecord) => panel !== undefined && !panelHasPage(panel, data.page);
  const lost = bindings.find(isLost);
  const outOfReach = bindings.find(isOutOfReach);
  const isKeyboard = bindings.every(({ data }) => data.input.startsWith('key '));
  const asks =
    bindings.length === 1
      ? `Use the bound input of “${gear}” at ${place}. Does it operate its control, and does its lamp follow?`
      : `Use each of the ${bindings.length} bound inputs of “${gear}” at ${place}. Does each operate its control, and do the lamps follow?`;
  return {
    ...nowhere,
    id: `gear:${key}`,
    kind: 'gear',
    title: panel ? `${gear} at ${panel.data.name}` : gear,
    devices: [],
    pages: [...new Set(bindings.map(({ data }) => data.page))],
    controls: [...new Set(bindings.map(({ data }) => data.control))],
    panels: panel ? [panel.id] : [],
    proofs: [
      // Screens do not tell of their keyboards.
      ...(isKeyboard ? [] : [{ by: 'gear' as const, gear, ...(panelId === undefined ? {} : { panel: panelId }) }]),
      { by: 'person', asks },
    ],
    ...(lost ? { fault: `“${lost.data.input}” works a control that is no longer there.` } : {}),
    ...(outOfReach
      ? { why: `“${outOfReach.data.input}” works a control on a page that the panel does not have.` }
      : {}),
    fingerprint: fingerprintOf(bindings.map(({ data }) => data).sort((a, b) => (a.input < b.input ? -1 : 1))),
  };
}
