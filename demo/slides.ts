import type { ShowRecord } from '../src/core/show';
import { page, reading, type Button } from './page-parts';

const device = 'dev-v1';

const message = (text: string): Button => ({
  label: text,
  device,
  command: 'message',
  params: { text },
  lamp: { key: 'message', to: text, show: 'active', word: 'SHOWN' },
});

const title = (n: number): Button => ({
  label: [reading(device, `template[${n}].name`)],
  device,
  command: 'title',
  params: { title: n, on: true },
  lamp: { key: 'title', to: n, show: 'active', word: 'ON' },
});

/** The same button shows a picture and hides it. */
const picture = (n: number): Button => ({
  label: [reading(device, `picture[${n}].name`)],
  device,
  responses: {
    tap: [{ device, command: 'picture', params: { picture: n, on: true } }],
    turns: [[{ device, command: 'picture', params: { picture: n, on: false } }]],
  },
  lamp: { key: `picture[${n}].on`, to: true, show: 'active', word: 'ON' },
});

const numbered = (key: string, command: string, param: string, reads: string, n: number): Button => ({
  label: [reading(device, `${key}[${n}].name`)],
  device,
  command,
  params: { [param]: n },
  lamp: { key: reads, to: n, show: 'active', word: 'ON' },
});

/** Slides, titles and screens of the club house, and what the talent is told. */
export function slidesPage(): ShowRecord[] {
  return page(
    'page-slides',
    'Slides',
    12,
    8,
    'Choose a deck, then go to a slide. A message to the talent is visible as long as it has a text.',
    [
      {
        title: 'Slides',
        col: 0,
        row: 0,
        cols: 4,
        buttons: [{ label: 'Slides', device, list: { list: 'slides', form: 'large' }, cols: 4, rows: 4 }],
      },
      {
        title: 'Now and next',
        col: 4,
        row: 0,
        cols: 4,
        buttons: [
          { label: [{ text: 'Now: ' }, reading(device, 'slideTitle')], device, cols: 2 },
          { label: [{ text: 'Notes: ' }, reading(device, 'notes')], device, cols: 2 },
          { label: [{ text: 'Next: ' }, reading(device, 'nextTitle')], icon: 'next', device, command: 'next' },
          ...[1, 2, 3].map((n) => numbered('deck', 'deck', 'deck', 'deck', n)),
        ],
      },
      {
        title: 'Titles and pictures',
        col: 4,
        row: 2,
        cols: 4,
        buttons: [
          title(1),
          title(2),
          title(3),
          { label: 'Clear title', device, command: 'clearTitles' },
          ...[1, 2, 3].map(picture),
          {
            label: 'Prize giving',
            device,
            runs: 'mac-prizes',
            lamp: { key: 'set', to: 3, show: 'active', word: 'SET' },
          },
        ],
      },
      {
        title: 'Message to the talent',
        col: 0,
        row: 4,
        cols: 4,
        buttons: [
          message('Two minutes'),
          message('Wait for the horn'),
          { label: 'Clear message', device, command: 'clearMessage' },
          {
            label: [{ text: 'Talent: ' }, reading(device, 'message')],
            device,
            lamps: [
              { key: 'messageLinked', to: false, show: 'warning', word: 'NOT LINKED' },
              { key: 'messageOn', to: true, show: 'active', word: 'SHOWN' },
            ],
          },
        ],
      },
      {
        title: 'Talent’s screen',
        col: 4,
        row: 4,
        cols: 3,
        buttons: [1, 2, 3].map((n) => numbered('arrangement', 'arrangement', 'arrangement', 'arrangement', n)),
      },
      {
        title: 'Audience screens',
        col: 0,
        row: 5,
        cols: 4,
        buttons: [1, 2, 3, 4].map((n) => numbered('set', 'set', 'set', 'set', n)),
      },
      {
        title: 'Sound',
        col: 4,
        row: 5,
        cols: 4,
        buttons: [
          ...[1, 3].map((n): Button => numbered('track', 'play', 'track', 'track', n)),
          { label: 'Stop', icon: 'stop', device, command: 'stop' },
          {
            label: [{ text: 'Track ' }, reading(device, 'position')],
            device,
            lamp: { key: 'sound', to: 'playing', show: 'active', word: 'PLAYING' },
          },
        ],
      },
    ],
  );
}
