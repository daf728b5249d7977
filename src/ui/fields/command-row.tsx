'use client';

import { commandSentence, paramText } from '../../core/driver';
import type { CommandEntry, PickMatch } from '../../core/pick';
import { useRigFacts } from './rig-facts';
import { Sentence } from './sentence';

/** A command as a sentence, with the values that were typed for it. */
export function CommandRow({ entry, values }: PickMatch<CommandEntry>) {
  const { readings } = useRigFacts();
  const own = readings.get(entry.device.id);
  const shown = (name: string) => {
    const param = entry.command.params[name];
    if (!param) return undefined;
    // A value that is still to be chosen is shown by its parameter's name, unless the sentence has just named it.
    const title = param.title.toLowerCase();
    return paramText(param, values[name], own) ?? (entry.command.says?.includes(`${title} {${name}}`) ? '…' : title);
  };
  return <Sentence parts={commandSentence(entry.command, values, own, shown)} />;
}
