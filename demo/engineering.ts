import type { ShowRecord } from '../src/core/show';
import { page, pictureZone, reading, type Button } from './page-parts';

export function engineeringPage(): ShowRecord[] {
  const gateway = 'dev-g1';
  const board = 'dev-s1';
  return page('page-engineering', 'Engineering', 7, 9, 'The horn sounds while it is held, five seconds at the most.', [
    {
      title: 'Start',
      col: 0,
      row: 0,
      cols: 6,
      buttons: [
        {
          label: 'Horn',
          icon: 'horn',
          device: gateway,
          command: 'horn',
          held: true,
          lamp: { key: 'horn', to: true, show: 'warning', word: 'HORN' },
        },
        {
          label: 'Flag up',
          icon: 'up',
          device: gateway,
          command: 'flagUp',
          held: true,
          lamp: { key: 'flagTop', to: true, show: 'active', word: 'TOP' },
        },
        {
          label: 'Flag down',
          icon: 'down',
          device: gateway,
          command: 'flagDown',
          held: true,
        },
        {
          label: 'Light on',
          icon: 'light',
          device: gateway,
          command: 'light',
          params: { light: 'boat', on: true },
          lamp: { key: 'lightBoat', to: true, show: 'onAir' },
        },
        {
          label: 'Light off',
          icon: 'light-off',
          device: gateway,
          command: 'light',
          params: { light: 'boat', on: false },
        },
        { label: [{ text: 'Flag ' }, reading(gateway, 'flagHeight'), { text: ' %' }], device: gateway },
      ],
    },
    {
      title: 'Results board',
      col: 0,
      row: 1,
      cols: 6,
      buttons: [
        {
          label: 'Lane 4 first',
          device: board,
          command: 'text',
          params: { row: 1, text: '1 LANE 4' },
          lamp: { key: 'row[1].text', to: '1 LANE 4', show: 'active' },
        },
        {
          label: 'Lane 2 first',
          device: board,
          command: 'text',
          params: { row: 1, text: '1 LANE 2' },
          lamp: { key: 'row[1].text', to: '1 LANE 2', show: 'active' },
        },
        {
          label: 'Blank',
          device: board,
          command: 'show',
          params: { on: false },
          lamp: { key: 'shown', to: false, show: 'active', word: 'BLANK' },
        },
        {
          label: 'Show',
          device: board,
          command: 'show',
          params: { on: true },
        },
        {
          label: 'Clear',
          device: board,
          command: 'clearAll',
        },
        { label: [{ text: 'Row 1: ' }, reading(board, 'row[1].text')], device: board },
      ],
    },
    {
      title: 'The show',
      col: 0,
      row: 2,
      cols: 6,
      buttons: [
        { label: [reading('own', 'timeOfDay')], device: 'own', cols: 2 },
        { label: [{ text: 'Show ' }, reading('own', 'showTime')], device: 'own' },
        {
          label: [reading('own', 'devicesDown'), { text: ' down' }],
          device: 'own',
          lamp: { key: 'devicesDown', to: 0, not: true, show: 'warning', word: 'DOWN' },
        },
        {
          label: 'Layout',
          device: 'dev-switcher',
          shows: { kind: 'layout', device: 'dev-switcher', layout: 'boxes' },
          cols: 2,
        },
      ],
    },
    {
      title: 'Races',
      col: 0,
      row: 3,
      cols: 6,
      buttons: [
        {
          label: [{ text: 'Race ' }, reading('own', 'variable.race')],
          device: 'own',
          command: 'stepRace',
          params: { by: 1 },
        },
        ...['Heats', 'Semi-finals', 'Finals'].map((round): Button => ({
          label: round,
          device: 'own',
          command: 'setRound',
          params: { value: round },
          lamp: { key: 'variable.round', to: round, show: 'active', word: 'NOW' },
        })),
        {
          label: 'Pontoon',
          device: 'own',
          command: 'switchPontoon',
          lamp: { key: 'variable.pontoon', to: true, show: 'active', word: 'OPEN' },
        },
        {
          label: 'Horn at the start',
          icon: 'horn',
          device: 'own',
          command: 'switchWatch',
          params: { watch: 2, on: true },
          lamps: [
            { key: 'watch[2].state', to: 'on', show: 'active', word: 'ARMED' },
            { key: 'watch[2].state', to: 'stopped', show: 'warning', word: 'STOPPED' },
          ],
        },
      ],
    },
    pictureZone('Multiviewer', 'dev-m1', 'picture', { col: 6, row: 0, cols: 3, rows: 2 }),
    pictureZone('Preview', 'dev-switcher', 'preview', { col: 6, row: 2, cols: 3, rows: 2 }),
  ]);
}
