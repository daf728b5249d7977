/** What a composer has in it, by where it is: the launch on the water, and the club house. */

export interface ComposerPlace {
  readonly name: string;
  readonly boards: readonly string[];
  readonly feeds: readonly { readonly name: string; readonly kind: 'camera' | 'web' | 'picture' | 'film' }[];
  readonly overlays: readonly string[];
  readonly filters: readonly { readonly name: string; readonly feed: number }[];
  readonly effects: readonly string[];
  readonly channels: readonly string[];
  /** Programs of its computer that it can start. */
  readonly programs: readonly string[];
}

export const launch: ComposerPlace = {
  name: 'Launch',
  boards: ['Bow camera', 'Wake camera', 'Two views', 'Chart', 'Back soon'],
  feeds: [
    { name: 'Bow', kind: 'camera' },
    { name: 'Wake', kind: 'camera' },
    { name: 'Tide chart', kind: 'web' },
    { name: 'Pennant', kind: 'picture' },
  ],
  overlays: ['Lane names', 'Distance to go', 'Sponsor strip'],
  filters: [
    { name: 'Steady', feed: 1 },
    { name: 'Haze', feed: 1 },
    { name: 'Dusk', feed: 2 },
  ],
  effects: ['Bell', 'Gulls', 'Applause'],
  channels: ['Engine room', 'Umpire', 'Film'],
  programs: ['Chart plotter', 'Radio log'],
};

export const club: ComposerPlace = {
  name: 'Club',
  boards: ['Table', 'Balcony', 'Table and race', 'Trophies'],
  feeds: [
    { name: 'Table', kind: 'camera' },
    { name: 'Balcony', kind: 'camera' },
    { name: 'Results page', kind: 'web' },
    { name: 'Trophy film', kind: 'film' },
  ],
  overlays: ['Names at the table', 'Results strip'],
  filters: [
    { name: 'Warm room', feed: 1 },
    { name: 'Balcony light', feed: 2 },
  ],
  effects: ['Bell', 'Fanfare', 'Applause'],
  channels: ['Table', 'Room', 'Film'],
  programs: ['Results desk', 'Slides'],
};
