import { fail, ok, type Problem, type Result } from '../result';
import { maxSlots, type DmxChange } from '../wire';
import type { FilledMessage, FillValues } from './message';
import type { Message } from './schema-messages';
import type { TemplatePart } from './template';
import { fillTemplate } from './template-fill';

type Parts = readonly TemplatePart[];

/** A change of DMX512 levels with its templates parsed. */
export type CompiledDmx =
  | {
      readonly kind: 'dmx';
      readonly do: 'levels';
      readonly channel: Parts;
      readonly last: Parts | undefined;
      readonly levels: Parts;
      readonly bytes: 1 | 2;
      readonly seconds: Parts;
    }
  | { readonly kind: 'dmx'; readonly do: 'blackout'; readonly on: Parts }
  | { readonly kind: 'dmx'; readonly do: 'end' };

/** @param parse parses the template at a path below the message, and reports what is wrong with it */
export function compileDmx(
  dmx: Extract<Message, { dmx: unknown }>['dmx'],
  parse: (source: string, at: string) => Parts,
): CompiledDmx {
  if ('output' in dmx) return { kind: 'dmx', do: 'end' };
  if ('blackout' in dmx) return { kind: 'dmx', do: 'blackout', on: parse(dmx.blackout, 'blackout') };
  return {
    kind: 'dmx',
    do: 'levels',
    channel: parse(String(dmx.channel), 'channel'),
    last: dmx.last === undefined ? undefined : parse(String(dmx.last), 'last'),
    levels: parse(dmx.levels, 'levels'),
    bytes: dmx.bytes,
    seconds: parse(dmx.seconds, 'seconds'),
  };
}

/** Fills a change of levels. Fails with a sentence for a channel or a level that does not exist. */
export function fillDmx(message: CompiledDmx, { text }: Pick<FillValues, 'text'>): Result<FilledMessage, Problem> {
  if (message.do === 'end') return filled({ do: 'end' }, 'output off');
  if (message.do === 'blackout') {
    const on = fillTemplate(message.on, text) === '1';
    return filled({ do: 'blackout', on }, `blackout ${on ? 'on' : 'off'}`);
  }
  const { bytes } = message;
  const number = (parts: Parts) => Number(fillTemplate(parts, text).trim() || NaN);
  const channel = number(message.channel);
  const levels = fillTemplate(message.levels, text)
    .split(',')
    .map((level) => Number(level.trim() || NaN));
  const last = message.last === undefined ? channel + levels.length * bytes - 1 : number(message.last);
  const seconds = number(message.seconds);
  if (!isChannel(channel) || !isChannel(last) || last < channel)
    return wrong('channel', `A universe has the channels 1 to ${maxSlots}: ${channel} to ${last} cannot be set.`);
  const most = bytes === 2 ? 65_535 : 255;
  if (!levels.every((level) => Number.isInteger(level) && level >= 0 && level <= most))
    return wrong('levels', `A level is a whole number from 0 to ${most}: “${levels.join(', ')}” cannot be sent.`);
  if (!(seconds >= 0 && seconds <= longestFadeSeconds))
    return wrong('seconds', `A fade takes from 0 to ${longestFadeSeconds} seconds.`);
  const channels = last === channel ? `channel ${channel}` : `channels ${channel} to ${last}`;
  const shown = `${channels} = ${levels.join(', ')}${seconds > 0 ? ` in ${seconds} s` : ''}`;
  return filled({ do: 'levels', channel, last, levels, bytes, fadeMs: seconds * 1000 }, shown);
}

const longestFadeSeconds = 3600;
const isChannel = (value: number): boolean => Number.isInteger(value) && value >= 1 && value <= maxSlots;
const filled = (change: DmxChange, text: string): Result<FilledMessage, Problem> =>
  ok({ out: { kind: 'dmx', change }, text });
const wrong = (path: string, message: string): Result<FilledMessage, Problem> => fail({ path, message });
