import {
  hasFixedName,
  nameOfRecord,
  type ControlRecord,
  type InletRecord,
  type MacroRecord,
  type PageRecord,
  type ShowRecord,
  type SnapshotRecord,
  type WatchRecord,
} from '../show';
import { inletsOf } from './edits';
import { requestTopic, topicPart } from './mqtt-topics';
import { isNamed } from './names';

/** What can be asked for from outside by an address of its own. */
export type Addressed = ControlRecord | MacroRecord | PageRecord | SnapshotRecord | WatchRecord;

/** How another program asks for something over one inlet. */
interface InletAddress {
  readonly inlet: InletRecord;
  /** A line of text, an address of Open Sound Control, a URL, or a topic of MQTT. */
  readonly text: string;
}

/**
 * How other programs ask for a record, over each inlet of the show. Names are used where they mean this record and no other, else its id.
 * @param hostHere by what other computers reach this one, for inlets that listen on all its addresses
 */
export function addressesOf(records: readonly ShowRecord[], of: Addressed, hostHere: string): InletAddress[] {
  const [word, ...parts] = wordsOf(records, of);
  return inletsOf(records)
    .filter(takesRequests)
    .map((inlet) => {
      const { speaks, host, port } = inlet.data;
      if (speaks === 'text') return { inlet, text: [word, parts.join('/')].join(' ') };
      if (speaks === 'mqtt')
        return { inlet, text: [requestTopic(inlet.data), word, ...parts.map(topicPart)].join('/') };
      const path = [word, ...parts].map((part) => encodeURIComponent(part)).join('/');
      // Blanks and a few signs are not allowed in an OSC address (OSC 1.0, "OSC Address Spaces"); names are found without them.
      if (speaks === 'osc')
        return {
          inlet,
          text: `/${[word, ...parts].map((part) => part.replaceAll(/[\s#*,/?[\]{}]+/g, '_')).join('/')}`,
        };
      const at = host === '0.0.0.0' || host === '::' ? hostHere : host;
      return { inlet, text: `http://${at.includes(':') ? `[${at}]` : at}:${port}/${path}` };
    });
}

/** Levels and tally are readings: nothing is asked for with them. */
const takesRequests = ({ data: { speaks } }: InletRecord): boolean => speaks !== 'sacn' && speaks !== 'umd';

function wordsOf(records: readonly ShowRecord[], of: Addressed): readonly [word: string, ...parts: string[]] {
  switch (of.kind) {
    case 'control':
      return ['press', ...controlParts(records, of)];
    case 'macro':
      return ['run', nameOrId(records, of)];
    case 'page':
      return ['page', nameOrId(records, of)];
    case 'snapshot':
      return ['call', String(of.data.number)];
    case 'watch':
      return ['fire', String(of.data.number)];
  }
}

/** Its name, where nothing else of its kind is meant by it. */
function nameOrId(records: readonly ShowRecord[], { kind, id, data: { name } }: MacroRecord | PageRecord): string {
  const meant = records.filter((each) => each.kind === kind && isNamed((each as MacroRecord).data.name, name));
  return meant.length === 1 && isPlain(name) ? name : id;
}

function controlParts(records: readonly ShowRecord[], control: ControlRecord): readonly string[] {
  const page = records.find((each): each is PageRecord => each.kind === 'page' && each.id === control.data.page);
  const label = nameOfRecord(control);
  const onPage = records.filter(
    (each) => each.kind === 'control' && each.data.page === control.data.page && isNamed(nameOfRecord(each), label),
  );
  const on = page && nameOrId(records, page);
  return on === page?.data.name && on !== undefined && onPage.length === 1 && hasFixedName(control) && isPlain(label)
    ? [on, label]
    : [control.id];
}

/** A name that stays what it is when a slash divides it, or an equals sign begins a value. */
const isPlain = (name: string): boolean => !/[/=]/.test(name) && isNamed(name, name);
