import type { DriverDocument, DriverParameter } from '../../driver';
import type { Scalar } from '../../result';
import { glideCurves, longestGlideMs, mostSnapshots } from '../snapshot';
import { tints, tintTitles } from '../tint';
import { command, param } from './parts';

/** What the program itself can be told about snapshots, and what it says of them, as commands and readings of a driver document. */

/** Ten minutes at 60 frames a second. */
const mostFrames = 36_000;

const snapshotParam = (title: string): DriverParameter =>
  param(title, { type: 'whole', min: 1, max: mostSnapshots }, { listFrom: 'snapshot[].name' });

const time = param('Time', { type: 'whole', min: 0, max: longestGlideMs, unit: 'ms' });
const frames = param('Time', { type: 'whole', min: 0, max: mostFrames, unit: 'frames' });

/** The curves of a glide in words. */
export const glideCurveTitles = {
  linear: 'Linear',
  smooth: 'Smooth',
  accelerating: 'Accelerating',
  decelerating: 'Decelerating',
} as const;
const curve = param(
  'Curve',
  { type: 'choice', choices: glideCurves.map((value) => ({ value, title: glideCurveTitles[value] })) },
  { default: 'smooth' },
);

const states = [
  { value: 'there', title: 'There' },
  { value: 'moving', title: 'Moving' },
  { value: 'changed', title: 'Changed' },
  { value: 'away', title: 'Not there' },
];

/** The number of the snapshot that a command calls up, where it is known before; `undefined` for any other command. */
export function snapshotCalled(
  {
    device,
    command,
    params = {},
  }: { readonly device: string; readonly command: string; readonly params?: Readonly<Record<string, unknown>> },
  values: Readonly<Record<string, Scalar>>,
): number | undefined {
  if (device !== 'own' || !['callUp', 'cutTo', 'glideTo', 'glideInFrames'].includes(command)) return undefined;
  const { snapshot } = params;
  const isValue = typeof snapshot === 'object' && snapshot !== null && 'value' in snapshot;
  const number = isValue ? values[String(snapshot.value)] : snapshot;
  return typeof number === 'number' ? number : undefined;
}

/** The parameters of a command of the show itself that take the number of a snapshot. */
export const snapshotParams = (command: string): readonly string[] =>
  Object.entries(ownSnapshots(1).commands[command]?.params ?? {}).flatMap(([name, { listFrom }]) =>
    listFrom === 'snapshot[].name' ? [name] : [],
  );

/** @param most the highest number that a snapshot of the show has */
export function ownSnapshots(most: number): Pick<DriverDocument, 'commands' | 'readings' | 'starters' | 'lists'> {
  const index = { title: 'Snapshot', from: 1, to: most };
  return {
    commands: {
      callUp: command('Call up a snapshot', 'Call up {snapshot}', {
        help: 'Takes the time set for the snapshot, or the usual time of the show. 0 is a cut.',
        params: { snapshot: snapshotParam('Snapshot') },
      }),
      cutTo: command('Cut to a snapshot', 'Cut to {snapshot}', { params: { snapshot: snapshotParam('Snapshot') } }),
      glideTo: command('Glide to a snapshot', 'Glide to {snapshot} in {ms}', {
        params: { snapshot: snapshotParam('Snapshot'), ms: time, curve },
      }),
      glideInFrames: command('Glide to a snapshot in frames', 'Glide to {snapshot} in {frames}', {
        help: 'Counts in the frame rate of the show.',
        params: { snapshot: snapshotParam('Snapshot'), frames, curve },
      }),
      morph: command('Morph between two snapshots', 'Between {from} and {to}: {at}', {
        help: 'For a fader: 0 is the first snapshot, 100 the second.',
        class: 'continuous',
        params: {
          from: snapshotParam('From'),
          to: snapshotParam('To'),
          at: param('Position', { type: 'decimal', min: 0, max: 100, unit: '%', decimals: 1 }),
        },
      }),
      stepFolder: command('Next or previous of a folder', 'Step {by} in {folder}', {
        help: 'Counts from the snapshot of the folder that was called up last, and wraps at the ends.',
        params: {
          folder: param('Folder', { type: 'text', maxLength: 40 }, { listFrom: 'folder[].name', sends: 'value' }),
          by: param('Steps', { type: 'whole', min: -20, max: 20 }, { default: 1 }),
        },
      }),
      overwriteSnapshot: command('Overwrite a snapshot', 'Overwrite {snapshot}', {
        help: 'Replaces what it keeps with what its devices are set to now. The previous values can be restored.',
        params: { snapshot: snapshotParam('Snapshot') },
        risky: true,
      }),
      getBackSnapshot: command('Get back what a snapshot kept before', 'Get back {snapshot}', {
        help: 'Swaps the present values with those from before it was last overwritten.',
        params: { snapshot: snapshotParam('Snapshot') },
      }),
      takeSnapshot: command('Take a snapshot like another', 'Take a snapshot like {like} as {name}', {
        help: 'Keeps the same groups as another snapshot, as they are set now, in the same folder, under the lowest free number. To enter the name on the panel, add a question for it.',
        params: {
          like: snapshotParam('Like'),
          name: param('Name', { type: 'text', maxLength: 60 }, { default: '' }),
        },
      }),
      takeGroups: command('Take a snapshot', 'Take a snapshot of {groups}, named {name}', {
        help: 'Keeps what the devices are set to now, under the lowest free number. Name the groups as the list does, with semicolons between them.',
        params: {
          groups: param(
            'Groups',
            { type: 'text', maxLength: 4000 },
            { listFrom: 'group[].name', sends: 'value', takes: 'several' },
          ),
          name: param('Name', { type: 'text', maxLength: 60 }, { optional: true }),
          folder: param(
            'Folder',
            { type: 'text', maxLength: 40 },
            { listFrom: 'folder[].name', sends: 'value', takes: 'examples', optional: true },
          ),
          tint: param(
            'Tint',
            {
              type: 'choice',
              choices: [
                { value: 'none', title: 'None' },
                ...tints.map((value) => ({ value, title: tintTitles[value] })),
              ],
            },
            { default: 'none' },
          ),
          note: param('Note', { type: 'text', maxLength: 2000 }, { optional: true }),
        },
      }),
      holdGlides: command('Hold glides', 'Hold glides {on}', {
        params: { on: param('Hold', { type: 'onOff', on: 'on', off: 'off' }, { default: true }) },
        class: 'urgent',
      }),
      turnGlides: command('Run glides back', 'Run glides back', {
        help: 'Runs all glides back to where they began. Sent again, it turns them forward.',
        class: 'urgent',
      }),
      stopGlides: command('Stop glides', 'Stop glides', { class: 'stop' }),
    },
    readings: {
      'snapshot[].name': { title: 'Snapshot name', value: { type: 'text' }, index },
      'snapshot[].folder': { title: 'Snapshot folder', value: { type: 'text' }, index },
      'snapshot[].state': { title: 'Snapshot', value: { type: 'choice', choices: states }, index, means: 'active' },
      'snapshot[].progress': {
        title: 'Glide to snapshot',
        value: { type: 'whole', min: 0, max: 100, unit: '%' },
        index,
        level: { from: 0, to: 100 },
      },
      'snapshot[].toward': {
        title: 'Position toward snapshot',
        value: { type: 'decimal', min: 0, max: 100, unit: '%', decimals: 1 },
        index,
      },
      'snapshot[].black': {
        title: 'Snapshot shows only black',
        value: { type: 'onOff', on: '1', off: '0' },
        index,
        means: 'warning',
      },
      'snapshot[].picture': { title: 'Snapshot picture', value: { type: 'text' }, index },
      'folder[].name': {
        title: 'Folder of snapshots',
        value: { type: 'text' },
        index: { title: 'Folder', from: 1, to: 100 },
      },
      'group[].name': {
        title: 'Group that a snapshot can keep',
        value: { type: 'text' },
        index: { title: 'Group', from: 1, to: 400 },
      },
      lastSnapshot: { title: 'Snapshot called up last', value: { type: 'whole', min: 0, max: mostSnapshots } },
      gliding: { title: 'A snapshot glides', value: { type: 'onOff', on: '1', off: '0' }, means: 'active' },
      glidesHeld: { title: 'Glides are held', value: { type: 'onOff', on: '1', off: '0' }, means: 'warning' },
    },
    starters: [
      {
        purpose: 'Snapshots',
        title: 'Call up a snapshot',
        each: 'snapshot[].name',
        command: 'callUp',
        params: { snapshot: { item: 'index' } },
        held: false,
        picture: 'snapshot[].picture',
        lamps: [
          { reading: 'snapshot[].state', to: 'moving', show: 'active', word: 'MOVING' },
          { reading: 'snapshot[].state', to: 'there', show: 'active', word: 'THERE' },
          { reading: 'snapshot[].state', to: 'changed', show: 'warning', word: 'CHANGED' },
        ],
      },
      {
        purpose: 'Overwrite snapshots',
        title: 'Overwrite a snapshot',
        each: 'snapshot[].name',
        command: 'overwriteSnapshot',
        params: { snapshot: { item: 'index' } },
        held: false,
        picture: 'snapshot[].picture',
      },
      {
        purpose: 'Take snapshots',
        title: 'Take a snapshot',
        command: 'takeGroups',
        params: {},
        held: false,
        asks: ['groups', 'name', 'folder', 'tint', 'note'],
      },
      { purpose: 'Glides', title: 'Hold glides', command: 'holdGlides', params: { on: true }, held: false },
      { purpose: 'Glides', title: 'Run glides back', command: 'turnGlides', params: {}, held: false },
      { purpose: 'Glides', title: 'Stop glides', command: 'stopGlides', params: {}, held: false },
    ],
    lists: {
      snapshots: {
        title: 'Snapshots',
        items: 'snapshot[].name',
        texts: ['snapshot[].folder'],
        picture: 'snapshot[].picture',
        current: { reading: 'lastSnapshot', by: 'index' },
        acts: [
          { title: 'Call up', command: 'callUp', params: { snapshot: { item: 'index' } } },
          { title: 'Cut', command: 'cutTo', params: { snapshot: { item: 'index' } } },
          { title: 'Glide in', command: 'glideTo', params: { snapshot: { item: 'index' } }, ask: 'ms' },
        ],
      },
    },
  };
}
