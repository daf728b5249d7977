import { commandText, type DriverDocument } from '../../core/driver';
import type { ReadingsView } from '../../core/live';
import type { MacroData, MacroDoes, MacroSend } from '../../core/show';

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  /** What a device says now, for the names of what it lists. */
  readonly readingsOf: (device: string) => ReadingsView | undefined;
  readonly nameOf: (id: string) => string | undefined;
}

/** A step as a sentence: `Take Finish to program`, `Sound the horn, 700 ms`. */
export function stepText(does: MacroDoes, sources: Sources): string {
  switch (does.is) {
    case 'send':
      return sendText(does.send, sources);
    case 'pulse':
      return `${sendText(does.on, sources)}, ${does.forMs} ms`;
    case 'macro':
      return sources.nameOf(does.macro) ?? 'a macro that no longer exists';
    case 'note':
      return `Note: ${does.text}`;
    case 'page':
      return `Page ${sources.nameOf(does.page) ?? 'that no longer exists'}`;
    case 'shift':
      return `Level ${does.shift === undefined ? 'usual' : (sources.nameOf(does.shift) ?? 'that no longer exists')}`;
    case 'pick': {
      const device = does.device === undefined ? 'usual' : (sources.nameOf(does.device) ?? 'gone');
      return `${sources.nameOf(does.zone) ?? 'A zone'}: ${device}`;
    }
    case 'brightness':
      return `Brightness ${does.percent} %`;
  }
}

function sendText({ device, command, params }: MacroSend, { documentOf, readingsOf }: Sources): string {
  const values = Object.fromEntries(
    Object.entries(params).flatMap(([name, argument]) => (typeof argument === 'object' ? [] : [[name, argument]])),
  );
  // What comes from the macro or from a device is known only when the step runs.
  const shown = (name: string) => {
    const argument = params[name];
    if (typeof argument !== 'object') return undefined;
    return 'value' in argument ? `{${argument.value}}` : '{now}';
  };
  return commandText(documentOf(device), command, values, readingsOf(device), shown);
}

/** The lane in which a step lies: its device, or what else it is about. */
export const laneOf = (does: MacroDoes): string =>
  does.is === 'send'
    ? does.send.device
    : does.is === 'pulse'
      ? does.on.device
      : does.is === 'macro'
        ? 'macros'
        : 'panels';

export const laneNames: Readonly<Record<string, string>> = { macros: 'Macros', panels: 'Panels' };

/** The lanes of a macro, in the order in which they are first used. */
export const lanesOf = ({ segments }: MacroData): string[] => [
  ...new Set(segments.flatMap(({ steps }) => [...steps].sort((a, b) => a.at - b.at).map(({ does }) => laneOf(does)))),
];
