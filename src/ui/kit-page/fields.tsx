'use client';

import { useState } from 'react';
import {
  Checkbox,
  ChipsInput,
  CodeField,
  DateTimeField,
  FileDrop,
  NumberField,
  Picker,
  Segmented,
  Select,
  Switch,
  TextField,
} from '../kit';
import { Specimen, Specimens } from './specimen';

const cameras = Array.from({ length: 250 }, (_, n) => ({
  id: `preset-${n}`,
  title: `Recall preset ${n + 1}`,
  group: `C${Math.floor(n / 64) + 1} Camera`,
  tag: `C${Math.floor(n / 64) + 1}`,
}));

/** Where something is typed, chosen or dropped. */
export function Fields() {
  const [text, setText] = useState('Finish');
  const [typed, setTyped] = useState('input == 3');
  const [rate, setRate] = useState<'25' | '50'>('25');
  const [picked, setPicked] = useState('preset-3');
  const [file, setFile] = useState('');
  const [ms, setMs] = useState(480);
  const [isOn, setIsOn] = useState(true);
  const [view, setView] = useState<'timeline' | 'list'>('timeline');
  const [chips, setChips] = useState<readonly string[]>(['Heat 1', 'Heat 2']);
  const [starts, setStarts] = useState<string | undefined>('2026-05-17T10:00');
  return (
    <Specimens title="Fields">
      <Specimen title="Text, saved when it is left">
        <TextField label="Name" value={text} onCommit={setText} help="As it stands on the panel." />
      </Specimen>
      <Specimen title="Text: invalid, disabled">
        <TextField label="Tag" value="1A" onCommit={() => undefined} error="A letter first, for example A1." />
        <TextField label="Serial number" value="A-4411" disabled onCommit={() => undefined} />
      </Specimen>
      <Specimen title="Number with its unit">
        <NumberField label="Mix time" value={ms} min={0} max={5000} unit="ms" onCommit={setMs} />
      </Specimen>
      <Specimen title="Checkbox, switch">
        <Checkbox label="Show polling" checked={isOn} onChange={setIsOn} />
        <Switch label="Linked" checked={isOn} onChange={setIsOn} />
        <Switch label="Linked" checked={false} disabled onChange={() => undefined} />
      </Specimen>
      <Specimen title="Segmented choice">
        <Segmented
          label="View"
          value={view}
          options={[
            { value: 'timeline', title: 'Timeline' },
            { value: 'list', title: 'List' },
          ]}
          onChoose={setView}
        />
      </Specimen>
      <Specimen title="Chips: several short values">
        <ChipsInput label="Allowed values" values={chips} onChange={setChips} placeholder="any" />
      </Specimen>
      <Specimen title="Date and time">
        <DateTimeField label="Starts at" value={starts} onChange={setStarts} />
      </Specimen>
      <Specimen title="Select: at most twelve">
        <Select
          label="Frame rate"
          value={rate}
          options={[
            { value: '25', title: '25 fps' },
            { value: '50', title: '50 fps' },
          ]}
          onChoose={setRate}
        />
      </Specimen>
      <Specimen title="Select: nothing chosen, disabled">
        <Select label="Site" value={undefined} placeholder="none" options={[]} disabled onChoose={() => undefined} />
      </Specimen>
      <Specimen title="Picker: by words in any order">
        <Picker
          label="Command"
          entries={() => cameras}
          value={picked}
          shown={cameras.find(({ id }) => id === picked)?.title}
          memory="kit"
          onPick={({ id }) => setPicked(id)}
        />
      </Specimen>
      <Specimen title="Picker: what it names is gone">
        <Picker
          label="Macro"
          entries={() => []}
          value="gone"
          shown="a macro that no longer exists"
          memory="kit"
          invalid
          onPick={() => undefined}
        />
      </Specimen>
      <Specimen title="Code">
        <div className="w-full">
          <CodeField label="Expression" value={typed} isLine onChange={setTyped} />
        </div>
      </Specimen>
      <Specimen title="File: dropped or chosen">
        <FileDrop label="Show file to load" accept=".json" onFile={({ name }) => setFile(name)}>
          {file}
        </FileDrop>
      </Specimen>
      <Specimen title="File: disabled">
        <FileDrop label="Picture" disabled onFile={() => undefined} />
      </Specimen>
    </Specimens>
  );
}
