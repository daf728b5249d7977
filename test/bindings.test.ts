import { expect, it } from 'vitest';
import type { GearBindings } from '../src/core/live';
import { invertEdit, removePanelEdit, type BindingData, type PanelRecord, type ShowRecord } from '../src/core/show';
import { allRecords, putInService, recordsOfKind, serviceState } from '../src/store';
import { startFleetRig } from './support/fleet';
import { controlRecord, pageRecord } from './support/records';
import { TestClient, until } from './support/rig';

/** What hand gear is bound to: kept with the panel, the same for all its screens, and changed by who may. */

const panel = (id: string, pages: string[]): PanelRecord => ({
  kind: 'panel',
  id,
  version: 1,
  data: { name: id, path: id, order: 1, pages, hidden: [], brightness: 100 },
});
const binding = (more: Partial<BindingData> = {}): BindingData => ({
  panel: 'left',
  gear: 'Pads',
  input: 'note 1 36',
  page: 'page-a',
  control: 'a',
  as: 'press',
  ...more,
});
const records: ShowRecord[] = [
  pageRecord('page-a', 'A'),
  pageRecord('page-b', 'B'),
  controlRecord('a', { page: 'page-a' }),
  controlRecord('b', { page: 'page-b' }),
  panel('left', ['page-a']),
  panel('right', ['page-b']),
];

it('is kept with the panel, at once and in no draft, and changed only by its own screens and the desk', async () => {
  const f = await startFleetRig(['SW1'], records);
  const { rig, client } = f;
  await client.follow('gear');
  const bound = () =>
    ((client.topic('gear') ?? { bindings: [] }) as GearBindings).bindings.map(
      ({ panel: of, input, control }) => `${of} ${input} ${control}`,
    );
  const put = (from: TestClient, data: BindingData) => from.say({ t: 'bind', change: { do: 'put', binding: data } });
  const refused = async (from: TestClient) =>
    ((await from.next((message) => message.t === 'error')) as { message: string }).message;

  putInService(rig.db, 'first', Date.now());
  await rig.engine.onShowChanged();
  put(client, binding());
  await until(bound, (all) => all.length === 1);
  expect(serviceState(rig.db).drafted).toBe(0);
  // An input works one control: it takes the place of what it did before.
  put(client, binding({ input: 'note 1 37' }));
  put(client, binding({ as: 'turn' }));
  await until(
    () => recordsOfKind(rig.db, 'binding').map(({ data }) => `${data.input} ${data.as}`),
    (all) => all.sort().join() === 'note 1 36 turn,note 1 37 press',
  );

  client.say({ t: 'invite', panel: 'right' });
  const invited = await client.next((each) => each.t === 'invited');
  const joined = rig.engine.panels.join((invited as { token: string }).token, 'a tablet');
  if (!joined.ok) throw new Error('It did not join.');
  const right = await TestClient.open(`${rig.url}?credential=${joined.credential}`);
  put(right, binding());
  expect(await refused(right)).toContain('its own panel');
  put(right, binding({ panel: 'right', page: 'page-b', control: 'b' }));
  await until(bound, (all) => all.includes('right note 1 36 b'));
  // Removing the panel frees its gear, in one step that one undo takes back.
  const left = recordsOfKind(rig.db, 'panel').find(({ id }) => id === 'left');
  if (!left) throw new Error('There is no panel.');
  const edit = removePanelEdit(left, allRecords(rig.db));
  rig.edit(edit);
  await until(bound, (all) => all.length === 1);
  rig.edit(invertEdit(edit));
  await until(bound, (all) => all.length === 3);

  const [first] = recordsOfKind(rig.db, 'binding');
  client.say({ t: 'bind', change: { do: 'remove', id: first?.id ?? '' } });
  await until(bound, (all) => all.length === 2);
});

it('is written no faster than a hand needs it', async () => {
  const f = await startFleetRig(['SW1'], records);
  for (let n = 0; n < 260; n += 1)
    f.client.say({ t: 'bind', change: { do: 'put', binding: binding({ input: `note 1 ${n % 100}` }) } });
  const told = await f.client.next((message) => message.t === 'error');
  expect(told).toMatchObject({ message: expect.stringContaining('Too many changes') as string });
  await until(
    () => recordsOfKind(f.rig.db, 'binding').length,
    (count) => count === 100,
  );
});
