import type { DriverCommand, DriverDocument, DriverParameter } from '../../driver';
import type { VariableRecord } from '../records';
import { longestVariableText, type VariableValue } from '../variable';
import { command, param } from './parts';

/** Each variable as a reading, and as commands that set it: buttons, faders, macros and watches use it like anything of a device. */

export const variableReading = (key: string): string => `variable.${key}`;

/** What is done with a variable, by the name of its command: `setLap`, `stepLap`, `switchReady`, `resetLap`. */
export type VariableVerb = 'set' | 'step' | 'switch' | 'reset';

/** The name of the command that does this with a variable. */
export const variableCommand = (verb: VariableVerb, key: string): string =>
  `${verb}${key.slice(0, 1).toUpperCase()}${key.slice(1)}`;

type Shape = DriverDocument['readings'][string]['value'];

function shapeOf(value: VariableValue): Shape {
  switch (value.type) {
    case 'text':
      return { type: 'text' };
    case 'onOff':
      return { type: 'onOff', on: '1', off: '0' };
    case 'choice':
      return { type: 'choice', choices: value.choices.map((each) => ({ value: each, title: each })) };
    case 'number': {
      const { min, max, decimals, unit } = value;
      const more = unit === '' ? {} : { unit };
      return decimals === 0
        ? { type: 'whole', min: Math.ceil(min), max: Math.floor(max), ...more }
        : { type: 'decimal', min, max, decimals, ...more };
    }
  }
}

function paramShape(value: VariableValue): DriverParameter['value'] {
  const shape = shapeOf(value);
  return shape.type === 'text' ? { type: 'text', maxLength: longestVariableText } : (shape as DriverParameter['value']);
}

/** What a command of the program does with which variable. */
interface VariableOrder {
  readonly verb: VariableVerb;
  readonly variable: string;
}

/** By the name of the command. */
export function variableOrders(variables: Iterable<VariableRecord>): ReadonlyMap<string, VariableOrder> {
  const orders = new Map<string, VariableOrder>();
  for (const { id, data } of variables)
    for (const verb of verbsOf(data.value)) orders.set(variableCommand(verb, data.key), { verb, variable: id });
  return orders;
}

function verbsOf({ type }: VariableValue): readonly VariableVerb[] {
  switch (type) {
    case 'text':
      return ['set', 'reset'];
    case 'onOff':
      return ['set', 'switch', 'reset'];
    case 'number':
    case 'choice':
      return ['set', 'step', 'reset'];
  }
}

export function ownVariables(
  variables: Iterable<VariableRecord>,
): Pick<DriverDocument, 'commands' | 'readings' | 'starters'> {
  const commands: Record<string, DriverCommand> = {};
  const readings: DriverDocument['readings'] = {};
  const starters: DriverDocument['starters'] = [];
  for (const { data } of variables) {
    const { key, name, value } = data;
    const reading = variableReading(key);
    readings[reading] = {
      title: name,
      value: shapeOf(value),
      ...(value.type === 'number' ? { level: { from: value.min, to: value.max } } : {}),
      ...(value.type === 'onOff' || value.type === 'choice' ? { means: 'active' as const } : {}),
    };
    commands[variableCommand('set', key)] = command(`Set ${name}`, `${name}: {value}`, {
      params: { value: param('Value', paramShape(value)) },
      ...(value.type === 'number' ? { class: 'continuous' as const } : {}),
      confirm: {
        by: 'readings',
        all: [{ reading, equals: { param: 'value' } }],
        withinMs: 1000,
        ask: [],
        askEveryMs: 200,
      },
    });
    commands[variableCommand('reset', key)] = command(`Reset ${name}`, `Reset ${name}`, {});
    if (value.type === 'number' || value.type === 'choice')
      commands[variableCommand('step', key)] = command(`Step ${name}`, `Step ${name} by {by}`, {
        params: { by: param('Steps', { type: 'whole', min: -1000, max: 1000 }, { default: 1 }) },
      });
    if (value.type === 'onOff')
      commands[variableCommand('switch', key)] = command(`Switch ${name}`, `Switch ${name} on or off`, {});
    starters.push(...startersOf(data.name, key, value));
  }
  return { commands, readings, starters };
}

function startersOf(name: string, key: string, value: VariableValue): DriverDocument['starters'] {
  const base = { purpose: 'Variables', held: false };
  const reading = variableReading(key);
  switch (value.type) {
    case 'text':
      return [{ ...base, title: name, label: [{ reading }], params: {} }];
    case 'onOff':
      return [
        {
          ...base,
          title: name,
          command: variableCommand('switch', key),
          params: {},
          lamp: { reading, to: true, show: 'active', word: 'ON' },
        },
      ];
    case 'number':
      return [
        {
          ...base,
          title: `${name} plus`,
          label: [`${name} `, { reading }],
          command: variableCommand('step', key),
          params: { by: 1 },
        },
        {
          ...base,
          title: `${name} minus`,
          label: [`${name} `, { reading }],
          command: variableCommand('step', key),
          params: { by: -1 },
        },
      ];
    case 'choice':
      return value.choices.map((choice) => ({
        ...base,
        title: `${name}: ${choice}`.slice(0, 60),
        command: variableCommand('set', key),
        params: { value: choice },
        lamp: { reading, to: choice, show: 'active' as const },
      }));
  }
}
