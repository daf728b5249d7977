'use client';

import { commandSentence } from '../../core/driver';
import { commandEntries, commandId, type CommandEntry, type PickMatch } from '../../core/pick';
import type { Scalar } from '../../core/result';
import { Picker } from '../kit';
import { CommandRow } from './command-row';
import { useRigFacts } from './rig-facts';
import { Sentence } from './sentence';

interface Props {
  readonly label: string;
  /** The command that is stored, with its values. */
  readonly chosen?: {
    readonly device: string;
    readonly command: string;
    readonly values: Readonly<Record<string, Scalar | undefined>>;
  };
  /** The text of the empty field, and of the row that clears it. */
  readonly none: string;
  /** Told what was picked, with the values that were typed with it. */
  readonly onPick: (device: string, command: string, values: Readonly<Record<string, Scalar>>) => void;
  readonly onNone?: () => void;
}

/** One of all commands of the rig: “c2 pres 4” finds “Recall preset 4” of C2. */
export function CommandPicker({ label, chosen, none, onPick, onNone }: Props) {
  const { readable, documentOf, readings } = useRigFacts();
  const command = chosen && documentOf(chosen.device)?.commands[chosen.command];
  const device = chosen && readable.find(({ id }) => id === chosen.device);
  const row = (match: PickMatch<CommandEntry>) => (
    <>
      <CommandRow {...match} />
      {match.entry.command.help && <span className="block text-[13px] text-ink-soft">{match.entry.command.help}</span>}
    </>
  );
  return (
    <Picker
      label={label}
      entries={() => commandEntries({ readable, documentOf }, (device) => readings.get(device))}
      memory="commands"
      value={chosen && commandId(chosen.device, chosen.command)}
      invalid={chosen && !command}
      shown={
        !chosen ? (
          <span className="text-ink-soft">{none}</span>
        ) : (
          <>
            <span className="font-mono text-[0.93em] font-semibold">{device?.data.tag ?? '?'}</span>{' '}
            {command ? (
              <Sentence parts={commandSentence(command, chosen.values, readings.get(chosen.device))} />
            ) : (
              `“${chosen.command}”, which no longer exists`
            )}
          </>
        )
      }
      row={row}
      aside={({ command: { risky } }) => (risky ? 'guarded' : undefined)}
      onPick={(entry, values) => onPick(entry.device.id, entry.key, values)}
      onNone={onNone && { title: none, pick: onNone }}
    />
  );
}
