'use client';

import { splitKey, type DriverDocument } from '../../core/driver';
import { lampNow } from '../../core/lamp';
import type { ReadingsView } from '../../core/live';
import { addLamp, changeLamp, removeLamp, simpleRule, withSimpleRule, type SimpleRule } from '../../core/page';
import type { Scalar } from '../../core/result';
import { drivenBy, meaningWords, type ControlRecord, type LampRule, type Meaning } from '../../core/show';
import { Button } from '../parts';
import { CommitInput } from './commit-input';
import { useFacts } from './facts';
import { ParamField } from './param-field';
import { useVerbs } from './verbs';

interface Props {
  readonly control: ControlRecord;
  readonly name: string;
}

const meanings = Object.entries(meaningWords) as [Meaning, string][];

/** What lights a control: rules in order, of which the first that holds decides. */
export function LampFields({ control, name }: Props) {
  const verbs = useVerbs();
  const { documentOf } = useFacts();
  const { lamps } = control.data;
  const what = `Lamp of ${name}`;
  const add = (show: string) => {
    const [device = ''] = drivenBy(control.data);
    const [key = ''] = Object.keys(documentOf(device)?.readings ?? {}).filter((each) => !each.includes('[]'));
    if (key === '') return verbs.say('Give it a response first: a lamp is about what a device reports.', true);
    const first = Object.values(control.data.values)[0] ?? true;
    verbs.change(control, (data) => addLamp(data, { device, key, is: true, to: first }, show as Meaning), what);
  };
  return (
    <section className="form-part" aria-label="Lamp">
      <h3>Lamp</h3>
      {lamps.map((rule, index) => (
        <RuleFields key={index} control={control} rule={rule} index={index} what={what} />
      ))}
      <label>
        {lamps.length === 0 ? 'It lights' : 'Or else it lights'}
        <select value="" onChange={(event) => event.target.value !== '' && add(event.target.value)}>
          <option value="">{lamps.length === 0 ? 'never' : 'add a rule …'}</option>
          {meanings.map(([meaning, word]) => (
            <option key={meaning} value={meaning}>
              {word.toLowerCase()}
            </option>
          ))}
        </select>
      </label>
    </section>
  );
}

interface RuleProps {
  readonly control: ControlRecord;
  readonly rule: LampRule;
  readonly index: number;
  readonly what: string;
}

function RuleFields({ control, rule, index, what }: RuleProps) {
  const verbs = useVerbs();
  const { devices, documentOf, readings, readingNow } = useFacts();
  const simple = simpleRule(rule, control.data);
  const now = lampNow([rule], control.data.values, readingNow);
  const change = (to: (data: ControlRecord['data']) => ControlRecord['data']) => verbs.change(control, to, what);
  const set = (to: Partial<SimpleRule>) =>
    simple && change((data) => withSimpleRule(data, index, { ...simple, ...to }));
  const document = simple && documentOf(simple.device);
  const reading = simple && document?.readings[splitKey(simple.key).family];
  return (
    <div className="send-fields">
      <div className="form-pair">
        <label>
          It lights
          <select
            value={rule.show}
            onChange={(event) => change((data) => changeLamp(data, index, { show: event.target.value as Meaning }))}
          >
            {meanings.map(([meaning, word]) => (
              <option key={meaning} value={meaning}>
                {word.toLowerCase()}
              </option>
            ))}
          </select>
        </label>
        <label>
          with the word
          <CommitInput
            value={rule.word ?? ''}
            maxLength={16}
            placeholder={meaningWords[rule.show]}
            onCommit={(word) => change((data) => changeLamp(data, index, { word }))}
          />
        </label>
      </div>
      {simple ? (
        <>
          <label>
            when
            <select
              value={`${simple.device} ${simple.key}`}
              onChange={(event) => {
                const [device = '', key = ''] = event.target.value.split(' ');
                set({ device, key, to: startValue(documentOf(device), key, simple.to) });
              }}
            >
              {devices.map(({ id, data }) => (
                <optgroup key={id} label={`${data.tag} ${data.name}`}>
                  {lampChoices(documentOf(id), readings.get(id), id === simple.device ? simple.key : '').map(
                    ({ key, title }) => (
                      <option key={key} value={`${id} ${key}`}>
                        {data.tag}: {title}
                      </option>
                    ),
                  )}
                </optgroup>
              ))}
            </select>
          </label>
          <div className="form-pair">
            <label>
              it
              <select value={simple.is ? 'is' : 'not'} onChange={(event) => set({ is: event.target.value === 'is' })}>
                <option value="is">is</option>
                <option value="not">is not</option>
              </select>
            </label>
            {reading && (
              <ParamField
                key={simple.key}
                param={{ title: 'this', value: reading.value, sends: 'index', optional: false }}
                value={simple.to}
                readings={readings.get(simple.device)}
                commits
                onChange={(to) => to !== undefined && set({ to })}
              />
            )}
          </div>
        </>
      ) : (
        <p className="muted">A condition of several parts, which stays as it is.</p>
      )}
      <div className="form-acts rule-acts">
        <span className="muted">
          now {now.show === 'off' ? 'not true' : now.show === rule.show ? 'true' : now.show}
        </span>
        <Button onClick={() => change((data) => removeLamp(data, index))}>Take out</Button>
      </div>
    </div>
  );
}

/** A value that fits the reading: the one there was, or the first that it can have. */
export function startValue(document: DriverDocument | undefined, key: string, before: Scalar): Scalar {
  const shape = document?.readings[splitKey(key).family]?.value;
  if (shape?.type === 'onOff') return typeof before === 'boolean' ? before : true;
  if (shape?.type === 'choice') {
    const known = shape.choices.some(({ value }) => value === before);
    return known ? before : (shape.choices[0]?.value ?? '');
  }
  if (shape?.type === 'whole' || shape?.type === 'decimal' || shape?.type === 'time')
    return typeof before === 'number' ? before : 1;
  return typeof before === 'string' ? before : '';
}

/** The readings that a lamp can be about: the single ones, and of each family the members that the device has reported. */
function lampChoices(
  driver: DriverDocument | undefined,
  readings: ReadingsView | undefined,
  chosen: string,
): readonly { readonly key: string; readonly title: string }[] {
  const single = Object.entries(driver?.readings ?? {}).filter(([key]) => !key.includes('[]'));
  const members = new Set(Object.keys(readings ?? {}).filter((key) => key.includes('[')));
  if (chosen.includes('[')) members.add(chosen);
  return [
    ...single.map(([key, { title }]) => ({ key, title })),
    ...[...members]
      .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }))
      .flatMap((key) => {
        const { family, index } = splitKey(key);
        const title = driver?.readings[family]?.title;
        return title === undefined ? [] : [{ key, title: `${title} ${index ?? key}` }];
      }),
  ];
}
