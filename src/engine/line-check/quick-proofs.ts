import { readingTitle } from '../../core/driver';
import type { CheckResult, Proof } from '../../core/line-check';
import type { ScreenView } from '../../core/live';
import { isWell, type Link } from '../../core/session';
import { inletsOf } from '../../core/inlet';
import { inputNames, ownId, type ReadingRef } from '../../core/show';
import { memberKey } from '../../core/driver';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

type Seen = Pick<CheckResult, 'state' | 'text' | 'ms'>;

interface QuickSources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly linkOf: (device: string) => Link['word'] | undefined;
  readonly screens: () => readonly ScreenView[];
}

const shownMissing = 3;

/** Proofs that only look at what is known already. `undefined` for proofs of another kind. */
export function proveQuickly(proof: Proof, sources: QuickSources): Seen | undefined {
  switch (proof.by) {
    case 'reported':
      return proveReported(proof.readings, sources);
    case 'names':
      return proveNames(proof, sources);
    case 'screen':
      return proveScreen(proof.panel, sources);
    case 'gear':
      return proveGear(proof, sources);
    case 'inlet':
      return proveInlet(proof.inlet, sources);
    default:
      return undefined;
  }
}

/** Every reading that is shown has been reported over the present connection. */
function proveReported(refs: readonly ReadingRef[], { show, readings, linkOf }: QuickSources): Seen {
  const tag = (id: string) => show.deviceOf(id)?.data.tag ?? '?';
  const away = [...new Set(refs.map(({ device }) => device))].find((device) => !isWell(linkOf(device) ?? 'off'));
  if (away !== undefined) return { state: 'unproved', text: `${tag(away)} is not connected.` };
  const missing = refs.filter(({ device, key }) => readings.fresh(device, key) === undefined);
  const names = missing
    .slice(0, shownMissing)
    .map(({ device, key }) => `${tag(device)} ${readingTitle(show.documentOf(device), key) ?? key}`);
  const more = missing.length > shownMissing ? ` and ${missing.length - shownMissing} more` : '';
  if (missing.some(({ device }) => linkOf(device) === 'one-way'))
    return { state: 'unproved', text: 'Nothing comes back from this kind of device.' };
  if (missing.length > 0) return { state: 'doubtful', text: `Not reported: ${names.join(', ')}${more}.` };
  return {
    state: 'passed',
    text: refs.length === 1 ? 'The device reports it.' : `All ${refs.length} readings are reported.`,
  };
}

/** The switcher calls the input what the rig calls its source. */
function proveNames(
  { switcher, input, source }: Extract<Proof, { by: 'names' }>,
  { show, readings, linkOf }: QuickSources,
): Seen {
  const said = readings.fresh(switcher, memberKey(inputNames, input));
  const device = show.devices.get(source)?.data;
  const tag = show.devices.get(switcher)?.data.tag ?? '?';
  if (!device) return { state: 'failed', text: 'The source is no longer in the rig.' };
  if (!isWell(linkOf(switcher) ?? 'off')) return { state: 'unproved', text: `${tag} is not connected.` };
  if (typeof said !== 'string' || said.trim() === '')
    return { state: 'unproved', text: `${tag} does not name this input.` };
  if (isNamed(said, device)) return { state: 'passed', text: `${tag} calls it “${said}”.` };
  const others = [...show.ties.values()].filter(({ data }) => data.switcher === switcher && data.source !== source);
  const other = others
    .map(({ data }) => show.devices.get(data.source)?.data)
    .find((each) => each && isNamed(said, each));
  if (other) return { state: 'failed', text: `${tag} calls it “${said}”, which is ${other.tag} ${other.name}.` };
  return { state: 'unproved', text: `${tag} calls it “${said}”: somebody has to look.` };
}

const isNamed = (said: string, { tag, name }: { readonly tag: string; readonly name: string }): boolean => {
  const [a, b] = [said.trim().toLowerCase(), name.trim().toLowerCase()];
  return a === tag.toLowerCase() || a.includes(b) || b.includes(a);
};

/** A screen of the panel is connected and answers. */
function proveScreen(panel: string, { screens }: QuickSources): Seen {
  const here = screens().filter((screen) => screen.panel === panel);
  if (here.length === 0) return { state: 'unproved', text: 'No screen of this panel is connected.' };
  const delays = here.flatMap(({ delayMs }) => delayMs ?? []);
  const titles = here.map(({ title }) => title).join(', ');
  const ms = delays.length === 0 ? undefined : Math.max(...delays);
  const text = here.length === 1 ? `${titles} is connected.` : `${here.length} screens are connected: ${titles}.`;
  return { state: 'passed', text, ...(ms === undefined ? {} : { ms }) };
}

/** A screen of the panel has the gear, and somebody has used it there since the screen was opened. */
function proveGear({ panel, gear: name }: Extract<Proof, { by: 'gear' }>, { screens }: QuickSources): Seen {
  const here = screens().filter((screen) => screen.kind === 'panel' && screen.panel === panel);
  if (here.length === 0)
    return {
      state: 'unproved',
      text: panel === undefined ? 'No screen without a panel is connected.' : 'No screen of this panel is connected.',
    };
  const found = here.flatMap(({ title, gear }) =>
    gear.filter((each) => each.name === name).map((each) => ({ ...each, title })),
  );
  const used = found.find(({ state, usedAt }) => state === 'ready' && usedAt !== undefined);
  if (used) return { state: 'passed', text: `It is plugged in at ${used.title}, and was used there.` };
  const ready = found.find(({ state }) => state === 'ready');
  if (ready)
    return { state: 'unproved', text: `It is plugged in at ${ready.title}. Use something on it, then check again.` };
  const held = found.find(({ state }) => state === 'held elsewhere');
  if (held) return { state: 'failed', text: `Another program is using it at ${held.title}.` };
  const gone = found.find(({ state }) => state === 'gone');
  if (gone) return { state: 'failed', text: `It was unplugged at ${gone.title}.` };
  const titles = here.map(({ title }) => title).join(', ');
  return {
    state: 'unproved',
    text: `It is not plugged in at ${titles}, or the browser has not been allowed to use it.`,
  };
}

/** The inlet listens, and what came in last was understood. */
function proveInlet(id: string, { show, readings }: QuickSources): Seen {
  const n = inletsOf([...show.inlets.values()]).findIndex((record) => record.id === id) + 1;
  const said = (key: string) => readings.get({ device: ownId, key: `inlet[${n}].${key}` })?.value;
  const state = said('state');
  if (state === 'failed' || state === 'locked out')
    return { state: 'failed', text: `It cannot listen. ${String(said('why') ?? '')}`.trim() };
  if (state !== 'listening') return { state: 'unproved', text: 'It is not listening yet.' };
  // Without the sender's address: reports are handed on.
  const last = `“${String(said('last') ?? '')}”`;
  const came = String(said('came') ?? '');
  if (came.startsWith('refused')) return { state: 'doubtful', text: `Messages arrive, but the last was ${came}.` };
  if (came.startsWith('error'))
    return { state: 'doubtful', text: `Messages arrive, but the last, ${last}, was answered with “${came}”.` };
  const heard = Number(said('heard') ?? 0);
  if (heard > 0)
    return {
      state: 'passed',
      text: heard === 1 ? `One message has come in: ${last}.` : `${heard} messages have come in; the last was ${last}.`,
    };
  return {
    state: 'unproved',
    text: 'It is listening, but nothing has come in yet. Send something to it, then check again.',
  };
}
