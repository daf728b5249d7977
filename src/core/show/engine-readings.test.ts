import { describe, expect, it } from 'vitest';
import { compiled, controlRecord, deviceRecord, pageRecord } from '../../../test/support/records';
import streamingEncoder from '../../drivers/streaming-encoder.json';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { problemsOf } from '../check';
import { showLookup, tallyState, isTallyKey, withEngineReadings, type ShowRecord } from '.';

const [camera, switcher] = [compiled(streamingEncoder), compiled(visionSwitcher)];
const driverOf = ({ data }: { readonly data: { readonly tag: string } }) => (data.tag === 'SW1' ? switcher : camera);
const tie: ShowRecord = {
  kind: 'tie',
  id: 'tie',
  version: 1,
  data: { source: 'dev-C1', switcher: 'dev-SW1', input: 1 },
};
const onAir = controlRecord('lit', {
  lamps: [{ when: { op: 'equals', reading: { device: 'dev-C1', key: tallyState }, to: 'onAir' }, show: 'onAir' }],
});
const rig = (...more: ShowRecord[]) => [
  deviceRecord('SW1'),
  deviceRecord('C1'),
  pageRecord('page', 'Page'),
  onAir,
  ...more,
];

describe('the tally of a device', () => {
  it('is offered as a reading where a tie makes it a source, and of the inputs of a switcher', () => {
    const keys = (records: readonly ShowRecord[], id: string) =>
      Object.keys(showLookup(records, (device) => driverOf(device).document).documentOf(id)?.readings ?? {}).filter(
        isTallyKey,
      );
    expect(keys(rig(tie), 'dev-C1')).toEqual(['tally.state', 'tally.recorded']);
    expect(keys(rig(), 'dev-C1')).toEqual([]);
    expect(
      Object.keys(withEngineReadings(switcher.document, false).readings).filter((key) => key.includes('[].tally')),
    ).toHaveLength(1);
    expect(withEngineReadings(switcher.document, true)).toBe(withEngineReadings(switcher.document, true));
  });

  it('is missed, with what to do, by a control of a device that feeds nothing', () => {
    const said = (records: readonly ShowRecord[]) =>
      problemsOf(records, driverOf)
        .filter(({ record }) => record === 'lit')
        .map(({ message }) => message);
    expect(said(rig(tie))).toEqual([]);
    expect(said(rig())).toEqual([
      'C1 feeds no input of a switcher, so its tally is not known. Tie it to one in the rig.',
    ]);
  });

  it.each([
    ['tally.state', true],
    ['input[12].tally', true],
    ['input[].recorded', true],
    ['tally', false],
    ['input[3].name', false],
    ['box[1].tally', false],
  ])('is known by its key: %s', (key, is) => {
    expect(isTallyKey(key)).toBe(is);
  });
});
