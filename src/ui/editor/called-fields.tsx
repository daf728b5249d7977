'use client';

import { splitKey } from '../../core/driver';
import { changePageEdit, startValue } from '../../core/page';
import { useFacts } from './facts';
import { ParamField } from './param-field';
import { useVerbs } from './verbs';

/** The reading that calls for this page: panels that follow the show go to it. */
export function CalledFields() {
  const verbs = useVerbs();
  const { page, devices, documentOf, readings } = useFacts();
  const { calledBy } = page.data;
  const put = (to: typeof calledBy) =>
    void verbs.edit(changePageEdit(page, { calledBy: to }, 'What calls for the page'));
  const reading = calledBy && documentOf(calledBy.reading.device)?.readings[splitKey(calledBy.reading.key).family];
  return (
    <details className="form-part" open={calledBy !== undefined}>
      <summary>Called by a reading</summary>
      <p className="muted form-help">Panels that follow the show go to this page while the reading has the value.</p>
      <label>
        Reading
        <select
          value={calledBy ? `${calledBy.reading.device} ${calledBy.reading.key}` : ''}
          onChange={(event) => {
            const [device = '', key = ''] = event.target.value.split(' ');
            put(device ? { reading: { device, key }, is: startValue(documentOf(device), key, 1) } : undefined);
          }}
        >
          <option value="">none</option>
          {devices.map(({ id, data }) => (
            <optgroup key={id} label={`${data.tag} ${data.name}`}>
              {Object.entries(documentOf(id)?.readings ?? {})
                .filter(([key]) => !key.includes('[]'))
                .map(([key, { title }]) => (
                  <option key={key} value={`${id} ${key}`}>
                    {data.tag}: {title}
                  </option>
                ))}
            </optgroup>
          ))}
        </select>
      </label>
      {calledBy && reading && (
        <ParamField
          key={calledBy.reading.key}
          param={{ title: 'is', value: reading.value, sends: 'index', optional: false }}
          value={calledBy.is}
          readings={readings.get(calledBy.reading.device)}
          commits
          onChange={(is) => is !== undefined && put({ ...calledBy, is })}
        />
      )}
    </details>
  );
}
