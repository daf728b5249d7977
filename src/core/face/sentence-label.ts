import { commandText, memberKey, type DriverDocument } from '../driver';
import { lookUpNow, readingsOfLive } from '../lamp';
import type { Reading } from '../reading';
import type { Scalar } from '../result';
import {
  isLive,
  resolveArgument,
  sendsOfControl,
  type ControlRecord,
  type LookUp,
  type ReadingRef,
  type SendSpec,
} from '../show';

type Data = Pick<ControlRecord['data'], 'type' | 'label' | 'icon' | 'picture' | 'responses' | 'range' | 'values'>;
type DocumentOf = (device: string) => DriverDocument | undefined;

/** True for a label without anything to see: of spaces at the most. */
export const isBlank = (label: Data['label']): boolean =>
  label.every((segment) => 'text' in segment && segment.text.trim() === '');

/** The commands that name a button: those of one that shows nothing else. */
const namingSends = (data: Data): readonly SendSpec[] =>
  data.type === 'button' && !data.icon && !data.picture && isBlank(data.label) ? sendsOfControl(data) : [];

/**
 * What a button without label, icon and picture shows: its first command as a sentence, with the number of further ones. `undefined` for
 * every other control.
 */
export function sentenceLabel(
  data: Data,
  readingNow: (ref: ReadingRef) => Reading | undefined,
  documentOf: DocumentOf,
): string | undefined {
  const [send, ...more] = namingSends(data);
  if (!send) return undefined;
  const names: Record<string, { readonly value?: Scalar }> = {};
  const fresh = (ref: ReadingRef) => {
    const reading = readingNow(ref);
    return reading?.freshness === 'fresh' ? reading.value : undefined;
  };
  const values = valuesOf(send, data, lookUpNow(data.values, { fresh, documentOf }));
  for (const ref of namesOf(send, values, documentOf)) {
    const value = readingNow(ref)?.value;
    if (value !== undefined) names[ref.key] = { value };
  }
  const text = commandText(documentOf(send.device), send.command, values, names);
  return more.length > 0 ? `${text} +${more.length}` : text;
}

/** The readings that the sentence of such a button depends on: the names its device lists, and those its values are looked up from. */
export function readingsOfSentence(data: Data, documentOf: DocumentOf): ReadingRef[] {
  const [send] = namingSends(data);
  if (!send) return [];
  const live = Object.values(send.params).flatMap((argument) =>
    isLive(argument) ? readingsOfLive(argument, data.values) : [],
  );
  return [...namesOf(send, valuesOf(send, data), documentOf), ...live];
}

function namesOf(send: SendSpec, values: Values, documentOf: DocumentOf): ReadingRef[] {
  const params = documentOf(send.device)?.commands[send.command]?.params ?? {};
  return Object.entries(params).flatMap(([name, { listFrom }]) => {
    const value = values[name];
    return listFrom === undefined || typeof value !== 'number'
      ? []
      : [{ device: send.device, key: memberKey(listFrom, value) }];
  });
}

type Values = Readonly<Record<string, Scalar | undefined>>;

const valuesOf = ({ params }: SendSpec, { values }: Data, lookUp?: LookUp): Values =>
  Object.fromEntries(
    Object.entries(params).map(([name, argument]) => [name, resolveArgument(argument, values, lookUp)]),
  );
