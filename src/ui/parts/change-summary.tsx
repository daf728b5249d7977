import { tableClass } from '../kit';
import type { EditSummary, KindSummary } from '../../core/show';

const kindWords: Readonly<Record<KindSummary['kind'], readonly [string, string]>> = {
  show: ['show name or note', 'show names or notes'],
  device: ['device', 'devices'],
  page: ['page', 'pages'],
  control: ['control', 'controls'],
  macro: ['macro', 'macros'],
  snapshot: ['snapshot', 'snapshots'],
  preset: ['preset', 'presets'],
  binding: ['binding of hand gear', 'bindings of hand gear'],
  watch: ['watch', 'watches'],
  variable: ['variable', 'variables'],
  inlet: ['inlet', 'inlets'],
  panel: ['panel', 'panels'],
  tie: ['tie', 'ties'],
};
const namedMost = 8;

/** What an edit would add, change and remove, before anybody agrees to it. */
export function ChangeSummary({ summary: { kinds, addresses } }: { readonly summary: EditSummary }) {
  if (kinds.length === 0) return <p className="text-ink-soft">Nothing changes. The show already has all of it.</p>;
  return (
    <>
      <table className={tableClass} aria-label="What changes">
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">Added</th>
            <th scope="col">Changed</th>
            <th scope="col">Removed</th>
          </tr>
        </thead>
        <tbody>
          {kinds.map(({ kind, added, changed, gone }) => (
            <tr key={kind}>
              <th scope="row">{kindWords[kind][1]}</th>
              {[added, changed, gone].map((names, n) => (
                <td key={n}>
                  {names.length === 0 ? <span className="text-ink-soft">none</span> : <Names names={names} />}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {addresses.length > 0 && (
        <>
          <h3>Addresses that differ</h3>
          <ul>
            {addresses.map(({ tag, from, to }) => (
              <li key={tag}>
                <span className="font-mono text-[0.93em] font-semibold">{tag}</span>{' '}
                <span className="font-mono text-[0.93em]">{from}</span> becomes{' '}
                <span className="font-mono text-[0.93em]">{to}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

const Names = ({ names }: { readonly names: readonly string[] }) => (
  <>
    <b>{names.length}</b>{' '}
    <span className="text-ink-soft">
      {names.slice(0, namedMost).join(', ')}
      {names.length > namedMost && ` and ${names.length - namedMost} more`}
    </span>
  </>
);
