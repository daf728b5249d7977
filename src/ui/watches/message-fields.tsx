'use client';

import { inletsOf } from '../../core/inlet';
import { longestInletText, type DeskView, type WatchWhen } from '../../core/show';
import { Button, Checkbox, Select, TextField } from '../kit';
import { useLearning } from '../outside';

type Message = Extract<WatchWhen, { is: 'message' }>;

interface Props {
  readonly show: DeskView;
  readonly when: Message;
  readonly onWhen: (to: WatchWhen) => void;
}

/** A text that comes in over an inlet: typed, or learned from the next one that does. */
export function MessageFields({ show, when, onWhen }: Props) {
  const inlets = inletsOf(show.records);
  const learning = useLearning(inlets.length, (n, text) => {
    const inlet = inlets[n];
    onWhen({ is: 'message', text, ...(inlet ? { inlet: inlet.id } : {}) });
  });
  return (
    <>
      <TextField
        label="When this comes in"
        help="A line of text as it is, or the address of an OSC message with its arguments."
        isMono
        value={when.text}
        maxLength={longestInletText}
        onCommit={(text) => text.trim() !== '' && onWhen({ ...when, text: text.trim() })}
      />
      <Checkbox
        label="It is a pattern"
        checked={when.pattern === true}
        onChange={(on) => {
          const { pattern: _, ...rest } = when;
          onWhen(on ? { ...rest, pattern: true } : rest);
        }}
      />
      {when.pattern && (
        <p className="text-[14px] text-ink-soft">
          RE2 syntax. Named groups fill variables and parameters of the macro that have the same name:{' '}
          <code className="font-mono text-[13px]">{'lane (?P<race>[0-9]+)'}</code>
        </p>
      )}
      <Select
        label="Over"
        value={when.inlet ?? ''}
        placeholder="an inlet that no longer exists"
        options={[
          { value: '', title: 'any inlet' },
          ...inlets.map(({ id, data }) => ({ value: id, title: data.name })),
        ]}
        onChoose={(chosen) => {
          const { inlet: _, ...rest } = when;
          onWhen(chosen === '' ? rest : { ...rest, inlet: chosen });
        }}
      />
      <div className="flex flex-wrap items-center gap-3">
        <Button disabled={inlets.length === 0} onClick={learning.isOn ? learning.stop : learning.begin}>
          {learning.isOn ? 'Stop learning' : 'Learn'}
        </Button>
        <span role="status" className="text-[14px] text-ink-soft">
          {inlets.length === 0
            ? 'There is no inlet yet. Add one under Inlets.'
            : learning.isOn
              ? 'Send the message now. The next one received is used.'
              : ''}
        </span>
      </div>
    </>
  );
}
