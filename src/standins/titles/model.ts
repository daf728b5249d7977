/** A title machine without a socket: templates on layers, text in their fields, a table to fill them from. */

interface Template {
  readonly name: string;
  readonly fields: readonly string[];
}

export const templates: readonly Template[] = [
  { name: 'Name strap', fields: ['Name', 'Line below'] },
  { name: 'Crew list', fields: ['Crew', 'Club', 'Lane'] },
  { name: 'Race title', fields: ['Event', 'Round'] },
  { name: 'Result board', fields: ['First', 'Second', 'Third'] },
  { name: 'Clock corner', fields: ['Label'] },
  { name: 'Full page', fields: ['Headline', 'Text'] },
];

/** The data table: crew, club and lane. Crews, clubs and people are invented. */
export const table: readonly (readonly string[])[] = [
  ['Alder Eight', 'Tidewick Rowing Society', '1'],
  ['Brackwater', 'Saltmarsh Oars', '2'],
  ['Copperline', 'Fen Bridge Boat Club', '3'],
  ['Dunlin', 'Estuary Sculls', '4'],
  ['Ebbtide', 'Old Mill Rowers', '5'],
  ['Ferrymen', 'Harbour Lane Club', '6'],
];

/** Numbered functions: what the machine's own operator has prepared. */
export const functionNames = [
  'Clear all',
  'Opening sequence',
  'Lane call',
  'Hide clock',
  'Show clock',
  'Closing roll',
] as const;

export const layerCount = 3;

type LayerState = 'empty' | 'ready' | 'coming' | 'on' | 'going';

export interface Layer {
  readonly template: number;
  readonly state: LayerState;
  readonly texts: readonly string[];
  readonly row: number;
  /** What comes when the layer is taken out. */
  readonly queued: number;
}

export interface TitlesState {
  readonly layers: readonly Layer[];
  readonly lastFunction: number;
}

const empty: Layer = { template: 0, state: 'empty', texts: [], row: 0, queued: 0 };
/** Frames of an animation in or out. */
const animationFrames = 12;

export class TitlesModel {
  private current: TitlesState = { layers: Array.from({ length: layerCount }, () => empty), lastFunction: 0 };
  private readonly moving = new Map<number, number>();

  constructor(private readonly onChange: (before: TitlesState, now: TitlesState) => void) {}

  get state(): TitlesState {
    return this.current;
  }

  load(layer: number, template: number): string | undefined {
    const known = templates[template - 1];
    if (!known) return `no template ${template}`;
    const { state } = this.layer(layer);
    if (state === 'on' || state === 'coming') return 'the layer is on air';
    return this.set(layer, { template, state: 'ready', texts: known.fields.map(() => ''), row: 0 });
  }

  field(layer: number, field: number, text: string): string | undefined {
    const { template, texts } = this.layer(layer);
    if (!templates[template - 1]?.fields[field - 1]) return `no field ${field}`;
    return this.set(layer, { texts: texts.map((each, n) => (n === field - 1 ? text : each)) });
  }

  /** Fills the fields from a row of the table, as far as both go. */
  row(layer: number, row: number): string | undefined {
    const cells = table[row - 1];
    if (!cells) return `no row ${row}`;
    const { template, texts } = this.layer(layer);
    if (template === 0) return 'nothing is loaded';
    return this.set(layer, { row, texts: texts.map((text, n) => cells[n] ?? text) });
  }

  take(layer: number): string | undefined {
    const { template, state } = this.layer(layer);
    if (template === 0) return 'nothing is loaded';
    if (state === 'on' || state === 'coming') return undefined;
    this.moving.set(layer, animationFrames);
    return this.set(layer, { state: 'coming' });
  }

  out(layer: number): string | undefined {
    const { state } = this.layer(layer);
    if (state !== 'on' && state !== 'coming') return undefined;
    this.moving.set(layer, animationFrames);
    return this.set(layer, { state: 'going' });
  }

  queue(layer: number, template: number): string | undefined {
    return templates[template - 1] ? this.set(layer, { queued: template }) : `no template ${template}`;
  }

  /** The next row of the table, with what is on. */
  next(layer: number): string | undefined {
    const { row } = this.layer(layer);
    return this.row(layer, (row % table.length) + 1);
  }

  function(n: number): string | undefined {
    if (!functionNames[n - 1]) return `no function ${n}`;
    this.change({ lastFunction: n });
    if (n === 1 || n === 6) for (let layer = 1; layer <= layerCount; layer += 1) this.out(layer);
    if (n === 4) this.out(3);
    if (n === 5) {
      this.load(3, 5);
      this.take(3);
    }
    return undefined;
  }

  frame(): void {
    for (const [layer, left] of this.moving) {
      if (left > 1) {
        this.moving.set(layer, left - 1);
        continue;
      }
      this.moving.delete(layer);
      const { state, queued } = this.layer(layer);
      if (state === 'coming') this.set(layer, { state: 'on' });
      else if (queued > 0) {
        this.set(layer, { ...empty });
        this.load(layer, queued);
      } else this.set(layer, { state: 'ready' });
    }
  }

  private layer(n: number): Layer {
    return this.current.layers[n - 1] ?? empty;
  }

  private set(n: number, change: Partial<Layer>): undefined {
    const layers = this.current.layers.map((layer, at) => (at === n - 1 ? { ...layer, ...change } : layer));
    return this.change({ layers });
  }

  private change(change: Partial<TitlesState>): undefined {
    const before = this.current;
    this.current = { ...before, ...change };
    this.onChange(before, this.current);
    return undefined;
  }
}
