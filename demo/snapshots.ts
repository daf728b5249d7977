import { ownId, type GlideTime, type ShowRecord, type SnapshotPart, type SnapshotRecord } from '../src/core/show';
import { partOfBoxes, shelfLayouts } from '../src/core/snapshot';
import { compileDriver } from '../src/core/driver';
import switcherDriver from '../src/drivers/vision-switcher.json' with { type: 'json' };
import { page, reading, type Button, type Lamp } from './page-parts';

/** Snapshots of the demo: layouts of the switcher, scenes of the mixer and the lights, and the page that calls them up. */

const switcher = 'dev-switcher';
/** The input that shows the boxes. */
const layoutInput = 10;

/** Which layouts, with the sources of their boxes: the pontoon, the drone, the finish, mid-course. */
const layouts: readonly (readonly [shelf: string, name: string, sources: readonly number[]])[] = [
  ['Side by side', 'Two crews', [3, 5]],
  ['Conversation', 'Interview', [4, 1]],
  ['Large left, small right', 'Race and guest', [5, 4]],
  ['Inset top right', 'Drone inset', [2, 5]],
  ['Inset bottom left', 'Guest inset', [3, 4]],
  ['Three in a row', 'Three points', [1, 2, 3]],
  ['One large, two right', 'Race and two', [5, 3, 2]],
  ['Four quarters', 'Whole course', [1, 2, 3, 5]],
];

const glide: GlideTime = { ms: 1200, curve: 'smooth' };

const snapshot = (
  number: number,
  folder: string,
  name: string,
  parts: SnapshotPart[],
  way: GlideTime,
): SnapshotRecord => ({
  kind: 'snapshot',
  id: `snap-${number}`,
  version: 1,
  data: { name, number, order: number, folder, note: '', parts, takenAt: '', glide: way },
});

const strips = (levels: readonly number[]): SnapshotPart => ({
  device: 'dev-a1',
  keep: 'strips',
  values: Object.fromEntries(levels.map((level, n) => [`strip[${n + 1}].level`, level])),
});
const lights = (levels: readonly number[]): SnapshotPart => ({
  device: 'dev-l1',
  keep: 'levels',
  values: Object.fromEntries(levels.map((level, n) => [`level[${n + 1}]`, level])),
});

export const demoSnapshots = (): SnapshotRecord[] => [...layoutSnapshots(), ...scenes()];

function layoutSnapshots(): SnapshotRecord[] {
  const driver = compileDriver(switcherDriver);
  if (!driver.ok) throw new Error('The driver of the switcher does not compile.');
  const { document } = driver.value;
  return layouts.map(([shelf, name, sources], n) => {
    const boxes = shelfLayouts.find((each) => each.name === shelf)?.boxes ?? [];
    return snapshot(n + 1, 'Layouts', name, [partOfBoxes(switcher, 'boxes', document, boxes, sources)], glide);
  });
}

const scenes = (): SnapshotRecord[] => [
  snapshot(11, 'Sound', 'Race sound', [strips([-5, -5, -60, -20, -20, -12, -12])], { ms: 2000, curve: 'linear' }),
  snapshot(12, 'Sound', 'Interview sound', [strips([-30, -60, -4, -60, -60, -30, -30])], { ms: 2000, curve: 'linear' }),
  snapshot(21, 'Lights', 'Interview light', [lights([90, 78, 47, 63, 63, 55])], { ms: 3000, curve: 'linear' }),
  snapshot(22, 'Lights', 'Evening light', [lights([35, 30, 20, 50, 50, 15])], { ms: 3000, curve: 'linear' }),
];

const stateLamps: readonly Lamp[] = [
  { key: 'snapshot[$snapshot].state', to: 'moving', show: 'active', word: 'MOVING' },
  { key: 'snapshot[$snapshot].state', to: 'there', show: 'active', word: 'THERE' },
  { key: 'snapshot[$snapshot].state', to: 'changed', show: 'warning', word: 'CHANGED' },
];

/** A button that calls a snapshot up, with its picture and how it stands to its devices. */
const callUp = (number: number, rows = 2): Button => ({
  label: [reading(ownId, 'snapshot[$snapshot].name')],
  device: ownId,
  rows,
  values: { snapshot: number },
  shows: { kind: 'picture', reading: { device: ownId, key: 'snapshot[$snapshot].picture' } },
  responses: { tap: [{ device: ownId, command: 'callUp', params: { snapshot: { value: 'snapshot' } } }] },
  lamps: stateLamps,
});

/** Keeps what devices are set to now: which groups, and under which name, is asked for. */
const takeSnapshot: Button = {
  label: 'Take snapshot',
  icon: 'still',
  device: ownId,
  cols: 2,
  values: { groups: 'SW1 Boxes of the layout', name: '', folder: 'Layouts', tint: 'none' },
  responses: {
    tap: [
      {
        device: ownId,
        command: 'takeGroups',
        params: {
          groups: { value: 'groups' },
          name: { value: 'name' },
          folder: { value: 'folder' },
          tint: { value: 'tint' },
        },
      },
    ],
    asks: {
      mostMs: 120_000,
      items: [
        { value: 'groups', title: 'Groups' },
        { value: 'name', title: 'Name' },
        { value: 'folder', title: 'Folder' },
        { value: 'tint', title: 'Tint' },
      ],
    },
  },
};

const tell = (
  label: string,
  command: string,
  params: Record<string, string | number | boolean>,
  lamp?: Lamp,
): Button => ({
  label,
  device: ownId,
  command,
  params,
  ...(lamp ? { lamp } : {}),
});

/** Layouts with their pictures, a fader between two of them, and the scenes of sound and light. */
export function layoutsPage(): ShowRecord[] {
  return page(
    'page-layouts',
    'Layouts',
    6.7,
    8,
    'A layout glides in on input 10, wherever that is seen. The fader goes by hand from “Two crews” to “Race and guest”.',
    [
      { title: 'Layouts', col: 0, row: 0, cols: 4, buttons: layouts.map((_, n) => callUp(n + 1)) },
      {
        title: 'Input 10',
        col: 4,
        row: 0,
        cols: 2,
        buttons: [
          {
            label: 'Layout now',
            device: switcher,
            cols: 2,
            rows: 2,
            shows: { kind: 'layout', device: switcher, layout: 'boxes' },
          },
        ],
      },
      {
        title: 'On its way',
        col: 4,
        row: 2,
        cols: 2,
        buttons: [
          {
            label: 'Layout next',
            device: switcher,
            command: 'ready',
            params: { input: layoutInput },
            lamps: [
              { key: 'program', to: layoutInput, show: 'onAir' },
              { key: 'preview', to: layoutInput, show: 'next' },
            ],
          },
          tell('Hold', 'holdGlides', { on: true }, { key: 'glidesHeld', to: true, show: 'warning', word: 'HELD' }),
          tell('Run back', 'turnGlides', {}),
          tell('Next of folder', 'stepFolder', { folder: 'Layouts', by: 1 }),
        ],
      },
      {
        title: 'By hand',
        col: 6,
        row: 0,
        cols: 2,
        buttons: [
          {
            label: 'Two crews to guest',
            device: ownId,
            cols: 2,
            rows: 3,
            range: {
              send: { device: ownId, command: 'morph', params: { from: 1, to: 3 } },
              param: 'at',
              min: 0,
              max: 100,
              reading: { device: ownId, key: 'snapshot[3].toward' },
            },
          },
        ],
      },
      {
        title: 'Sound',
        col: 0,
        row: 4,
        cols: 4,
        buttons: [callUp(11), callUp(12)].map((each) => ({ ...each, cols: 2 })),
      },
      {
        title: 'Light',
        col: 4,
        row: 4,
        cols: 4,
        buttons: [callUp(21), callUp(22)].map((each) => ({ ...each, cols: 2 })),
      },
      { title: 'Keep', col: 6, row: 3, cols: 2, buttons: [takeSnapshot] },
    ],
  );
}
