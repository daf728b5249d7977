'use client';

import { useState } from 'react';
import { CodeField, CommitInput, FileDrop, Picker, Select } from '../kit';
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
  return (
    <Specimens title="Fields">
      <Specimen title="Text, saved when it is left">
        <label className="form grid gap-1">
          Name
          <CommitInput value={text} onCommit={setText} />
        </label>
      </Specimen>
      <Specimen title="Text: disabled">
        <label className="form grid gap-1">
          Serial number
          <input value="A-4411" disabled readOnly />
        </label>
      </Specimen>
      <Specimen title="Checkbox">
        <label className="flex items-center gap-2">
          <input type="checkbox" defaultChecked /> Show polling
        </label>
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
          entries={cameras}
          value={picked}
          shown={cameras.find(({ id }) => id === picked)?.title}
          memory="kit"
          onPick={({ id }) => setPicked(id)}
        />
      </Specimen>
      <Specimen title="Picker: what it names is gone">
        <Picker
          label="Macro"
          entries={[]}
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
