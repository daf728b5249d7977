'use client';

import { askedParams } from '../../core/driver';
import { groupId, groupsOf, kindsOf, setKind, setRangeParam } from '../../core/page';
import { resolveArgument, type ControlRecord, type ControlType, type ReadingRef } from '../../core/show';
import { CommitInput, Fold, optionsFrom, Select } from '../kit';
import { ParamField, ReadingPicker } from '../fields';
import { useFacts } from './facts';
import { PresetFields } from './preset-fields';
import { StickFields, TurnFields } from './travel-fields';
import { ResponseFields } from './response-fields';
import { useEditor } from './editor-store';
import { useVerbs } from './verbs';

interface Props {
  readonly control: ControlRecord;
  readonly name: string;
}

export const kindWords: Readonly<Record<ControlType, string>> = {
  button: 'button',
  fader: 'fader',
  dial: 'dial',
  stick: 'stick',
  readout: 'readout',
  list: 'list',
  presets: 'presets',
};

/** Which kind of control it is, and what a control of that kind does. */
export function KindFields({ control, name }: Props) {
  const verbs = useVerbs();
  const { data } = control;
  const level = useEditor((state) => state.level);
  return (
    <>
      {level !== undefined && <AllLevels type={data.type} />}
      <Select
        label="Kind"
        value={data.type}
        options={optionsFrom(kindWords)}
        onChoose={(kind) => verbs.change(control, (from) => setKind(from, kind), `Kind of ${name}`)}
      />
      {data.type === 'button' && <ResponseFields control={control} name={name} />}
      {!['button', 'readout', 'presets'].includes(data.type) && <KindChoice control={control} name={name} />}
      {data.range && <RangeFields control={control} name={name} />}
      {data.range && <TurnFields control={control} name={name} />}
      {data.drive && <StickFields control={control} name={name} />}
      {data.list && <ListForm control={control} name={name} />}
      {data.presets && <PresetFields control={control} name={name} />}
    </>
  );
}

/** What is the same on every level, said while one of them is edited. */
const AllLevels = ({ type }: { readonly type: ControlType }) => (
  <p className="col-span-full text-[13px]" role="note">
    {type === 'button' || type === 'readout'
      ? 'The kind, the place, and what it shows or chooses are the same on all levels.'
      : `What this ${kindWords[type]} does is the same on all levels: a change here changes them all.`}
  </p>
);

/** What a fader, a stick or a list is about: everything of that kind that the rig offers. */
function KindChoice({ control, name }: Props) {
  const verbs = useVerbs();
  const { devices, documentOf, readings } = useFacts();
  const { data } = control;
  const kind = data.type === 'dial' ? 'fader' : data.type;
  const offers = devices.flatMap((device) => {
    const document = documentOf(device.id);
    const own = document ? kindsOf(device, document, readings.get(device.id) ?? {}) : [];
    return own.filter(({ start }) => start.type === kind).map((offer) => ({ device, ...offer }));
  });
  const about = (start: Pick<ControlRecord['data'], 'range' | 'drive' | 'list' | 'values'>): string => {
    const { range, drive, list } = start;
    if (range) {
      const params = Object.entries(range.send.params).map(([key, each]) => [key, resolveArgument(each, start.values)]);
      return JSON.stringify([range.send.device, range.send.command, params]);
    }
    return JSON.stringify(drive ? [drive.device, drive.drive] : [list?.device, list?.list]);
  };
  const now = about(data);
  const chosen = offers.findIndex(({ start }) => about({ ...start, values: start.values }) === now);
  return (
    <Fold name="What it is about" title={kind === 'list' ? 'It lists' : kind === 'stick' ? 'It steers' : 'It sets'}>
      <Select
        label="What it controls"
        labelAt="hidden"
        value={chosen === -1 ? undefined : String(chosen)}
        options={offers.map((offer, n) => ({ value: String(n), title: `${offer.device.data.tag}: ${offer.title}` }))}
        onChoose={(n) => {
          const offer = offers[Number(n)];
          if (!offer) return;
          const { range, drive, list, values, label } = offer.start;
          const of = {
            ...(range ? { range } : {}),
            // How the hand likes it stays.
            ...(drive ? { drive: { ...data.drive, ...drive } } : {}),
            ...(list ? { list } : {}),
          };
          verbs.change(
            control,
            (from) => ({ ...from, ...of, values, label: from.label.length > 0 && !range ? from.label : label }),
            `What ${name} is about`,
          );
        }}
      />
      {offers.length === 0 && (
        <p className="col-span-full text-[13px] text-ink-soft">No device of the rig offers one.</p>
      )}
    </Fold>
  );
}

function RangeFields({ control, name }: Props) {
  const verbs = useVerbs();
  const { documentOf, readings } = useFacts();
  const { range, values } = control.data;
  if (!range) return null;
  const document = documentOf(range.send.device);
  const command = document?.commands[range.send.command];
  const what = `Range of ${name}`;
  const limit = (side: 'min' | 'max', text: string) =>
    verbs.change(
      control,
      (data) => (data.range ? { ...data, range: { ...data.range, [side]: Number(text) } } : data),
      what,
    );
  const end = (most: ReadingRef | undefined) =>
    verbs.change(
      control,
      ({ range: before, ...data }) => {
        if (!before) return data;
        const { most: _, ...rest } = before;
        return { ...data, range: most ? { ...rest, most } : rest };
      },
      what,
    );
  return (
    <>
      {askedParams(command)
        .filter(([param]) => param !== range.param)
        .map(([param, definition]) => {
          const argument = range.send.params[param];
          return (
            <ParamField
              key={param}
              param={definition}
              value={argument === undefined ? undefined : resolveArgument(argument, values)}
              readings={readings.get(range.send.device)}
              family={definition.listFrom ? document?.readings[definition.listFrom] : undefined}
              commits
              onChange={(value) =>
                value !== undefined &&
                verbs.change(control, (data) => setRangeParam(data, param, value, document), what)
              }
            />
          );
        })}
      <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
        <label>
          From
          <CommitInput type="number" step="any" value={String(range.min)} onCommit={(text) => limit('min', text)} />
        </label>
        <label>
          to
          <CommitInput type="number" step="any" value={String(range.max)} onCommit={(text) => limit('max', text)} />
        </label>
      </div>
      <ReadingPicker
        label="Ends at a reading instead"
        chosen={range.most}
        none="no, at the number"
        onPick={(most) => end(most)}
        onNone={() => end(undefined)}
      />
    </>
  );
}

function ListForm({ control, name }: Props) {
  const verbs = useVerbs();
  const { documentOf, readings } = useFacts();
  const { list } = control.data;
  const document = documentOf(list?.device ?? '');
  const groups = groupsOf(document, document?.lists[list?.list ?? '']?.items, readings.get(list?.device ?? '') ?? {});
  // One that nothing is in at the moment stays chosen.
  const known = list?.among && !groups.some((group) => groupId(group) === groupId(list.among)) ? [list.among] : [];
  return (
    <>
      {groups.length + known.length > 0 && (
        <Select
          label="Show only"
          value={groupId(list?.among)}
          options={[
            { value: '', title: 'all items' },
            ...[...groups, ...known].map((group) => ({ value: groupId(group), title: String(group.is) })),
          ]}
          onChoose={(id) =>
            verbs.change(
              control,
              (data) => {
                if (!data.list) return data;
                const { among: _, ...rest } = data.list;
                const among = groups.find((group) => groupId(group) === id);
                return { ...data, list: { ...rest, ...(among ? { among } : {}) } };
              },
              `Items of ${name}`,
            )
          }
        />
      )}
      <ListFormField control={control} name={name} />
    </>
  );
}

function ListFormField({ control, name }: Props) {
  const verbs = useVerbs();
  return (
    <Select
      label="Show its items as"
      value={control.data.list?.form}
      options={optionsFrom({ small: 'rows', large: 'cards with pictures' })}
      onChoose={(form) =>
        verbs.change(
          control,
          (data) => (data.list ? { ...data, list: { ...data.list, form } } : data),
          `Form of ${name}`,
        )
      }
    />
  );
}
