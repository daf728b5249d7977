import type { Scalar } from '../result';
import type { CompiledDriver, CompiledReply } from './compile';
import { splitKey } from './reading-key';
import { fillTemplate } from './template';
import { fromWire } from './values';

export interface ReadingChange {
  readonly key: string;
  readonly value: Scalar;
}

/** What one line from a device says. */
export interface DecodedReply {
  readonly readings: readonly ReadingChange[];
  readonly accepts: boolean;
  readonly refuses: { readonly code: string; readonly reason: string } | undefined;
  /** Sentences about parts that matched a pattern but could not be read: value out of range, unknown index. */
  readonly faults: readonly string[];
}

/** Reads a line by the first pattern that matches; `undefined` when none does. Never throws. */
export function decodeReply(driver: CompiledDriver, text: string): DecodedReply | undefined {
  for (const reply of driver.replies) {
    if (!text.startsWith(reply.prefix)) continue;
    const matcher = reply.pattern.matcher(text);
    if (!matcher.find()) continue;
    const groups: Record<string, string> = {};
    for (const name of reply.groups) groups[name] = matcher.group(name) ?? '';
    return readGroups(driver, reply, groups);
  }
  return undefined;
}

function readGroups(driver: CompiledDriver, reply: CompiledReply, groups: Record<string, string>): DecodedReply {
  const readings: ReadingChange[] = [];
  const faults: string[] = [];
  for (const { key: keyTemplate, value: valueTemplate } of reply.set) {
    const key = fillTemplate(keyTemplate, groups);
    const { family, index } = splitKey(key);
    const definition = driver.document.readings[family];
    if (!definition) {
      faults.push(`“${key}” is not a reading of this device`);
      continue;
    }
    if (definition.index && (index === undefined || index < definition.index.from || index > definition.index.to)) {
      faults.push(`“${key}”: there is no such ${definition.index.title.toLowerCase()}`);
      continue;
    }
    const value = fromWire(definition.value, fillTemplate(valueTemplate, groups));
    if (value.ok) readings.push({ key, value: value.value });
    else faults.push(`${definition.title}: ${value.error}`);
  }
  return { readings, accepts: reply.accepts, refuses: refusal(driver, reply, groups), faults };
}

function refusal(driver: CompiledDriver, reply: CompiledReply, groups: Record<string, string>) {
  if (!reply.refuses) return undefined;
  const code = fillTemplate(reply.refuses.code, groups);
  const reason = fillTemplate(reply.refuses.reason, groups);
  return { code, reason: driver.document.errors[code] ?? reason };
}
