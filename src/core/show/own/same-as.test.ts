import { describe, expect, it } from 'vitest';
import { compiled, must } from '../../../../test/support/records';
import { shippedDrivers } from '../../../drivers';
import { viscaOverIp } from '../../../drivers/visca';
import { asDriver, checkNewDriver, contractBridge, documentFor, type DriverDocument } from '../../driver';
import { withoutAddition } from './additions';
import { emptyCommand, putCommand, type OwnCommand } from './command';
import { copyAddition } from './copy';
import { emptyReading, putReading } from './reading';
import { sameAsOf } from './same-as';

const generic = compiled(shippedDrivers.find((each) => (each as DriverDocument).id === 'generic-http')).document;
const document = documentFor(generic, {});
const role = 'camera';
const number = (name: string) => ({
  name,
  title: name,
  value: { type: 'whole' as const, min: 0, max: 99 },
  default: undefined,
});
const goTo: OwnCommand = {
  ...(emptyCommand(document) as OwnCommand),
  title: 'Go to',
  message: { as: 'http', method: 'GET', path: '/go/{n}', headers: '', body: 'none', payload: '' },
  values: [number('n')],
  sameAs: { role, name: 'recall' },
};
const zoom = {
  ...emptyReading(document),
  title: 'Zoom',
  source: { in: 'header' as const, name: 'X-Zoom', pattern: '' },
  value: { type: 'decimal' as const, unit: '%' },
  sameAs: { role, name: 'zoom' },
};
const additions = must(putReading(document, must(putCommand(document, undefined, undefined, goTo)), undefined, zoom));

describe('a command and a reading of the show that are standard ones of the role', () => {
  it('are used where a control that was made for another device of the role drives this one', () => {
    const used = documentFor(generic, { additions });
    const bridge = contractBridge(role, compiled(viscaOverIp).document, used);
    expect(bridge?.command('recall')).toMatchObject({ command: 'own1' });
    expect(bridge?.command('recall').paramName('preset')).toBe('n');
    expect(bridge?.reading('zoom')).toBe('own1');
  });

  it('stay so when the device is saved as a driver, which has its role', () => {
    const made = asDriver(documentFor(generic, { additions }), { id: 'own-c5', title: 'Drone', role });
    expect(made.role).toBe('camera');
    const checked = checkNewDriver(JSON.parse(JSON.stringify(made)));
    expect(checked.ok ? [] : checked.error).toEqual([]);
  });

  it('go to another device with the same driver, and are forgotten with what they are', () => {
    const from = { document, additions };
    const copied = must(copyAddition(from, 'command', 'own1', { document, additions: undefined }));
    expect(sameAsOf(copied, 'commands', 'own1')).toBe('recall');
    // Where another command is the standard one already it stays that.
    const other = must(putCommand(document, undefined, undefined, { ...goTo, title: 'Other' }));
    const both = must(copyAddition(from, 'command', 'own1', { document, additions: other }));
    expect([sameAsOf(both, 'commands', 'own1'), sameAsOf(both, 'commands', 'own2')]).toEqual(['recall', undefined]);
    expect(withoutAddition(additions, 'command', 'own1')?.contract).toMatchObject({
      commands: {},
      readings: { zoom: 'own1' },
    });
    expect(withoutAddition(copied, 'command', 'own1')).toBeUndefined();
  });

  it('are refused with the reason where they cannot be that', () => {
    const two = putCommand(document, undefined, undefined, {
      ...goTo,
      message: { as: 'http', method: 'GET', path: '/go/{n}/{zone}', headers: '', body: 'none', payload: '' },
      values: [number('n'), number('zone')],
    });
    expect(two).toEqual({
      ok: false,
      error: [{ path: 'sameAs', message: 'The standard command “recall” does not set “zone”. Give it a default.' }],
    });
    const text = putReading(document, undefined, undefined, { ...zoom, value: { type: 'text' } });
    expect(text).toMatchObject({ ok: false, error: [{ path: 'sameAs' }] });
    // A number without a unit may be anything, such as a step.
    expect(putReading(document, undefined, undefined, { ...zoom, value: { type: 'decimal' } })).toMatchObject({
      ok: false,
      error: [{ path: 'sameAs', message: expect.stringContaining('Set the unit “%”') as string }],
    });
  });
});
