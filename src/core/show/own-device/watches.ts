import type { DriverDocument } from '../../driver';
import { mostWatches } from '../watch';
import { command, param } from './parts';

/** What the program can be told about watches and panels, and what it says of its watches. */

const states = [
  { value: 'on', title: 'On' },
  { value: 'off', title: 'Off' },
  { value: 'waiting', title: 'Only in service' },
  { value: 'spent', title: 'Already fired' },
  { value: 'stopped', title: 'Stopped' },
];

const watch = param('Watch', { type: 'whole', min: 1, max: mostWatches }, { listFrom: 'watch[].name' });
const on = param('On', { type: 'onOff', on: 'on', off: 'off' }, { default: true });
const line = param('Text', { type: 'text', maxLength: 300 });

/** @param most the highest number that a watch of the show has */
export function ownWatches(most: number): Pick<DriverDocument, 'commands' | 'readings' | 'starters'> {
  const index = { title: 'Watch', from: 1, to: most };
  return {
    commands: {
      switchWatch: command('Switch a watch', 'Watch {watch} {on}', {
        help: 'Switched on, a watch that has fired once or was stopped can fire again.',
        params: { watch, on },
      }),
      fireWatch: command('Fire a watch', 'Fire watch {watch}', {
        help: 'Does what the watch does now, whatever it waits for.',
        params: { watch },
      }),
      notify: command('Show a note on panels', 'Note “{text}” on {panel}', {
        help: 'On all panels where none is named.',
        params: {
          text: line,
          panel: param(
            'Panel',
            { type: 'text', maxLength: 60 },
            { listFrom: 'panel[].name', sends: 'value', optional: true },
          ),
        },
      }),
      showPage: command('Open a page on panels', 'Open {page} on {panel}', {
        help: 'On all panels that have it where none is named.',
        params: {
          page: param('Page', { type: 'text', maxLength: 60 }, { listFrom: 'page[].name', sends: 'value' }),
          panel: param(
            'Panel',
            { type: 'text', maxLength: 60 },
            { listFrom: 'panel[].name', sends: 'value', optional: true },
          ),
        },
      }),
      record: command('Add a note to the as-run', 'Write “{text}”', { params: { text: line } }),
    },
    readings: {
      'watch[].name': { title: 'Watch name', value: { type: 'text' }, index },
      'watch[].state': { title: 'Watch', value: { type: 'choice', choices: states }, index },
      'watch[].count': { title: 'Times fired', value: { type: 'whole' }, index },
      'watch[].last': { title: 'Fired last', value: { type: 'text' }, index },
      'watch[].why': { title: 'Reason for firing or not', value: { type: 'text' }, index },
      'watch[].next': { title: 'Next time', value: { type: 'text' }, index },
      'watch[].left': {
        title: 'Time until the next firing',
        value: { type: 'time', writes: 'seconds', fps: 25 },
        index,
        runs: { while: 'running', equals: true, rate: -1 },
      },
      'page[].name': {
        title: 'Page name',
        value: { type: 'text' },
        index: { title: 'Page', from: 1, to: 200 },
      },
      'panel[].name': {
        title: 'Panel name',
        value: { type: 'text' },
        index: { title: 'Panel', from: 1, to: 200 },
      },
    },
    starters: [
      {
        purpose: 'Watches',
        title: 'Switch a watch on',
        each: 'watch[].name',
        command: 'switchWatch',
        params: { watch: { item: 'index' }, on: true },
        held: false,
        lamps: [
          { reading: 'watch[].state', to: 'on', show: 'active', word: 'ON' },
          { reading: 'watch[].state', to: 'stopped', show: 'warning', word: 'STOPPED' },
        ],
      },
    ],
  };
}
