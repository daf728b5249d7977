/** What the slide and clip machine of the regatta has in it. All of it is invented. */

interface Item {
  readonly title: string;
  readonly notes: string;
  /** Seconds of a clip; 0 for a slide, which stays. */
  readonly seconds: number;
}

interface Deck {
  readonly name: string;
  readonly kind: 'deck' | 'playlist';
  readonly items: readonly Item[];
}

const slide = (title: string, notes = ''): Item => ({ title, notes, seconds: 0 });
const clip = (title: string, seconds: number): Item => ({ title, notes: '', seconds });

export const decks: readonly Deck[] = [
  {
    name: 'Welcome',
    kind: 'deck',
    items: [
      slide('Tidewick Regatta', 'Good morning. Thank the harbour crew.'),
      slide('Today on the water', 'Six lanes, nine heats. Low water at noon.'),
      slide('Where to stand', 'Point at the bank screen.'),
      slide('Our clubs', 'Name all six; Alder first.'),
      slide('Enjoy the day'),
    ],
  },
  {
    name: 'Safety briefing',
    kind: 'deck',
    items: [
      slide('Safety on the estuary', 'Wait until everybody is seated.'),
      slide('Tide and wind', 'Force three from the west, four after two.'),
      slide('If you capsize', 'Stay with the boat. Launch is there in a minute.'),
      slide('Signals', 'Show the red flag.'),
    ],
  },
  {
    name: 'Between the races',
    kind: 'playlist',
    items: [
      clip('Drone over the bend', 30),
      slide('Results so far'),
      clip('Boat builders of Tidewick', 45),
      slide('Next race at'),
      clip('Gulls and oars', 20),
    ],
  },
];

interface TitleTemplate {
  readonly name: string;
  readonly theme: string;
  readonly fields: readonly string[];
}

export const titleTemplates: readonly TitleTemplate[] = [
  { name: 'Speaker', theme: 'Sand', fields: ['Name', 'Role'] },
  { name: 'Next on stage', theme: 'Sand', fields: ['Who', 'When'] },
  { name: 'Notice', theme: 'Slate', fields: ['Text'] },
];

export const pictureTitles = ['Club crest', 'Sponsors', 'Map of the bank'] as const;
/** Which layers reach which audience screens. */
export const screenSets = ['All screens', 'Bank only', 'Club house only', 'Titles everywhere, slides inside'] as const;
/** How the talent's screen is laid out. */
export const arrangements = ['Notes and next slide', 'Clock large', 'Message only'] as const;

interface Track {
  readonly list: string;
  readonly name: string;
  readonly seconds: number;
}

export const tracks: readonly Track[] = [
  { list: 'Walk-in', name: 'Morning water', seconds: 184 },
  { list: 'Walk-in', name: 'Oars at rest', seconds: 151 },
  { list: 'Prize giving', name: 'Fanfare', seconds: 12 },
  { list: 'Prize giving', name: 'Victory row', seconds: 96 },
];

const tints = ['#3d5a63', '#6b4f3a', '#4d6f52'];

/** A small picture of a slide, as the machine draws its thumbnails. */
export function thumbnail(deck: number, item: Item): string {
  const safe = item.title.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
  const mark = item.seconds > 0 ? '<path d="M70 34l26 14-26 14z" fill="#e9dcc7" opacity=".5"/>' : '';
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 160 90"><rect width="160" height="90" fill="${tints[deck % tints.length] ?? ''}"/>${mark}<text x="10" y="80" font-family="sans-serif" font-size="12" fill="#f3ece0">${safe}</text></svg>`;
  return `data:image/svg+xml;base64,${Buffer.from(svg).toString('base64')}`;
}
