import type { DriverDocument } from '../../../core/driver';
import { emptySource, sourceKinds, type OwnSource } from '../../../core/show';
import { NumberField, optionsFrom, Select } from '../../kit';
import { ExpressionField } from './expression-field';
import { Address, Line } from './message-fields';
import type { OwnProblems } from './use-own-form';

interface Props {
  readonly document: DriverDocument;
  readonly source: OwnSource;
  /** From which it may be computed. */
  readonly readings: DriverDocument['readings'];
  readonly wrong: OwnProblems;
  readonly onChange: (source: OwnSource) => void;
}

const kindTitles = {
  line: 'between two texts',
  pattern: 'by a pattern',
  json: 'in JSON',
  osc: 'in an OSC message',
  modbus: 'in a table',
  mqtt: 'in a topic',
  header: 'in a header of the answer',
  others: 'computed from other readings',
} as const;

/** Where in what the device says a reading is found. */
export function SourceFields(props: Props) {
  const { document, source, onChange } = props;
  const kinds = sourceKinds(document);
  return (
    <>
      {kinds.length > 1 && (
        <Select
          label="Found"
          value={source.in}
          options={kinds.map((value) => ({ value, title: kindTitles[value] }))}
          onChoose={(kind) => kind !== source.in && onChange(emptySource(kind))}
        />
      )}
      <Place {...props} />
    </>
  );
}

function Place({ source, readings, wrong, onChange }: Props) {
  switch (source.in) {
    case 'line':
      return (
        <div className="grid grid-cols-2 items-start gap-2.5">
          <Line
            label="Comes after"
            help="What the line begins with: TEMP="
            value={source.before}
            onChange={(before) => onChange({ ...source, before })}
          />
          <Line
            label="Up to"
            help="Empty: to the end of the line."
            value={source.after}
            onChange={(after) => onChange({ ...source, after })}
          />
        </div>
      );
    case 'pattern':
      return (
        <Line
          label="Pattern"
          help="The group named “value” becomes the reading. Devices that speak in bytes are matched as hexadecimal digits."
          value={source.pattern}
          error={wrong.pattern}
          onChange={(pattern) => onChange({ ...source, pattern })}
        />
      );
    case 'json':
      return (
        <Line
          label="JSON Pointer"
          help="The path to the value, from the outermost name inwards: /state/temperature"
          value={source.pointer}
          error={wrong.pointer}
          onChange={(pointer) => onChange({ ...source, pointer })}
        />
      );
    case 'osc':
      return (
        <div className="grid grid-cols-2 items-start gap-2.5">
          <Line label="OSC address" value={source.address} onChange={(address) => onChange({ ...source, address })} />
          <NumberField
            label="Argument"
            min={1}
            max={40}
            value={source.argument}
            onCommit={(argument) => onChange({ ...source, argument })}
          />
        </div>
      );
    case 'mqtt':
      return (
        <div className="grid grid-cols-2 items-start gap-2.5">
          <Line
            label="Topic"
            help="Without + and #: stage/lamp/state"
            value={source.topic}
            error={wrong.topic}
            onChange={(topic) => onChange({ ...source, topic })}
          />
          <Line
            label="JSON Pointer"
            help="Empty: the whole payload. In JSON: /state/level"
            value={source.pointer}
            error={wrong.pointer}
            onChange={(pointer) => onChange({ ...source, pointer })}
          />
        </div>
      );
    case 'header':
      return (
        <div className="grid grid-cols-2 items-start gap-2.5">
          <Line
            label="Header"
            help="The name of the header, such as X-State. Case does not matter."
            value={source.name}
            error={wrong.header}
            onChange={(name) => onChange({ ...source, name })}
          />
          <Line
            label="Pattern"
            help="Empty: the whole header. Otherwise with a group named “value”: level=(?P<value>[0-9]+)"
            value={source.pattern}
            error={wrong.pattern}
            onChange={(pattern) => onChange({ ...source, pattern })}
          />
        </div>
      );
    case 'others':
      return (
        <ExpressionField
          value={source.expression}
          readings={readings}
          error={wrong.expression}
          onChange={(expression) => onChange({ ...source, expression })}
        />
      );
    case 'modbus':
      return (
        <div className="grid grid-cols-2 items-start gap-2.5">
          <Select
            label="Read from"
            value={source.table}
            options={optionsFrom({
              coil: 'a coil',
              input: 'a discrete input',
              holding: 'a holding register',
              register: 'an input register',
            })}
            onChoose={(table) => onChange({ ...source, table })}
          />
          <Address value={source.address} onChange={(address) => onChange({ ...source, address })} />
        </div>
      );
  }
}
