import { optionTexts, type DriverDocument } from '../../../core/driver';
import {
  emptyMessage,
  endingsFor,
  httpMethods,
  messageKinds,
  type HttpBody,
  type OwnMessage,
} from '../../../core/show';
import { toEscaped } from '../../../core/wire';
import { PayloadField } from '../../fields';
import { Checkbox, CodeField, Field, optionsFrom, Segmented, Select } from '../../kit';
import type { OwnProblems } from './use-own-form';

interface Props {
  readonly document: DriverDocument;
  readonly message: OwnMessage;
  /** Names of the values that fill holes. */
  readonly known: readonly string[];
  readonly wrong: OwnProblems;
  readonly onChange: (message: OwnMessage) => void;
}

const kindTitles = {
  text: 'text with escapes',
  hex: 'hex',
  json: 'JSON',
  http: 'HTTP',
  osc: 'OSC',
  modbus: 'Modbus',
  mqtt: 'MQTT',
} as const;

/** What is sent, as this kind of device takes it. */
export function MessageFields(props: Props) {
  const { document, message, onChange } = props;
  const kinds = messageKinds(document);
  return (
    <>
      {kinds.length > 1 && (
        <div className="grid grid-cols-2 gap-2.5">
          <Select
            label="Typed as"
            value={message.as}
            options={kinds.map((value) => ({ value, title: kindTitles[value] }))}
            onChoose={(as) => as !== message.as && onChange(emptyMessage(as, document))}
          />
          {message.as === 'text' && (
            <Select
              label="Line ending"
              value={message.ending}
              options={endingsFor(document).map(({ escape, title }) => ({ value: escape, title }))}
              onChoose={(ending) => onChange({ ...message, ending })}
            />
          )}
        </div>
      )}
      <Typed {...props} />
    </>
  );
}

function Typed({ document, message, known, wrong, onChange }: Props) {
  switch (message.as) {
    case 'text':
      return (
        <PayloadField
          title="Payload"
          as="text"
          value={message.payload}
          ending={shownEnding(message.ending, document)}
          known={known}
          onChange={(payload) => onChange({ ...message, payload })}
        />
      );
    case 'hex':
      return (
        <PayloadField
          title="Payload"
          as="hex"
          value={message.payload}
          known={known}
          onChange={(payload) => onChange({ ...message, payload })}
        />
      );
    case 'json':
      return (
        <Long
          label="JSON"
          value={message.payload}
          error={wrong.payload}
          onChange={(payload) => onChange({ ...message, payload })}
        />
      );
    case 'http':
      return <HttpFields message={message} wrong={wrong} onChange={onChange} />;
    case 'osc':
      return (
        <>
          <Line
            label="OSC address"
            value={message.address}
            error={wrong.address}
            onChange={(address) => onChange({ ...message, address })}
          />
          <Line
            label="Arguments"
            help="Type and value, with commas between: i 3, f {level}, s two, B {on}. Types: i whole, f decimal, s text, B true or false."
            value={message.args}
            error={wrong.args}
            onChange={(args) => onChange({ ...message, args })}
          />
        </>
      );
    case 'mqtt':
      return (
        <>
          <Line
            label="Topic"
            help="stage/lamp/set. Values stand in braces here, too: stage/{lamp}/set"
            value={message.topic}
            error={wrong.topic}
            onChange={(topic) => onChange({ ...message, topic })}
          />
          <Long
            label="Payload"
            help="Text or JSON."
            value={message.payload}
            error={wrong.payload}
            onChange={(payload) => onChange({ ...message, payload })}
          />
          <Checkbox
            label="Retained by the broker"
            checked={message.retain}
            onChange={(retain) => onChange({ ...message, retain })}
          />
        </>
      );
    case 'modbus':
      return (
        <div className="grid grid-cols-[repeat(auto-fit,minmax(130px,1fr))] items-start gap-2.5">
          <Select
            label="Write to"
            value={message.table}
            options={optionsFrom({ coil: 'a coil', holding: 'a holding register' })}
            onChoose={(table) => onChange({ ...message, table })}
          />
          <Address value={message.address} onChange={(address) => onChange({ ...message, address })} />
          <Line
            label="Value"
            help="For a coil 1 or 0."
            value={message.value}
            onChange={(value) => onChange({ ...message, value })}
          />
        </div>
      );
  }
}

type Http = Extract<OwnMessage, { as: 'http' }>;

const bodyHelp: Readonly<Record<HttpBody, string | undefined>> = {
  none: undefined,
  json: undefined,
  text: undefined,
  form: 'One pair a line: key=value.',
};

function HttpFields({ message, wrong, onChange }: Pick<Props, 'wrong' | 'onChange'> & { readonly message: Http }) {
  return (
    <>
      <div className="grid grid-cols-[120px_minmax(0,1fr)] items-start gap-2.5">
        <Select
          label="Method"
          value={message.method}
          options={httpMethods.map((value) => ({ value, title: value }))}
          onChoose={(method) => onChange({ ...message, method })}
        />
        <Line
          label="Path and query"
          value={message.path}
          error={wrong.path}
          onChange={(path) => onChange({ ...message, path })}
        />
      </div>
      <Long
        label="Headers"
        help="One a line: Name: value. May be empty."
        value={message.headers}
        error={wrong.headers}
        onChange={(headers) => onChange({ ...message, headers })}
      />
      <Segmented
        label="Body"
        value={message.body}
        options={[
          { value: 'none', title: 'No body' },
          { value: 'json', title: 'JSON' },
          { value: 'form', title: 'Pairs' },
          { value: 'text', title: 'Text' },
        ]}
        onChoose={(body) => onChange({ ...message, body, payload: body === 'json' ? '{}' : '' })}
      />
      {message.body !== 'none' && (
        <Long
          label="Body"
          help={bodyHelp[message.body]}
          value={message.payload}
          error={wrong.payload}
          onChange={(payload) => onChange({ ...message, payload })}
        />
      )}
    </>
  );
}

interface LineProps {
  readonly label: string;
  readonly help?: string | undefined;
  readonly error?: string | undefined;
  readonly value: string;
  readonly onChange: (text: string) => void;
}

/** A line of what is sent or heard. */
export const Line = ({ label, help, error, value, onChange }: LineProps) => (
  <Field label={label} help={help} error={error}>
    {(ids) => (
      <input
        {...ids}
        className="font-mono text-[0.93em]"
        spellCheck={false}
        maxLength={1000}
        value={value}
        onChange={({ target }) => onChange(target.value)}
      />
    )}
  </Field>
);

const Long = ({ label, help, error, value, onChange }: LineProps) => (
  <Field label={label} help={help} error={error}>
    {(ids) => (
      <div className="font-mono text-[14px]">
        <CodeField
          id={ids.id}
          label={label}
          value={value}
          maxLength={4000}
          invalid={error !== undefined}
          {...(ids['aria-describedby'] === undefined ? {} : { describedBy: ids['aria-describedby'] })}
          onChange={onChange}
        />
      </div>
    )}
  </Field>
);

/** An address of a Modbus table, from 0. */
export const Address = ({
  value,
  onChange,
}: {
  readonly value: number;
  readonly onChange: (address: number) => void;
}) => (
  <Field label="Address" help="Counted from 0.">
    {(ids) => (
      <input
        {...ids}
        type="number"
        min={0}
        max={65535}
        defaultValue={value}
        onChange={({ target }) => target.validity.valid && target.value !== '' && onChange(Number(target.value))}
      />
    )}
  </Field>
);

/** The ending as it will be sent, for the bytes that are shown beforehand. */
function shownEnding(ending: string, document: DriverDocument): string {
  if (ending !== '{option.ends}') return ending;
  const ends = optionTexts(document)['option.ends'];
  return typeof ends === 'string' ? toEscaped(new TextEncoder().encode(ends)) : '';
}
